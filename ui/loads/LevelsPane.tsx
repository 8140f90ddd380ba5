"use client";
import { canStall } from "@/core/loads/budget";
import { levelsCommand } from "@/core/loads/fill";
import { windingFactor } from "@/core/loads/motor";
import { levelWord } from "@/core/loads/words";
import { LEVELS, type Level, type LevelName } from "@/core/machine/load-schema";
import type { Load } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { analysisOf } from "@/state/findings";
import { Figure } from "../figure/Figure";
import { KnownBy } from "../kit/KnownBy";
import { QuantityInput } from "../kit/QuantityInput";
import { useDispatch, useWorkbench, useWorkbenchContext } from "../workbench/context";

/** Winding temperature that a hot motor is shown at, °C. */
const HOT_C = 100;

/** The currents of one piece that its states stand for, each with how it is known and the range it could be in. */
export function LevelsPane({ load }: { load: Load }) {
  const { dispatch, act } = useDispatch();
  const { showWorking, store } = useWorkbenchContext();
  const mode = useWorkbench((state) => state.mode);
  const modes = useWorkbench((state) => state.machine.modes);
  const figures = useWorkbench((state) => analysisOf(state)?.parts[load.id]);
  const set = (level: LevelName, next: Level | undefined) => {
    const { [level]: _old, ...others } = load.levels ?? {};
    // A current counts in the modes at once: nobody is asked for it again there.
    return levelsCommand(store.getState().machine, load, next ? { ...others, [level]: next } : others);
  };
  const stall = load.levels?.stall;
  return (
    <section aria-label={`${load.name}, currents`} className="overflow-y-auto border-r border-hair px-3.5 py-2.5">
      <h2 className="flex items-baseline justify-between gap-2 text-sm font-bold">
        <span className="truncate">{load.name} draws</span>
        {mode !== "worst" && (
          <Figure
            value={figures?.amps[mode]}
            dimension="current"
            rounding="up"
            strong
            className="text-lg"
            atLeast={figures?.atLeast[mode] === 1}
            label={`${load.name} in ${modes[mode]?.name}`}
            of={{ kind: "partAmps", part: load.id, mode }}
          />
        )}
      </h2>
      <p className="border-b border-ink pb-1 text-xs text-soft">
        One piece at {say(load.nominalV.value, "voltage")}
        {mode !== "worst" && figures ? `; in ${modes[mode]?.name} it gets ${say(figures.volts[mode] ?? 0, "voltage")}` : ""}
      </p>
      {LEVELS.map((name) => {
        const word = levelWord(load.loadKind, name);
        const level = load.levels?.[name];
        if (word === null || (name === "start" && canStall(load) && !level)) return null;
        return (
          <div key={name} className="grid grid-cols-[minmax(0,1fr)_84px] items-baseline gap-2">
            <QuantityInput
              slim
              optional
              label={word}
              dimension="current"
              value={level?.value}
              onCommit={(value) =>
                dispatch(
                  set(
                    name,
                    value === undefined ? undefined : { value, provenance: level?.basis ? "guess" : (level?.provenance ?? "guess") },
                  ),
                )
              }
            />
            {level && (
              <KnownBy
                label={`How ${word} is known`}
                value={level.provenance}
                onChange={(provenance) => act(set(name, { ...level, provenance }))}
              />
            )}
            {level?.low !== undefined && level.high !== undefined && (
              <p className="col-span-2 -mt-0.5 text-right text-xs text-soft">
                could be {say(level.low, "current", "down")} to {say(level.high, "current", "up")},{" "}
                <button
                  type="button"
                  className="link font-normal"
                  aria-label={`how: ${word}`}
                  onClick={(event) =>
                    showWorking({
                      of: { kind: "level", part: load.id, level: name },
                      label: `${load.name}, ${word}`,
                      anchor: event.currentTarget,
                    })
                  }
                >
                  how
                </button>
              </p>
            )}
          </div>
        );
      })}
      <TypedKnownBy load={load} />
      {stall && canStall(load) && (
        <p className="mt-1 border-t border-hair pt-1 text-xs text-soft">
          Cold. With the winding at {HOT_C} °C it stalls at {say(stall.value / windingFactor(HOT_C), "current")}: plan wires and fuses on
          the cold figure, torque on the hot one. Thrown into reverse at full speed it draws up to{" "}
          {say(2 * stall.value - (load.levels?.idle?.value ?? 0), "current", "up")}.
        </p>
      )}
    </section>
  );
}

/** How the currents typed straight into the load's modes are known, all of them at once. */
function TypedKnownBy({ load }: { load: Load }) {
  const { act } = useDispatch();
  const typed = Object.entries(load.cells).flatMap(([modeId, cell]) => (cell.state === "amps" ? [{ modeId, cell }] : []));
  const now = new Set(typed.map(({ cell }) => cell.amps.provenance));
  if (typed.length === 0) return null;
  return (
    <label className="mt-1 flex items-baseline justify-between gap-2 text-[12.5px]">
      Amps typed in its modes are
      <KnownBy
        label="Amps typed in its modes are"
        value={now.size === 1 ? [...now][0] : undefined}
        onChange={(provenance) =>
          act({
            type: "batch",
            label: `${load.name}: ${provenance}`,
            commands: typed.map(({ modeId, cell }) => ({
              type: "setCell" as const,
              loadId: load.id,
              modeId,
              cell: { ...cell, amps: { ...cell.amps, provenance } },
            })),
          })
        }
      />
    </label>
  );
}
