import { headlinesIn } from "./useKeepFocus";

const column = () => document.querySelector<HTMLElement>('aside[aria-label="Verdicts"]');

/** The cause that has the focus, or the first. */
function current(headlines: readonly HTMLElement[]): { item: HTMLElement | null; index: number } {
  const focused = document.activeElement?.closest<HTMLElement>("[data-cause]") ?? null;
  const index = headlines.findIndex((headline) => headline.closest("[data-cause]") === focused);
  return { item: index < 0 ? (headlines[0]?.closest<HTMLElement>("[data-cause]") ?? null) : focused, index };
}

/** Keys about verdicts, from anywhere: next, previous, the row, the remedies, accept, find. @returns whether it was one */
export function onVerdict(key: string): boolean {
  const root = column();
  if (!root) return false;
  const headlines = headlinesIn(root);
  const { item, index } = current(headlines);
  const go = (element: HTMLElement | null | undefined) => {
    element?.scrollIntoView({ block: "nearest" });
    element?.focus({ preventScroll: true });
    return true;
  };
  switch (key) {
    case "n":
      return go(headlines[Math.min(index + 1, headlines.length - 1)]);
    case "p":
      return go(headlines[Math.max(index - 1, 0)]);
    case "g":
      item?.querySelector<HTMLElement>("[data-headline]")?.click();
      return true;
    case "r":
      return go(item?.querySelector<HTMLElement>("[data-remedy]:not(:disabled)") ?? item?.querySelector<HTMLElement>("[data-headline]"));
    case "x":
      item?.querySelector<HTMLElement>("[data-accept]")?.click();
      return true;
    case "/":
      return go(document.getElementById("find-verdict"));
    default:
      return false;
  }
}
