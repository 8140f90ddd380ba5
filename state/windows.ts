import { z } from "zod";
import { Journal } from "./journal";
import { freshKey } from "./keys";

const LOCK = "node-ledger window ";
const BEFORE = "node-ledger window";
/** How long a page that is being loaded anew waits for its former self to be gone, ms. */
const FORMER_MS = 500;

/** A revision that a window of this browser saved. */
const savedSchema = z.object({ machine: z.string(), revision: z.number() });
type Saved = z.infer<typeof savedSchema>;

/** This window among those of its browser: its name, its journal, and who else is open. */
export class OwnWindow {
  /** As the history shows it. */
  readonly name = freshKey().slice(0, 5);
  readonly journal: Journal;
  private readonly channel: BroadcastChannel;
  private readonly ready: Promise<void>;

  constructor() {
    this.journal = new Journal(this.name);
    this.channel = new BroadcastChannel("node-ledger");
    // A browser that refuses its storage tells nothing of other windows; what they hold is done twice at most, and known.
    this.ready = this.begin().catch(() => undefined);
  }

  /** Tells the other windows of a save. */
  announce(saved: Saved): void {
    this.channel.postMessage(saved);
  }

  /** Hears of saves in other windows. @returns what ends it */
  onSaved(hear: (saved: Saved) => void): () => void {
    const listen = (event: MessageEvent<unknown>) => {
      const saved = savedSchema.safeParse(event.data);
      if (saved.success) hear(saved.data);
    };
    this.channel.addEventListener("message", listen);
    return () => this.channel.removeEventListener("message", listen);
  }

  /** Windows that are open, this one included. Where the browser does not tell (no secure origin), all others count as closed. */
  async alive(): Promise<ReadonlySet<string>> {
    await this.ready;
    const held = (await navigator.locks?.query())?.held ?? [];
    return new Set([this.name, ...held.flatMap(({ name }) => (name?.startsWith(LOCK) ? [name.slice(LOCK.length)] : []))]);
  }

  /** Holds a lock for as long as the window is open; a tab that was loaded anew waits until its former self let go of its own. */
  private async begin(): Promise<void> {
    const { locks } = navigator;
    if (!locks) return;
    await new Promise<void>((held) => {
      void locks.request(LOCK + this.name, () => {
        held();
        return new Promise(() => undefined);
      });
    });
    const former = sessionStorage.getItem(BEFORE);
    sessionStorage.setItem(BEFORE, this.name);
    // A tab that was duplicated has the name of one that lives on: that one keeps its lock, and its edits.
    if (former) await locks.request(LOCK + former, { signal: AbortSignal.timeout(FORMER_MS) }, () => undefined).catch(() => undefined);
  }
}

let own: OwnWindow | null = null;

/** This window. In the browser only. */
export function ownWindow(): OwnWindow {
  own ??= new OwnWindow();
  return own;
}
