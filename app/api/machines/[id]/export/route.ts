import { NextResponse } from "next/server";
import { fileStem, toJson } from "@/core/exchange/json";
import { database } from "@/server/database";
import { notFound } from "@/server/http";
import { getMachine } from "@/server/machines";

export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }) {
  const found = getMachine(database(), (await params).id);
  if (!found) return notFound();
  return new NextResponse(toJson(found.document), {
    headers: {
      "Content-Type": "application/json; charset=utf-8",
      "Content-Disposition": `attachment; filename="${fileStem(found.document.name)}.json"`,
    },
  });
}
