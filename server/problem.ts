import { NextResponse } from "next/server";

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
