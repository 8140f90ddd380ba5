import { NextResponse } from "next/server";
import { shelfPartSchema } from "@/core/machine/shelf";
import { database } from "@/server/database";
import { answering, readAs } from "@/server/http";
import { listShelf, putOnShelf } from "@/server/shelf";

export const dynamic = "force-dynamic";

export const GET = answering(() => NextResponse.json(listShelf(database())));

export const POST = answering(async (request: Request) => {
  const body = await readAs(request, shelfPartSchema, {
    status: 422,
    title: "Not accepted",
    detail: "Packs, supplies, converters and drivers go on the shelf. Nothing was changed.",
  });
  if (!body.ok) return body.response;
  return NextResponse.json(putOnShelf(database(), body.data), { status: 201 });
});
