"use client";
import { useState } from "react";
import { toast } from "sonner";
import { say } from "@/core/quantity/format";
import { parseQuantity } from "@/core/quantity/parse";
import type { BenchRail, BenchSetting } from "@/core/sources/bench";
import { BrokeOff } from "../kit/BrokeOff";
import { RailTag } from "../kit/RailTag";
import { useDispatch, useLedger, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { useSourcesAnswer } from "../workbench/useQuestion";

/** Learn the demand on a bench supply before a battery is bought: what to set, and readings that become the budget. */
export function BenchView() {
  const ledger = useLedger();
  const { value: rails, failed, start } = useSourcesAnswer("bench", (service, machine) => service.bench(machine));
  if (failed)
    return (
      <div className="p-6">
        <BrokeOff what="What to set" again={start} />
      </div>
    );
  if (!rails) return <p className="p-6 text-sm text-soft">Working out what to set…</p>;
  if (rails.length === 0) return <p className="p-6 text-sm text-soft">No source yet: add a pack or a supply first.</p>;
  return (
    <div className="min-h-0 flex-1 overflow-auto px-3 py-2 pane">
      <p className="mb-2 border-l-2 border-fix pl-2 text-xs">
        Source unplugged, bench supply in its place, polarity checked with a meter. Machine on blocks, hands clear of what turns. Set the
        volts with nothing connected; its output capacitor dumps before the limit acts, so keep the fuse in. Stop when the limit holds
        longer than a start takes.
      </p>
      {rails.map((rail) => (
        <section key={rail.origin} aria-label={rail.name} className="mb-5">
          <h2 className="text-sm">
            <RailTag rail={ledger.rails.find(({ origin }) => origin === rail.origin) ?? null} />{" "}
            <span className="font-bold">In place of {rail.name}: set </span>
            <span className="fig text-lg font-bold">{say(rail.setV, "voltage")}</span>
            <span className="text-xs text-soft">
              {rail.mostV === null ? ", no part says what it bears" : `, never above ${say(rail.mostV, "voltage", "down")}`}
            </span>
          </h2>
          <table className="ledger max-w-[860px]">
            <caption className="sr-only">Modes in the order to try them</caption>
            <thead>
              <tr>
                <th scope="col">Then, in this order</th>
                <th scope="col" className="num">
                  Limit to set
                </th>
                <th scope="col" className="num">
                  Expected
                </th>
                <th scope="col" className="num">
                  Without a reading
                </th>
                <th scope="col">It showed</th>
              </tr>
            </thead>
            <tbody>
              {rail.settings.map((setting) => (
                <SettingRow key={setting.mode} rail={rail} setting={setting} />
              ))}
            </tbody>
          </table>
        </section>
      ))}
      <p className="max-w-[86ch] text-xs text-soft">
        A reading of a whole rail is shared out: every load there that has no reading of its own is scaled alike until the plan draws what
        the supply showed, and keeps its estimate beside it. A clamp meter on one feed is better: type that into the matrix on Loads.
      </p>
    </div>
  );
}

function SettingRow({ rail, setting }: { rail: BenchRail; setting: BenchSetting }) {
  const { sources } = useWorkbenchContext();
  const { act } = useDispatch();
  const modes = useWorkbench((state) => state.machine.modes);
  const machine = useWorkbench((state) => state.machine);
  const [text, setText] = useState("");
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const name = modes[setting.mode]?.name ?? "";
  const adopt = async () => {
    const parsed = parseQuantity(text, "current");
    if (!parsed.ok) return setError(parsed.message);
    setBusy(true);
    const fitted = await sources.ask(async (service) => service.fit(machine, rail.origin, setting.mode, parsed.value)).catch(() => null);
    setBusy(false);
    if (!fitted) return setError("It could not be worked out.");
    if (!fitted.ok) return setError(fitted.message);
    if (!act(fitted.command)) return;
    setText("");
    setError(null);
    const factor = fitted.factor;
    toast(
      `${fitted.loads} load${fitted.loads > 1 ? "s" : ""} in ${name} now draw ${factor.toFixed(2)} times their estimate. Undo takes it back.`,
    );
  };
  const id = `bench-${rail.origin}-${setting.mode}`;
  return (
    <tr>
      <td>
        {name}
        {modes[setting.mode]?.lastsS != null && (
          <span className="text-xs text-soft"> for {say(modes[setting.mode]?.lastsS ?? 0, "time")}</span>
        )}
      </td>
      <td className="num fig text-base font-bold">{say(setting.limitA, "current", "up")}</td>
      <td className="num fig">
        {setting.atLeast && <span className="text-ask">≥ </span>}
        {say(setting.expectedA, "current")}
      </td>
      <td className="num fig">{setting.unread === 0 ? <span className="text-soft">all read</span> : setting.unread}</td>
      <td className="!whitespace-normal">
        <form
          className="flex items-baseline gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void adopt();
          }}
        >
          <input
            aria-label={`Amps the bench supply showed in ${name} for ${rail.name}`}
            aria-invalid={error !== null}
            aria-describedby={error ? id : undefined}
            className="field fig w-20"
            placeholder="3.4 A"
            value={text}
            onChange={(event) => {
              setText(event.target.value);
              setError(null);
            }}
          />
          <button type="submit" className="link text-xs disabled:opacity-40" disabled={busy || text.trim() === ""}>
            {busy ? "fitting…" : "take into the budget"}
          </button>
        </form>
        {error && (
          <p id={id} role="alert" className="text-xs text-stop dark:text-fix">
            {error}
          </p>
        )}
      </td>
    </tr>
  );
}
