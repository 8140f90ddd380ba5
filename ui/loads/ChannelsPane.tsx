"use client";
import { capacitorRms, pulsedRms } from "@/core/drivers/pwm";
import type { Channel } from "@/core/figures/channels";
import type { Driver } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { BrokeOff } from "../kit/BrokeOff";
import { useWorkbench } from "../workbench/context";
import { useAsked } from "../workbench/useQuestion";

/** Motor current, duty and bus current of each channel in the chosen mode (for Worst: where the motor current is largest). */
export function ChannelsPane({ driver, onChoose }: { driver: Driver; onChoose: (loadId: string) => void }) {
  const mode = useWorkbench((state) => state.mode);
  const modes = useWorkbench((state) => state.machine.modes);
  const { value: channels, failed, start } = useAsked<readonly Channel[]>(`channels ${driver.id}`, (ask) => ask("channels", driver.id));
  return (
    <section aria-label={`${driver.name}, channels`} className="overflow-y-auto border-r border-hair px-3.5 py-2.5">
      <h2 className="border-b border-ink pb-1 text-sm font-bold">
        Channels <span className="font-normal text-soft">of {driver.name}</span>
      </h2>
      {failed && <BrokeOff what="Its channels" again={start} />}
      {channels?.length === 0 && (
        <p className="py-2 text-xs text-soft">No motor is on it yet. Select it and press A to put one on a channel.</p>
      )}
      {channels?.map(({ number, load, modes: byMode }) => {
        const at = mode === "worst" ? byMode.reduce((best, each, m) => (each.motorA > (byMode[best]?.motorA ?? 0) ? m : best), 0) : mode;
        const now = byMode[at];
        if (!now) return null;
        const rows = [
          ["motor amps", say(now.motorA, "current", "up")],
          ["on for", `${Math.round(now.duty * 100)} % of the time`],
          ["bus amps", say(now.busA, "current", "up")],
          ...(now.duty > 0 && now.duty < 0.995
            ? [
                ["the capacitor at it carries", `${say(capacitorRms(now.motorA, now.duty), "current", "up")} r.m.s.`],
                ["without one, the feed", `${say(pulsedRms(now.motorA, now.duty), "current", "up")} r.m.s.`],
              ]
            : []),
          ["kept by the bridge", `${say(now.dropV, "voltage", "up")}, ${say(now.heatW, "power", "up")}`],
        ];
        return (
          <div key={number} className="border-b border-hair py-1 text-sm">
            <p className="flex items-baseline justify-between gap-2">
              <span className="truncate font-semibold">
                {number} · {load.name}
              </span>
              <button type="button" className="link text-xs" onClick={() => onChoose(load.id)}>
                Choose a driver
              </button>
            </p>
            <p className="text-xs text-soft">in {modes[at]?.name}</p>
            <dl className="grid grid-cols-[1fr_auto] text-xs">
              {rows.map(([label, value]) => (
                <div key={label} className="contents">
                  <dt>{label}</dt>
                  <dd className="fig text-right">{value}</dd>
                </div>
              ))}
            </dl>
          </div>
        );
      })}
    </section>
  );
}
