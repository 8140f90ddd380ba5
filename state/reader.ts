import { useSyncExternalStore } from "react";

/** How this reader likes verdicts, kept in the browser: plain words first, or the trade's. */
const KEY = "node-ledger spell it out";

const listeners = new Set<() => void>();

function read(): boolean {
  try {
    return window.localStorage.getItem(KEY) === "yes";
  } catch {
    return false;
  }
}

/** Spells verdicts out from now on, or not. */
export function spellOut(on: boolean): void {
  try {
    window.localStorage.setItem(KEY, on ? "yes" : "no");
  } catch {
    // A store that is shut keeps nothing; this window does as it is told until it is closed.
  }
  for (const tell of listeners) tell();
}

/** Whether verdicts are spelt out. */
export function useSpeltOut(): boolean {
  return useSyncExternalStore(
    (changed) => {
      listeners.add(changed);
      window.addEventListener("storage", changed);
      return () => {
        listeners.delete(changed);
        window.removeEventListener("storage", changed);
      };
    },
    read,
    () => false,
  );
}
