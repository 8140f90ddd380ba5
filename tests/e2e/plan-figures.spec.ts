import type { Load, Machine, Part, Switch } from "@/core/machine/schema";
import { accessible, analysed, expect, saved, test } from "./app";

const part = <P extends Part>(document: unknown, id: string) => (document as Machine).parts.find((each) => each.id === id) as P;

test("a contactor's coil is written down, wired and judged by the volts it gets", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter-corrected" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  const verdicts = page.getByRole("complementary", { name: "Verdicts" });
  await page.locator('tr[data-row="stop"] button').first().click();
  await page.getByLabel("Coil resistance").fill("96");
  await page.keyboard.press("Enter");
  await page.getByLabel("pulls in at").fill("18 V");
  await page.keyboard.press("Enter");
  await page.getByLabel("may drop out at").fill("no idea");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: /./ }).first()).toBeVisible();
  await page.getByLabel("may drop out at").fill("6 V");
  await page.keyboard.press("Enter");
  await expect(verdicts.getByText(/nothing feeds its coil/)).toBeVisible();
  await saved(page);
  expect(part<Switch>((await app.document(id)).document, "stop")).toMatchObject({
    coilOhm: { value: 96 },
    pickUpV: { value: 18 },
    dropOutV: { value: 6 },
  });
});

test("leads between a drive and its motor are written down and judged by phase current", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "carillon-corrected" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  const verdicts = page.getByRole("complementary", { name: "Verdicts" });
  await page.locator('[data-row="stepper-1"] button').first().click();
  const leads = page.getByRole("group", { name: "Leads between drive and motor" });
  await leads.getByLabel("Size of its lead").selectOption("30 AWG");
  const verdict = verdicts.getByRole("listitem").filter({ hasText: /in each phase is too much for 30 AWG/ });
  await expect(verdict).toBeVisible();
  await accessible(page, "main");
  await verdict.getByRole("button", { name: /^Use / }).click();
  await expect(verdict).toHaveCount(0);
  await leads.getByLabel("Connector in it").selectOption({ label: "2-pole 3.5 mm bullet in keyed housing, 60 A class" });
  await expect(verdicts.getByText(/is too thin for/)).toBeVisible();
  await leads.getByLabel("Connector in it").selectOption("");
  await saved(page);
  const load = part<Load>((await app.document(id)).document, "stepper-1");
  expect(load.phaseLead?.gauge).not.toBe("30 AWG");
  expect(load.phaseLead).not.toHaveProperty("family");
});

test("each piece of a group has a lead of its own, and a pack is made of blocks", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "carillon-corrected" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  await page.locator('[data-row="servos-1"] button').first().click();
  await page.getByRole("group", { name: "Each piece's own lead" }).getByLabel("Size of its lead").selectOption("28 AWG");
  await saved(page);
  expect(part<Load>((await app.document(id)).document, "servos-1").ownLead).toEqual({ gauge: "28 AWG", insulation: "pvc80" });
});
