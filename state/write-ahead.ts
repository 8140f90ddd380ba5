import type { z } from "zod";

const PREFIX = "node-ledger ahead";
type Kind = "entry" | "draft";

/**
 * What was handed to the browser's database and is not confirmed yet, in its plain storage. That one is written in the same
 * turn: it outlives a tab that is closed a moment later, where a transaction under way does not. Small and short-lived; where
 * there is no room, or none at all, the database has to do.
 */
export class WriteAhead {
  put(kind: Kind, key: string, value: unknown): void {
    try {
      localStorage.setItem(`${PREFIX} ${kind} ${key}`, JSON.stringify(value));
    } catch {
      // No room, or switched off: the database still gets it.
    }
  }

  /** @param unless with a value: only while it is the one that stands there */
  drop(kind: Kind, key: string, unless?: unknown): void {
    try {
      const name = `${PREFIX} ${kind} ${key}`;
      if (unless && localStorage.getItem(name) !== JSON.stringify(unless)) return;
      localStorage.removeItem(name);
    } catch {
      // Switched off: nothing stands there.
    }
  }

  /** Everything that stands there and can be read. */
  all<T>(kind: Kind, schema: z.ZodType<T>): { key: string; value: T }[] {
    try {
      const start = `${PREFIX} ${kind} `;
      return Object.keys(localStorage).flatMap((name) => {
        if (!name.startsWith(start)) return [];
        const read = schema.safeParse(JSON.parse(localStorage.getItem(name) ?? "null"));
        return read.success ? [{ key: name.slice(start.length), value: read.data }] : [];
      });
    } catch {
      return [];
    }
  }
}
