import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { generateMachine } from "@/tests/support/generate";
import { backOf, board, link, workshop } from "@/tests/support/grounds";
import { seeds } from "@/tests/support/seeds";
import { must } from "@/tests/support/small";
import { talking } from "@/tests/support/talking";
import { analyseFully } from "../analysis/fully";
import type { Machine } from "../machine/schema";
import { linksOf } from "../returns/links";
import { linkMark, WATCH_FROM } from "./link-severity";
import { worseMark } from "./order";

function marked(machine: Machine) {
  const { figures, analysis } = analyseFully(machine);
  return linksOf(figures).map((found) => ({
    ...found,
    mark: linkMark(found, analysis.verdicts),
    said: analysis.verdicts.filter(({ id }) => id.endsWith(`:${found.id}`)).map(({ severity }) => severity),
  }));
}

describe("the mark of a link", () => {
  const machines: [string, () => Machine][] = [
    ...EXAMPLES.map(({ key, make }): [string, () => Machine] => [key, make]),
    ...seeds(1, 12).map((seed): [string, () => Machine] => [
      `random ${seed}`,
      () => talking(generateMachine({ parts: 30, seed, meshed: seed % 2 === 0 }), seed),
    ]),
  ];

  it.each(machines)("is never better than what the rules say of it, and clear only where nothing is missing or near: %s", (_, make) => {
    for (const { id, mark, said, allowed, joined, unsure, worst } of marked(make())) {
      for (const severity of said) expect(worseMark(mark, severity), id).toBe(mark);
      if (mark !== "clear" || allowed.kind === "isolated") continue;
      expect({ joined, unsure, kind: allowed.kind === "held" || allowed.kind === "heard" }, id).toEqual({
        joined: true,
        unsure: false,
        kind: true,
      });
      expect(worst?.share ?? 0, id).toBeLessThanOrEqual(WATCH_FROM);
    }
  });

  it("is as bad for a link that another one speaks for", () => {
    let machine = board(workshop(), "radio", "n1");
    machine = link(link(machine, "mind", "drive"), "radio", "drive");
    for (const end of ["n2", "drive"])
      machine = must(machine, { type: "updateWire", id: backOf(machine, end).id, changes: { gauge: end === "n2" ? "14 AWG" : "16 AWG" } });
    const links = marked(machine);
    expect(links.filter(({ said }) => said.length === 0)).toHaveLength(1);
    expect(new Set(links.map(({ mark }) => mark)).size).toBe(1);
    expect(links[0]?.mark).toMatch(/stop|fix/);
  });
});
