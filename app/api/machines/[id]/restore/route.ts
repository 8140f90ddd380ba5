import { NextResponse } from "next/server";
import { database } from "@/server/database";
import { notFound } from "@/server/http";
import { restoreMachine } from "@/server/machines";

export async function POST(_request: Request, { params }: { params: Promise<{ id: string }> }) {
  return restoreMachine(database(), (await params).id) ? new NextResponse(null, { status: 204 }) : notFound();
}
