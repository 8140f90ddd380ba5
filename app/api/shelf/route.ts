import { NextResponse } from "next/server";
import { shelfPartSchema } from "@/core/machine/shelf";
import { database } from "@/server/database";
import { answering, readJson } from "@/server/http";
import { problem } from "@/server/problem";
import { listShelf, putOnShelf } from "@/server/shelf";

export const dynamic = "force-dynamic";

export const GET = answering(() => NextResponse.json(listShelf(database())));

export const POST = answering(async (request: Request) => {
  const body = await readJson(request);
  if (!body.ok) return body.response;
  const parsed = shelfPartSchema.safeParse(body.json);
  if (!parsed.success) return problem(422, "Not accepted", "Packs, supplies, converters and drivers go on the shelf. Nothing was changed.");
  return NextResponse.json(putOnShelf(database(), parsed.data), { status: 201 });
});
