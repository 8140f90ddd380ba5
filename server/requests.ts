import { z } from "zod";
import type { Problem } from "@/core/machine/check";
import { newMachine } from "@/core/machine/defaults";
import { readMachine } from "@/core/machine/read";
import { type Machine, nameSchema } from "@/core/machine/schema";
import { EXAMPLES } from "@/demo/index";

const createSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("blank"), name: nameSchema }),
  z.strictObject({ kind: z.literal("example"), key: z.string() }),
  z.strictObject({ kind: z.literal("import"), document: z.unknown() }),
]);

export const saveSchema = z.strictObject({ base: z.int().positive(), label: z.string().max(200), document: z.unknown() });

export type CreateRequest = { ok: true; machine: Machine; label: string } | { ok: false; detail: string; problems?: Problem[] };

/** Turns a request for a new machine into a document: blank, one of the examples, or an imported file. */
export function readCreate(json: unknown): CreateRequest {
  const parsed = createSchema.safeParse(json);
  if (!parsed.success) {
    const nameMissing = parsed.error.issues.some((issue) => issue.path[0] === "name");
    return {
      ok: false,
      detail: nameMissing ? "Give the machine a name of 1 to 80 characters." : "That is not a request for a new machine.",
    };
  }
  const request = parsed.data;
  if (request.kind === "blank") return { ok: true, machine: newMachine(request.name), label: "Created" };
  if (request.kind === "example") {
    const example = EXAMPLES.find(({ key }) => key === request.key);
    return example
      ? { ok: true, machine: example.make(), label: "Created from an example" }
      : { ok: false, detail: "There is no such example." };
  }
  const read = readMachine(request.document);
  return read.ok
    ? { ok: true, machine: read.machine, label: "Imported" }
    : { ok: false, detail: "The file is not a machine this version can read. Nothing was changed.", problems: read.problems.slice(0, 20) };
}
