import { z } from "zod";
import { editSchema } from "@/core/machine/changes";
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

const idSchema = editSchema.shape.id;

/** A save of a whole document over a revision; `save` is its own id, by which a repeated one is known. */
export const saveSchema = z.strictObject({
  base: z.int().positive(),
  label: z.string().max(200),
  document: z.unknown(),
  save: idSchema.optional(),
});

/** Most edits in one save. */
const EDITS_MAX = 2000;

/** A save of edits. */
export const editsSchema = z.strictObject({
  base: z.int().positive(),
  origin: z.string().regex(/^[\w-]{1,20}$/, "the name of a window"),
  edits: z.array(editSchema).min(1).max(EDITS_MAX),
});

/** A backup that is wanted, or a way back. */
export const waySchema = z.discriminatedUnion("action", [
  z.strictObject({ action: z.literal("back up") }),
  z.strictObject({ action: z.literal("restore"), backup: z.string().max(120) }),
  z.strictObject({ action: z.literal("salvage") }),
  z.strictObject({ action: z.literal("fresh") }),
  z.strictObject({ action: z.literal("use"), file: z.string().min(1).max(1000) }),
  z.strictObject({ action: z.literal("put back") }),
]);

export type CreateRequest =
  | { ok: true; machine: Machine; label: string; cleaned: readonly string[] }
  | { ok: false; detail: string; problems?: Problem[] };

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
  if (request.kind === "blank") return { ok: true, machine: newMachine(request.name), label: "Created", cleaned: [] };
  if (request.kind === "example") {
    const example = EXAMPLES.find(({ key }) => key === request.key);
    return example
      ? { ok: true, machine: example.make(), label: "Created from an example", cleaned: [] }
      : { ok: false, detail: "There is no such example." };
  }
  const read = readMachine(request.document);
  return read.ok
    ? { ok: true, machine: read.machine, label: "Imported", cleaned: read.cleaned }
    : { ok: false, detail: "The file is not a machine this version can read. Nothing was changed.", problems: read.problems.slice(0, 20) };
}
