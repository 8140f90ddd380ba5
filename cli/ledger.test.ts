import { spawn, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, it } from "vitest";
import { toJson } from "@/core/exchange/json";
import { paperOf } from "@/core/sheet/pages";
import { wholeSheet } from "@/core/sheet/whole";
import { EXAMPLES } from "@/demo/index";
import { simple } from "@/tests/support/small";
import { ledger as answer } from "./commands";
import { paperHtml } from "./print";

const folder = mkdtempSync(join(tmpdir(), "node-ledger-cli-"));
afterAll(() => rmSync(folder, { recursive: true }));

function file(name: string, text: string): string {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
}

/** As `npm run ledger` has it: the program itself is started only where starting it is what is tried. */
const PROGRAM = [join("node_modules", ".bin", "tsx"), "cli/ledger.ts"] as const;

function started(args: readonly string[], env: Record<string, string> = {}) {
  const { status, stdout, stderr } = spawnSync(PROGRAM[0], [PROGRAM[1], ...args], { encoding: "utf8", env: { ...process.env, ...env } });
  return { status, out: stdout, err: stderr };
}

async function ledger(...args: string[]) {
  const said = { out: "", err: "" };
  const status = await answer(args, {
    out: (text) => {
      said.out += text;
    },
    err: (text) => {
      said.err += text;
    },
  });
  return { status, ...said };
}

describe("ledger", () => {
  const reed = file("reed.json", toJson(EXAMPLES[0]?.make() ?? simple()));
  const fine = file("fine.json", toJson(simple()));
  const organ = file("organ.json", toJson(EXAMPLES[2]?.make() ?? simple()));

  it("prints a bring-up stage by stage, with what to expect", async () => {
    const { status, out } = await ledger("bring-up", file("cart.json", toJson(EXAMPLES[5]?.make() ?? simple())));
    expect(status).toBe(0);
    expect(out.match(/^\d+\. /gm)).toHaveLength(11);
    expect(out).toContain("Bench supply in place of Four AA cells");
  });

  it("stands a machine on a simulated bench at a port of this machine", async () => {
    const cart = file("cart.json", toJson(EXAMPLES[5]?.make() ?? simple()));
    const bench = spawn(PROGRAM[0], [PROGRAM[1], "bench", cart, "--port", "0", "--seed", "7"]);
    expect((await ledger("bench", cart, "--port", "x")).status).toBe(2);
    const told = await new Promise<string>((resolve) => bench.stdout.once("data", (text) => resolve(String(text))));
    const port = Number(/:(\d+),/.exec(told)?.[1]);
    const answers = await new Promise<string>((resolve, reject) => {
      let text = "";
      const socket = connect(port, "127.0.0.1", () => socket.write('*IDN?\nMACH:STAT "tree"\nOUTP ON\nMEAS:VOLT? (@cells.+,cells.-)\n'));
      socket.on("error", reject);
      socket.on("data", (chunk) => {
        text += String(chunk);
        if (text.split("\n").length > 2) {
          socket.destroy();
          resolve(text);
        }
      });
    });
    bench.kill();
    expect(answers).toMatch(/simulated bench,7/);
    expect(Number(answers.split("\n")[1])).toBeCloseTo(5.2, 0);
  });

  it("prints verdicts and exits 1 only if any says Stop", async () => {
    const bad = started(["check", reed]);
    expect(bad.status).toBe(1);
    expect(await ledger("check", reed)).toEqual(bad);
    expect(bad.out).toMatch(/^Stop\s+fuse-over-wire/m);
    expect((await ledger("check", fine)).status).toBe(0);
  });

  it("prints the documented JSON", async () => {
    const report = JSON.parse((await ledger("check", reed, "--json")).out);
    expect(Object.keys(report)).toEqual(["machine", "modes", "nodes", "wires", "verdicts"]);
    expect(Object.keys(report.verdicts[0])).toEqual(["rule", "severity", "subject", "headline", "value", "limit", "unit"]);
    expect(report.wires).toHaveLength(report.machine.wires);
  });

  it("exits 2 with the path of the field and what was expected", async () => {
    const wrong = await ledger("check", file("wrong.json", toJson(simple()).replace('"14 AWG"', '"14 awgs"')));
    expect(wrong.status).toBe(2);
    expect(wrong.err).toContain("wires[1].gauge");
    expect(wrong.out).toBe("");
    for (const args of [["check", join(folder, "nowhere.json")], ["frobnicate"], ["export", fine, "--format", "dxf"], []])
      expect((await ledger(...args)).status).toBe(2);
  });

  it("lists a short at every node, worst first", async () => {
    const { status, out } = await ledger("shorts", reed);
    const lines = out.trim().split("\n");
    expect(status).toBe(0);
    expect(lines[1]).toMatch(/^burns/);
    expect(lines.length).toBeGreaterThan(60);
    expect(out).not.toMatch(/NaN|Infinity|undefined/);
  });

  it("sizes everything, says why, and writes a document that checks without what sizing settles", async () => {
    const { status, out } = await ledger("size", reed);
    expect(status).toBe(0);
    expect(out).toMatch(/Feed of Cutter driver +16 AWG/);
    expect(out).toMatch(/Copper [\d.]+ kg now/);
    const written = file("sized.json", (await ledger("size", reed, "--write", "--aim", "cost")).out);
    expect((await ledger("check", written)).out).not.toMatch(/^(Stop|Fix)\s+(fuse-over-wire|no-fuse|drop|wire-overload|connector-fit)/m);
    expect((await ledger("size", reed, "--aim", "beauty")).status).toBe(2);
  });

  it("settles: a list in words, one for programs, and a document that checks without what the list says", async () => {
    const { status, out } = await ledger("settle", organ);
    expect(status).toBe(0);
    expect(out).toMatch(/^\d+ changes settle \d+ of \d+ Stops and Fixes/);
    expect(out).toContain("Then only you can decide:");
    const report = JSON.parse((await ledger("settle", organ, "--json")).out);
    expect(report.changes.length).toBeGreaterThan(2);
    for (const { what, settles } of report.changes) {
      expect(typeof what).toBe("string");
      expect(settles.every((id: unknown) => typeof id === "string")).toBe(true);
    }
    expect(report.yours).toEqual(["source-rating:brief:supply-24"]);
    const written = file("settled.json", (await ledger("settle", organ, "--write", "--aim", "mass")).out);
    expect((await ledger("check", written)).status).toBe(0);
    expect((await ledger("check", written)).out.match(/^(Stop|Fix)/gm)).toEqual(["Fix"]);
    expect((await ledger("settle", organ, "--aim", "beauty")).status).toBe(2);
  });

  it("exports netlist, sheet and document", async () => {
    expect((await ledger("export", reed, "--format", "spice", "--mode", "cruise")).out).toMatch(
      /^\* Reedcutter, mode Cruise[\s\S]*\.op\n\.end\n$/,
    );
    expect((await ledger("export", reed, "--format", "spice", "--mode", "flying")).err).toContain("Cruise");
    expect((await ledger("export", reed, "--format", "markdown")).out).toContain("## Cut list");
    const svg = (await ledger("export", reed, "--format", "svg", "--mode", "cruise")).out;
    expect(svg).toMatch(/^<svg [\s\S]*Shared metal[\s\S]*<\/svg>\n$/);
    expect((await ledger("export", fine, "--format", "json")).out).toBe(toJson(simple()));
    expect((await ledger("export", reed, "--format", "svg")).out).toMatch(/^<svg [\s\S]*Paddle left driver[\s\S]*<\/svg>\n$/);
  });

  it("exports every table as CSV, and says which there are", async () => {
    for (const table of ["feeds", "labels"]) {
      const { status, out } = await ledger("export", organ, "--format", "csv", "--table", table);
      expect(status).toBe(0);
      expect(out.split("\r\n").length).toBeGreaterThan(5);
    }
    expect((await ledger("export", reed, "--format", "csv", "--table", "beams")).err).toContain("bring-up");
  });

  it("prints the sheet as pages in one file, and as a PDF by one command", async () => {
    const html = paperHtml(
      paperOf(wholeSheet(simple()).sheet, { paper: "letter", lists: true, bringUp: true, labels: true, date: "today" }),
    );
    expect(html).toMatch(/^<!doctype html>[\s\S]*Distribution[\s\S]*<\/html>\n$/);
    // It needs nothing else: no address of anything outside it.
    expect(html.replace(/xmlns="[^"]*"/g, "")).not.toMatch(/(src|href)="?https?:|url\(https?:/);
    const out = join(folder, "reed.pdf");
    const pdf = started(["export", reed, "--format", "pdf", "--out", out, "--no-labels"]);
    expect([pdf.status, pdf.err]).toEqual([0, ""]);
    const text = readFileSync(out).toString("latin1");
    expect(text.startsWith("%PDF-")).toBe(true);
    expect(text.match(/\/Type\s*\/Page\b(?!s)/g)).toHaveLength(4);
    // A print that fails is never told as done, though an older one lies there.
    const failing = started(["export", fine, "--format", "pdf", "--out", out], { NODE_LEDGER_BROWSER: "true" });
    expect(failing.status).toBe(2);
    expect(readFileSync(out).toString("latin1")).toBe(text);
    expect((await ledger("export", fine, "--format", "pdf")).err).toContain("--out");
    expect((await ledger("export", fine, "--format", "html", "--paper", "a3")).status).toBe(2);
  });
});
