"use client";
import type { Wire } from "@/core/machine/schema";
import { inSentence, say, withArticle } from "@/core/quantity/format";
import { FUSE_FAMILIES } from "@/core/reference/fuses";
import type { Ladder, Rung } from "@/core/sizing/ladder";
import { airAround } from "@/core/wires/ampacity";
import { analysedOf, lateOf } from "@/state/findings";
import { BrokeOff } from "../kit/BrokeOff";
import { useDispatch, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { useAsked, useQuestion } from "../workbench/useQuestion";

/** The widest bar stands for this share of the way from the air to the limit. */
const BAR_SHARE = 1.5;
const BAR_PX = 84;

const HEAD_TIPS: Readonly<Record<string, string>> = {
  "at limit in": "How long the worst current of any mode may last until the conductor is at its limit",
  drop: "Of the rail, out and back, at the worst current of any mode",
  loss: "Heat in the feed at the worst lasting current",
  "fuse to": "Largest fuse that protects it; the tip names the families made in that size",
};

/** Each size the feed could have: temperature against one line for all, drop, mass, largest fuse, and why this one. */
export function LadderPane({ wire, onSize }: { wire: Wire; onSize: () => void }) {
  const settings = useWorkbench((state) => state.machine.settings);
  const faults = useWorkbench((state) => lateOf(state)?.faults ?? null);
  const { value: soon, failed, start } = useAsked<Ladder | null>(`ladder ${wire.id}`, (ask) => ask("ladder", wire.id, faults));
  const { trying } = useWorkbenchContext();
  const machine = useWorkbench(analysedOf);
  // What a short does to each size is walked for itself when edits pause: then it says what the verdicts would say.
  const walked = useQuestion({
    key: `ladder ${wire.id}`,
    version: machine,
    pauseMs: 300,
    ask: () => (machine ? trying.ask((service) => service.ladder(machine, wire.id), Number.POSITIVE_INFINITY) : undefined),
  });
  const ladder = walked.value && !walked.stale ? walked.value : soon;
  const { act } = useDispatch();
  if (wire.board)
    return <p className="px-3.5 py-2 text-sm text-soft">Copper of a board has no sizes to choose from: its width is under Conductor.</p>;
  if (failed)
    return (
      <div className="px-3.5">
        <BrokeOff what="The sizes" again={start} />
      </div>
    );
  if (!ladder) return <p className="px-3.5 py-2 text-sm text-soft">Weighing the sizes…</p>;
  const airC = airAround(wire, settings);
  const bundle = wire.bundle ?? settings.bundle;
  const maxC = ladder.rungs.find(({ maxC: own }) => own !== null)?.maxC ?? null;
  const now = ladder.rungs.find((rung) => rung.now);
  const proposed = ladder.rungs.find((rung) => rung.proposed);
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-3.5 py-1.5">
      <p className="text-xs text-soft">
        {wire.lengthM ? `${say(wire.lengthM.value, "length")} each way, ` : "length not known, "}
        {say(airC, "temperature")} around it
        {bundle > 1 && `, ${bundle} loaded wires together`}
        {maxC !== null && ` · limit ${say(maxC, "temperature")}`}
      </p>
      <table className="mt-0.5 w-full text-[12.5px]" aria-label="Sizes for this feed">
        <thead className="text-xs whitespace-nowrap text-soft">
          <tr>
            {["size", "worst lasting current", "at limit in", "drop", "loss", "copper", "fuse to"].map((head, i) => (
              <th key={head} className={`font-normal ${i < 2 ? "text-left" : "pl-1.5 text-right"}`} title={HEAD_TIPS[head]}>
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {ladder.rungs.map((rung) => (
            <RungRow
              key={rung.gauge}
              rung={rung}
              airC={airC}
              onUse={() =>
                act({
                  type: "batch",
                  label: `Use ${rung.gauge}`,
                  commands: [
                    { type: "setFeed", id: ladder.unit, changes: { gauge: rung.gauge, ...rung.ends } },
                    ...(rung.fuse && wire.role === "supply" ? [{ type: "setFuse" as const, wireId: ladder.unit, fuse: rung.fuse }] : []),
                  ],
                })
              }
            />
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-xs">
        {proposed ? (
          <>
            <b>{proposed.gauge}</b>
            {proposed.fuse && wire.role === "supply" && ` with ${withArticle(`${proposed.fuse.ratingA} A fuse`)}`}
            {proposed.plugs.length > 0 && ` and ${proposed.plugs.map((name) => withArticle(inSentence(name))).join(", ")}`} is the thinnest
            that will do. {ladder.reason}
          </>
        ) : (
          ladder.reason
        )}{" "}
        {now && now.refusals.length > 0 && (
          <span className="text-fix">
            {now.gauge} now: {now.refusals.map(({ text }) => text).join("; ")}.
          </span>
        )}{" "}
        <button type="button" className="link" onClick={onSize}>
          Size this with its fuse and plugs
        </button>
      </p>
    </div>
  );
}

function RungRow({ rung, airC, onUse }: { rung: Rung; airC: number; onUse: () => void }) {
  const span = rung.maxC === null ? 1 : Math.max(1, (rung.maxC - airC) * BAR_SHARE);
  const share = rung.temperatureC === null ? 0 : Math.min(1, Math.max(0, rung.temperatureC - airC) / span);
  const over = rung.temperatureC !== null && rung.maxC !== null && rung.temperatureC > rung.maxC + 0.05;
  const reaches = rung.reachesS !== null && Number.isFinite(rung.reachesS);
  return (
    <tr className={`border-t border-hair ${rung.proposed ? "bg-tint" : ""}`} title={rung.refusals.map(({ text }) => text).join("; ")}>
      <th scope="row" className="py-[2px] pr-1 text-left font-semibold whitespace-nowrap">
        {rung.now ? (
          <span className="fig">{rung.gauge}</span>
        ) : (
          <button type="button" className="fig link" aria-label={`Use ${rung.gauge}`} onClick={onUse}>
            {rung.gauge}
          </button>
        )}
        {rung.now && <span className="text-xs font-normal"> now</span>}
        {rung.proposed && <span className="text-xs font-normal"> ← take</span>}
      </th>
      <td className="pr-1">
        <span className="flex items-center gap-1.5">
          <svg width={BAR_PX} height="12" aria-hidden className="shrink-0">
            <defs>
              <pattern id="too-hot" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                <rect width="6" height="6" fill="var(--stop)" />
                <rect width="2" height="6" fill="var(--sheet)" />
              </pattern>
            </defs>
            <rect width={BAR_PX} height="12" fill="var(--hair)" />
            <rect width={BAR_PX * share} height="12" fill={over ? "url(#too-hot)" : "var(--accent)"} opacity={over ? 1 : 0.65} />
            <line x1={BAR_PX / BAR_SHARE} x2={BAR_PX / BAR_SHARE} y1="0" y2="12" stroke="var(--ink)" strokeWidth="2" />
          </svg>
          <span className="fig whitespace-nowrap">
            {rung.temperatureC === null
              ? "not in table"
              : Number.isFinite(rung.temperatureC)
                ? say(rung.temperatureC, "temperature", "up")
                : "melts"}
          </span>
        </span>
      </td>
      <td className="fig pl-1.5 text-right whitespace-nowrap">
        {reaches ? (rung.reachesS === 0 ? "at once" : say(rung.reachesS ?? 0, "time", "down")) : "–"}
      </td>
      <td className="fig pl-1.5 text-right whitespace-nowrap">{rung.dropPercent === null ? "–" : `${rung.dropPercent.toFixed(1)} %`}</td>
      <td className="fig pl-1.5 text-right whitespace-nowrap">{say(rung.lossW, "power", "up")}</td>
      <td className="fig pl-1.5 text-right whitespace-nowrap">
        {rung.massG >= 10 ? `${Math.round(rung.massG)} g` : `${rung.massG.toFixed(1)} g`}
      </td>
      <td
        className="fig pl-1.5 text-right whitespace-nowrap"
        title={rung.largestFamilies.map((family) => FUSE_FAMILIES[family].name).join(", ")}
      >
        {rung.largestFuseA === null ? "–" : `${rung.largestFuseA} A`}
      </td>
    </tr>
  );
}
