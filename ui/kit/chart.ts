/** A custom property of the page as a colour the canvas understands. */
export function token(name: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(name).trim();
}

export const CHART_FONT = { family: "Atkinson Hyperlegible Next Variable, sans-serif", size: 12 };

/** Charts move only for those who want it. */
export function chartAnimation(): false | { duration: number } {
  return window.matchMedia("(prefers-reduced-motion: reduce)").matches ? false : { duration: 200 };
}
