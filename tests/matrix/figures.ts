import { z } from "zod";
import { type Part, partSchema } from "@/core/machine/schema";

/** A figure of a part by its path in the document: "ratedA", "stepper.setA". */
export type FigurePath = string;

function inner(schema: z.ZodType): z.ZodType {
  return schema instanceof z.ZodOptional ? inner(schema.unwrap() as z.ZodType) : schema;
}

function figuresIn(shape: Readonly<Record<string, z.ZodType>>, before = ""): FigurePath[] {
  return Object.entries(shape).flatMap(([key, wrapped]): FigurePath[] => {
    const schema = inner(wrapped);
    const path = before + key;
    if (schema instanceof z.ZodArray && schema.element instanceof z.ZodObject) return figuresIn(schema.element.shape, `${path}.0.`);
    if (!(schema instanceof z.ZodObject)) return [];
    return "value" in schema.shape && "provenance" in schema.shape ? [path] : figuresIn(schema.shape, `${path}.`);
  });
}

/** Every figure a kind of part can have, from its schema: a new one is found here without being named. */
export const FIGURES: ReadonlyMap<Part["kind"], readonly FigurePath[]> = new Map(
  partSchema.options.map((option) => [
    option.shape.kind.value,
    figuresIn(option.shape as unknown as Readonly<Record<string, z.ZodType>>).filter((path) => !path.startsWith("cells")),
  ]),
);

type Tree = Record<string, unknown>;

/** The value at a path, or undefined. */
export function valueAt(part: Part, path: FigurePath): number | undefined {
  let at: unknown = part;
  for (const key of path.split(".")) at = (at as Tree | undefined)?.[key];
  return (at as { value?: number } | undefined)?.value;
}

/** A copy of a part with another value at a path, or without it. */
export function withValue<P extends Part>(part: P, path: FigurePath, value: number | undefined): P {
  const copy = structuredClone(part);
  const keys = path.split(".");
  const last = keys.pop() as string;
  let at = copy as unknown as Tree;
  for (const key of keys) at = at[key] as Tree;
  if (value === undefined) delete at[last];
  else at[last] = { ...(at[last] as object), value };
  return copy;
}
