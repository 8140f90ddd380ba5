import { z } from "zod";
import { readMachine } from "@/core/machine/read";
import { type Machine, type Stock, stockSchema } from "@/core/machine/schema";
import { type ShelfItem, type ShelfPart, shelfItemSchema } from "@/core/machine/shelf";

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
export type Saved = { ok: true; revision: number } | { ok: false; kind: "conflict"; revision: number; document: Machine } | Failure;

const OFFLINE: Failure = {
  ok: false,
  kind: "offline",
  detail: "The Node Ledger server does not answer. Start it again; nothing typed here is lost.",
  problems: [],
};

async function failure(response: Response): Promise<Failure> {
  const parsed = problemSchema.safeParse(await response.json().catch(() => null));
  if (!parsed.success) return { ...OFFLINE, kind: "refused", detail: `The server answered with error ${response.status}.` };
  return {
    ok: false,
    kind: response.status === 404 ? "missing" : "refused",
    detail: parsed.data.detail,
    problems: parsed.data.problems ?? [],
  };
}

function send(method: string, path: string, body?: unknown): Promise<Response | null> {
  const init: RequestInit = { method, headers: { "Content-Type": "application/json" } };
  if (body !== undefined) init.body = JSON.stringify(body);
  return fetch(path, init).catch(() => null);
}

const createdSchema = z.object({ id: z.string() });

async function create(path: string, body?: unknown): Promise<Created> {
  const response = await send("POST", path, body);
  if (!response) return OFFLINE;
  if (!response.ok) return failure(response);
  return { ok: true, id: createdSchema.parse(await response.json()).id };
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

const storedSchema = z.object({ revision: z.number(), document: z.unknown() });

export async function fetchMachine(id: string): Promise<{ revision: number; document: Machine } | null> {
  const response = await send("GET", `/api/machines/${id}`);
  if (!response?.ok) return null;
  const parsed = storedSchema.safeParse(await response.json().catch(() => null));
  const read = parsed.success ? readMachine(parsed.data.document) : null;
  return parsed.success && read?.ok ? { revision: parsed.data.revision, document: read.machine } : null;
}

const conflictSchema = z.object({ current: storedSchema });
const revisionSchema = z.object({ revision: z.number() });

export async function saveMachine(id: string, base: number, document: Machine, label: string): Promise<Saved> {
  const response = await send("PUT", `/api/machines/${id}`, { base, document, label });
  if (!response) return OFFLINE;
  if (response.ok) return { ok: true, revision: revisionSchema.parse(await response.json()).revision };
  if (response.status === 409) {
    const parsed = conflictSchema.safeParse(await response.json());
    const read = parsed.success ? readMachine(parsed.data.current.document) : null;
    if (parsed.success && read?.ok) return { ok: false, kind: "conflict", revision: parsed.data.current.revision, document: read.machine };
  }
  return failure(response);
}

const shelfSchema = z.array(shelfItemSchema);

/** Parts on the shelf; null when the server does not answer. */
export async function fetchShelf(): Promise<ShelfItem[] | null> {
  const response = await fetch("/api/shelf").catch(() => null);
  if (!response?.ok) return null;
  const parsed = shelfSchema.safeParse(await response.json().catch(() => null));
  return parsed.success ? parsed.data : null;
}

export async function putOnShelf(part: ShelfPart): Promise<ShelfItem | Failure> {
  const response = await send("POST", "/api/shelf", part);
  if (!response) return OFFLINE;
  return response.ok ? shelfItemSchema.parse(await response.json()) : failure(response);
}

export async function takeOffShelf(id: string): Promise<boolean> {
  return (await send("DELETE", `/api/shelf/${id}`))?.ok ?? false;
}

/** Sizes, fuses and connectors kept for all machines; null where none are or the server does not answer. */
export async function fetchStock(): Promise<Stock | null> {
  const response = await send("GET", "/api/shelf/stock");
  const body: unknown = response?.ok ? await response.json().catch(() => null) : null;
  return stockSchema.safeParse(body).data ?? null;
}

export async function keepStock(stock: Stock): Promise<boolean> {
  return (await send("PUT", "/api/shelf/stock", stock))?.ok ?? false;
}
