import { NextResponse } from "next/server";
import { database } from "@/server/database";
import { answering, type IdContext, notFound } from "@/server/http";
import { restoreMachine } from "@/server/machines";

export const POST = answering(async (_request: Request, { params }: IdContext) =>
  restoreMachine(database(), (await params).id) ? new NextResponse(null, { status: 204 }) : notFound(),
);
