// npm run screenshots: one current picture of each main view, from the demo data, into docs/screenshots.
import { mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import { freePort, prepare, run, startServer } from "./setup.mjs";

await prepare();
const folder = mkdtempSync(join(tmpdir(), "node-ledger-shots-"));
const database = join(folder, "demo.db");
run("node_modules/.bin/tsx", ["scripts/seed-demo.ts", database]);
const port = await freePort(4870);
const url = `http://127.0.0.1:${port}`;
const server = startServer("127.0.0.1", port, database, { stdio: "ignore" });
let machines = [];
for (let tries = 0; tries < 100 && machines.length === 0; tries++) {
  machines = await fetch(`${url}/api/machines`)
    .then((answer) => answer.json())
    .catch(() => []);
  await new Promise((resolve) => setTimeout(resolve, 150));
}
const id = machines.find((each) => each.name === "Reedcutter").id;

const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
});
const out = "docs/screenshots";
mkdirSync(out, { recursive: true });

async function shoot(name, path, { theme = "light", frame = path !== "/", act } = {}) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: "reduce" });
  await page.addInitScript((value) => localStorage.setItem("theme", value), theme);
  await page.goto(url + path);
  if (frame) {
    await page.locator('[data-ready="yes"]').waitFor();
    // Remedies are shown once they were tried.
    const tried = page.locator("[data-remedy]").first();
    await tried.waitFor({ timeout: 20_000 }).catch(() => undefined);
  }
  await page.waitForTimeout(400);
  await act?.(page);
  await page.waitForTimeout(300);
  await page.screenshot({ path: join(out, `${name}.png`) });
  await page.close();
}

const choose = (row) => (page) => page.locator(`tr[data-row="${row}"] button`).first().click();
const worked = (page) => page.getByText("working it out").first().waitFor({ state: "detached", timeout: 60_000 });
await shoot("machines", "/", { act: worked });
await shoot("loads", `/m/${id}/loads`);
const view = (name, then) => async (page) => {
  await page.getByRole("tab", { name }).click();
  await page.waitForTimeout(500);
  await then?.(page);
};
await shoot("drivers", `/m/${id}/loads`, { act: view("Drivers", choose("drive-conveyor")) });
await shoot("sources", `/m/${id}/sources`, { act: choose("pack") });
const settled = (ms) => (page) => page.waitForTimeout(ms);
await shoot("run", `/m/${id}/sources`, { act: view("Run and sag", settled(1500)) });
await shoot("choose", `/m/${id}/sources`, {
  act: view("Choose", (page) => page.getByText(/of \d+ fit/).waitFor()),
});
await shoot("shelf", "/shelf", { frame: false });
const other = machines.find((each) => each.name === "Reedcutter, corrected").id;
await shoot("compare", `/compare?a=${id}&b=${other}`, {
  frame: false,
  act: (page) => page.getByRole("table", { name: "Figures" }).waitFor({ timeout: 60_000 }),
});
const laddered = async (page) => {
  await choose("drive-cutter")(page);
  await settled(1200)(page);
};
await shoot("feeds", `/m/${id}/feeds`, { act: laddered });
await shoot("feeds-dark", `/m/${id}/feeds`, { theme: "dark", act: laddered });
await shoot("settle", `/m/${id}/settle`, {
  act: (page) => page.getByRole("button", { name: /^Take all/ }).waitFor({ timeout: 60_000 }),
});
await shoot("returns", `/m/${id}/returns`, { act: settled(900) });
await shoot("bring-up", `/m/${other}/bring-up`, {
  act: (page) => page.getByRole("region", { name: "What would explain it" }).getByRole("listitem").first().waitFor({ timeout: 30_000 }),
});
await shoot("sheet", `/m/${other}/sheet`, { act: (page) => page.getByRole("region", { name: "Pages" }).waitFor({ timeout: 30_000 }) });
await shoot("fuse", `/m/${id}/feeds`, {
  act: async (page) => {
    await choose("drive-cutter")(page);
    await page.getByRole("tab", { name: "Time and current" }).click();
    await page.getByRole("button", { name: "Larger" }).click();
    await settled(900)(page);
  },
});
await shoot("shorts", `/m/${id}/feeds`, { act: view("Short circuits", settled(1500)) });
await shoot("size", `/m/${id}/feeds`, {
  act: view("Size everything", async (page) => {
    await page.getByRole("table", { name: "Changes, before and after" }).waitFor();
  }),
});
const LINES = `battery 24 V 40 Ah lifepo4
4 gearmotors 24 V 250 W, rated 13.4 A, two on a driver
lift screw 24 V 120 W, stall 28 A
5 steppers 1.7 A/phase 2.8 ohm
6 servos 6 V, stall 2.5 A
computer 5V 3A max
radio 5 V 200 mA, talks to computer by serial
24 V work lights 4 x 10 W
e-stop
lengths: driver 1.2 m, motors 0.8 m`;
await shoot("new", "/new", {
  frame: false,
  act: async (page) => {
    await page.getByRole("textbox", { name: /What is in the machine/ }).fill(LINES);
    await page.getByText(/A 24 V plan with/).waitFor({ timeout: 60_000 });
    await settled(1200)(page);
  },
});
await shoot("assumed", "/new", {
  frame: false,
  act: async (page) => {
    await page.getByRole("textbox", { name: /What is in the machine/ }).fill(LINES);
    await page.getByRole("button", { name: "Draft it" }).click();
    await page.waitForURL("**/m/**", { timeout: 60_000 });
    await page.locator('[data-ready="yes"]').waitFor();
    await settled(4000)(page);
  },
});
await browser.close();
server.kill();
rmSync(folder, { recursive: true });
