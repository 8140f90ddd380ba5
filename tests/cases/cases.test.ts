import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { readVerdicts } from "@/core/analysis/readings";
import type { Log } from "@/core/bringup/log";
import { USUAL_KIT } from "@/core/bringup/types";
import { RULES } from "@/core/verdicts/rules";
import type { Severity } from "@/core/verdicts/types";
import { said } from "../support/judged";
import { CASES } from "./all";

const RANK: Readonly<Record<Severity, number>> = { stop: 0, fix: 1, watch: 2, ask: 3 };

describe("every rule at each of its limits", () => {
  it("no rule is without a case", () => {
    const known = new Set(CASES.map(({ rule }) => rule));
    expect(RULES.flatMap(({ says }) => says.map(({ id }) => id)).filter((id) => !known.has(id))).toEqual([]);
  });

  it.each(CASES.map((each) => [`${each.rule}: ${each.what}, ${each.says}`, each] as const))(
    "%s",
    (_, { rule, says, key, under, over, logs }) => {
      const speaks = (machine: ReturnType<typeof over>, log?: Log) =>
        (log ? readVerdicts(analyse(machine).figures, log, USUAL_KIT).filter((each) => each.rule === rule) : said(machine, rule)).filter(
          ({ id }) => key === undefined || id.includes(key),
        );
      const [short, beyond] = [speaks(under(), logs?.under), speaks(over(), logs?.over)];
      expect(
        beyond.map(({ severity }) => severity),
        "just over",
      ).toContain(says);
      // What asks on one side may say something else on the other; what judges is milder there.
      const worse = short.filter(({ severity }) =>
        says === "ask" ? severity === "ask" : severity !== "ask" && RANK[severity] <= RANK[says],
      );
      expect(
        worse.map(({ headline }) => headline),
        "just short of it",
      ).toEqual([]);
    },
  );
});
