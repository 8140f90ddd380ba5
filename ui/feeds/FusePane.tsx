"use client";
import dynamic from "next/dynamic";
import { Fragment, type ReactNode, useState } from "react";
import type { FusePicture, MotorAnswer } from "@/core/choosing/fuse-picture";
import { loadShare } from "@/core/fuses/rating";
import { FUSE_PLACES, type FuseRef } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { lateOf } from "@/state/findings";
import { BrokeOff } from "../kit/BrokeOff";
import { Dialog } from "../kit/Dialog";
import { QuantityInput } from "../kit/QuantityInput";
import { SelectField } from "../kit/Select";
import { useDispatch, useWorkbench } from "../workbench/context";
import { type Answer, useAsked } from "../workbench/useQuestion";

/** The chart library is only fetched by those who look at the picture. */
const FuseChart = dynamic(() => import("./FuseChart").then((module) => module.FuseChart), { ssr: false });

export type FuseAt = { kind: "wire" | "part"; id: string };

export function useFusePicture(at: FuseAt): Answer<FusePicture | null> {
  const faults = useWorkbench((state) => lateOf(state)?.faults ?? null);
  return useAsked<FusePicture | null>(`fuse ${at.kind} ${at.id}`, (ask) => ask("picture", at, faults));
}

function Line({ label, children, strong }: { label: string; children: ReactNode; strong?: boolean }) {
  return (
    <div className="flex justify-between gap-3 border-b border-hair py-[3px] text-sm">
      <dt className="min-w-0">{label}</dt>
      <dd className={`fig text-right whitespace-nowrap ${strong ? "font-bold text-stop dark:text-fix" : "font-semibold"}`}>{children}</dd>
    </div>
  );
}

function band(minS: number, maxS: number): string {
  if (!Number.isFinite(maxS)) return Number.isFinite(minS) ? `${say(minS, "time", "down")} or never` : "never";
  return `${minS < 1e-6 ? "0" : say(minS, "time", "down")} – ${say(maxS, "time", "up")}`;
}

/** What the fuse does in each mode, in a start, a stall and a short, in numbers. */
export function FusePane({ at, fuse, name }: { at: FuseAt; fuse: FuseRef; name: string }) {
  const { value: picture, failed, start } = useFusePicture(at);
  const mode = useWorkbench((state) => state.mode);
  const modes = useWorkbench((state) => state.machine.modes);
  const settings = useWorkbench((state) => state.machine.settings);
  const faults = useWorkbench((state) => lateOf(state)?.faults ?? null);
  const { act, dispatch } = useDispatch();
  const result = faults?.results.find(({ opens, bolted }) => bolted && opens?.id === at.id);
  const fate = result?.wire?.fate.fate;
  const survives =
    fate === "burns" || fate === "overheats" ? "no" : fate === "unknown" || result?.danger === "unknown" ? "not known" : "yes";
  const set = (changes: Partial<FuseRef>) =>
    at.kind === "wire"
      ? ({ type: "updateWire", id: at.id, changes: { fuse: { ...fuse, ...changes } } } as const)
      : ({ type: "updatePart", id: at.id, changes: { fuse: { ...fuse, ...changes } } } as const);
  const shown = picture?.marks.find(({ label }) => mode !== "worst" && label === modes[mode]?.name);
  const most = picture?.marks.reduce((top, mark) => (mark.amps > (top?.amps ?? 0) ? mark : top), picture.marks[0]);
  const carried = shown ?? (mode === "worst" ? most : undefined);
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-3.5 py-1.5">
      {failed && <BrokeOff what="What the fuse does" again={start} />}
      <p className="text-sm">
        <b>{fuse.ratingA} A</b> <span className="text-soft">{picture?.name.replace(/^[\d.]+ A /, "")}</span>
      </p>
      <dl>
        {carried && (
          <Line
            label={`carries in ${carried.label}`}
            strong={carried.amps / fuse.ratingA > loadShare(fuse.family, settings.schools.fuseLoadFactor) && carried.seconds === null}
          >
            {say(carried.amps, "current", "up")}, {Math.round((carried.amps / fuse.ratingA) * 100)} %
          </Line>
        )}
        {picture?.motor.map((answer) => (
          <Motor key={answer.load} answer={answer} />
        ))}
        {picture?.short ? (
          <>
            <Line label={`short at ${name}`}>
              {say(picture.short.leastA, "current", "down")} – {say(picture.short.mostA, "current", "up")}
            </Line>
            <Line label="opens in">{band(picture.short.fastestS, picture.short.slowestS)}</Line>
            <Line label="wire survives" strong={survives === "no"}>
              {survives}
            </Line>
          </>
        ) : (
          <Line label={`short at ${name}`}>{faults ? "does not open it first" : "being walked…"}</Line>
        )}
      </dl>
      <div className="mt-1 grid grid-cols-2 gap-x-4">
        <SelectField
          label="It sits"
          value={fuse.place}
          none="not said"
          options={FUSE_PLACES.map((value) => ({
            value,
            label: value === "block" ? "in a fuse block" : value === "board" ? "on a board" : "in line",
          }))}
          onChange={(place) => act(set({ place }))}
        />
        {at.kind === "wire" && (
          <QuantityInput
            slim
            label="Wire before it"
            dimension="length"
            min={0}
            optional
            value={fuse.atM}
            placeholder="at the start"
            onCommit={(atM) => dispatch(set({ atM }))}
          />
        )}
      </div>
      <label className="text-[12.5px]">
        <input
          type="checkbox"
          className="mr-1.5"
          checked={fuse.outOfReach === true}
          onChange={(event) => act(set({ outOfReach: event.target.checked || undefined }))}
        />
        cannot be reached without dismantling
      </label>
    </div>
  );
}

function Motor({ answer }: { answer: MotorAnswer }) {
  const name = useWorkbench((state) => state.machine.parts.find(({ id }) => id === answer.load)?.name ?? "motor");
  return (
    <>
      {answer.startA !== null && (
        <Line
          label={`start of ${name}, ${say(answer.startA, "current", "up")}${answer.startS === null ? "" : ` for ${say(answer.startS, "time")}`}`}
          strong={answer.holdsStart === "no"}
        >
          {answer.holdsStart === "yes" ? "holds" : answer.holdsStart === "no" ? "may open" : "for how long?"}
        </Line>
      )}
      {answer.stallA !== null && answer.stallOpens && (
        <Line label={`held still, ${say(answer.stallA, "current", "up")} there, opens after`}>
          {band(answer.stallOpens.minS, answer.stallOpens.maxS)}
        </Line>
      )}
      {answer.stallOpens && (
        <Line
          label={
            answer.windingS === null
              ? "ends a stall before its winding is too hot"
              : `ends a stall before its winding is too hot, ${Number.isFinite(answer.windingS) ? say(answer.windingS, "time", "down") : "never"}`
          }
          strong={answer.endsStall === "no"}
        >
          {answer.endsStall === "yes" ? "yes" : answer.endsStall === "no" ? "no" : "not known"}
        </Line>
      )}
    </>
  );
}

const KEY: readonly { mark: string; look: string; text: string }[] = [
  { mark: "- -", look: "text-accent", text: "may open" },
  { mark: "—", look: "text-accent", text: "sure to be open" },
  { mark: "···", look: "text-fix", text: "wire bears" },
  { mark: "|", look: "text-stop dark:text-fix", text: "short" },
  { mark: "◆", look: "text-ink", text: "modes" },
  { mark: "▲", look: "text-stop dark:text-fix", text: "held still" },
];

/** The time-current picture of the fuse, small in the dock and large in a sheet of its own. */
export function FusePictureView({ at, name }: { at: FuseAt; name: string }) {
  const { value: picture } = useFusePicture(at);
  const [large, setLarge] = useState(false);
  if (!picture) return <p className="px-3.5 py-2 text-sm text-soft">Drawing…</p>;
  return (
    <div className="flex min-h-0 flex-1 flex-col px-2 py-1">
      <div className="relative min-h-0 flex-1">
        <FuseChart picture={picture} name={name} legend={false} />
      </div>
      <p className="px-1.5 text-xs text-soft">
        {KEY.map(({ mark, look, text }) => (
          <Fragment key={text}>
            <span className="pr-2 whitespace-nowrap">
              <span aria-hidden className={`font-bold ${look}`}>
                {mark}
              </span>{" "}
              {text}
            </span>{" "}
          </Fragment>
        ))}
        <button type="button" className="link" onClick={() => setLarge(true)}>
          Larger
        </button>
      </p>
      {large && (
        <Dialog
          open
          wide
          onOpenChange={setLarge}
          title={`${picture.name} before ${name}`}
          description="Between the two curves it may or may not be open yet. Dots are what its standard assures, and what verdicts use; the curves between them are for the eye. What lies left of the first curve passes; what lies right of the second is over by then. The wire must bear each current for longer than the second curve takes."
        >
          <div className="relative h-[52vh]">
            <FuseChart picture={picture} name={name} legend />
          </div>
        </Dialog>
      )}
    </div>
  );
}
