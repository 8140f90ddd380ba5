import { randomUUID } from "node:crypto";

/**
 * Version of everything that judges, made of its sources when the program was built (`next.config.ts`): what was worked out
 * by other rules is worked out anew. A program that runs from its sources knows none, and keeps nothing for the next.
 */
export const RULES: string = process.env.LEDGER_RULES ?? randomUUID();
