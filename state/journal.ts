import { type DBSchema, type IDBPDatabase, type IDBPTransaction, openDB } from "idb";
import { z } from "zod";
import { type Edit, editSchema } from "@/core/machine/changes";
import { WriteAhead } from "./write-ahead";

const owner = { machine: z.string().max(60), window: z.string().max(20), base: z.int() };
const entrySchema = z.object({ ...editSchema.shape, ...owner, turn: z.enum(["do", "undo", "redo"]), saved: z.boolean() });
const draftSchema = z.object({ ...owner, field: z.string(), text: z.string(), edit: editSchema.nullable() });

/**
 * An edit as the browser keeps it: until it is saved so that it is not lost, afterwards so that it can be undone. `base` is
 * the revision it was made on, `window` the window it was made in; undoing and redoing are edits, too.
 */
export type Entry = z.infer<typeof entrySchema>;
/** How an edit came about. */
export type Turn = Entry["turn"];
/** A text that stands in a field that was not left yet, and the edit it would be. Null: it is none that the field takes. */
export type Draft = z.infer<typeof draftSchema>;

interface Stores extends DBSchema {
  entries: { key: number; value: Entry; indexes: { machine: string; id: string } };
  drafts: { key: string; value: Draft; indexes: { machine: string } };
}
/** What keeps edits until they are saved: the journal, as the open machine sees it. */
export interface Keeper {
  put: (entry: Omit<Entry, "window" | "saved">) => void;
  saved: (ids: readonly string[]) => void;
  drop: (ids: readonly string[]) => void;
  change: (edits: readonly Edit[]) => void;
}

type StoreName = "entries" | "drafts";
type Writing = IDBPTransaction<Stores, StoreName[], "readwrite">;

/** What is left of windows that are closed, and of this one before it was loaded anew. */
export interface Left {
  readonly entries: readonly Entry[];
  readonly drafts: readonly Draft[];
}

/** The edits among what was left that are not saved yet, in order: texts that were not left come last. */
export function unsavedOf({ entries, drafts }: Left): Edit[] {
  const edits = entries.filter(({ saved }) => !saved).map(({ id, at, label, changes }) => ({ id, at, label, changes }));
  return [...edits, ...drafts.flatMap(({ edit }) => edit ?? [])];
}

/** Saved edits kept of each machine for undoing. */
const KEPT = 500;
/** Days an edit that was saved can be undone. */
const KEPT_DAYS = 30;

/**
 * The browser's own store of edits. Writing is asked for in the same turn as the screen changes. Until the browser says that
 * it is done, what is written stands in the write-ahead, too: a transaction under way is lost with a tab that is closed.
 */
export class Journal {
  private db: IDBPDatabase<Stores> | null = null;
  private readonly opened: Promise<void>;
  private readonly early: (() => void)[] = [];
  private readonly ahead = new WriteAhead();
  /** The browser keeps nothing: its store is switched off, full or broken. */
  broken = false;

  constructor(
    readonly window: string,
    name = "node-ledger",
  ) {
    this.opened = this.open(name).catch(() => this.fail());
  }

  private async open(name: string): Promise<void> {
    this.db = await openDB<Stores>(name, 1, {
      upgrade(db) {
        const entries = db.createObjectStore("entries", { autoIncrement: true });
        entries.createIndex("machine", "machine");
        entries.createIndex("id", "id");
        db.createObjectStore("drafts").createIndex("machine", "machine");
      },
    });
    for (const write of this.early.splice(0)) write();
  }

  /** Keeps an edit. */
  put(entry: Omit<Entry, "window" | "saved">): void {
    const value: Entry = { ...entry, window: this.window, saved: false };
    this.ahead.put("entry", entry.id, value);
    this.write(
      ["entries"],
      (tx) => void tx.objectStore("entries").put(value),
      () => this.ahead.drop("entry", entry.id),
    );
  }

  /** These are in the machine: they are kept for undoing alone. */
  saved(ids: readonly string[]): void {
    this.each(ids, (entry) => ({ ...entry, saved: true }));
  }

  /** These are not wanted any more. */
  drop(ids: readonly string[]): void {
    this.each(ids, () => null);
  }

  /** Puts other changes in the place of those of an edit. */
  change(edits: readonly Edit[]): void {
    const byId = new Map(edits.map((edit) => [edit.id, edit]));
    this.each([...byId.keys()], (entry) => ({ ...entry, changes: byId.get(entry.id)?.changes ?? entry.changes }));
  }

  /** Keeps the text of a field that is not left yet; null: it was left. */
  draft(machine: string, place: string, draft: { field: string; text: string; base: number; edit: Edit | null } | null): void {
    const key = `${this.window} ${machine} ${place}`;
    const value = draft && { ...draft, machine, window: this.window };
    if (value) this.ahead.put("draft", key, value);
    else this.ahead.drop("draft", key);
    this.write(
      ["drafts"],
      (tx) => void (value ? tx.objectStore("drafts").put(value, key) : tx.objectStore("drafts").delete(key)),
      () => this.ahead.drop("draft", key, value),
    );
  }

  /** Machines that have edits here which were not saved, or texts that were not left. */
  async machines(): Promise<string[]> {
    await this.opened;
    const [entries, drafts] = this.db ? await Promise.all([this.db.getAll("entries"), this.db.getAll("drafts")]) : [[], []];
    const ahead = [...this.ahead.all("entry", entrySchema), ...this.ahead.all("draft", draftSchema)].map(({ value }) => value);
    return [...new Set([...entries.filter(({ saved }) => !saved), ...drafts, ...ahead].map(({ machine }) => machine))];
  }

  /**
   * Takes over what windows left behind that are no more: theirs are this window's from now on, and are given back with the
   * window they were made in. What is long saved is let go.
   * @param alive windows that are still open
   */
  async take(machine: string, alive: ReadonlySet<string>): Promise<Left> {
    await this.opened;
    if (!this.db) return { entries: [], drafts: [] };
    const orphan = ({ window, machine: of }: Entry | Draft) => of === machine && (window === this.window || !alive.has(window));
    const ahead = {
      entries: this.ahead.all("entry", entrySchema).filter(({ value }) => orphan(value) && value.window !== this.window),
      drafts: this.ahead.all("draft", draftSchema).filter(({ value }) => orphan(value) && value.window !== this.window),
    };
    const tx = this.db.transaction(["entries", "drafts"], "readwrite", { durability: "strict" });
    const [entries, texts] = [tx.objectStore("entries"), tx.objectStore("drafts")];
    const mine: { key: number; entry: Entry }[] = [];
    for (let at = await entries.index("machine").openCursor(machine); at; at = await at.continue()) {
      const entry = entrySchema.safeParse(at.value);
      if (!entry.success) void at.delete();
      else if (orphan(entry.data)) mine.push({ key: at.primaryKey, entry: entry.data });
    }
    // Those whose transaction went down with their tab.
    for (const { value } of ahead.entries)
      if (!mine.some(({ entry }) => entry.id === value.id)) mine.push({ key: await entries.put(value), entry: value });
    const oldest = new Date(Date.now() - KEPT_DAYS * 86_400_000).toISOString();
    const gone = mine.filter(({ entry }, i) => entry.saved && (i < mine.length - KEPT || entry.at < oldest));
    for (const { key } of gone) void entries.delete(key);
    const kept = mine.filter((each) => !gone.includes(each));
    for (const { key, entry } of kept) void entries.put({ ...entry, window: this.window }, key);
    const drafts = new Map<string, Draft>();
    for (let at = await texts.index("machine").openCursor(machine); at; at = await at.continue()) {
      const draft = draftSchema.safeParse(at.value);
      if (draft.success && (!orphan(draft.data) || draft.data.window === this.window)) continue;
      if (draft.success) drafts.set(String(at.primaryKey), draft.data);
      void at.delete();
    }
    for (const { key, value } of ahead.drafts) drafts.set(key, value);
    // A text becomes an edit in the same transaction that takes it out of its field: there is no moment without it.
    for (const { edit, base } of drafts.values())
      if (edit) void entries.put({ ...edit, machine, window: this.window, base, turn: "do", saved: false });
    await tx.done;
    for (const { key } of ahead.entries) this.ahead.drop("entry", key);
    for (const { key } of ahead.drafts) this.ahead.drop("draft", key);
    return { entries: kept.map(({ entry }) => entry), drafts: [...drafts.values()] };
  }

  close(): void {
    this.db?.close();
  }

  private each(ids: readonly string[], next: (entry: Entry) => Entry | null): void {
    if (ids.length === 0) return;
    this.write(
      ["entries"],
      (tx) => {
        const store = tx.objectStore("entries");
        for (const id of ids)
          void store
            .index("id")
            .openCursor(id)
            .then((at) => {
              if (!at) return;
              const entry = next(at.value);
              void (entry ? at.update(entry) : at.delete());
            });
      },
      null,
    );
  }

  /**
   * Asks for a write now.
   * @param done told when it is kept; null: it reads first, so that its end is not known yet
   */
  private write(stores: StoreName[], what: (tx: Writing) => void, done: (() => void) | null): void {
    if (this.broken) return;
    if (!this.db) return void this.early.push(() => this.write(stores, what, done));
    try {
      const tx = this.db.transaction(stores, "readwrite", { durability: "strict" });
      what(tx);
      if (done) tx.commit();
      tx.done.then(
        () => done?.(),
        () => this.fail(),
      );
    } catch {
      this.fail();
    }
  }

  private fail(): void {
    this.broken = true;
  }
}
