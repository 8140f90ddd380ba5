import { z } from "zod";
import { createStore, type StoreApi } from "zustand/vanilla";
import { kitSchema } from "@/core/bringup/kit";
import { EMPTY_LOG, type Log, type Reading, readingSchema, type Waiver, waiverSchema } from "@/core/bringup/log";
import { type Kit, USUAL_KIT } from "@/core/bringup/types";
import { waitAfter } from "./saving";

/** Readings, waivers and a kit as they are sent. */
export interface Sent {
  readings: readonly Reading[];
  waivers: readonly Waiver[];
  kit?: Kit;
}

/** What came of a sending or a fetching: what the server knows, that it does not answer, or why it refused. */
export type Answered<T> = { ok: true; value: T } | { ok: false; again: boolean; detail: string };

/** How a log gets to the server and back: from the workbench, or from a phone. */
export interface LogLine {
  fetch: () => Promise<Answered<StoredLog>>;
  send: (sent: Sent) => Promise<Answered<{ version: number }>>;
}

/** A log as the server has it. */
export const storedLogSchema = z.object({
  log: z.object({ readings: z.array(readingSchema), waivers: z.array(waiverSchema) }),
  kit: kitSchema,
  version: z.number(),
});
/** A log as the server has it. */
export type StoredLog = z.infer<typeof storedLogSchema>;

export interface LogState {
  /** Everything that was read, sent or not, oldest first. */
  log: Log;
  kit: Kit;
  /** Readings and waivers that the server does not have yet. */
  unsent: number;
  /** Why they wait; null while nothing hinders. */
  waits: string | null;
  /** The server was heard once. */
  fetched: boolean;
  add: (readings: readonly Reading[]) => void;
  strike: (queueId: string, struck: boolean) => void;
  waive: (waiver: Waiver) => void;
  endWaiver: (queueId: string) => void;
  setKit: (kit: Kit) => void;
  /** Asks the server for what others have added. */
  refresh: () => Promise<void>;
  stop: () => void;
}

export type LogStore = StoreApi<LogState>;

/** Where what was not sent yet is kept: a plain storage that is written in the same turn and is there after a reload. */
export interface Shelf {
  readonly length: number;
  key(index: number): string | null;
  getItem(key: string): string | null;
  setItem(key: string, text: string): void;
  removeItem(key: string): void;
}

const SETTLE_MS = 60;
/** Most that goes in one request. */
const BATCH = 200;

const queuedSchema = z.union([
  z.object({ kind: z.literal("reading"), value: readingSchema }),
  z.object({ kind: z.literal("waiver"), value: waiverSchema }),
  z.object({ kind: z.literal("kit"), value: kitSchema }),
]);
type Queued = z.infer<typeof queuedSchema>;

/**
 * The log of the open machine. What is read is there at once and put in plain storage in the same turn, each under its own name;
 * it goes to the server as soon as that answers, and is forgotten here only when it said so. Sending twice does no harm.
 * @param known what the server had when it was last heard
 */
export function createLog(machineId: string, line: LogLine, shelf: Shelf, waitMs = waitAfter, known: StoredLog | null = null): LogStore {
  const prefix = `node-ledger reading ${machineId} `;
  const keyOf = (queued: Queued) => `${prefix}${queued.kind} ${queued.kind === "kit" ? "" : queued.value.queueId}`;
  let timer: ReturnType<typeof setTimeout> | null = null;
  let sending = false;
  let failures = 0;
  let stopped = false;
  let stored: Log = known?.log ?? EMPTY_LOG;
  let storedKit: Kit = known?.kit ?? USUAL_KIT;

  /** What the storage had no room for. */
  const overflow = memoryShelf();
  const queue = (): Queued[] => {
    const found: Queued[] = [];
    for (const each of [shelf, overflow])
      for (let i = 0; i < each.length; i++) {
        const key = each.key(i);
        const text = key?.startsWith(prefix) ? each.getItem(key) : null;
        if (text === null) continue;
        const read = queuedSchema.safeParse(jsonOf(text));
        if (read.success) found.push(read.data);
      }
    return found;
  };
  const put = (queued: Queued) => {
    const [key, text] = [keyOf(queued), JSON.stringify(queued)];
    try {
      shelf.setItem(key, text);
    } catch {
      overflow.setItem(key, text);
    }
  };

  return createStore<LogState>()((set, get) => {
    const show = () => {
      const queued = queue();
      const kit = queued.find((each) => each.kind === "kit");
      const log = withQueued(stored, queued);
      set({
        log: log.readings.length + log.waivers.length === 0 ? EMPTY_LOG : log,
        kit: kit?.value ?? storedKit,
        unsent: queued.length,
      });
    };
    const keep = (queued: readonly Queued[]) => {
      for (const each of queued) put(each);
      show();
      after(SETTLE_MS);
    };
    const after = (ms: number) => {
      if (timer !== null || sending || stopped) return;
      timer = setTimeout(() => void pump(), ms);
    };
    const pump = async () => {
      timer = null;
      if (sending || stopped) return;
      const batch = queue().slice(0, BATCH);
      if (batch.length === 0) return;
      sending = true;
      const kit = batch.find((each) => each.kind === "kit");
      const answer = await line.send({
        ...sorted(batch),
        ...(kit ? { kit: kit.value } : {}),
      });
      sending = false;
      if (stopped) return;
      if (!answer.ok) {
        failures++;
        set({ waits: answer.detail });
        // What the server will never take stays here, and is said; what it may take later is tried again.
        if (answer.again) after(waitMs(failures));
        return;
      }
      failures = 0;
      settle(batch);
      set({ waits: null });
      if (queue().length > 0) after(0);
    };
    /** The server has these: they are part of what is stored, and leave the queue unless they were changed meanwhile. */
    const settle = (batch: readonly Queued[]) => {
      for (const each of batch) {
        const key = keyOf(each);
        for (const place of [shelf, overflow]) if (place.getItem(key) === JSON.stringify(each)) place.removeItem(key);
      }
      stored = withQueued(stored, batch);
      storedKit = batch.find((each) => each.kind === "kit")?.value ?? storedKit;
      show();
    };
    return {
      log: stored,
      kit: storedKit,
      unsent: 0,
      waits: null,
      fetched: false,
      add: (readings) => keep(readings.map((value) => ({ kind: "reading", value }))),
      strike: (queueId, struck) => {
        const reading = get().log.readings.find((each) => each.queueId === queueId);
        if (reading) keep([{ kind: "reading", value: { ...reading, struck } }]);
      },
      waive: (value) => keep([{ kind: "waiver", value }]),
      endWaiver: (queueId) => {
        const waiver = get().log.waivers.find((each) => each.queueId === queueId);
        if (waiver) keep([{ kind: "waiver", value: { ...waiver, ended: true } }]);
      },
      setKit: (value) => keep([{ kind: "kit", value }]),
      refresh: async () => {
        const answer = await line.fetch();
        if (stopped) return;
        if (answer.ok) {
          stored = answer.value.log;
          storedKit = answer.value.kit;
          set({ fetched: true });
        }
        show();
        if (queue().length > 0) after(0);
      },
      stop: () => {
        stopped = true;
        if (timer !== null) clearTimeout(timer);
      },
    };
  });
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** Readings and waivers of a queue, apart. */
function sorted(queued: readonly Queued[]): { readings: Reading[]; waivers: Waiver[] } {
  return {
    readings: queued.flatMap((each) => (each.kind === "reading" ? [each.value] : [])),
    waivers: queued.flatMap((each) => (each.kind === "waiver" ? [each.value] : [])),
  };
}

/** A log with what is queued on top of it. */
function withQueued({ readings, waivers }: Log, queued: readonly Queued[]): Log {
  const more = sorted(queued);
  return {
    readings: joined(readings, more.readings, ({ takenAt }) => takenAt),
    waivers: joined(waivers, more.waivers, ({ at }) => at),
  };
}

/** Both lists, what is in both as the second has it, in the order of time. */
function joined<T extends { queueId: string }>(first: readonly T[], second: readonly T[], at: (each: T) => string): T[] {
  if (second.length === 0) return [...first];
  const all = new Map([...first, ...second].map((each) => [each.queueId, each]));
  return [...all.values()].sort((a, b) => at(a).localeCompare(at(b)));
}

/** A storage that lasts as long as the page. */
export function memoryShelf(kept = new Map<string, string>()): Shelf {
  return {
    get length() {
      return kept.size;
    },
    key: (index) => [...kept.keys()][index] ?? null,
    getItem: (key) => kept.get(key) ?? null,
    setItem: (key, text) => void kept.set(key, text),
    removeItem: (key) => void kept.delete(key),
  };
}

/** The browser's own plain storage; where it has none, what was not sent is kept as long as the page is open. */
export function plainStorage(): Shelf {
  try {
    const { localStorage } = globalThis;
    localStorage.getItem("node-ledger");
    return localStorage;
  } catch {
    return memoryShelf();
  }
}
