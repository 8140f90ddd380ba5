import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";

async function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, "127.0.0.1", () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === "object" && address ? address.port : 0));
    });
  });
}

const EXAMPLE_KEYS = ["reedcutter", "reedcutter-corrected", "carillon", "carillon-corrected", "marble-lift", "marble-lift-corrected"];

/** The built application on a database of its own, which can be killed and started again. */
export class App {
  private child: ChildProcess | null = null;
  readonly database: string;

  /** @param folder where its ledger is; a folder of its own unless another is given */
  constructor(readonly folder = mkdtempSync(join(tmpdir(), "node-ledger-e2e-"))) {
    this.database = join(folder, "ledger.db");
  }

  url = "";
  private port = 0;

  get pid(): number {
    return this.child?.pid ?? 0;
  }

  /** Where phones find this application; empty unless it was started for them. */
  phoneUrl = "";

  async start(phones = false): Promise<void> {
    this.port ||= await freePort();
    this.url = `http://127.0.0.1:${this.port}`;
    const phonePort = phones ? String(await freePort()) : "";
    if (phones) this.phoneUrl = `http://127.0.0.1:${phonePort}`;
    this.child = spawn(process.execPath, [".next/node-ledger/main.mjs", "127.0.0.1", String(this.port), ...(phones ? [phonePort] : [])], {
      stdio: "ignore",
      env: { ...process.env, NODE_ENV: "production", NODE_LEDGER_DB: this.database, NEXT_TELEMETRY_DISABLED: "1" },
    });
    for (let tries = 0; tries < 200; tries++) {
      // A ledger that cannot be used is answered, too.
      if (await fetch(`${this.url}/api/machines`).catch(() => null)) return;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error("the application did not start");
  }

  async kill(): Promise<void> {
    const child = this.child;
    if (!child) return;
    const gone = new Promise((resolve) => child.once("exit", resolve));
    child.kill("SIGKILL");
    await gone;
    this.child = null;
  }

  /** Stops its process where it stands, or lets it go on: a server that is there and answers nothing. */
  freeze(frozen: boolean): void {
    this.child?.kill(frozen ? "SIGSTOP" : "SIGCONT");
  }

  async stop(): Promise<void> {
    await this.kill();
    rmSync(this.folder, { recursive: true });
  }

  private examples = new Map<string, string>();

  /** Makes the example machines, which stay when `clear` takes the others away. */
  async seed(keys: readonly string[] = EXAMPLE_KEYS): Promise<void> {
    for (const key of keys) {
      const id = await this.create({ kind: "example", key });
      this.examples.set((await this.document(id)).document.name, id);
    }
  }

  /** The id of an example by its name. The list is not asked: it would work out all of them. */
  example(name: string): string {
    const id = this.examples.get(name);
    if (!id) throw new Error(`no example ${name}`);
    return id;
  }

  /** A generated machine of about so many parts, as a document; `driven`: its motors by their states, its drivers alive. */
  generated(parts: number, seed: number, modes = 6, driven = false): { parts: { kind: string }[] } {
    const words = ["tests/support/print-machine.ts", parts, seed, modes, driven ? "driven" : "plain"].map(String);
    const run = spawnSync("node_modules/.bin/tsx", words, { encoding: "utf8" });
    if (run.status !== 0) throw new Error(run.stderr);
    return JSON.parse(run.stdout);
  }

  async create(body: unknown): Promise<string> {
    // A large machine was made before this, and meanwhile the server closed the connection that is kept: that is heard first.
    await new Promise((resolve) => setImmediate(resolve));
    const answer = await fetch(`${this.url}/api/machines`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(body),
    });
    return ((await answer.json()) as { id: string }).id;
  }

  /** Takes all machines but the examples and what lies on the shelf away again, so that the next test meets what `seed` left. */
  async clear(): Promise<void> {
    // Also those made on the screen. The list is not asked here either.
    const ledger = new Database(this.database, { readonly: true });
    const ids = ledger.prepare<[], string>("SELECT id FROM machine WHERE deleted_at IS NULL").pluck().all();
    ledger.close();
    const examples = new Set(this.examples.values());
    for (const id of ids.filter((each) => !examples.has(each))) await fetch(`${this.url}/api/machines/${id}`, { method: "DELETE" });
    const shelf = await fetch(`${this.url}/api/shelf`);
    for (const { id } of shelf.ok ? ((await shelf.json()) as { id: string }[]) : [])
      await fetch(`${this.url}/api/shelf/${id}`, { method: "DELETE" });
  }

  async document(id: string): Promise<{
    revision: number;
    document: {
      name: string;
      parts: { id: string; name: string }[];
      wires: { id: string; gauge?: string; from: { part: string }; to: { part: string } }[];
      decisions?: { id: string; reason: string }[];
    };
  }> {
    return (await fetch(`${this.url}/api/machines/${id}`)).json();
  }
}
