import { NextResponse } from "next/server";
import { database } from "@/server/database";
import { machineAt } from "@/server/history";
import { answering, readably } from "@/server/http";
import { problem } from "@/server/problem";

export const GET = answering(async (_request: Request, { params }: { params: Promise<{ id: string; revision: string }> }) => {
  const { id, revision } = await params;
  return readably(() => {
    const found = machineAt(database(), id, Number(revision));
    return found ? NextResponse.json(found) : problem(404, "Not found", "That revision is no longer kept.");
  });
});
