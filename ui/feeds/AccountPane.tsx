"use client";
import { useEffect, useState } from "react";
import type { Account } from "@/core/analysis/account";
import type { Part } from "@/core/machine/schema";
import { formatQuantity } from "@/core/quantity/format";
import { useWorkbench, useWorkbenchContext } from "../workbench/context";

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

/** What arrives at a part, leaves it, is used by it, and the balance; then how its current goes home. */
export function AccountPane({ part }: { part: Part }) {
  const { analyst } = useWorkbenchContext();
  const mode = useWorkbench((state) => state.mode);
  const analysis = useWorkbench((state) => state.analysis);
  const modes = useWorkbench((state) => state.machine.modes);
  const [account, setAccount] = useState<Account | null>(null);
  const worst = analysis?.parts[part.id]?.worst.mode ?? 0;
  const index = mode === "worst" ? worst : mode;

  useEffect(() => {
    let current = true;
    if (analysis)
      void analyst()
        ?.account(part.id, index)
        .then((next) => current && setAccount(next));
    return () => {
      current = false;
    };
  }, [analyst, analysis, part.id, index]);

  const collapsed = analysis?.modes[index]?.collapsed;
  return (
    <section aria-label={`${part.name}, account`} className="overflow-y-auto border-r border-hair px-3.5 py-2.5">
      <h2 className="truncate text-sm">
        <b>{part.name}</b> <span className="text-soft">account, {modes[index]?.name}</span>
      </h2>
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
              <Line key={`back ${line.id}`} label={`back to ${line.label}`} amps={line.amps} />
            ))}
          </div>
        )
      )}
    </section>
  );
}
