import { NextResponse } from "next/server";
import { orUnreadable, UnreadableMachine } from "./machines";

/** Largest body accepted, bytes. A machine of 2000 parts is about 2 MB. */
export const MAX_BODY_BYTES = 8 * 1024 * 1024;

/** An error as application/problem+json (RFC 9457). */
export function problem(status: number, title: string, detail: string, extra: Record<string, unknown> = {}): NextResponse {
  return NextResponse.json(
    { type: "about:blank", title, status, detail, ...extra },
    { status, headers: { "Content-Type": "application/problem+json" } },
  );
}

export function tooLarge(): NextResponse {
  return problem(413, "Too large", "That is larger than any machine this tool writes (8 MB). Nothing was changed.");
}

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

export type Body = { ok: true; json: unknown } | { ok: false; response: NextResponse };

/** Reads a JSON body, counting bytes as they come: a body without a stated length cannot fill the memory. */
export async function readJson(request: Request): Promise<Body> {
  const declared = Number(request.headers.get("content-length") ?? 0);
  if (declared > MAX_BODY_BYTES) return { ok: false, response: tooLarge() };
  const reader = request.body?.getReader();
  const chunks: Uint8Array[] = [];
  let size = 0;
  for (let next = await reader?.read(); next && !next.done; next = await reader?.read()) {
    size += next.value.byteLength;
    if (size > MAX_BODY_BYTES) {
      await reader?.cancel();
      return { ok: false, response: tooLarge() };
    }
    chunks.push(next.value);
  }
  try {
    return { ok: true, json: JSON.parse(new TextDecoder("utf-8", { fatal: true }).decode(Buffer.concat(chunks))) };
  } catch {
    return { ok: false, response: problem(400, "Not readable", "The request is not complete JSON. Nothing was changed.") };
  }
}

/** Whether a Host header names this machine itself: a page on another name that resolves here must not get in. */
export function allowedHost(host: string | null): boolean {
  if (!host) return false;
  const name = host.replace(/:\d+$/, "").toLowerCase();
  const extra = (process.env.NODE_LEDGER_HOSTS ?? "").split(",").map((each) => each.trim().toLowerCase());
  return ["127.0.0.1", "localhost", "[::1]", ...extra].includes(name);
}

/** Whether a change comes from our own pages: browsers state the origin of every request that changes something. */
export function allowedOrigin(origin: string | null, host: string | null): boolean {
  if (origin === null) return true;
  try {
    return new URL(origin).host === host;
  } catch {
    return false;
  }
}
