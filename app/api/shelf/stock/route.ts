import { NextResponse } from "next/server";
import { stockSchema } from "@/core/machine/schema";
import { database } from "@/server/database";
import { answering, readJson } from "@/server/http";
import { problem } from "@/server/problem";
import { keepStock, keptStock } from "@/server/shelf";

export const dynamic = "force-dynamic";

export const GET = answering(() => NextResponse.json(keptStock(database())));

export const PUT = answering(async (request: Request) => {
  const body = await readJson(request);
  if (!body.ok) return body.response;
  const parsed = stockSchema.safeParse(body.json);
  if (!parsed.success) return problem(422, "Not accepted", "Sizes, fuses and connectors go on this list. Nothing was changed.");
  keepStock(database(), parsed.data);
  return new NextResponse(null, { status: 204 });
});
