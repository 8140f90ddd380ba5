import { NextResponse } from "next/server";
import { shelfIdSchema } from "@/core/machine/base-schema";
import { shelfEntrySchema } from "@/core/machine/shelf";
import { database } from "@/server/database";
import { answering, type IdContext, notFound, readAs } from "@/server/http";
import { changeOnShelf, takeOffShelf } from "@/server/shelf";

export const PUT = answering(async (request: Request, { params }: IdContext) => {
  const body = await readAs(request, shelfEntrySchema, {
    status: 422,
    title: "Not accepted",
    detail: "That is nothing that can lie on the shelf. Nothing was changed.",
  });
  if (!body.ok) return body.response;
  const id = shelfIdSchema.safeParse((await params).id);
  if (!id.success) return notFound();
  changeOnShelf(database(), id.data, body.data);
  return new NextResponse(null, { status: 204 });
});

export const DELETE = answering(async (_request: Request, { params }: IdContext) =>
  takeOffShelf(database(), (await params).id) ? new NextResponse(null, { status: 204 }) : notFound(),
);
