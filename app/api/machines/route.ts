import { NextResponse } from "next/server";
import { machinesAndWork } from "@/server/background";
import { noteCount } from "@/server/backups";
import { database } from "@/server/database";
import { answering, readJson } from "@/server/http";
import { createMachine } from "@/server/machines";
import { problem } from "@/server/problem";
import { readCreate } from "@/server/requests";

export const dynamic = "force-dynamic";

export const GET = answering(() => NextResponse.json(machinesAndWork(database())));

export const POST = answering(async (request: Request) => {
  const body = await readJson(request);
  if (!body.ok) return body.response;
  const wanted = readCreate(body.json);
  if (!wanted.ok) return problem(422, "Not accepted", wanted.detail, wanted.problems ? { problems: wanted.problems } : {});
  const { id, revision } = createMachine(database(), wanted.machine, wanted.label);
  noteCount(database());
  return NextResponse.json({ id, revision, cleaned: wanted.cleaned }, { status: 201 });
});
