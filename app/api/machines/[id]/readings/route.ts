import { NextResponse } from "next/server";
import { database } from "@/server/database";
import { answering, type IdContext, notFound, readAs } from "@/server/http";
import { revisionOf } from "@/server/machines";
import { problem } from "@/server/problem";
import { keepReadings, logOf, sentSchema } from "@/server/readings";

export const dynamic = "force-dynamic";

/** What was read of a machine. */
export const GET = answering(async (_request: Request, { params }: IdContext) => {
  const { id } = await params;
  if (revisionOf(database(), id) === null) return notFound();
  return NextResponse.json(logOf(database(), id));
});

/** Takes readings and waivers, each once. */
export const POST = answering(async (request: Request, { params }: IdContext) => {
  const { id } = await params;
  const body = await readAs(request, sentSchema, {
    status: 422,
    title: "Not accepted",
    detail: "Those are not readings as the log keeps them. Nothing was changed.",
  });
  if (!body.ok) return body.response;
  const kept = keepReadings(database(), id, body.data);
  if (kept.ok) return NextResponse.json({ version: kept.version });
  return kept.reason === "missing"
    ? notFound()
    : problem(409, "The log is full", "This machine's log has 100,000 readings. Nothing was added.");
});
