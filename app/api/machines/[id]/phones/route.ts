import { NextResponse } from "next/server";
import QRCode from "qrcode";
import { z } from "zod";
import { database } from "@/server/database";
import { answering, type IdContext, notFound, readAs } from "@/server/http";
import { revisionOf } from "@/server/machines";
import { homeAddresses } from "@/server/phone-front";
import { endPhone, newCode, phonesOf } from "@/server/phones";
import { problem } from "@/server/problem";

export const dynamic = "force-dynamic";

const wishSchema = z.discriminatedUnion("do", [
  z.strictObject({ do: z.literal("pair") }),
  z.strictObject({ do: z.literal("end"), phone: z.uuid() }),
]);

/** Where phones find their page; null: this server does not listen to them. */
function phoneAddress(): string | null {
  const port = process.env.NODE_LEDGER_PHONE;
  return port ? `http://${homeAddresses()[0] ?? "127.0.0.1"}:${port}/phone` : null;
}

export const GET = answering(async (_request: Request, { params }: IdContext) => {
  const { id } = await params;
  if (revisionOf(database(), id) === null) return notFound();
  return NextResponse.json({ address: phoneAddress(), phones: phonesOf(database(), id) });
});

/** A new code with its picture, or the end of a pairing. */
export const POST = answering(async (request: Request, { params }: IdContext) => {
  const { id } = await params;
  const body = await readAs(request, wishSchema, {
    status: 422,
    title: "Not accepted",
    detail: "A phone is paired or its pairing ended. Nothing was changed.",
  });
  if (!body.ok) return body.response;
  if (revisionOf(database(), id) === null) return notFound();
  if (body.data.do === "end") return NextResponse.json({ ended: endPhone(database(), id, body.data.phone) });
  const address = phoneAddress();
  if (address === null) return problem(409, "No phones", "Start Node Ledger with npm start -- --phone to let phones in.");
  const { code, expiresAt } = newCode(database(), id);
  const url = `${address}?code=${code}`;
  const picture = await QRCode.toString(url, { type: "svg", margin: 2 });
  return NextResponse.json({ code, expiresAt, url, picture });
});
