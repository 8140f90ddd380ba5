import { NextResponse } from "next/server";
import { database } from "@/server/database";
import { answering } from "@/server/http";
import { shelfUses } from "@/server/shelf";

export const dynamic = "force-dynamic";

/** In which machines what lies on the shelf is used. */
export const GET = answering(() => NextResponse.json(shelfUses(database())));
