import type { IncomingMessage, Server, ServerResponse } from "node:http";
import { networkInterfaces } from "node:os";
import { z } from "zod";
import { lineSchema } from "@/core/machine/base-schema";
import { database } from "./database";
import { faultWords, UNKNOWN_FAULT } from "./faults";
import { frontServer, problemText } from "./front";
import { scanJson } from "./json-limits";
import { getMachine, orUnreadable, UnreadableMachine } from "./machines";
import { allowedOrigin } from "./origin";
import { machineOfPhone, pair } from "./phones";
import { keepReadings, logOf, sentSchema } from "./readings";
import { Slowing } from "./slowing";

const COOKIE = "node-ledger-phone";
/** How long a pairing lasts on the phone, s. */
const COOKIE_S = 30 * 24 * 3600;
/** Largest body a phone sends: five hundred readings. */
const BODY_MAX = 1024 * 1024;
/** What of the application a phone may load besides its own page. */
const ASSETS = /^\/(_next\/static\/|icon\.svg$|favicon\.ico$)/;

/** Addresses of this machine on the home network. */
export function homeAddresses(): string[] {
  return Object.values(networkInterfaces()).flatMap((each) =>
    (each ?? []).flatMap(({ address, family, internal }) => (family === "IPv4" && !internal ? [address] : [])),
  );
}

const pairSchema = z.strictObject({ code: z.string().max(40), name: lineSchema(60) });

type Handle = (request: IncomingMessage, response: ServerResponse) => Promise<void>;

/**
 * What stands open to the home network, and nothing else does: the phone's page and its files, pairing by a code, and for a paired
 * phone its machine and its readings.
 * @param pages answers the page and its files
 * @param inner name that the pages' own guard lets in
 */
export function phoneServer(pages: Handle, inner: string, now: () => number = Date.now): Server {
  const slowing = new Slowing();
  return frontServer(async (request, response) => {
    const address = request.socket.remoteAddress ?? "";
    const { host } = request.headers;
    const name = host?.replace(/:\d+$/, "") ?? "";
    if (!["127.0.0.1", "localhost", ...homeAddresses()].includes(name))
      return tell(response, 421, "This address is not one of this machine's.");
    const [path = ""] = (request.url ?? "").split("?");
    if (!slowing.mayAsk(address, now(), request.method === "GET" && ASSETS.test(path)))
      return tell(response, 429, "That is more than a phone asks for. Wait a little.", { "Retry-After": "5" });
    // A way that leads up again is none of ours, however it is written.
    const isPage = (path === "/phone" || ASSETS.test(path)) && !decodeURIComponent(path).includes("..");
    if (request.method === "GET" && isPage) {
      request.headers.host = inner;
      for (const own of Object.keys(request.headers)) if (own.startsWith("x-")) delete request.headers[own];
      return pages(request, response);
    }
    if (!path.startsWith("/api/phone/")) return tell(response, 404, "A phone finds its own page here and nothing else.");
    try {
      await answer(request, response, path.slice("/api/phone/".length), { address, host: host ?? null, slowing, now: now() });
    } catch (error) {
      const words = faultWords(error);
      tell(response, words?.status ?? 500, words?.detail ?? UNKNOWN_FAULT);
    }
  });
}

interface From {
  address: string;
  host: string | null;
  slowing: Slowing;
  now: number;
}

async function answer(request: IncomingMessage, response: ServerResponse, what: string, from: From): Promise<void> {
  const { headers, method } = request;
  const site = headers["sec-fetch-site"];
  if (method !== "GET" && !allowedOrigin(headers.origin ?? null, from.host, typeof site === "string" ? site : null))
    return tell(response, 403, "Changes are accepted from the phone's own page only.");
  if (method === "POST" && what === "pair") return answerPair(request, response, from);
  const machine = machineOf(request, from.now);
  if (machine === null) return tell(response, 401, "This phone is not paired, or its pairing was ended. Pair it again with a new code.");
  if (method === "GET" && what === "plan") return answerPlan(response, machine);
  if (method === "POST" && what === "readings") return answerReadings(request, response, machine);
  return tell(response, 404, "There is nothing of that name for a phone.");
}

function machineOf({ headers }: IncomingMessage, now: number): string | null {
  const token = new RegExp(`(?:^|;\\s*)${COOKIE}=([\\w-]{20,100})`).exec(headers.cookie ?? "")?.[1];
  return token === undefined ? null : machineOfPhone(database(), token, now);
}

async function answerPair(request: IncomingMessage, response: ServerResponse, { address, slowing, now }: From): Promise<void> {
  const wait = slowing.waitMs(address, now);
  if (wait > 0)
    return tell(response, 429, `After wrong codes the next one is looked at in ${Math.ceil(wait / 1000)} s.`, {
      "Retry-After": String(Math.ceil(wait / 1000)),
    });
  const body = pairSchema.safeParse(await readBody(request));
  if (!body.success) return tell(response, 422, "A code and a name for this phone are needed.");
  const paired = pair(database(), body.data.code, body.data.name, now);
  if (!paired) {
    slowing.wrongCode(address, now);
    return tell(response, 403, "That code is wrong, was used before, or has run out. Ask for a new one at the machine's Bring-up.");
  }
  slowing.rightCode(address);
  give(response, { paired: true }, { "Set-Cookie": `${COOKIE}=${paired.token}; Path=/; Max-Age=${COOKIE_S}; HttpOnly; SameSite=Strict` });
}

function answerPlan(response: ServerResponse, id: string): void {
  const machine = orUnreadable(() => getMachine(database(), id));
  if (machine instanceof UnreadableMachine) tell(response, 422, "This version cannot read the machine.");
  else if (!machine) tell(response, 404, "The machine is no longer on the list.");
  else give(response, { id, revision: machine.revision, machine: machine.document, ...logOf(database(), id) });
}

async function answerReadings(request: IncomingMessage, response: ServerResponse, id: string): Promise<void> {
  const body = sentSchema
    .omit({ kit: true })
    .strict()
    .safeParse(await readBody(request));
  if (!body.success) return tell(response, 422, "Those are not readings as the log keeps them. Nothing was changed.");
  const { readings, waivers } = body.data;
  // A phone adds; what it says is marked as said by a phone, and what is there already stays as it is.
  const kept = keepReadings(
    database(),
    id,
    { readings: readings.map((reading) => ({ ...reading, way: "phone" as const })), waivers },
    true,
  );
  if (!kept.ok)
    return tell(
      response,
      kept.reason === "missing" ? 404 : 409,
      kept.reason === "missing" ? "The machine is no longer on the list." : "The log is full.",
    );
  give(response, { version: kept.version });
}

/** A JSON body of bounded size; undefined where it is none. */
async function readBody(request: IncomingMessage): Promise<unknown> {
  if (!/^application\/json\b/i.test(request.headers["content-type"] ?? "")) return undefined;
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of request as AsyncIterable<Buffer>) {
    // The rest of what is too large is let run out, so that its sender reads the answer.
    size += chunk.byteLength;
    if (size <= BODY_MAX) chunks.push(chunk);
  }
  if (size > BODY_MAX) return undefined;
  const bytes = Buffer.concat(chunks);
  if (!scanJson(bytes)) return undefined;
  try {
    return JSON.parse(bytes.toString("utf8"));
  } catch {
    return undefined;
  }
}

const SAFE = { "X-Content-Type-Options": "nosniff", "Cache-Control": "no-store" };

function give(response: ServerResponse, body: unknown, headers: Record<string, string> = {}): void {
  const text = JSON.stringify(body);
  response.writeHead(200, { "Content-Type": "application/json", "Content-Length": Buffer.byteLength(text), ...SAFE, ...headers });
  response.end(text);
}

function tell(response: ServerResponse, status: number, detail: string, headers: Record<string, string> = {}): void {
  const text = problemText(status, detail);
  response.writeHead(status, {
    "Content-Type": "application/problem+json",
    "Content-Length": Buffer.byteLength(text),
    ...SAFE,
    ...headers,
  });
  response.end(text);
}
