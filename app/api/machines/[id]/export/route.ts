import { NextResponse } from "next/server";
import { fileStem } from "@/core/exchange/json";
import { database } from "@/server/database";
import { notFound } from "@/server/http";
import { machineFile } from "@/server/machines";

export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }) {
  const file = machineFile(database(), (await params).id);
  if (!file) return notFound();
  return new NextResponse(file.text, {
    headers: {
      "Content-Type": "application/json; charset=utf-8",
      "Content-Disposition": `attachment; filename="${fileStem(file.name)}.json"`,
    },
  });
}
