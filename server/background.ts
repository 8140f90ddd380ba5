import type { Differences } from "@/core/exchange/compare";
import type { OverviewState } from "@/core/machine/summary";
import { aside } from "./aside";
import { type Db, foundDamaged, heldDatabase } from "./database";
import { damaged } from "./inspect";
import { listMachines } from "./machines";
import { keepOverview } from "./overview";
import { logOf, logVersion } from "./readings";

const documentOf = (db: Db, id: string, revision: number) =>
  db
    .prepare<[string, number], { document: string }>("SELECT document FROM machine WHERE id = ? AND revision = ? AND deleted_at IS NULL")
    .get(id, revision)?.document;

/** What is known of one ledger beside its file. Another file that comes in its place has revisions of its own. */
interface Beside {
  /** What could not be kept, because the file cannot be written: by machine, with the revision it is of. */
  readonly unkept: Map<string, { revision: number; overview: OverviewState }>;
  /** Comparisons by their two revisions. */
  readonly compared: Map<string, Comparison>;
}
const besides = new WeakMap<Db, Beside>();

function beside(db: Db): Beside {
  const known = besides.get(db) ?? { unkept: new Map(), compared: new Map() };
  besides.set(db, known);
  return known;
}

/** The list as it is known now; what is not known yet is begun, and is there when the list is asked again. */
export function machinesAndWork(db: Db) {
  const { unkept } = beside(db);
  const machines = listMachines(db).map((machine) => {
    const held = machine.overview.kind === "waiting" ? unkept.get(machine.id) : undefined;
    return held?.revision === machine.revision ? { ...machine, overview: held.overview } : machine;
  });
  for (const { id, revision, overview } of machines) {
    if (overview.kind !== "waiting") continue;
    const version = logVersion(db, id);
    aside().ask(
      `overview ${id} ${revision} ${version}`,
      () => {
        const document = db.open ? documentOf(db, id, revision) : undefined;
        return document === undefined ? null : { kind: "overview", document, log: logOf(db, id) };
      },
      (answer) => {
        // A verdict of one file must not be said of the same number in another.
        if (heldDatabase() !== db) return;
        const found = answer?.kind === "overview" ? answer.overview : ({ kind: "broken" } as const);
        try {
          keepOverview(db, id, revision, version, found);
          unkept.delete(id);
        } catch {
          unkept.set(id, { revision, overview: found });
        }
      },
    );
  }
  return machines;
}

/** Two stored machines side by side. */
export interface Compared {
  readonly a: { readonly id: string; readonly name: string };
  readonly b: { readonly id: string; readonly name: string };
  readonly differences: Differences;
}
/** How far a comparison is. `unreadable`: one of the two cannot be read, or its analysis broke off. */
export type Comparison = { kind: "waiting" } | { kind: "missing" } | { kind: "unreadable" } | ({ kind: "compared" } & Compared);

/** Comparisons kept, the newest. */
const KEPT = 20;

/** What tells two machines apart, or that it is being worked out. */
export function comparison(db: Db, aId: string, bId: string): Comparison {
  const row = db.prepare<[string], { id: string; name: string; revision: number }>(
    "SELECT id, name, revision FROM machine WHERE id = ? AND deleted_at IS NULL",
  );
  const [a, b] = [row.get(aId), row.get(bId)];
  if (!a || !b) return { kind: "missing" };
  const key = `compare ${a.id} ${a.revision} ${b.id} ${b.revision}`;
  const { compared } = beside(db);
  const known = compared.get(key);
  if (known) return known;
  aside().ask(
    key,
    () => {
      const [first, second] = [a, b].map(({ id, revision }) => (db.open ? documentOf(db, id, revision) : undefined));
      return first === undefined || second === undefined ? null : { kind: "compare", a: first, b: second };
    },
    (answer) => {
      const found = answer?.kind === "compare" ? answer.differences : null;
      const name = ({ id, name }: { id: string; name: string }) => ({ id, name });
      compared.set(key, found ? { kind: "compared", a: name(a), b: name(b), differences: found } : { kind: "unreadable" });
      for (const old of [...compared.keys()].slice(0, -KEPT)) compared.delete(old);
    },
    true,
  );
  return { kind: "waiting" };
}

/** Looks through the whole file in the background; what is wrong is told with the next request. */
export function checkWhole(db: Db): void {
  aside().ask(
    `check ${db.name}`,
    () => ({ kind: "check", path: db.name }),
    (answer) => {
      // Another file may have come in its place meanwhile: nothing is known of that one.
      if (answer?.kind === "check" && answer.wrong !== null && heldDatabase() === db) foundDamaged(damaged(answer.wrong));
    },
  );
}
