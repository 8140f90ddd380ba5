import { NextResponse } from "next/server";
import { readMachine } from "@/core/machine/read";
import { purge } from "@/server/backups";
import { database } from "@/server/database";
import { answering, type IdContext, notFound, readAs, readably } from "@/server/http";
import { getMachine, removeMachine, revisionOf, saveMachine } from "@/server/machines";
import { problem } from "@/server/problem";
import { saveSchema } from "@/server/requests";
import { giveBack } from "@/server/thinning";

/** The machine; nothing (204) where the revision that is asked for as `known` is still the newest. */
export const GET = answering(async (request: Request, { params }: IdContext) => {
  const { id } = await params;
  const known = new URL(request.url).searchParams.get("known");
  if (known !== null && revisionOf(database(), id) === Number(known)) return new NextResponse(null, { status: 204 });
  return readably(() => {
    const found = getMachine(database(), id);
    return found ? NextResponse.json(found) : notFound();
  });
});

export const PUT = answering(async (request: Request, { params }: IdContext) => {
  const { id } = await params;
  const body = await readAs(request, saveSchema, {
    status: 400,
    title: "Not readable",
    detail: "A save names the revision it started from and carries the document.",
  });
  if (!body.ok) return body.response;
  const read = readMachine(body.data.document);
  if (!read.ok)
    return problem(422, "Not accepted", "The document is not valid. Nothing was changed.", { problems: read.problems.slice(0, 20) });
  const { base, label, save } = body.data;
  return readably(() => {
    const result = saveMachine(database(), id, base, read.machine, label, save);
    if (result.ok) return NextResponse.json({ revision: result.revision });
    if (result.reason === "missing") return notFound();
    return problem(
      409,
      "Edited elsewhere",
      "This machine was saved from another window since you opened it. Both versions are kept until you choose.",
      { current: result.current },
    );
  });
});

/** Takes the machine off the list; `?for=good` forgets one that is off it already. */
export const DELETE = answering(async (request: Request, { params }: IdContext) => {
  const { id } = await params;
  const forGood = new URL(request.url).searchParams.get("for") === "good";
  if (!(forGood ? purge : removeMachine)(database(), id)) return notFound();
  if (forGood) await giveBack(database());
  return new NextResponse(null, { status: 204 });
});
