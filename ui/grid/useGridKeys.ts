"use client";
import type { KeyboardEvent } from "react";

const STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

function cellAt(root: Element, r: number, c: number): HTMLElement | null {
  return root.querySelector<HTMLElement>(`[data-r="${r}"][data-c="${c}"]`);
}

/**
 * Arrow keys between the cells of a grid: elements with data-r and data-c. Columns without a cell in a row are skipped.
 * @param rows number of rows; `reveal` scrolls a row into the rendered window before it is focused
 */
export function useGridKeys(rows: number, columns: number, reveal?: (row: number) => void) {
  return (event: KeyboardEvent<HTMLElement>) => {
    const step = STEPS[event.key];
    const from = (event.target as HTMLElement).closest<HTMLElement>("[data-r]");
    if (!step || !from || event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement) return;
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    const root = event.currentTarget;
    const r0 = Number(from.dataset.r);
    const c0 = Number(from.dataset.c);
    const focusable = (cell: HTMLElement | null) => cell !== null && cell.tabIndex >= 0;
    if (step[0] === 0) {
      for (let c = c0 + step[1]; c >= 0 && c < columns; c += step[1]) {
        const cell = cellAt(root, r0, c);
        if (focusable(cell)) return cell?.focus();
      }
      return;
    }
    const go = (r: number): boolean => {
      for (let spread = 0; spread < columns; spread++) {
        for (const c of [c0 - spread, c0 + spread]) {
          const cell = cellAt(root, r, c);
          if (focusable(cell)) {
            cell?.focus();
            return true;
          }
        }
      }
      return false;
    };
    const r = r0 + step[0];
    if (r < 0 || r >= rows) return;
    if (!go(r) && reveal) {
      reveal(r);
      requestAnimationFrame(() => requestAnimationFrame(() => go(r)));
    }
  };
}
