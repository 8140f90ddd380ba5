import type { NextResponse } from "next/server";
import type { z } from "zod";
import { afterFault } from "./database";
import { faultWords, UNKNOWN_FAULT } from "./faults";
import { MAX_BODY_BYTES, scanJson } from "./json-limits";
import { orUnreadable, UnreadableMachine } from "./machines";
import { problem, tooLarge } from "./problem";

/** What a route of one machine, or of one part on the shelf, is given. */
export type IdContext = { params: Promise<{ id: string }> };

export function notFound(): NextResponse {
  return problem(404, "Not found", "This machine is no longer on the list.");
}

/** What `answer` gives, or why a stored machine cannot be read. */
export function readably(answer: () => NextResponse): NextResponse {
  const given = orUnreadable(answer);
  if (!(given instanceof UnreadableMachine)) return given;
  const { path, expected } = given.problem;
  const detail = `${given.name} cannot be read by this version: ${path}: expected ${expected}. It stays as it is.`;
  return problem(422, "Not readable", detail, { problems: [given.problem] });
}

/** A route handler whose faults are answered in words: what the disk or the database refused, and what to do about it. */
export function answering<A extends unknown[]>(handler: (...args: A) => Response | Promise<Response>): (...args: A) => Promise<Response> {
  return async (...args) => {
    try {
      return await handler(...args);
    } catch (error) {
      const words = faultWords(error);
      afterFault(error);
      if (!words) return problem(500, "Something went wrong", UNKNOWN_FAULT);
      return problem(words.status, words.title, words.detail, { passes: words.passes });
    }
  };
}

export type Body = { ok: true; json: unknown } | { ok: false; response: NextResponse };

const refused = (response: NextResponse): Body => ({ ok: false, response });

/**
 * Reads a body as a schema reads it.
 * @param otherwise why a body that is none is refused, and with which status
 */
export async function readAs<T>(
  request: Request,
  schema: z.ZodType<T>,
  otherwise: { status: number; title: string; detail: string },
): Promise<{ ok: true; data: T } | { ok: false; response: NextResponse }> {
  const body = await readJson(request);
  if (!body.ok) return body;
  const parsed = schema.safeParse(body.json);
  if (parsed.success) return { ok: true, data: parsed.data };
  return { ok: false, response: problem(otherwise.status, otherwise.title, otherwise.detail) };
}

/**
 * Reads a JSON body, counting bytes as they come: a body without a stated length cannot fill the memory. How deep and how
 * many its parts are is counted before it is parsed.
 */
export async function readJson(request: Request): Promise<Body> {
  const type = (request.headers.get("content-type") ?? "").split(";")[0]?.trim().toLowerCase();
  if (type !== "application/json") return refused(problem(415, "Not JSON", "Requests that change something are JSON (application/json)."));
  const declared = Number(request.headers.get("content-length") ?? 0);
  if (declared > MAX_BODY_BYTES) return refused(tooLarge());
  const reader = request.body?.getReader();
  const chunks: Uint8Array[] = [];
  let size = 0;
  for (let next = await reader?.read(); next && !next.done; next = await reader?.read()) {
    size += next.value.byteLength;
    if (size > MAX_BODY_BYTES) {
      await reader?.cancel();
      return refused(tooLarge());
    }
    chunks.push(next.value);
  }
  const bytes = Buffer.concat(chunks);
  if (!scanJson(bytes))
    return refused(problem(400, "Not readable", "That is nested deeper, or has more parts, than any request this tool makes."));
  try {
    return { ok: true, json: JSON.parse(new TextDecoder("utf-8", { fatal: true }).decode(bytes)) };
  } catch {
    return refused(problem(400, "Not readable", "The request is not complete JSON. Nothing was changed."));
  }
}
