import { NextResponse } from "next/server";
import { z } from "zod";
import { nameSchema } from "@/core/machine/schema";
import { database } from "@/server/database";
import { machineAt, nameVersion } from "@/server/history";
import { answering, readAs, readably } from "@/server/http";
import { problem } from "@/server/problem";

interface RevisionContext {
  params: Promise<{ id: string; revision: string }>;
}

const gone = () => problem(404, "Not found", "That revision is no longer kept.");

export const GET = answering(async (_request: Request, { params }: RevisionContext) => {
  const { id, revision } = await params;
  return readably(() => {
    const found = machineAt(database(), id, Number(revision));
    return found ? NextResponse.json(found) : gone();
  });
});

/** Names a revision, so that it stays and is found again; null takes the name away. */
export const PUT = answering(async (request: Request, { params }: RevisionContext) => {
  const { id, revision } = await params;
  const body = await readAs(request, z.strictObject({ name: nameSchema.nullable() }), {
    status: 422,
    title: "Not accepted",
    detail: "A version is called by 1 to 80 letters. Nothing was changed.",
  });
  if (!body.ok) return body.response;
  return nameVersion(database(), id, Number(revision), body.data.name) ? new NextResponse(null, { status: 204 }) : gone();
});
