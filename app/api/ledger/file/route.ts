import { NextResponse } from "next/server";
import { z } from "zod";
import { database, databasePath } from "@/server/database";
import { answering, readAs } from "@/server/http";
import { MAX_BODY_BYTES } from "@/server/json-limits";
import { arrived, outgoing, takePiece } from "@/server/ledger-transfer";
import { problem, tooLarge } from "@/server/problem";

export const dynamic = "force-dynamic";

/** Everything in one file: machines, their history and readings, the shelf. */
export const GET = answering(async () => {
  const { stream, bytes } = await outgoing(database());
  return new NextResponse(stream, {
    headers: {
      "Content-Type": "application/vnd.sqlite3",
      "Content-Length": `${bytes}`,
      "Content-Disposition": `attachment; filename="node-ledger-${new Date().toISOString().slice(0, 10)}.db"`,
      "Cache-Control": "no-store",
    },
  });
});

/** A piece of such a file that is brought back: `?upload=` names it, `?at=` says where the piece belongs. */
export const PUT = answering(async (request: Request) => {
  if (request.headers.get("content-type") !== "application/octet-stream")
    return problem(415, "Not a piece of a file", "Pieces of a ledger are sent as they are (application/octet-stream).");
  const query = new URL(request.url).searchParams;
  const piece = new Uint8Array(await request.arrayBuffer());
  if (piece.byteLength > MAX_BODY_BYTES) return tooLarge();
  const taken = takePiece(databasePath(), query.get("upload") ?? "", Number(query.get("at") ?? Number.NaN), piece);
  return "detail" in taken ? problem(422, "Not accepted", taken.detail) : NextResponse.json(taken);
});

/** The file is there: looks at it and keeps it among the backups. */
export const POST = answering(async (request: Request) => {
  const body = await readAs(request, z.strictObject({ upload: z.string().max(60), bytes: z.int().positive() }), {
    status: 400,
    title: "Not readable",
    detail: "A file that arrived is named, with its size.",
  });
  if (!body.ok) return body.response;
  const came = arrived(databasePath(), body.data.upload, body.data.bytes);
  return "detail" in came ? problem(422, "Not accepted", came.detail) : NextResponse.json(came);
});
