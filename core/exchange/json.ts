import { z } from "zod";
import { type Machine, machineShape } from "../machine/schema";

/** The machine as the text of an export file, fields in the schema's order. Importing it again gives an identical file. */
export function toJson(machine: Machine): string {
  return `${JSON.stringify(machineShape.parse(machine), null, 2)}\n`;
}

/** JSON Schema (draft 2020-12) of the document, generated from the Zod schema so that the two cannot differ. */
export function machineJsonSchema(): unknown {
  return z.toJSONSchema(machineShape, { target: "draft-2020-12" });
}

/** File name for an export: letters, digits and hyphens of the machine's name. */
export function fileStem(name: string): string {
  const stem = name
    .normalize("NFKD")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "");
  return stem === "" ? "machine" : stem;
}
