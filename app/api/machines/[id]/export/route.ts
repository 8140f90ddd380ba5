import { NextResponse } from "next/server";
import { fileStem } from "@/core/exchange/json";
import { database } from "@/server/database";
import { answering, type IdContext, notFound } from "@/server/http";
import { machineFile } from "@/server/machines";

export const GET = answering(async (_request: Request, { params }: IdContext) => {
  const file = machineFile(database(), (await params).id);
  if (!file) return notFound();
  return new NextResponse(file.text, {
    headers: {
      "Content-Type": "application/json; charset=utf-8",
      "Content-Disposition": `attachment; filename="${fileStem(file.name)}.json"`,
    },
  });
});
