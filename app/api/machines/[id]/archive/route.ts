import { NextResponse } from "next/server";
import { z } from "zod";
import { database } from "@/server/database";
import { answering, type IdContext, notFound, readAs } from "@/server/http";
import { archiveMachine } from "@/server/machines";

/** Puts a machine aside, or back on the list. */
export const PUT = answering(async (request: Request, { params }: IdContext) => {
  const body = await readAs(request, z.strictObject({ archived: z.boolean() }), {
    status: 422,
    title: "Not accepted",
    detail: "A machine is put aside or it is not. Nothing was changed.",
  });
  if (!body.ok) return body.response;
  return archiveMachine(database(), (await params).id, body.data.archived) ? new NextResponse(null, { status: 204 }) : notFound();
});
