import { z } from "zod";
import type { Edit } from "@/core/machine/changes";
import { readMachine } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";
import { type ShelfEntry, type ShelfItem, shelfItemSchema } from "@/core/machine/shelf";
import { type MachineSummary, summarySchema } from "@/core/machine/summary";
import { type Answered, type LogLine, type StoredLog, storedLogSchema } from "./log";

const problemSchema = z.object({
  title: z.string(),
  detail: z.string(),
  status: z.number(),
  problems: z.array(z.object({ path: z.string(), expected: z.string() })).optional(),
});

/** A request the server refused, in its words; or `offline` when it could not be reached. */
export interface Failure {
  ok: false;
  kind: "refused" | "offline" | "missing";
  detail: string;
  problems: { path: string; expected: string }[];
}

export type Created = { ok: true; id: string } | Failure;

/** What was saved in a machine meanwhile, and from which window. */
export interface Since {
  readonly label: string;
  readonly origin: string | null;
}

/** What came of a save of edits. `joined`: others had saved meanwhile, and this is what came of both. */
export type SavedEdits =
  | { ok: true; revision: number; joined: { document: Machine; since: Since[] } | null }
  | { ok: false; kind: "conflict"; revision: number; document: Machine; known: string[]; since: Since[] }
  | Failure;

const OFFLINE: Failure = { ok: false, kind: "offline", detail: "The Node Ledger server does not answer. Start it again.", problems: [] };

/** An answer that was no problem body, or none that could be read: something between us and the server is out of order. */
const unclear = (status: number): Failure => ({
  ...OFFLINE,
  detail: `The server answered with error ${status}, and nothing that can be read.`,
});

async function failure(response: Response): Promise<Failure> {
  const parsed = problemSchema.safeParse(await response.json().catch(() => null));
  if (!parsed.success) return response.status >= 500 ? unclear(response.status) : { ...unclear(response.status), kind: "refused" };
  const { detail, problems = [] } = parsed.data;
  // What the server or its disk cannot do now it may do later; what it will not do it will never do.
  const kind = response.status === 404 ? "missing" : response.status >= 500 || response.status === 408 ? "offline" : "refused";
  return { ok: false, kind, detail, problems };
}

/** Longest wait for an answer, ms; a server that is frozen is not waited for for ever. */
const LIMIT_MS = 10_000;

function send(method: string, path: string, body?: unknown, init: RequestInit = {}): Promise<Response | null> {
  const all: RequestInit = { method, headers: { "Content-Type": "application/json" }, signal: AbortSignal.timeout(LIMIT_MS), ...init };
  if (body !== undefined) all.body = typeof body === "string" ? body : JSON.stringify(body);
  return fetch(path, all).catch(() => null);
}

/** The body of an answer as a schema reads it; null where it is cut off, late or something else. */
async function read<T>(response: Response, schema: z.ZodType<T>): Promise<T | null> {
  return schema.safeParse(await response.json().catch(() => null)).data ?? null;
}

const createdSchema = z.object({ id: z.string() });

async function create(path: string, body?: unknown): Promise<Created> {
  const response = await send("POST", path, body);
  if (!response) return OFFLINE;
  if (!response.ok) return failure(response);
  const created = await read(response, createdSchema);
  return created ? { ok: true, id: created.id } : unclear(response.status);
}

export const createBlank = (name: string) => create("/api/machines", { kind: "blank", name });
export const createFromExample = (key: string) => create("/api/machines", { kind: "example", key });
export const importDocument = (document: Machine) => create("/api/machines", { kind: "import", document });
export const duplicateMachine = (id: string) => create(`/api/machines/${id}/duplicate`);

export async function deleteMachine(id: string): Promise<boolean> {
  return (await send("DELETE", `/api/machines/${id}`))?.ok ?? false;
}

export async function restoreMachine(id: string): Promise<boolean> {
  return (await send("POST", `/api/machines/${id}/restore`))?.ok ?? false;
}

/** Forgets a deleted machine for good. */
export async function purgeMachine(id: string): Promise<boolean> {
  return (await send("DELETE", `/api/machines/${id}?for=good`))?.ok ?? false;
}

/** Whether the server answers at all; what it has to say of its ledger a page tells better. */
export async function answers(): Promise<boolean> {
  return (await send("HEAD", "/api/shelf", undefined, { signal: AbortSignal.timeout(2500), cache: "no-store" })) !== null;
}

const storedSchema = z.object({ revision: z.number(), document: z.unknown() });

/** A machine as it is stored; `same` where it is still at the revision that is known, null where it cannot be had. */
export async function fetchMachine(id: string, known?: number): Promise<{ revision: number; document: Machine } | "same" | null> {
  const response = await send("GET", `/api/machines/${id}${known === undefined ? "" : `?known=${known}`}`);
  if (!response?.ok) return null;
  if (response.status === 204) return "same";
  const parsed = await read(response, storedSchema);
  const machine = parsed ? readMachine(parsed.document) : null;
  return parsed && machine?.ok ? { revision: parsed.revision, document: machine.machine } : null;
}

const sinceSchema = z.array(z.object({ label: z.string(), origin: z.string().nullable() }));
const savedSchema = z.object({ revision: z.number(), joined: z.object({ document: z.unknown(), since: sinceSchema }).nullable() });
const conflictSchema = z.object({ current: storedSchema, known: z.array(z.string()), since: sinceSchema });

const savePath = (id: string) => `/api/machines/${id}/edits`;

/** Saves edits that were made on revision `base`, each once however often it is sent. */
export async function saveEdits(id: string, base: number, edits: readonly Edit[], origin: string): Promise<SavedEdits> {
  const response = await send("POST", savePath(id), { base, origin, edits });
  if (!response) return OFFLINE;
  if (response.ok) {
    const saved = await read(response, savedSchema);
    if (!saved) return unclear(response.status);
    if (!saved.joined) return { ok: true, revision: saved.revision, joined: null };
    const machine = readMachine(saved.joined.document);
    return machine.ok
      ? { ok: true, revision: saved.revision, joined: { document: machine.machine, since: saved.joined.since } }
      : unclear(response.status);
  }
  if (response.status !== 409) return failure(response);
  const parsed = await read(response, conflictSchema);
  const machine = parsed ? readMachine(parsed.current.document) : null;
  if (!parsed || !machine?.ok) return unclear(response.status);
  const { known, since } = parsed;
  return { ok: false, kind: "conflict", revision: parsed.current.revision, document: machine.machine, known, since };
}

/** Most bytes a browser sends for a page that is already gone. */
const LAST_WORDS_MAX = 60_000;

/** Sends edits from a page that is being closed; whether they arrived nobody learns here. */
export function lastWords(id: string, base: number, edits: readonly Edit[], origin: string): void {
  const body = JSON.stringify({ base, origin, edits });
  if (body.length < LAST_WORDS_MAX) void send("POST", savePath(id), body, { keepalive: true, signal: null });
}

const lineSchema = z.object({
  revision: z.number(),
  at: z.string(),
  label: z.string(),
  origin: z.string().nullable(),
  lines: z.array(z.string()),
  name: z.string().nullable(),
});
/** A line of a machine's history. */
export type HistoryLine = z.infer<typeof lineSchema>;

/** The revisions of a machine, the newest first. */
export async function fetchHistory(id: string): Promise<HistoryLine[] | Failure> {
  const response = await send("GET", `/api/machines/${id}/history`);
  if (!response) return OFFLINE;
  return response.ok ? ((await read(response, z.array(lineSchema))) ?? unclear(response.status)) : failure(response);
}

/** Names a revision, or takes its name away. */
export async function nameRevision(id: string, revision: number, name: string | null): Promise<{ ok: true } | Failure> {
  const response = await send("PUT", `/api/machines/${id}/history/${revision}`, { name });
  if (!response) return OFFLINE;
  return response.ok ? { ok: true } : failure(response);
}

/** Puts a machine aside, or back on the list. */
export async function archiveMachine(id: string, archived: boolean): Promise<boolean> {
  return (await send("PUT", `/api/machines/${id}/archive`, { archived }))?.ok ?? false;
}

const pastSchema = z.object({ at: z.string(), document: z.unknown() });

/** A machine as it was at a revision. */
export async function fetchRevision(id: string, revision: number): Promise<{ document: Machine } | Failure> {
  const response = await send("GET", `/api/machines/${id}/history/${revision}`);
  if (!response) return OFFLINE;
  if (!response.ok) return failure(response);
  const past = await read(response, pastSchema);
  const machine = past ? readMachine(past.document) : null;
  return machine?.ok ? { document: machine.machine } : unclear(response.status);
}

const machinesSchema = z.array(summarySchema);

/** The list as it is known now; null when the server does not answer. */
export async function fetchMachines(): Promise<MachineSummary[] | null> {
  const response = await send("GET", "/api/machines");
  return response?.ok ? read(response, machinesSchema) : null;
}

const healedSchema = z.object({ done: z.string(), undo: z.string().nullable() });
/** Goes a way back to a ledger that can be worked with, or backs it up. */
export async function goWay(way: LedgerWay): Promise<({ ok: true } & z.infer<typeof healedSchema>) | Failure> {
  const response = await send("POST", "/api/ledger", way, { signal: AbortSignal.timeout(120_000) });
  if (!response) return OFFLINE;
  if (!response.ok) return failure(response);
  const healed = await read(response, healedSchema);
  return healed ? { ok: true, ...healed } : unclear(response.status);
}

/** What can be asked of the ledger as a file. */
export type LedgerWay =
  | { action: "back up" | "salvage" | "fresh" | "put back" }
  | { action: "restore"; backup: string }
  | { action: "use"; file: string };

const shelfSchema = z.array(shelfItemSchema);

/** Parts on the shelf; null when the server does not answer. */
export async function fetchShelf(): Promise<ShelfItem[] | null> {
  const response = await send("GET", "/api/shelf");
  return response?.ok ? read(response, shelfSchema) : null;
}

/** Puts all of several things on the shelf, or none. */
export async function putOnShelf(entries: readonly ShelfEntry[]): Promise<{ ok: true; items: ShelfItem[] } | Failure> {
  const response = await send("POST", "/api/shelf", entries);
  if (!response) return OFFLINE;
  if (!response.ok) return failure(response);
  const items = await read(response, shelfSchema);
  return items ? { ok: true, items } : unclear(response.status);
}

export async function changeOnShelf({ id, ...entry }: ShelfItem): Promise<{ ok: true } | Failure> {
  const response = await send("PUT", `/api/shelf/${id}`, entry);
  if (!response) return OFFLINE;
  return response.ok ? { ok: true } : failure(response);
}

const usesSchema = z.array(z.object({ machine: z.string(), name: z.string(), of: z.string(), count: z.number() }));
/** A use of something on the shelf in a machine. */
export type ShelfUse = z.infer<typeof usesSchema>[number];

/** Where what lies on the shelf is used; null when the server does not answer. */
export async function fetchShelfUses(): Promise<ShelfUse[] | null> {
  const response = await send("GET", "/api/shelf/uses");
  return response?.ok ? read(response, usesSchema) : null;
}

export async function takeOffShelf(id: string): Promise<boolean> {
  return (await send("DELETE", `/api/shelf/${id}`))?.ok ?? false;
}

/** The log of a machine, from the workbench or, with the phone's own address, from a phone. */
export function logLine(paths: { fetch: string; send: string }): LogLine {
  const answered = async <T>(response: Response | null, schema: z.ZodType<T>): Promise<Answered<T>> => {
    if (!response) return { ok: false, again: true, detail: OFFLINE.detail };
    if (!response.ok) {
      const { kind, detail } = await failure(response);
      return { ok: false, again: kind === "offline" || response.status === 429, detail };
    }
    const value = await read(response, schema);
    return value === null ? { ok: false, again: true, detail: unclear(response.status).detail } : { ok: true, value };
  };
  return {
    fetch: async () => answered(await send("GET", paths.fetch), storedLogSchema),
    send: async (sent) => answered(await send("POST", paths.send, sent), z.object({ version: z.number() })),
  };
}

const answersSchema = z.object({ answers: z.array(z.string().nullable()), simulated: z.boolean() });

/** A bench to talk to: one machine built from the plan, by its seed. */
export interface BenchLine {
  readonly session: string;
  readonly seed: number;
  readonly drill: boolean;
}

/** Says lines to a bench; an answer a line, null where there is none. */
export async function askBench(id: string, bench: BenchLine, lines: readonly string[]): Promise<z.infer<typeof answersSchema> | Failure> {
  const response = await send("POST", `/api/machines/${id}/bench`, { do: "ask", ...bench, lines }, { signal: AbortSignal.timeout(60_000) });
  if (!response) return OFFLINE;
  return response.ok ? ((await read(response, answersSchema)) ?? unclear(response.status)) : failure(response);
}

const revealedSchema = z.object({ fault: z.object({ id: z.string(), words: z.string(), size: z.string() }).nullable() });

/** What was hidden in a drill; null where the bench no longer knows, or does not answer. */
export async function revealBench(id: string, session: string): Promise<z.infer<typeof revealedSchema>["fault"]> {
  const response = await send("POST", `/api/machines/${id}/bench`, { do: "reveal", session });
  return response?.ok ? ((await read(response, revealedSchema))?.fault ?? null) : null;
}

const phonesSchema = z.object({
  address: z.string().nullable(),
  phones: z.array(z.object({ id: z.string(), name: z.string(), pairedAt: z.string(), seenAt: z.string() })),
});
/** Phones of a machine, and where they find their page. */
export type Phones = z.infer<typeof phonesSchema>;
const codeSchema = z.object({ code: z.string(), expiresAt: z.string(), url: z.string(), picture: z.string() });
/** A pairing code with its picture. */
export type PairingCode = z.infer<typeof codeSchema>;

export async function fetchPhones(id: string): Promise<Phones | Failure> {
  const response = await send("GET", `/api/machines/${id}/phones`);
  if (!response) return OFFLINE;
  return response.ok ? ((await read(response, phonesSchema)) ?? unclear(response.status)) : failure(response);
}

export async function pairPhone(id: string): Promise<PairingCode | Failure> {
  const response = await send("POST", `/api/machines/${id}/phones`, { do: "pair" });
  if (!response) return OFFLINE;
  return response.ok ? ((await read(response, codeSchema)) ?? unclear(response.status)) : failure(response);
}

export async function endPhone(id: string, phone: string): Promise<boolean> {
  return (await send("POST", `/api/machines/${id}/phones`, { do: "end", phone }))?.ok ?? false;
}

const planSchema = z.object({ id: z.string(), revision: z.number(), machine: z.unknown() });

/** What a paired phone works with; "unpaired" where it is none. */
export async function fetchPhonePlan(): Promise<{ id: string; machine: Machine; stored: StoredLog } | "unpaired" | Failure> {
  const response = await send("GET", "/api/phone/plan", undefined, { cache: "no-store" });
  if (!response) return OFFLINE;
  if (response.status === 401) return "unpaired";
  if (!response.ok) return failure(response);
  const body: unknown = await response.json().catch(() => null);
  const [plan, stored] = [planSchema.safeParse(body).data, storedLogSchema.safeParse(body).data];
  const machine = plan ? readMachine(plan.machine) : null;
  return plan && stored && machine?.ok ? { id: plan.id, machine: machine.machine, stored } : unclear(response.status);
}

/** Pairs this phone by a code; null when it is done. */
export async function pairThisPhone(code: string, name: string): Promise<Failure | null> {
  const response = await send("POST", "/api/phone/pair", { code, name });
  if (!response) return OFFLINE;
  return response.ok ? null : failure(response);
}
