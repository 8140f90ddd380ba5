import { NextResponse } from "next/server";
import { backUp } from "@/server/backups";
import { database } from "@/server/database";
import { heal } from "@/server/heal";
import { answering, readAs } from "@/server/http";
import { ledgerState } from "@/server/ledger-state";
import { problem } from "@/server/problem";
import { waySchema } from "@/server/requests";

export const dynamic = "force-dynamic";

/** Where the ledger is, what keeps it from being used if anything does, and its backups. */
export const GET = answering(() => NextResponse.json(ledgerState()));

/** Backs the ledger up, or goes a way back. */
export const POST = answering(async (request: Request) => {
  const body = await readAs(request, waySchema, { status: 400, title: "Not readable", detail: "That is none of the ways back." });
  if (!body.ok) return body.response;
  if (body.data.action === "back up") return NextResponse.json({ done: "A backup was made.", undo: await backUp(database(), "by-hand") });
  const healed = await heal(body.data);
  return healed.ok ? NextResponse.json(healed) : problem(409, "Not done", healed.detail);
});
