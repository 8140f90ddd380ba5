import { NextResponse } from "next/server";
import { z } from "zod";
import { shelfEntrySchema } from "@/core/machine/shelf";
import { database } from "@/server/database";
import { answering, readAs } from "@/server/http";
import { listShelf, putAllOnShelf } from "@/server/shelf";

export const dynamic = "force-dynamic";

/** Most things that are put on the shelf at once: a long list from a spreadsheet. */
const AT_ONCE_MOST = 5000;

export const GET = answering(() => NextResponse.json(listShelf(database())));

export const POST = answering(async (request: Request) => {
  const body = await readAs(request, z.array(shelfEntrySchema).min(1).max(AT_ONCE_MOST), {
    status: 422,
    title: "Not accepted",
    detail: "Parts, wire, fuses and connectors go on the shelf. Nothing was changed.",
  });
  if (!body.ok) return body.response;
  return NextResponse.json(putAllOnShelf(database(), body.data), { status: 201 });
});
