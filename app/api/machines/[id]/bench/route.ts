import { NextResponse } from "next/server";
import { z } from "zod";
import { lineSchema } from "@/core/machine/base-schema";
import { aside } from "@/server/aside";
import { askBridge, bridgePort } from "@/server/bench-bridge";
import { database } from "@/server/database";
import { answering, type IdContext, notFound, readAs } from "@/server/http";
import type { Job, JobAnswer } from "@/server/jobs";
import { documentNow } from "@/server/machines";
import { problem } from "@/server/problem";

const benchSchema = z.discriminatedUnion("do", [
  z.strictObject({
    do: z.literal("ask"),
    session: z.string().regex(/^[a-z0-9-]{8,64}$/),
    seed: z
      .int()
      .min(0)
      .max(2 ** 31),
    drill: z.boolean(),
    lines: z.array(lineSchema(300)).min(1).max(40),
  }),
  z.strictObject({ do: z.literal("reveal"), session: z.string().regex(/^[a-z0-9-]{8,64}$/) }),
]);

/** A job of the bench, waited for. */
const asked = (key: string, job: Job) => new Promise<JobAnswer | null>((resolve) => void aside().ask(key, () => job, resolve, true));

let count = 0;

/** Lines to the bench: the simulated one, or what answers on the port that NODE_LEDGER_BENCH names. A drill is always simulated. */
export const POST = answering(async (request: Request, { params }: IdContext) => {
  const { id } = await params;
  const body = await readAs(request, benchSchema, {
    status: 422,
    title: "Not accepted",
    detail: "That is not what can be said to a bench. Nothing was changed.",
  });
  if (!body.ok) return body.response;
  const { data } = body;
  const key = `bench ${data.session} ${count++}`;
  if (data.do === "reveal") {
    const answer = await asked(key, { kind: "reveal", session: data.session });
    return NextResponse.json({ fault: answer?.kind === "reveal" ? answer.fault : null });
  }
  const document = documentNow(database(), id);
  if (document === null) return notFound();
  const port = bridgePort();
  if (port !== null && !data.drill) {
    try {
      return NextResponse.json({ answers: await askBridge(port, data.lines), simulated: false });
    } catch (error) {
      const why = error instanceof Error ? error.message : "no answer";
      return problem(
        502,
        "No instruments",
        `Nothing answers on port ${port} of this machine (${why}). Start the bridge, or leave NODE_LEDGER_BENCH out.`,
      );
    }
  }
  const { session, seed, drill, lines } = data;
  const answer = await asked(key, { kind: "bench", session, document, seed, drill, lines });
  if (answer?.kind !== "bench" || answer.answers === null)
    return problem(422, "No bench", "The plan cannot be put on the simulated bench as it is.");
  return NextResponse.json({ answers: answer.answers, simulated: true });
});
