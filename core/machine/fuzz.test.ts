import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { editedAndUndone } from "@/tests/support/edited";
import { generateMachine } from "@/tests/support/generate";
import { saidLate } from "@/tests/support/judged";
import { randomFrom } from "@/tests/support/random";
import { randomCommand } from "@/tests/support/random-command";
import { seeds } from "@/tests/support/seeds";
import { UNREAD } from "@/tests/support/unread";
import { analyse } from "../analysis/analyse";
import { pictureSvg } from "../exchange/flow-svg";
import { sheetMarkdown } from "../exchange/markdown";
import { checkReport, verdictTable } from "../exchange/report";
import { flowOf } from "../returns/flow";
import { looseReturns } from "../returns/loose";
import { pictureOf } from "../returns/picture";
import { adviceFor } from "../returns/practice";
import { returnsOf } from "../returns/summary";
import { sheetOf } from "../sheet/sheet";
import { chassisFault } from "../verdicts/returns/chassis-fault";
import { looseReturn } from "../verdicts/returns/loose-return";
import type { Machine } from "./schema";

/** Everything a screen or a print shows of an analysis, as text. */
function everything(machine: Machine): string {
  const { analysis, figures } = analyse(machine);
  const returns = returnsOf(figures);
  const picture = pictureOf(machine, flowOf(machine, analysis, returns, 0), { width: 900, height: 400 });
  const grounds = JSON.stringify(saidLate(figures, [chassisFault, looseReturn], { loose: looseReturns(figures) }));
  const advice = JSON.stringify(adviceFor(figures));
  const printed =
    sheetMarkdown(machine, sheetOf(figures, analysis, { judged: UNREAD })) +
    verdictTable(machine, analysis) +
    pictureSvg(picture, machine.name);
  return JSON.stringify(checkReport(machine, analysis)) + printed + grounds + advice;
}

describe("whatever a builder does", () => {
  it.each(seeds(1, 24))("every accepted edit leaves a valid document, a finite analysis, and undoes exactly: seed %d", (seed) => {
    const random = randomFrom(seed * 31);
    const start =
      seed % 3 === 0
        ? generateMachine({ parts: 18, seed, meshed: true })
        : (EXAMPLES[seed % EXAMPLES.length]?.make() ?? generateMachine({ parts: 18, seed }));
    editedAndUndone(start, { turns: 30, command: (machine) => randomCommand(machine, random), everything });
  });

  it("broken machines never look clear: cutting random wires and figures always leaves something to say", () => {
    for (const seed of seeds(1, 30)) {
      const random = randomFrom(seed);
      const machine = structuredClone(generateMachine({ parts: 24, seed, meshed: seed % 2 === 0 }));
      const victim = machine.wires[Math.floor(random() * machine.wires.length)];
      if (!victim) continue;
      if (random() < 0.5) delete victim.gauge;
      else delete victim.lengthM;
      const { analysis } = analyse(machine);
      expect(analysis.status[victim.id], `seed ${seed}`).not.toBe("clear");
    }
  });
});
