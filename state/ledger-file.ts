import { z } from "zod";

/** Bytes sent at a time. */
const PIECE = 4 * 1024 * 1024;

const arrivedSchema = z.object({ backup: z.string(), machines: z.array(z.string()), shelf: z.number() });
/** A ledger file that was brought: under which name it is kept among the backups, and what it holds. */
export type Arrived = z.infer<typeof arrivedSchema>;

const OFFLINE = { ok: false as const, detail: "The server does not answer. Nothing was changed." };

async function refusal(response: Response): Promise<{ ok: false; detail: string }> {
  const body = z.object({ detail: z.string() }).safeParse(await response.json().catch(() => null));
  return { ok: false, detail: body.success ? body.data.detail : `The server answered with ${response.status}.` };
}

/** Brings a ledger file to the server, piece by piece. @param told how much of it is there, share */
export async function bringLedger(
  file: File,
  told: (share: number) => void,
): Promise<({ ok: true } & Arrived) | { ok: false; detail: string }> {
  if (file.size === 0) return { ok: false, detail: "That file is empty." };
  const upload = crypto.randomUUID();
  for (let at = 0; at < file.size; at += PIECE) {
    const piece = file.slice(at, at + PIECE);
    const response = await fetch(`/api/ledger/file?upload=${upload}&at=${at}`, {
      method: "PUT",
      headers: { "Content-Type": "application/octet-stream" },
      body: piece,
    }).catch(() => null);
    if (!response) return OFFLINE;
    if (!response.ok) return refusal(response);
    told(Math.min(1, (at + PIECE) / file.size));
  }
  const response = await fetch("/api/ledger/file", {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ upload, bytes: file.size }),
  }).catch(() => null);
  if (!response) return OFFLINE;
  if (!response.ok) return refusal(response);
  const read = arrivedSchema.safeParse(await response.json().catch(() => null));
  return read.success ? { ok: true, ...read.data } : { ok: false, detail: "The server's answer could not be read." };
}
