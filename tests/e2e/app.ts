import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { AxeBuilder } from "@axe-core/playwright";
import { test as base, expect, type Page } from "@playwright/test";

async function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, "127.0.0.1", () => {
      const address = probe.address();
      probe.close(() => resolve(typeof address === "object" && address ? address.port : 0));
    });
  });
}

/** The built application on a database of its own, which can be killed and started again. */
export class App {
  private child: ChildProcess | null = null;
  readonly folder = mkdtempSync(join(tmpdir(), "node-ledger-e2e-"));
  readonly database = join(this.folder, "ledger.db");
  url = "";
  private port = 0;

  async start(): Promise<void> {
    this.port ||= await freePort();
    this.url = `http://127.0.0.1:${this.port}`;
    this.child = spawn(process.execPath, ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", String(this.port)], {
      stdio: "ignore",
      env: { ...process.env, NODE_ENV: "production", NODE_LEDGER_DB: this.database, NEXT_TELEMETRY_DISABLED: "1" },
    });
    for (let tries = 0; tries < 200; tries++) {
      const answer = await fetch(`${this.url}/api/machines`).catch(() => null);
      if (answer?.ok) return;
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

  seed(): void {
    const run = spawnSync("node_modules/.bin/tsx", ["scripts/seed-demo.ts", this.database], { encoding: "utf8" });
    if (run.status !== 0) throw new Error(run.stderr);
  }

  async create(body: unknown): Promise<string> {
    const answer = await fetch(`${this.url}/api/machines`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(body),
    });
    return ((await answer.json()) as { id: string }).id;
  }

  async document(id: string): Promise<{
    revision: number;
    document: {
      name: string;
      parts: { id: string; name: string }[];
      wires: { id: string; gauge?: string; from: { part: string }; to: { part: string } }[];
    };
  }> {
    return (await fetch(`${this.url}/api/machines/${id}`)).json();
  }
}

/** One application a file; every page fails its test on a console error. */
export const test = base.extend<{ page: Page }, { app: App }>({
  app: [
    // biome-ignore lint/correctness/noEmptyPattern: Playwright reads the fixture's needs from this pattern
    async ({}, use) => {
      const app = new App();
      app.seed();
      await app.start();
      await use(app);
      await app.kill();
      rmSync(app.folder, { recursive: true });
    },
    { scope: "worker" },
  ],
  page: async ({ page }, use) => {
    const errors: string[] = [];
    page.on("console", (message) => {
      if (message.type() === "error") errors.push(message.text());
    });
    page.on("pageerror", (error) => errors.push(error.message));
    await use(page);
    // A refused or unreachable request is the subject of some tests; the browser logs those itself.
    expect(errors.filter((text) => !/Failed to load resource|net::ERR/.test(text))).toEqual([]);
  },
});

export async function openMachine(page: Page, app: App, name: string, step: string): Promise<string> {
  const list = (await (await fetch(`${app.url}/api/machines`)).json()) as { id: string; name: string }[];
  const id = list.find((each) => each.name === name)?.id ?? "";
  await page.goto(`${app.url}/m/${id}/${step}`);
  await analysed(page);
  return id;
}

/** Waits until the figures on the screen are those of the plan. */
export async function analysed(page: Page): Promise<void> {
  await expect(page.locator('[data-ready="yes"]')).toBeAttached();
}

export async function saved(page: Page): Promise<void> {
  await expect(page.locator('[data-save="saved"]')).toBeVisible();
}

/** No accessibility violation that axe can find, on the page or in one part of it (the rest is covered by its own test). */
export async function accessible(page: Page, within?: string): Promise<void> {
  const builder = new AxeBuilder({ page });
  const { violations } = await (within ? builder.include(within) : builder).analyze();
  expect(
    violations.map(
      ({ id, nodes }) =>
        `${id}: ${nodes
          .map((node) => node.target.join(" "))
          .slice(0, 3)
          .join(" | ")}`,
    ),
  ).toEqual([]);
}

export { expect };
