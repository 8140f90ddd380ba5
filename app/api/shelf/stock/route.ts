import { NextResponse } from "next/server";
import { stockSchema } from "@/core/machine/schema";
import { database } from "@/server/database";
import { answering, readAs } from "@/server/http";
import { keepStock, keptStock } from "@/server/shelf";

export const dynamic = "force-dynamic";

export const GET = answering(() => NextResponse.json(keptStock(database())));

export const PUT = answering(async (request: Request) => {
  const body = await readAs(request, stockSchema, {
    status: 422,
    title: "Not accepted",
    detail: "Sizes, fuses and connectors go on this list. Nothing was changed.",
  });
  if (!body.ok) return body.response;
  keepStock(database(), body.data);
  return new NextResponse(null, { status: 204 });
});
