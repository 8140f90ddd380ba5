import { type OverviewState, overviewStateSchema } from "@/core/machine/summary";
import type { Db } from "./database";
import { RULES } from "./rules-version";

interface Stored {
  readonly machine_id: string;
  readonly revision: number;
  readonly log: number;
  readonly body: string;
}

function readBody(text: string): OverviewState | null {
  try {
    return overviewStateSchema.safeParse(JSON.parse(text)).data ?? null;
  } catch {
    return null;
  }
}

/** What is known of machines by revision and version of their log, worked out by the rules of this program; anything else is waited for. */
export function knownOverviews(db: Db): (id: string, revision: number) => OverviewState {
  const rows = db.prepare<[string], Stored>("SELECT machine_id, revision, log, body FROM overview WHERE rules = ?").all(RULES);
  const byId = new Map(rows.map((row) => [row.machine_id, row]));
  const logs = new Map(
    db
      .prepare<[], { machine_id: string; version: number }>("SELECT machine_id, version FROM bench")
      .all()
      .map((row) => [row.machine_id, row.version]),
  );
  return (id, revision) => {
    const row = byId.get(id);
    return (row?.revision === revision && row.log === (logs.get(id) ?? 0) ? readBody(row.body) : null) ?? { kind: "waiting" };
  };
}

/** Keeps what was worked out of a revision and a version of its log. */
export function keepOverview(db: Db, id: string, revision: number, log: number, overview: OverviewState): void {
  db.prepare(
    `INSERT INTO overview (machine_id, revision, log, rules, body) SELECT id, @revision, @log, @rules, @body FROM machine WHERE id = @id
       ON CONFLICT (machine_id) DO UPDATE SET revision = excluded.revision, log = excluded.log, rules = excluded.rules, body = excluded.body`,
  ).run({ id, revision, log, rules: RULES, body: JSON.stringify(overview) });
}
