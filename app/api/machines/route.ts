import { NextResponse } from "next/server";
import { database } from "@/server/database";
import { problem, readJson } from "@/server/http";
import { createMachine, listMachines } from "@/server/machines";
import { readCreate } from "@/server/requests";

export const dynamic = "force-dynamic";

export function GET() {
  return NextResponse.json(listMachines(database()));
}

export async function POST(request: Request) {
  const body = await readJson(request);
  if (!body.ok) return body.response;
  const wanted = readCreate(body.json);
  if (!wanted.ok) return problem(422, "Not accepted", wanted.detail, wanted.problems ? { problems: wanted.problems } : {});
  const { id, revision } = createMachine(database(), wanted.machine, wanted.label);
  return NextResponse.json({ id, revision }, { status: 201 });
}
