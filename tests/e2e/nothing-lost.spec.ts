import type { BrowserContext, Page } from "@playwright/test";
import Database from "better-sqlite3";
import type { App } from "../support/app";
import { randomFrom } from "../support/random";
import { accessible, analysed, expect, saved, test } from "./app";

/** The long run tries many more. */
const LONG = process.env.NODE_LEDGER_SEEDS === "all";

const cell = (page: Page, load = "Lift screw", mode = "Running") => page.getByRole("button", { name: `${load} in ${mode}. Edit` });

async function type(page: Page, amps: string, load?: string, mode?: string, end = "Enter"): Promise<void> {
  await cell(page, load, mode).focus();
  await page.keyboard.press("F2");
  await page.keyboard.press("Control+a");
  await page.keyboard.type(amps);
  if (end) await page.keyboard.press(end);
}

async function open(context: BrowserContext, app: App, id: string, step = "loads"): Promise<Page> {
  const page = await context.newPage();
  await page.goto(`${app.url}/m/${id}/${step}`);
  await analysed(page);
  return page;
}

const marble = (app: App) => app.create({ kind: "example", key: "marble-lift" });
/** Amps of a load in a mode, as the ledger has them. */
async function stored(app: App, id: string, load = "screw", mode = "run"): Promise<number | undefined> {
  const { document } = (await app.document(id)) as unknown as {
    document: { parts: { id: string; cells?: Record<string, { amps?: { value: number } }> }[] };
  };
  return document.parts.find((part) => part.id === load)?.cells?.[mode]?.amps?.value;
}

test("a tab that is closed a moment after an edit loses nothing, left cell or not", async ({ app, context }) => {
  test.setTimeout(LONG ? 600_000 : 120_000);
  const id = await marble(app);
  const times = LONG ? 50 : 2;
  for (let i = 0; i < times; i++) {
    const page = await open(context, app, id);
    const amps = (0.31 + i / 200).toFixed(3);
    await type(page, `${amps} A`, undefined, undefined, i % 2 === 1 ? "" : "Enter");
    await page.waitForTimeout((i * 100) / times);
    await page.close();
    const next = await open(context, app, id);
    await saved(next);
    await expect.poll(() => stored(app, id)).toBeCloseTo(Number(amps), 9);
    await next.close();
  }
});

test("a tab that is closed while the server is dead loses nothing; whichever page is opened next says so", async ({ app, context }) => {
  test.setTimeout(LONG ? 900_000 : 150_000);
  const id = await marble(app);
  const times = LONG ? 30 : 2;
  for (let i = 0; i < times; i++) {
    const page = await open(context, app, id);
    await app.kill();
    const amps = (0.31 + i / 200).toFixed(3);
    await type(page, `${amps} A`, undefined, undefined, i % 3 === 2 ? "" : "Enter");
    await page.waitForTimeout((i * 100) / times);
    await page.close();
    await app.start();
    const next = await context.newPage();
    await next.goto(i % 2 === 0 ? `${app.url}/m/${id}/loads` : app.url);
    await expect(next.getByText(/1 edit.* still here/).first()).toBeVisible();
    await expect.poll(() => stored(app, id)).toBeCloseTo(Number(amps), 9);
    if (i % 2 === 0) {
      await analysed(next);
      await saved(next);
      // It can be undone by the window that took it up.
      await expect(next.getByRole("button", { name: "Undo", exact: true })).toBeEnabled();
    }
    await next.close();
  }
});

test("kills of the server in the midst of typing lose nothing that was on the screen", async ({ page, app }) => {
  test.setTimeout(LONG ? 2_400_000 : 150_000);
  const random = randomFrom(7);
  const id = await marble(app);
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  const places = [
    ["Lift screw", "Waiting", "screw", "wait"],
    ["Lift screw", "Running", "screw", "run"],
    ["Gate", "Waiting", "gate", "wait"],
    ["Gate", "Running", "gate", "run"],
  ] as const;
  const shown = new Map<string, number>();
  for (let kill = 0; kill < (LONG ? 200 : 3); kill++) {
    const killing = new Promise((resolve) => setTimeout(resolve, random() * 900)).then(() => app.kill());
    for (let i = 0; i < 4; i++) {
      const [load, mode, part, of] = places[Math.floor(random() * places.length)] as (typeof places)[number];
      const amps = Number((0.1 + random() * 0.4).toFixed(4));
      await type(page, `${amps} A`, load, mode);
      shown.set(`${part} ${of}`, amps);
    }
    await killing;
    await app.start();
  }
  await expect(page.locator('[data-save="saved"]')).toBeVisible();
  for (const [place, amps] of shown) {
    const [part, mode] = place.split(" ");
    expect(await stored(app, id, part, mode), place).toBeCloseTo(amps, 9);
  }
});

test("without the server steps go on being switched, the list is not opened, and what is typed is saved when it is back", async ({
  page,
  app,
}) => {
  const id = await marble(app);
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  await app.kill();
  await type(page, "0.55 A");
  await expect(page.getByRole("button", { name: "Not saved yet" })).toBeVisible();
  for (const step of ["Sources", "Feeds", "Returns", "Sheet", "Loads"]) {
    await page
      .getByRole("navigation", { name: "Steps" })
      .getByRole("link", { name: new RegExp(`^${step}`) })
      .click();
    await expect(page).toHaveURL(new RegExp(`/${step.toLowerCase()}$`));
    await analysed(page);
  }
  await expect(cell(page)).toContainText("0.55");
  await page.goBack();
  await expect(page).toHaveURL(/\/sheet$/);
  await page.goForward();
  await page.getByRole("link", { name: "All machines" }).click();
  await expect(page.getByText("this page stays open")).toBeVisible();
  await expect(cell(page)).toContainText("0.55");
  await page.getByRole("button", { name: "Not saved yet" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("1 edit not saved");
  await accessible(page, '[role="dialog"]');
  await dialog.getByRole("button", { name: "Try now" }).click();
  await expect(dialog).toContainText("1 edit not saved");
  await app.start();
  // It is tried by itself, too: whichever comes first.
  await expect(page.locator('[data-save="saved"]')).toBeVisible();
  await expect(dialog).toHaveCount(0);
  expect(await stored(app, id)).toBe(0.55);
});

test("a server that answers nothing is not waited for without end", async ({ page, app }) => {
  const id = await marble(app);
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  app.freeze(true);
  await type(page, "0.56 A");
  await expect(page.locator('[data-save="saving"]')).toBeVisible();
  await expect(page.getByRole("button", { name: "Not saved yet" })).toBeVisible();
  app.freeze(false);
  await expect(page.locator('[data-save="saved"]')).toBeVisible();
  expect(await stored(app, id)).toBe(0.56);
});

test("a text that does not fit is told after the tab was closed on it", async ({ app, context }) => {
  const id = await marble(app);
  const page = await open(context, app, id);
  await type(page, "0.4 q", undefined, undefined, "");
  await page.waitForTimeout(100);
  await page.close();
  const next = await open(context, app, id);
  await expect(next.getByText("“0.4 q” still stood in Lift screw in Running")).toBeVisible();
  await next.close();
});

test("undo survives a reload, and a step by a key saves what stands in the cell", async ({ page, app }) => {
  const id = await marble(app);
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  await type(page, "0.41 A");
  await type(page, "0.42 A");
  await saved(page);
  await page.reload();
  await analysed(page);
  const undo = page.getByRole("button", { name: "Undo", exact: true });
  await expect(undo).toBeEnabled();
  await undo.click();
  await expect(cell(page)).toContainText("0.41");
  await page.reload();
  await analysed(page);
  await page.getByRole("button", { name: "Redo", exact: true }).click();
  await expect(cell(page)).toContainText("0.42");
  await undo.click();
  await undo.click();
  await expect(cell(page)).toContainText("run");
  await expect(undo).toBeDisabled();
});

test("another window shows what was saved when it comes to the front; edits of other figures go together", async ({ app, context }) => {
  const id = await marble(app);
  const [one, other] = [await open(context, app, id), await open(context, app, id)];
  await type(one, "0.41 A");
  await saved(one);
  await expect(cell(other)).toContainText("0.41");
  // Both edit at once, while nothing of the other's can arrive.
  await other.route("**/api/**", (route) => route.abort());
  await type(other, "0.22 A", "Gate");
  await type(one, "0.43 A");
  await saved(one);
  await other.unroute("**/api/**");
  await saved(other);
  await expect(other.getByText(/Joined with edits from another window/)).toBeVisible();
  await expect(cell(other)).toContainText("0.43");
  await expect(cell(one, "Gate")).toContainText("0.22");
  expect([await stored(app, id), await stored(app, id, "gate")]).toEqual([0.43, 0.22]);
  await one.close();
  await other.close();
});

test("the same figure changed in two windows asks, with both values; mine can be kept as a copy", async ({ app, context }) => {
  const id = await marble(app);
  const [one, other] = [await open(context, app, id), await open(context, app, id)];
  const clash = async (mine: string, theirs: string) => {
    await other.route("**/api/**", (route) => route.abort());
    await type(other, mine);
    await type(one, theirs);
    await saved(one);
    await other.unroute("**/api/**");
    const dialog = other.getByRole("dialog");
    await expect(dialog).toContainText("The same figure was changed twice");
    return dialog;
  };
  const dialog = await clash("0.61 A", "0.62 A");
  await expect(dialog).toContainText("0.61");
  await expect(dialog).toContainText("0.62");
  await accessible(other, '[role="dialog"]');
  await expect(dialog.getByRole("button", { name: "Choose one value" })).toBeDisabled();
  await dialog.getByLabel(/^Here/).check();
  await dialog.getByRole("button", { name: "Go on with this" }).click();
  await saved(other);
  expect(await stored(app, id)).toBe(0.61);
  await expect(cell(one)).toContainText("0.61");
  await (await clash("0.63 A", "0.64 A")).getByRole("button", { name: "Keep all of mine as a copy" }).click();
  await saved(other);
  expect(await stored(app, id)).toBe(0.64);
  await other.goto(app.url);
  await expect(other.getByRole("link", { name: "Marble lift, my version", exact: true })).toBeVisible();
  const list = (await (await fetch(`${app.url}/api/machines`)).json()) as { id: string; name: string }[];
  await fetch(`${app.url}/api/machines/${list.find(({ name }) => name === "Marble lift, my version")?.id}`, { method: "DELETE" });
  await one.close();
  await other.close();
});

test("two windows with many edits each end equal", async ({ app, context }) => {
  test.setTimeout(LONG ? 600_000 : 120_000);
  const id = await marble(app);
  const windows = [await open(context, app, id), await open(context, app, id)];
  const random = randomFrom(11);
  // Each has its own loads, and at times the server is out of reach for it.
  const loads = ["Lift screw", "Gate"];
  await Promise.all(
    windows.map(async (page, w) => {
      for (let i = 0; i < (LONG ? 100 : 10); i++) {
        const cutOff = random() < 0.2;
        if (cutOff) await page.route("**/api/**", (route) => route.abort());
        await type(page, `${(0.1 + random() * 0.4).toFixed(3)} A`, loads[w], random() < 0.5 ? "Waiting" : "Running");
        if (random() < 0.2) await page.keyboard.press("Control+z");
        if (cutOff) await page.unroute("**/api/**");
      }
    }),
  );
  for (const page of windows) await expect(page.locator('[data-save="saved"]')).toBeVisible();
  const texts = () => Promise.all(windows.map(async (page) => (await page.locator("tbody").first().textContent())?.replace(/\s+/g, " ")));
  await expect.poll(async () => new Set(await texts()).size).toBe(1);
  const { revision } = await app.document(id);
  for (const page of windows) await expect(page.getByText(`Saved · revision ${revision}`)).toBeVisible();
  for (const page of windows) await page.close();
});

test("the history tells what changed, shows it as it was, and restores it as an edit that can be undone", async ({ page, app }) => {
  const id = await marble(app);
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  await type(page, "0.41 A");
  await saved(page);
  await type(page, "0.42 A");
  await saved(page);
  // On a mode's cell a letter begins a word.
  await page.keyboard.press("Escape");
  await page.keyboard.press("h");
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("Lift screw: in Running 0.41 A, guess → 0.42 A, guess");
  await expect(dialog).toContainText("this window");
  await accessible(page, '[role="dialog"]');
  await dialog.getByRole("link", { name: "Look at revision 2" }).click();
  await expect(page.getByText("To be looked at only")).toBeVisible();
  await analysed(page);
  await expect(cell(page)).toContainText("0.41");
  await accessible(page);
  // Nothing can be edited there, and steps keep to it.
  await type(page, "0.9 A");
  await expect(page.getByRole("alert").filter({ hasText: "looked at only" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: /^Feeds/ }).click();
  await expect(page).toHaveURL(/feeds\?revision=2$/);
  await page.getByRole("link", { name: "Restore it" }).click();
  await expect(page.getByText("The plan is as it was at revision 2")).toBeVisible();
  await saved(page);
  expect(await stored(app, id)).toBe(0.41);
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await saved(page);
  expect(await stored(app, id)).toBe(0.42);
  await page.goto(`${app.url}/m/${id}/loads?revision=99`);
  await expect(page.getByText("not in the ledger")).toBeVisible();
});

test("a machine that is deleted elsewhere is told, and what is on the screen can be kept", async ({ page, app }) => {
  const id = await marble(app);
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  await fetch(`${app.url}/api/machines/${id}`, { method: "DELETE" });
  await type(page, "0.44 A");
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("was deleted elsewhere");
  await accessible(page, '[role="dialog"]');
  await dialog.getByRole("button", { name: "Put it back on the list" }).click();
  await saved(page);
  expect(await stored(app, id)).toBe(0.44);
});

test("a lost answer is no conflict", async ({ page, app }) => {
  const id = await marble(app);
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  // The save arrives; its answer does not.
  await page.route("**/edits", async (route) => {
    await route.fetch();
    await route.abort();
  });
  await type(page, "0.45 A");
  await expect(page.getByRole("button", { name: "Not saved yet" })).toBeVisible();
  await page.unroute("**/edits");
  await saved(page);
  await expect(page.getByRole("dialog")).toHaveCount(0);
  const database = new Database(app.database, { readonly: true });
  expect(database.prepare("SELECT count(*) AS n FROM revision WHERE machine_id = ?").get(id)).toEqual({ n: 2 });
  database.close();
});
