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
await shoot("working", `/m/${id}/feeds`, {
  act: async (page) => {
    await choose("drive-cutter")(page);
    await page.getByRole("tab", { name: "Conductor", exact: true }).click();
    await page.getByRole("button", { name: /^May carry for good/ }).click();
  },
});
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
const lift = machines.find((each) => each.name === "Marble lift").id;
await shoot("history", `/m/${lift}/loads`, {
  act: async (page) => {
    for (const [load, amps] of [
      ["Lift screw", "0.32 A"],
      ["Gate", "run 80 %"],
      ["Lift screw", "measured 0.34 A"],
    ]) {
      await page.getByRole("button", { name: `${load} in Running. Edit` }).click();
      await page.keyboard.press("Control+a");
      await page.keyboard.type(amps);
      await page.keyboard.press("Enter");
      await page.locator('[data-save="saved"]').waitFor();
    }
    // On a mode's cell a letter begins a word.
    await page.keyboard.press("Escape");
    await page.keyboard.press("h");
    await page.getByText("this window").first().waitFor();
    await page.getByRole("button", { name: "What changed since revision 1" }).click();
    await page.getByRole("region", { name: "What changed" }).getByRole("listitem").first().waitFor();
  },
});
await browser.close();
server.kill();
rmSync(folder, { recursive: true });
