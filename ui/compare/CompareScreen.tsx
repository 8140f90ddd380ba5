"use client";
import { useRouter } from "next/navigation";
import type { Bounded, Cost, Weight } from "@/core/exchange/compare";
import { say, sayDuration } from "@/core/quantity/format";
import { type Compared, type Comparison, fetchComparison } from "@/state/comparing";
import { FigureTable } from "../grid/FigureTable";
import { DifferenceList } from "../kit/DifferenceList";
import { PageHead } from "../kit/PageHead";
import { SeverityMark } from "../kit/Severity";
import { usePolled } from "../kit/usePolled";
import { LeftBehind } from "../machines/LeftBehind";
import { Explained } from "../words/Explained";

interface Named {
  id: string;
  name: string;
}

interface Props {
  machines: Named[];
  a: string | null;
  b: string | null;
}

/** What stands where the comparison will be. */
function Standing({ machines, a, b, said }: Props & { said: Comparison | null }) {
  if (machines.length < 2) return "There is only one machine: duplicate it on the list first.";
  if (!a || !b) return "Choose the two machines.";
  if (said?.kind === "missing") return "One of the two is no longer on the list.";
  if (said?.kind === "unreadable") return "One of the two cannot be read by this version, or its analysis breaks off.";
  return "Working both machines out…";
}

/** Two machines side by side: what a variant changes, gains and costs. */
export function CompareScreen({ machines, a, b }: Props) {
  const router = useRouter();
  const { found, failed, again } = usePolled(
    a && b ? `${a} ${b}` : null,
    (signal) => fetchComparison(a ?? "", b ?? "", signal),
    ({ kind }) => kind !== "waiting",
  );
  const choose = (which: "a" | "b", id: string) => {
    const query = new URLSearchParams({ ...(a ? { a } : {}), ...(b ? { b } : {}), [which]: id });
    router.push(`/compare?${query}`);
  };
  const select = (which: "a" | "b", label: string, value: string | null, other: string | null) => (
    <label className="text-sm">
      {label}{" "}
      <select
        aria-label={which === "a" ? "From machine" : "To machine"}
        className="field max-w-[280px]"
        value={value ?? ""}
        onChange={(event) => choose(which, event.target.value)}
      >
        <option value="" disabled>
          choose a machine
        </option>
        {machines
          .filter(({ id }) => id !== other)
          .map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
      </select>
    </label>
  );
  return (
    <div className="mx-auto max-w-[1100px] px-6 pb-10">
      <PageHead title="Compare" says="duplicate a machine, change the copy, and see here what that did" />
      <main>
        <div className="flex flex-wrap gap-6 py-3">
          {select("a", "From", a, b)}
          {select("b", "to", b, a)}
        </div>
        {failed ? (
          <p role="alert" className="py-6 text-sm">
            The server does not answer.{" "}
            <button type="button" className="link" onClick={again}>
              Try again
            </button>
          </p>
        ) : found?.kind === "compared" ? (
          <Side compared={found} />
        ) : (
          <p role="status" className="py-6 text-sm text-soft">
            <Standing machines={machines} a={a} b={b} said={found} />
          </p>
        )}
      </main>
      <LeftBehind names={machines} />
    </div>
  );
}

function weight({ copperKg, partsKg, unknown }: Weight): string {
  return `${say(copperKg + partsKg, "mass", "up")}${unknown > 0 ? `, ${unknown} parts not weighed` : ""}`;
}

function cost({ known, unknown }: Cost): string {
  return known === 0 ? "not known" : `${Number(known.toFixed(2))}${unknown > 0 ? `, ${unknown} parts without a price` : ""}`;
}

const run = (of: Bounded | null) => (of === null ? "–" : `${of.bound ? "≤ " : ""}${sayDuration(of.value)}`);
const amps = (of: Bounded | null) => (of === null ? "–" : `${of.bound ? "≥ " : ""}${say(of.value, "current", "up")}`);

function Side({ compared: { a, b, differences: d } }: { compared: Compared }) {
  const rows: readonly [string, string, string][] = [
    ["Runs on one charge", run(d.run.before), run(d.run.after)],
    ...d.modes.map(({ name, before, after }): [string, string, string] => [`${name}, from all sources`, amps(before), amps(after)]),
    ["Mass, as far as known", weight(d.mass.before), weight(d.mass.after)],
    ["Copper in wires", say(d.mass.before.copperKg, "mass", "up"), say(d.mass.after.copperKg, "mass", "up")],
    ["Cost, as far as known", cost(d.cost.before), cost(d.cost.after)],
  ];
  const same = d.added.length + d.removed.length + d.changed.length === 0;
  return (
    <>
      <FigureTable
        className="mt-2"
        caption={<caption className="pb-1 text-left text-base font-bold">Figures</caption>}
        rows={rows}
        keyOf={([label]) => label}
        columns={[
          { label: "Figure", hidden: true, cell: ([label]) => label },
          { label: a.name, num: true, cellClass: "fig", cell: ([, before]) => before },
          {
            label: b.name,
            num: true,
            cellClass: ([, before, after]) => `fig ${before === after ? "text-soft" : "font-bold"}`,
            cell: ([, , after]) => after,
          },
        ]}
      />
      <section className="mt-6 grid gap-x-10 md:grid-cols-2">
        <Verdicts title={`Settled in ${b.name}`} none="No verdict less." list={d.lost} />
        <Verdicts title={`New in ${b.name}`} none="No verdict more." list={d.gained} />
      </section>
      <section className="mt-6">
        <h2 className="text-base font-bold">
          <Explained>What was changed</Explained>
        </h2>
        {same && <p className="text-sm text-soft">The two are alike.</p>}
        {d.added.length > 0 && (
          <p className="text-sm">
            <span className="font-semibold">Added:</span> {d.added.join(", ")}
          </p>
        )}
        {d.removed.length > 0 && (
          <p className="text-sm">
            <span className="font-semibold">Gone:</span> {d.removed.join(", ")}
          </p>
        )}
        <DifferenceList differences={d.changed} />
      </section>
    </>
  );
}

function Verdicts({ title, none, list }: { title: string; none: string; list: Compared["differences"]["gained"] }) {
  return (
    <div>
      <h2 className="border-b border-ink pb-1 text-base font-bold">
        <span className="fig">{list.length}</span> {title}
      </h2>
      {list.length === 0 && <p className="py-1 text-sm text-soft">{none}</p>}
      <ul>
        {list.map((verdict) => (
          <li key={verdict.id} className="border-b border-hair py-1 text-sm">
            <SeverityMark severity={verdict.severity} /> <span className="pl-1">{verdict.headline}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
