import { NAME_MAX } from "@/core/machine/schema";

/** Ways to begin, as tabs. */
export const WAYS = [
  { id: "list", label: "List" },
  { id: "kind", label: "Kind of machine" },
  { id: "example", label: "Example" },
  { id: "import", label: "Import" },
] as const;
/** One of them. */
export type Way = (typeof WAYS)[number]["id"];

const LIST_KEY = "node-ledger list";

/** A list, and what its machine is called when a file gave it a name. */
export interface Waiting {
  readonly text: string;
  readonly name: string;
}

/** Leaves a list that was opened as a file to the page that reads it. */
export function leaveList(text: string, file: string): void {
  window.sessionStorage.setItem(LIST_KEY, `${nameOf(file)}\n${text}`);
}

/** What was left, once; null: nothing. */
export function takeList(): Waiting | null {
  const waiting = window.sessionStorage.getItem(LIST_KEY);
  if (waiting === null) return null;
  window.sessionStorage.removeItem(LIST_KEY);
  const end = waiting.indexOf("\n");
  return { name: waiting.slice(0, end), text: waiting.slice(end + 1) };
}

/** A file's name without its ending and signs that cannot be seen. */
export function nameOf(file: string): string {
  return file
    .replace(/\.[a-z]{2,4}$/i, "")
    .replace(/[\s_\p{C}]+/gu, " ")
    .trim()
    .slice(0, NAME_MAX);
}
