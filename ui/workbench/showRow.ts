import type { Workbench } from "@/state/workbench";

/** How often it is looked for a row that is not drawn yet. */
const LOOKS = 12;

/**
 * Chooses a part and brings its row into view, below heads that stay and clear of what is fixed, and gives it the focus where
 * nothing else has it. Steps that show no row of it only choose it.
 */
export function showRow(store: Workbench, partId: string): void {
  store.getState().select(partId);
  let looks = 0;
  const look = () => {
    const row = document.querySelector<HTMLElement>(`[data-row="${CSS.escape(partId)}"]`);
    if (!row) {
      if (looks++ < LOOKS) requestAnimationFrame(look);
      return;
    }
    row.scrollIntoView({ block: "nearest" });
    const free = document.activeElement === document.body || document.activeElement === null;
    if (free) row.querySelector<HTMLElement>("button, a, input, [tabindex='0']")?.focus({ preventScroll: true });
  };
  requestAnimationFrame(look);
}
