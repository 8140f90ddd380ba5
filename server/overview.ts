import { type OverviewState, overviewStateSchema } from "@/core/machine/summary";
import type { Db } from "./database";
import { RULES } from "./rules-version";

interface Stored {
  readonly machine_id: string;
  readonly revision: number;
  readonly body: string;
}

function readBody(text: string): OverviewState | null {
  try {
    return overviewStateSchema.safeParse(JSON.parse(text)).data ?? null;
  } catch {
    return null;
  }
}

/** What is known of machines by revision, worked out by the rules of this program; anything else is waited for. */
export function knownOverviews(db: Db): (id: string, revision: number) => OverviewState {
  const rows = db.prepare<[string], Stored>("SELECT machine_id, revision, body FROM overview WHERE rules = ?").all(RULES);
  const byId = new Map(rows.map((row) => [row.machine_id, row]));
  return (id, revision) => {
    const row = byId.get(id);
    return (row?.revision === revision ? readBody(row.body) : null) ?? { kind: "waiting" };
  };
}

/** Keeps what was worked out of a revision. */
export function keepOverview(db: Db, id: string, revision: number, overview: OverviewState): void {
  db.prepare(
    `INSERT INTO overview (machine_id, revision, rules, body) SELECT id, @revision, @rules, @body FROM machine WHERE id = @id
       ON CONFLICT (machine_id) DO UPDATE SET revision = excluded.revision, rules = excluded.rules, body = excluded.body`,
  ).run({ id, revision, rules: RULES, body: JSON.stringify(overview) });
}
