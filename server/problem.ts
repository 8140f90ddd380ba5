import { NextResponse } from "next/server";

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
