/** The steps of the workbench in working order. */
export const TABS = [
  { step: "loads", label: "Loads" },
  { step: "sources", label: "Sources" },
  { step: "feeds", label: "Feeds" },
  { step: "returns", label: "Returns" },
  { step: "settle", label: "Settle" },
  { step: "bring-up", label: "Bring-up" },
  { step: "sheet", label: "Sheet" },
] as const;

/** A step of the workbench, as its address names it. */
export type Step = (typeof TABS)[number]["step"];

/** Whether an address names a step. */
export function isStep(name: string): name is Step {
  return TABS.some(({ step }) => step === name);
}

/** Opens another step on this page, without a word to the server; Back leads back to the one before. */
export function openStep(id: string, step: string): void {
  window.history.pushState(null, "", `/m/${id}/${step}${window.location.search}`);
}
