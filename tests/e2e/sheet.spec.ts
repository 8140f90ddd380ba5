import { readFileSync } from "node:fs";
import { accessibleInBothThemes, analysed, expect, openMachine, test } from "./app";

/** Pages of a PDF, by its own count. */
function pagesOf(pdf: Buffer): number {
  return (pdf.toString("latin1").match(/\/Type\s*\/Page\b(?!s)/g) ?? []).length;
}

test("the sheet is printed as it is shown: each page one sheet of paper, nothing beside it, nothing cut off", async ({ page, app }) => {
  for (const name of ["Reedcutter", "Carillon"]) {
    await openMachine(page, app, name, "sheet");
    await page.getByLabel("Paper").selectOption({ label: "A4" });
    const pages = page.getByRole("region", { name: "Pages" }).locator("section");
    await expect(pages.first()).toContainText("Distribution");
    const count = await pages.count();
    await expect(pages.last()).toContainText(`sheet ${count} of ${count} · revision 1`);
    // In print a millimetre is a millimetre; what a page holds ends on its page.
    await page.emulateMedia({ media: "print" });
    const tall = await pages.evaluateAll((all) => all.map((each) => (each.getBoundingClientRect().height / 96) * 25.4));
    for (const height of tall) expect(height).toBeLessThanOrEqual(210.1);
    const outside = await pages.evaluateAll((all) =>
      all.flatMap((each) => {
        const { right } = each.getBoundingClientRect();
        return [...each.querySelectorAll("td, p, .paper-label")].filter((one) => one.getBoundingClientRect().right > right).length;
      }),
    );
    expect(outside.every((n) => n === 0)).toBe(true);
    const pdf = await page.pdf({ preferCSSPageSize: true, printBackground: false });
    expect(pagesOf(pdf)).toBe(count);
    await page.emulateMedia({ media: "screen" });
  }
});

test("Reedcutter's paper is four pages beside its labels, on A4 and on Letter; what is not wanted is left out", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "sheet");
  const pages = page.getByRole("region", { name: "Pages" }).locator("section");
  for (const paper of ["A4", "Letter"]) {
    await page.getByLabel("Paper").selectOption({ label: paper });
    await page.getByLabel("Labels").uncheck();
    await expect(pages).toHaveCount(4);
    await page.getByLabel("Labels").check();
    expect(await pages.count()).toBeGreaterThan(4);
  }
  await page.getByLabel("Bring-up").uncheck();
  await expect(pages.filter({ hasText: "One motor at a time" })).toHaveCount(0);
  // The choice is kept for the next time.
  await page.reload();
  await expect(page.getByLabel("Paper")).toHaveValue("letter");
  await expect(page.getByLabel("Bring-up")).not.toBeChecked();
  await page.getByLabel("Bring-up").check();
  // A small machine has every kind of row and label as well, and far fewer of them to ask about.
  await openMachine(page, app, "Marble lift", "sheet");
  await expect(page.getByRole("region", { name: "Pages" })).toContainText("Distribution");
  await accessibleInBothThemes(page);
});

test("pictures, tables and the machine are saved as files from one menu, by keys", async ({ page, app }) => {
  await openMachine(page, app, "Carillon", "sheet");
  await expect(page.getByRole("region", { name: "Pages" })).toContainText("Distribution");
  const save = async (item: string) => {
    const download = page.waitForEvent("download");
    await page.getByRole("button", { name: "Save as", exact: true }).press("Enter");
    await page.getByRole("menuitem", { name: item }).focus();
    await page.keyboard.press("Enter");
    const file = await download;
    return { name: file.suggestedFilename(), text: readFileSync(await file.path(), "utf8") };
  };
  const drawing = await save("Distribution");
  expect(drawing.name).toBe("carillon-distribution.svg");
  expect(drawing.text).toContain("Stepper drive 1");
  const fuses = await save("Fuses");
  expect(fuses.text.split("\r\n")[0]).toBe("Tag,Rating,Family,Dead without it,Place");
  expect((await save("Whole machine")).text).toContain('"format": "node-ledger/machine"');
  const text = await save("Sheet as text");
  expect(text.name).toBe("carillon.md");
  expect(text.text).toContain("## Buy list");
  const netlist = await save("Netlist of Melody");
  expect(netlist.name).toBe("carillon-melody.cir");
  expect(netlist.text).toMatch(/^\* Carillon, mode Melody/);
});

test("loads pasted from a spreadsheet hang on their rails in one step, wrong rows are told, and undo takes them back", async ({
  page,
  app,
}) => {
  const id = await app.create({ kind: "example", key: "marble-lift" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  await page.keyboard.press("+");
  const dialog = page.getByRole("dialog");
  const lines = dialog.getByRole("textbox", { name: "Lines" });
  await lines.fill("Part\tVolt\tA\tAnzahl\nWinch motor\t6\t0,8\t2\nLamp\tsix\t0.1\t1\nHeater\t12\t2\t1");
  await expect(dialog.getByRole("listitem").filter({ hasText: "Winch motor" })).toContainText("0.8");
  await expect(dialog.getByText(/is not a voltage/)).toBeVisible();
  await dialog.getByRole("button", { name: /^Add \d lines/ }).click();
  // What was left out stays to be mended.
  await expect(lines).not.toHaveValue(/Winch motor/);
  await expect(lines).toHaveValue(/Lamp/);
  await page.keyboard.press("Escape");
  await expect(dialog).toHaveCount(0);
  await expect(page.getByRole("row", { name: /Winch motor/ }).first()).toBeVisible();
  await page.getByRole("button", { name: "Undo", exact: true }).first().click();
  await expect(page.getByRole("row", { name: /Winch motor/ })).toHaveCount(0);
});
