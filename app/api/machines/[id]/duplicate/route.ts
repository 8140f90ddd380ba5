import { NextResponse } from "next/server";
import { NAME_MAX } from "@/core/machine/schema";
import { database } from "@/server/database";
import { answering, type IdContext, notFound, readably } from "@/server/http";
import { createMachine, getMachine } from "@/server/machines";

export const POST = answering(async (_request: Request, { params }: IdContext) => {
  const { id: original } = await params;
  return readably(() => {
    const found = getMachine(database(), original);
    if (!found) return notFound();
    const name = `${found.document.name.slice(0, NAME_MAX - 6)}, copy`;
    const { id, revision } = createMachine(database(), { ...found.document, name }, `Copied from ${found.document.name}`);
    return NextResponse.json({ id, revision }, { status: 201 });
  });
});
