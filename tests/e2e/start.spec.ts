import type { Page } from "@playwright/test";
import { accessible, accessibleInBothThemes, analysed, expect, openMachine, saved, test } from "./app";

const LIST = `pack 24 V 20 Ah lifepo4
2 gearmotors 24 V 6 A
horn 12 V 2 A
the old blower from the shed
-3 motors
controller 5 V 0.3 A`;

const field = (page: Page) => page.getByRole("textbox", { name: /What is in the machine/ });
const row = (page: Page, text: string | RegExp) =>
  page.getByRole("list", { name: "What was understood" }).getByRole("listitem").filter({ hasText: text });

/** Types as a person would, and counts the keys. */
async function typed(page: Page, text: string): Promise<number> {
  await page.keyboard.type(text);
  return text.length;
}

test("from blank to a first verdict by four lines, in fewer than 150 keys", async ({ page, app }) => {
  await page.goto(`${app.url}/new`);
  await expect(field(page)).toBeFocused();
  let keys = await typed(page, "pack 24V 7Ah AGM\n2 gearmotors 24V 250W\nlamp 24V 10W\ncontroller 5V 0.3A");
  await expect(page.getByText(/A 24 V plan with/)).toBeVisible();
  await page.keyboard.press("Tab");
  keys++;
  // From the field the next stops are the words that were understood; the button is reached by its own click or by Tab.
  await page.getByRole("button", { name: "Draft it" }).press("Enter");
  keys++;
  await page.waitForURL(/\/m\//);
  await analysed(page);
  await page.getByRole("button", { name: "Back to the verdicts" }).click();
  await expect(page.locator("[data-headline]").first()).toBeVisible();
  expect(keys).toBeLessThan(150);

  // The whole draft is one step: taken back it leaves an empty page, and done again it is there.
  await saved(page);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("An empty page")).toBeVisible();
  await page.getByRole("button", { name: "Redo" }).click();
  await expect(page.getByRole("row", { name: /Gearmotor 1/ }).first()).toBeVisible();
});

test("what was understood is corrected where it stands; what was not stays, with its nearest readings", async ({ page, app }) => {
  await page.goto(`${app.url}/new`);
  await field(page).fill(LIST);
  await expect(row(page, "There cannot be -3")).toBeVisible();
  await accessibleInBothThemes(page);
  await row(page, "Gearmotor")
    .getByRole("button", { name: /^6 A: change it/ })
    .click();
  await page.keyboard.type("7.5 A");
  await page.keyboard.press("Enter");
  await expect(field(page)).toHaveValue(/2 gearmotors 24 V 7\.5 A/);
  await row(page, "There cannot be -3").getByRole("button", { name: "3 of them" }).click();
  await expect(field(page)).toHaveValue(/\n3 motors\n/);
  await row(page, "Old blower")
    .getByRole("button", { name: /^volts\?/ })
    .click();
  await page.keyboard.type("24 V");
  await page.keyboard.press("Enter");
  await expect(field(page)).toHaveValue(/shed, 24 V/);
  // Nothing was dropped on the way.
  expect((await field(page).inputValue()).split("\n")).toHaveLength(6);
});

test("without a source three are offered, each a line", async ({ page, app }) => {
  await page.goto(`${app.url}/new`);
  await field(page).fill("2 gearmotors 24 V 6 A\ncontroller 5 V 0.2 A");
  await expect(page.getByText("Nothing feeds it yet.")).toBeVisible();
  const offers = page.locator("li button.link").filter({ hasText: /^(pack|supply)/ });
  await expect(offers).toHaveCount(3);
  const line = (await offers.nth(1).textContent()) ?? "";
  await offers.nth(1).click();
  await expect(field(page)).toHaveValue(new RegExp(`${line.replace(/[.]/g, "\\.")}$`));
});

test("what was assumed is confirmed or said by one key, and its count shrinks", async ({ page, app }) => {
  await page.goto(`${app.url}/new?way=kind`);
  await page.getByRole("button", { name: "Begin with: A few cells and a small bridge" }).click();
  await expect(page.getByText(/things assumed/)).toBeVisible();
  await page.getByRole("button", { name: "Draft it" }).click();
  await page.waitForURL(/#assumed/);
  await analysed(page);
  const column = page.getByRole("complementary", { name: "Verdicts" });
  const count = async () => Number(/What I assumed (\d+)/.exec((await column.getByRole("heading", { level: 2 }).textContent()) ?? "")?.[1]);
  await expect(column.getByText("weighing what each could change")).toBeHidden();
  await accessible(page, "aside");
  const all = column.getByRole("button", { name: /more that change no verdict/ });
  if (await all.isVisible()) await all.click();
  const before = await count();
  await column
    .getByRole("button", { name: /^It is so: (?!.*starting)/ })
    .first()
    .focus();
  await page.keyboard.press("Enter");
  await expect.poll(count).toBe(before - 1);
  const starting = column.getByRole("button", { name: /^It is so: .*starting/ }).first();
  await starting.focus();
  await page.keyboard.type("-");
  await page.keyboard.type("0.4");
  await page.keyboard.press("Enter");
  await expect.poll(count).toBeLessThan(before - 1);
  await page.keyboard.press("Control+z");
});

test("more lines later with +, more like one, several feeds at once", async ({ page, app }) => {
  await openMachine(page, app, "Marble lift, corrected", "feeds");
  await page.keyboard.press("+");
  const dialog = page.getByRole("dialog");
  await page.keyboard.type("2 lamps 6 V 0.1 A");
  await expect(dialog.getByRole("listitem").filter({ hasText: "Lamp" })).toBeVisible();
  await accessible(page, '[role="dialog"]');
  await page.keyboard.press("Control+Enter");
  await expect(page.getByRole("row", { name: /Lamp/ }).first()).toBeVisible();
  await page
    .getByRole("row", { name: /Microcontroller/ })
    .first()
    .getByRole("button")
    .first()
    .click();
  await page.getByRole("button", { name: "Another" }).click();
  await page.getByRole("menuitem", { name: "one like Microcontroller" }).click();
  await expect(page.getByRole("row", { name: /Microcontroller 2/ }).first()).toBeVisible();
  await page.getByRole("button", { name: "Edit several feeds" }).click();
  await dialog.getByLabel("all of these").check();
  await dialog.getByRole("textbox", { name: "Length" }).fill("0.5 m");
  await accessible(page, '[role="dialog"]');
  await dialog.getByRole("button", { name: /^Edit \d+ feeds/ }).click();
  await expect(page.getByRole("row", { name: /Gate/ }).first()).toContainText("0.50 m");
  await saved(page);
});

test("the Add dialog takes a line, offers what is usual there, and finds parts by the words people use", async ({ page, app }) => {
  await openMachine(page, app, "Marble lift", "feeds");
  await page
    .getByRole("row", { name: /Plus strip/ })
    .getByRole("button")
    .first()
    .click();
  await page.keyboard.press("a");
  const dialog = page.getByRole("dialog");
  const line = dialog.getByRole("textbox", { name: "Say what it is" });
  await expect(line).toBeFocused();
  await expect(dialog.getByRole("list", { name: "Usual here" })).toBeVisible();
  for (const words of ["charging port 10 A", "volt meter 6 V 20 mA", "stop button", "diode"]) {
    await line.fill(words);
    await expect(dialog.getByText(/No word in it names a part/)).toBeHidden();
  }
  await line.fill("volt meter 20 mA");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("row", { name: /Volt meter/ }).first()).toBeVisible();
  await saved(page);
});

test("a table pasted into a cell comes into the field of lines", async ({ page, app }) => {
  await openMachine(page, app, "Marble lift", "loads");
  await page
    .getByRole("button", { name: /Runs.*Gate.*Edit|Gate.*runs.*Edit/i })
    .first()
    .click();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData("text", "name\tvolts\tamps\nFan\t6\t0.1\nLamp\t6\t0.2");
    document.activeElement?.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
  });
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("button", { name: "Add 2 lines" })).toBeVisible();
  await page.keyboard.press("Escape");
});

test("an example is looked round in five stops that can be left and do not come back", async ({ page, app }) => {
  await page.goto(`${app.url}/new?way=example`);
  await accessible(page);
  await page.getByRole("button", { name: "Look round Marble lift", exact: true }).click();
  await page.waitForURL(/\/m\//);
  await analysed(page);
  for (const stop of [1, 2, 3, 4, 5]) {
    await expect(page.getByRole("region", { name: `A look round, ${stop} of 5` })).toBeVisible();
    await page.getByRole("button", { name: stop === 5 ? "Done" : "Next" }).click();
  }
  await expect(page.getByRole("region", { name: /A look round/ })).toHaveCount(0);
  await page.reload();
  await analysed(page);
  await expect(page.getByRole("region", { name: /A look round/ })).toHaveCount(0);
});

test("what changes no verdict in its range is not asked for, and stands with that range", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "loads");
  const column = page.getByRole("complementary", { name: "Verdicts" });
  await column.getByText("1 figure is missing and not asked for").click();
  await expect(column.getByText("from nothing to held still")).toBeVisible();
  await accessible(page, '[data-sheet="verdicts"]');
  await column.getByRole("button", { name: /What Rudder servo right does in Start both/ }).click();
  await expect(page.locator('tr[data-row="rudder-right"]')).toHaveAttribute("aria-selected", "true");
});

test("words explain themselves by key and by page, and verdicts are spelt out on wish", async ({ page, app }) => {
  await openMachine(page, app, "Marble lift", "feeds");
  const word = page
    .getByRole("complementary", { name: "Verdicts" })
    .getByRole("button", { name: /fuse: what is that\?/ })
    .first();
  await word.focus();
  await expect(page.getByRole("dialog", { name: "Fuse" })).toContainText("Melts before the wire");
  await page.keyboard.press("Escape");
  await openMachine(page, app, "Reedcutter", "loads");
  await page
    .getByRole("button", { name: /stall: what is that\?/ })
    .first()
    .focus();
  const stall = page.getByRole("dialog", { name: "Stall" });
  await expect(stall).toContainText(/held still pulls 46.0/);
  await expect(stall.getByRole("term")).toHaveText(["Turning free", "Running", "Held still"]);
  await page.keyboard.press("Escape");
  await page.getByRole("columnheader", { name: /^Peak/ }).getByRole("button").first().focus();
  await page.keyboard.press("F1");
  await expect(page.getByRole("dialog", { name: "Peak" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.goto(`${app.url}/words`);
  await accessibleInBothThemes(page);
  await page.getByLabel("Find a word").fill("selectivity");
  await expect(page.getByRole("definition")).toHaveCount(1);
  await page.getByLabel(/Spell verdicts out/).check();
  await openMachine(page, app, "Marble lift", "feeds");
  await expect(page.getByRole("button", { name: "Nothing stops the current here if it goes wrong." }).first()).toBeVisible();
});
