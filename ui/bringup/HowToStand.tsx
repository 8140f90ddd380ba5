import type { Stage } from "@/core/bringup/types";
import { say } from "@/core/quantity/format";

/** How the machine stands for a stage: what is set up, what the bench supply is set to, what to beware of, when to stop. */
export function HowToStand({ stage, supply }: { stage: Stage; supply?: boolean }) {
  return (
    <>
      <p>{stage.setUp}</p>
      {supply &&
        stage.supply.map(({ source, name, volts, limitA }) => (
          <p key={source}>
            Bench supply in place of {name}: <b className="fig">{say(volts, "voltage")}</b>, limit{" "}
            <b className="fig">{say(limitA, "current")}</b>.
          </p>
        ))}
      <ul className="mt-1 border-l-4 border-stop pl-2">
        {stage.cautions.map((caution) => (
          <li key={caution}>{caution}</li>
        ))}
      </ul>
      <p className="mt-1">
        <b>Stop at once:</b> {stage.stopWhen}.
      </p>
    </>
  );
}
