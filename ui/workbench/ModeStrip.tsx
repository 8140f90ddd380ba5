"use client";
import { clsx } from "clsx";
import { worstOfModes } from "@/core/figures/worst";
import { ALL_STALLED } from "@/core/loads/budget";
import { formatQuantity, say } from "@/core/quantity/format";
import { analysisOf } from "@/state/findings";
import { useWorkbench, useWorkbenchContext } from "./context";

interface SlotProps {
  name: string;
  sub: string | null;
  amps: number | null;
  atLeast: boolean;
  collapsed: boolean;
  chosen: boolean;
  onChoose: () => void;
}

function Slot({ name, sub, amps, atLeast, collapsed, chosen, onChoose }: SlotProps) {
  const printed = amps === null ? null : formatQuantity(amps, "current", "up");
  return (
    <button
      type="button"
      aria-pressed={chosen}
      onClick={onChoose}
      className={clsx(
        "flex min-w-[86px] max-w-[150px] shrink-0 flex-col justify-center border-r border-hair px-3 text-left",
        chosen ? "bg-ink text-paper" : "hover:bg-tint",
      )}
    >
      <span className={clsx("max-w-full truncate text-sm", !chosen && "text-soft")} title={name}>
        {name}
        {sub && <span className="pl-1 text-xs">{sub}</span>}
      </span>
      <span className="fig text-lg leading-tight font-bold">
        {collapsed ? (
          <span className="text-sm">collapses</span>
        ) : printed ? (
          <>
            {atLeast && "≥ "}
            {printed.digits}
            <span className={clsx("pl-1 text-xs font-normal", !chosen && "text-soft")}>{printed.unit}</span>
          </>
        ) : (
          "–"
        )}
      </span>
    </button>
  );
}

/** Always there: pick a mode, or Worst, and every figure on the screen is for it. */
export function ModeStrip() {
  const { openDialog } = useWorkbenchContext();
  const machine = useWorkbench((state) => state.machine);
  const modes = useWorkbench((state) => analysisOf(state)?.modes);
  const chosen = useWorkbench((state) => state.mode);
  const setMode = useWorkbench((state) => state.setMode);
  const sources = machine.parts.filter((part) => part.kind === "pack" || part.kind === "supply");
  const pack = sources.length === 1 ? sources[0] : undefined;
  const limit = pack?.kind === "pack" ? pack.continuousA?.value : pack?.kind === "supply" ? pack.ratedA?.value : undefined;
  const live = modes?.filter((mode) => !mode.collapsed) ?? [];
  const { amps: worst, atLeast } = worstOfModes(modes ?? []);
  return (
    <section aria-label="Modes" className="no-print flex h-[54px] shrink-0 items-stretch border-b border-ink bg-strip">
      <div className="flex min-w-0 items-stretch overflow-x-auto">
        <Slot
          name="Worst"
          sub={worst !== null && live.every((mode) => mode.sourceA < worst) ? "pack low" : null}
          amps={worst}
          atLeast={atLeast}
          collapsed={modes?.some((mode) => mode.collapsed) ?? false}
          chosen={chosen === "worst"}
          onChoose={() => setMode("worst")}
        />
        {modes
          ?.filter(({ id }) => id === ALL_STALLED)
          .map((mode) => (
            <div
              key={mode.id}
              className="flex min-w-[86px] shrink-0 flex-col justify-center border-r border-hair px-3"
              title="Added by the school of peak budgets"
            >
              <span className="text-sm text-soft">{mode.name}</span>
              <span className="fig text-lg leading-tight font-bold">
                {mode.collapsed ? (
                  <span className="text-sm">collapses</span>
                ) : (
                  `${mode.atLeast ? "≥ " : ""}${say(mode.sourceA, "current", "up")}`
                )}
              </span>
            </div>
          ))}
        {machine.modes.map((mode, index) => {
          const figure = modes?.find(({ id }) => id === mode.id);
          return (
            <Slot
              key={mode.id}
              name={mode.name}
              sub={mode.lastsS === null ? null : say(mode.lastsS, "time")}
              amps={figure?.sourceA ?? null}
              atLeast={figure?.atLeast ?? false}
              collapsed={figure?.collapsed ?? false}
              chosen={chosen === index}
              onChoose={() => setMode(index)}
            />
          );
        })}
      </div>
      <button type="button" className="shrink-0 px-3 text-xs text-soft hover:text-ink" onClick={() => openDialog({ kind: "modes" })}>
        Edit modes
      </button>
      <p className="ml-auto flex shrink-0 flex-col max-desk:hidden justify-center px-4 text-right text-xs text-soft">
        <span>amps leaving {sources.length === 1 ? `the ${pack?.kind === "pack" ? "pack" : "supply"}` : "the sources"}</span>
        <span>{limit !== undefined && `limit ${say(limit, "current", "down")} continuously`}</span>
      </p>
    </section>
  );
}
