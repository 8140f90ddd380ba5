import { afterFault, ledgerTrouble } from "./database";
import { faultWords, LedgerTrouble } from "./faults";
import { type LedgerState, ledgerState } from "./ledger-state";

/** What a page shows in place of itself when the ledger cannot be used. */
export type ShownTrouble = { kind: "ways"; state: LedgerState } | { kind: "fault"; title: string; detail: string };

/** What a page reads of the ledger, or what keeps it from being read. */
export function troubleShown<T>(read: () => T): { answer: T } | { trouble: ShownTrouble } {
  try {
    return { answer: read() };
  } catch (error) {
    const words = faultWords(error);
    if (!words) throw error;
    afterFault(error);
    try {
      if (error instanceof LedgerTrouble || ledgerTrouble()) return { trouble: { kind: "ways", state: ledgerState() } };
    } catch {
      // Not even looked at can it be: the fault itself is all there is to tell.
    }
    return { trouble: { kind: "fault", title: words.title, detail: words.detail } };
  }
}
