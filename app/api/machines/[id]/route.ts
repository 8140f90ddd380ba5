import { NextResponse } from "next/server";
import { readMachine } from "@/core/machine/read";
import { database } from "@/server/database";
import { notFound, problem, readably, readJson } from "@/server/http";
import { getMachine, removeMachine, saveMachine } from "@/server/machines";
import { saveSchema } from "@/server/requests";

type Context = { params: Promise<{ id: string }> };

export async function GET(_request: Request, { params }: Context) {
  const { id } = await params;
  return readably(() => {
    const found = getMachine(database(), id);
    return found ? NextResponse.json(found) : notFound();
  });
}

export async function PUT(request: Request, { params }: Context) {
  const { id } = await params;
  const body = await readJson(request);
  if (!body.ok) return body.response;
  const parsed = saveSchema.safeParse(body.json);
  if (!parsed.success) return problem(400, "Not readable", "A save names the revision it started from and carries the document.");
  const read = readMachine(parsed.data.document);
  if (!read.ok)
    return problem(422, "Not accepted", "The document is not valid. Nothing was changed.", { problems: read.problems.slice(0, 20) });
  const { base, label } = parsed.data;
  return readably(() => {
    const result = saveMachine(database(), id, base, read.machine, label);
    if (result.ok) return NextResponse.json({ revision: result.revision });
    if (result.reason === "missing") return notFound();
    return problem(
      409,
      "Edited elsewhere",
      "This machine was saved from another window since you opened it. Both versions are kept until you choose.",
      { current: result.current },
    );
  });
}

export async function DELETE(_request: Request, { params }: Context) {
  return removeMachine(database(), (await params).id) ? new NextResponse(null, { status: 204 }) : notFound();
}
