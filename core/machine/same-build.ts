import type { Machine } from "./schema";

/** Whether two objects have the same in every field but some. */
function alike<T extends object>(a: T, b: T, but: keyof T): boolean {
  const keys = new Set([...Object.keys(a), ...Object.keys(b)] as (keyof T)[]);
  for (const key of keys) if (key !== but && a[key] !== b[key]) return false;
  return true;
}

/** Whether two versions of a machine differ in nothing but what loads do in their modes. */
export function sameBuild(a: Machine, b: Machine): boolean {
  if (a === b) return true;
  if (a.parts.length !== b.parts.length || !alike(a, b, "parts")) return false;
  return a.parts.every((part, i) => {
    const other = b.parts[i];
    return part === other || (part.kind === "load" && other?.kind === "load" && alike(part, other, "cells"));
  });
}
