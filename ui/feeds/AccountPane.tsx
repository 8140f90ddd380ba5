"use client";
import type { PartFigures } from "@/core/figures/types";
import type { Part } from "@/core/machine/schema";
import { isConsumer } from "@/core/machine/terminals";
import { formatQuantity, say } from "@/core/quantity/format";
import { analysisOf, lateOf } from "@/state/findings";
import { Figure } from "../figure/Figure";
import { BrokeOff } from "../kit/BrokeOff";
import { useWorkbench, useWorkbenchContext } from "../workbench/context";
import { useAsked } from "../workbench/useQuestion";

function Line({ label, amps, strong }: { label: string; amps: number; strong?: boolean }) {
  const { digits, unit } = formatQuantity(amps, "current");
  return (
    <div className={`flex justify-between gap-3 border-b border-hair py-[3px] text-sm ${strong ? "border-t border-t-ink font-bold" : ""}`}>
      <span className="min-w-0 truncate" title={label}>
        {label}
      </span>
      <span className="fig font-semibold whitespace-nowrap">
        {digits}
        <span className="unit">{unit}</span>
      </span>
    </div>
  );
}

/** What a consumer gets and what it loses on the way, each with its working. */
function Voltages({ part, figures, mode }: { part: Part; figures: PartFigures; mode: number }) {
  const rows = [
    { label: "draws", value: figures.amps[mode], dimension: "current" as const, of: { kind: "partAmps" as const, part: part.id, mode } },
    {
      label: "volts here",
      value: figures.volts[mode],
      dimension: "voltage" as const,
      of: { kind: "partVolts" as const, part: part.id, mode },
    },
    {
      label: "lost on the way",
      value: figures.dropV[mode],
      dimension: "voltage" as const,
      of: { kind: "partDrop" as const, part: part.id, mode },
    },
    {
      label: "lost on the way back",
      value: figures.offsetV[mode],
      dimension: "voltage" as const,
      of: { kind: "partOffset" as const, part: part.id, mode },
    },
    {
      label: "lowest, pack low",
      value: figures.lowestV?.volts,
      dimension: "voltage" as const,
      of: { kind: "partLowest" as const, part: part.id },
    },
  ];
  return (
    <div className="mt-3 border-t border-ink">
      {rows.map(({ label, value, dimension, of }) => (
        <div key={label} className="flex justify-between gap-3 border-b border-hair py-[3px] text-sm">
          <span>{label}</span>
          <Figure
            value={figures.live[mode] ? value : null}
            dimension={dimension}
            rounding={label.startsWith("lowest") ? "down" : "nearest"}
            label={`${part.name}, ${label}`}
            of={of}
          />
        </div>
      ))}
    </div>
  );
}

/** What a bolted short at this node does, at its worst. */
function ShortHere({ part }: { part: Part }) {
  const result = useWorkbench((state) =>
    lateOf(state)?.faults?.results.find(({ place, bolted }) => bolted && (place === part.id || place === `${part.id}.out+`)),
  );
  if (!result) return null;
  const { leastA, mostA, opens, wire } = result;
  const ends = opens && Number.isFinite(opens.slowestS) ? opens : null;
  const rows = [
    [
      "short here",
      leastA < mostA * 0.999 ? `${say(leastA, "current", "down")} – ${say(mostA, "current", "up")}` : say(mostA, "current", "up"),
    ],
    [
      "opens in",
      ends ? `${ends.fastestS < 1e-6 ? "0" : say(ends.fastestS, "time", "down")} – ${say(ends.slowestS, "time", "up")}` : "never",
    ],
    ...(wire && (wire.fate.fate === "burns" || wire.fate.fate === "overheats") ? [["wire on the way", wire.fate.fate]] : []),
  ];
  return (
    <dl className="mt-3 border-t border-ink">
      {rows.map(([label, text]) => (
        <div key={label} className="flex flex-wrap justify-between gap-x-3 border-b border-hair py-[3px] text-sm">
          <dt>{label}</dt>
          <dd className={`fig text-right ${text === "burns" || text === "never" ? "font-bold text-stop dark:text-fix" : ""}`}>{text}</dd>
        </div>
      ))}
    </dl>
  );
}

/** What arrives at a part, leaves it, is used by it, and the balance; then how its current goes home. */
export function AccountPane({ part }: { part: Part }) {
  const { openDialog } = useWorkbenchContext();
  const mode = useWorkbench((state) => state.mode);
  const analysis = useWorkbench(analysisOf);
  const modes = useWorkbench((state) => state.machine.modes);
  const worst = analysis?.parts[part.id]?.worst.mode ?? 0;
  const index = mode === "worst" ? worst : mode;

  const { value: account, failed, start } = useAsked(`account ${part.id} ${index}`, (ask) => ask("account", part.id, index));
  const collapsed = analysis?.modes[index]?.collapsed;
  const figures = analysis?.parts[part.id];
  return (
    <section aria-label={`${part.name}, account`} className="overflow-y-auto border-r border-hair px-3.5 py-2.5">
      <div className="flex items-baseline gap-2">
        <h2 className="min-w-0 flex-1 truncate text-sm">
          <b>{part.name}</b> <span className="text-soft">account, {modes[index]?.name}</span>
        </h2>
        <button
          type="button"
          className="link text-xs"
          aria-label={`Add a part under ${part.name}`}
          onClick={() => openDialog({ kind: "add", under: part.id })}
        >
          Add
        </button>
      </div>
      {failed && <BrokeOff what="The account" again={start} />}
      {collapsed ? (
        <p className="mt-2 text-sm">The voltage collapses in this mode: there is no account.</p>
      ) : (
        account && (
          <div className="mt-1">
            {account.arrives.map((line) => (
              <Line key={`in ${line.id}`} label={`from ${line.label}`} amps={line.amps} />
            ))}
            {account.leaves.map((line) => (
              <Line key={`out ${line.id}`} label={`to ${line.label}`} amps={line.amps} />
            ))}
            {account.own !== 0 && <Line label={part.kind === "converter" ? "taken at its input" : "own use"} amps={account.own} />}
            <Line label="balance" amps={Math.abs(account.balance) < 1e-8 ? 0 : account.balance} strong />
            {account.returns.map((line) => (
              <Line
                key={`back ${line.id}`}
                label={`${line.amps < 0 ? "returned by" : "back to"} ${line.label}`}
                amps={Math.abs(line.amps)}
              />
            ))}
            {isConsumer(part) && figures && figures.wiring === "ok" && <Voltages part={part} figures={figures} mode={index} />}
            <ShortHere part={part} />
          </div>
        )
      )}
    </section>
  );
}
