"use client";
import { useCallback, useEffect, useState } from "react";
import { z } from "zod";

const choiceSchema = z.object({ paper: z.enum(["a4", "letter"]), lists: z.boolean(), bringUp: z.boolean(), labels: z.boolean() });
/** Paper and pages the builder prints. */
export type PaperChoice = z.infer<typeof choiceSchema>;

const KEY = "node-ledger-paper";
const USUAL: PaperChoice = { paper: "a4", lists: true, bringUp: true, labels: true };

/** Where Letter lies in the printer (common practice, no source). */
const LETTER = /-(US|CA|MX|PH|CL|CO|VE)$/;

function kept(): PaperChoice {
  try {
    const read = choiceSchema.safeParse(JSON.parse(localStorage.getItem(KEY) ?? "null"));
    if (read.success) return read.data;
  } catch {
    // A browser that keeps nothing, or something else under this name: the usual choice.
  }
  return { ...USUAL, paper: LETTER.test(navigator.language) ? "letter" : "a4" };
}

/** The choice of paper, kept in this browser. */
export function usePaperChoice(): { choice: PaperChoice; choose: (changes: Partial<PaperChoice>) => void } {
  const [choice, setChoice] = useState<PaperChoice>(USUAL);
  useEffect(() => setChoice(kept()), []);
  const choose = useCallback((changes: Partial<PaperChoice>) => {
    setChoice((before) => {
      const next = { ...before, ...changes };
      try {
        localStorage.setItem(KEY, JSON.stringify(next));
      } catch {
        // Not kept for the next time, and that is all.
      }
      return next;
    });
  }, []);
  return { choice, choose };
}
