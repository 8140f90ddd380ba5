import { NextResponse } from "next/server";
import { database } from "@/server/database";
import { historyOf } from "@/server/history";
import { answering, type IdContext } from "@/server/http";

export const GET = answering(async (_request: Request, { params }: IdContext) =>
  NextResponse.json(historyOf(database(), (await params).id)),
);
