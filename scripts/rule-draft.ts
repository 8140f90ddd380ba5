import { z } from "zod";
import { STEPS } from "@/core/verdicts/types";

/** The words after `npm run new-rule --`. */
export const RuleWords = z.object({
  id: z.string("the id comes first").regex(/^[a-z]+(-[a-z0-9]+)*$/, "the id is small letters with hyphens, as in fuse-voltage"),
  step: z.enum(STEPS, `the step is one of ${STEPS.join(", ")}`),
  title: z
    .string("the title says in a few words what is wrong")
    .min(3, "the title says in a few words what is wrong")
    .regex(/^[^"]*$/, "the title has no quotation marks"),
  reads: z
    .enum(["build", "figures", "shorts", "discharge", "log", "late"], "it reads build, figures, shorts, discharge, log or late")
    .default("figures"),
});
/** A rule to be drafted. */
export type RuleWords = z.infer<typeof RuleWords>;

const camel = (id: string) => id.replace(/-(.)/g, (_, letter: string) => letter.toUpperCase());

function ruleFile({ id, step, title, reads }: RuleWords): string {
  const [given, from] = reads === "build" ? ["Build", "build"] : ["Figures", "figures"];
  const second = {
    build: "",
    figures: "",
    shorts: "  // Its second parameter is the walk of shorts (FaultWalk).\n",
    discharge: "  // Its second parameter is how long full packs last (RunTimes).\n",
    log: "  // Its second parameter is what was read at the machine (Readings).\n",
    late: "  // Its second parameter is what came late (LateReadings).\n",
  };
  return `import type { ${given} } from "../../figures/${from}";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({ id: "${id}", title: "${title}", step: "${step}" });

/** What must hold, and what happens when it does not; the source of the limit. */
export const ${camel(id)} = rule({ speak, reads: "${reads}", evaluate });

function evaluate(figures: ${given}): Verdict[] {
${second[reads]}  return figures.machine.parts.flatMap((part): Verdict[] => {
    // Nothing is said of what the rule does not apply to.
    if (part.kind !== "load") return [];
    // Ask where a figure is missing and matters; never take a usual one in its place.
    if (part.nominalV === undefined) return [speak({ part, severity: "ask", headline: \`\${part.name}: which voltage?\`, detail: "What hangs on it." })];
    // speak({ part, severity: "fix", headline, detail, compared: { volts, limit }, remedies: [{ label, command }] })
    return [];
  });
}
`;
}

function testFile({ id, title }: RuleWords): string {
  return `import { describe, expect, it } from "vitest";
import { one, remedied, said } from "@/tests/support/judged";
import { simple } from "@/tests/support/small";

describe("${title}", () => {
  // The three machines of this rule: one with the trouble, one without the figure it hangs on, one in order.
  const troubled = () => simple();
  const unknown = () => simple();
  const inOrder = () => simple();

  it("is said with its numbers", () => {
    expect(one(troubled(), "${id}")).toMatchObject({ severity: "fix", limit: expect.any(Number) });
  });

  it("is settled by each remedy", () => {
    expect(said(remedied(troubled(), one(troubled(), "${id}")), "${id}")).toEqual([]);
  });

  it("is asked about where its figure is missing", () => {
    expect(one(unknown(), "${id}")?.severity).toBe("ask");
  });

  it("is not said of a machine in order", () => {
    expect(said(inOrder(), "${id}")).toEqual([]);
  });
});
`;
}

/**
 * The files of a new rule by path, the list of rules among them: there it stands last of its step.
 * @param list - what `core/verdicts/rules.ts` says now
 * @throws {Error} when the list has the rule already, or is no list of rules
 */
export function draftRule(words: RuleWords, list: string): Record<string, string> {
  const name = camel(words.id);
  const entry = new RegExp(`^import \\{ (\\w+) \\} from "\\./${words.step}/[\\w-]+";$`, "gm");
  const peers = new Set([...list.matchAll(entry)].map(([, peer]) => peer));
  const [head, body, tail] = list.split(/(?<=RULES: readonly Rule\[\] = \[\n)|(?=\n\];)/);
  const order = body?.split("\n") ?? [];
  const place = order.findLastIndex((line) => peers.has(line.trim().replace(",", "")));
  if (head === undefined || tail === undefined || place < 0)
    throw new Error("core/verdicts/rules.ts is not as it was; name the rule there by hand");
  if (order.some((line) => line.trim() === `${name},`)) throw new Error(`there is a rule ${words.id} already`);
  const imported = `import { ${name} } from "./${words.step}/${words.id}";\n`;
  const first = head.search(entry);
  return {
    [`core/verdicts/${words.step}/${words.id}.ts`]: ruleFile(words),
    [`core/verdicts/${words.step}/${words.id}.test.ts`]: testFile(words),
    "core/verdicts/rules.ts": `${head.slice(0, first)}${imported}${head.slice(first)}${order.toSpliced(place + 1, 0, `  ${name},`).join("\n")}${tail}`,
  };
}
