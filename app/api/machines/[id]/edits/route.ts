import { NextResponse } from "next/server";
import { database } from "@/server/database";
import { saveEdits } from "@/server/edits";
import { answering, type IdContext, notFound, readAs, readably } from "@/server/http";
import { problem } from "@/server/problem";
import { editsSchema } from "@/server/requests";

/** Takes edits, each once, whatever revision they were made on. */
export const POST = answering(async (request: Request, { params }: IdContext) => {
  const { id } = await params;
  const body = await readAs(request, editsSchema, {
    status: 400,
    title: "Not readable",
    detail: "A save names the revision it started from, its window and its edits.",
  });
  if (!body.ok) return body.response;
  return readably(() => {
    const result = saveEdits(database(), id, body.data);
    if (result.ok) return NextResponse.json({ revision: result.revision, known: result.known, joined: result.joined });
    if (result.reason === "missing") return notFound();
    const { current, known, since } = result;
    return problem(409, "Edited elsewhere", "The same figure was changed in another window. Both values are kept until you choose.", {
      current,
      known,
      since,
    });
  });
});
