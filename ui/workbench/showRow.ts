import type { Workbench } from "@/state/workbench";

/** How often it is looked for a row that is not drawn yet. */
const LOOKS = 12;

/**
 * Chooses a part and brings its row into view, below heads that stay and clear of what is fixed, and gives it the focus where
 * nothing else has it. Steps that show no row of it only choose it.
 */
export function showRow(store: Workbench, partId: string): void {
  store.getState().select(partId);
  store.getState().showPane("table");
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

/**
 * Brings what is still empty among the chosen part's figures into view and puts the focus there: who is asked for a figure need
 * not look for its field. On a narrow screen the account is shown, where those fields are.
 */
export function showMissing(store: Workbench): void {
  let looks = 0;
  const look = () => {
    const field = document.querySelector<HTMLElement>('[data-dock] input[placeholder="not known"], [data-dock] [data-missing]');
    if (!field) {
      if (looks++ < LOOKS) requestAnimationFrame(look);
      return;
    }
    if (field.offsetParent === null) store.getState().showPane("account");
    requestAnimationFrame(() => {
      field.scrollIntoView({ block: "center" });
      field.focus({ preventScroll: true });
    });
  };
  requestAnimationFrame(look);
}
