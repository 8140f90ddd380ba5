import { NextResponse } from "next/server";
import { comparison } from "@/server/background";
import { database } from "@/server/database";
import { answering } from "@/server/http";

export const dynamic = "force-dynamic";

/** What tells two machines apart as far as it is worked out; whoever wants it asks again. */
export const GET = answering((request: Request) => {
  const query = new URL(request.url).searchParams;
  return NextResponse.json(comparison(database(), query.get("a") ?? "", query.get("b") ?? ""));
});
