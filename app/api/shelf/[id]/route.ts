import { NextResponse } from "next/server";
import { database } from "@/server/database";
import { notFound } from "@/server/http";
import { takeOffShelf } from "@/server/shelf";

export async function DELETE(_request: Request, { params }: { params: Promise<{ id: string }> }) {
  return takeOffShelf(database(), (await params).id) ? new NextResponse(null, { status: 204 }) : notFound();
}
