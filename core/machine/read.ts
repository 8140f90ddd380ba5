import type { z } from "zod";
import { checkReferences, type Problem } from "./check";
import { withPlainTexts } from "./plain-text";
import { FORMAT, FORMAT_VERSION, type Machine, machineShape } from "./schema";

/** A machine that was read, with the paths of texts that held what cannot be seen and lost it; or what was expected where. */
export type ReadResult = { ok: true; machine: Machine; cleaned: readonly string[] } | { ok: false; problems: Problem[] };

function pathText(path: readonly PropertyKey[]): string {
  let text = "";
  for (const key of path) text += typeof key === "number" ? `[${key}]` : text === "" ? String(key) : `.${String(key)}`;
  return text === "" ? "(whole file)" : text;
}

const TYPE_WORDS: Readonly<Record<string, string>> = {
  object: "an object",
  array: "a list",
  string: "text",
  number: "a number",
  int: "a whole number",
  boolean: "true or false",
};

function expectation(issue: z.core.$ZodIssue): string {
  switch (issue.code) {
    case "unrecognized_keys":
      return "no such field: this version of Node Ledger does not know it";
    case "invalid_type": {
      const kind = TYPE_WORDS[issue.expected] ?? `a ${issue.expected}`;
      return issue.input === undefined ? `${kind}, which is missing` : kind;
    }
    case "too_small":
      return issue.origin === "number" || issue.origin === "int" ? `${issue.minimum} or more` : issue.message;
    case "too_big":
      return issue.origin === "number" || issue.origin === "int" ? `${issue.maximum} or less` : `at most ${issue.maximum}`;
    case "invalid_value":
      return `one of ${issue.values.map(String).join(", ")}`;
    case "invalid_format":
      return issue.message;
    default:
      return issue.message;
  }
}

/**
 * Reads a machine document from parsed JSON. Older versions would be brought up to date here; a newer one is refused.
 * @returns the machine, or every problem with the path of its field and what was expected. Never throws.
 */
export function readMachine(json: unknown): ReadResult {
  if (typeof json !== "object" || json === null || Array.isArray(json)) {
    return { ok: false, problems: [{ path: "(whole file)", expected: "a machine document, a JSON object" }] };
  }
  const head = json as Record<string, unknown>;
  if (head.format !== FORMAT) {
    return { ok: false, problems: [{ path: "format", expected: `"${FORMAT}": this file is not a machine of Node Ledger` }] };
  }
  if (typeof head.version === "number" && head.version > FORMAT_VERSION) {
    const expected = `version ${FORMAT_VERSION} or older; this file is version ${head.version}, from a newer Node Ledger. Update first`;
    return { ok: false, problems: [{ path: "version", expected }] };
  }
  const cleaned: string[] = [];
  const parsed = machineShape.safeParse(withPlainTexts(json, cleaned), { reportInput: true });
  if (!parsed.success) {
    return {
      ok: false,
      problems: parsed.error.issues.flatMap((issue) => {
        const paths = issue.code === "unrecognized_keys" ? issue.keys.map((key) => [...issue.path, key]) : [issue.path];
        return paths.map((path) => ({ path: pathText(path), expected: expectation(issue) }));
      }),
    };
  }
  const problems = checkReferences(parsed.data);
  return problems.length > 0 ? { ok: false, problems } : { ok: true, machine: parsed.data, cleaned };
}

/** Reads a machine document from text, with a plain message when the text is cut off or not JSON at all. */
export function readMachineText(text: string): ReadResult {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    const cut = text.trimStart().startsWith("{") && !text.trimEnd().endsWith("}");
    const expected = cut ? "a complete file: this one ends in the middle, as after a broken download" : "a JSON file";
    return { ok: false, problems: [{ path: "(whole file)", expected }] };
  }
  return readMachine(json);
}
