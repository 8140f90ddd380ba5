import { NextResponse } from "next/server";
import { database } from "@/server/database";
import { answering, type IdContext, notFound } from "@/server/http";
import { takeOffShelf } from "@/server/shelf";

export const DELETE = answering(async (_request: Request, { params }: IdContext) =>
  takeOffShelf(database(), (await params).id) ? new NextResponse(null, { status: 204 }) : notFound(),
);
