import { spawnSync } from "node:child_process";
import { copyFileSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { createElement } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { xmlText } from "@/core/exchange/escape";
import type { Paper } from "@/core/sheet/paper";
import { PaperPages } from "@/ui/paper/Pages";

const require = createRequire(import.meta.url);

/** Fonts as part of the file: it looks the same wherever it is opened. */
function fontFace(family: string, file: string): string {
  const data = readFileSync(require.resolve(`@fontsource-variable/${file}`)).toString("base64");
  return `@font-face{font-family:"${family}";src:url(data:font/woff2;base64,${data}) format("woff2");font-weight:200 800}`;
}

/** The pages as one HTML file that needs nothing else. */
export function paperHtml(paper: Paper): string {
  const { width, height } = paper.size;
  const styles = [
    fontFace("Atkinson Hyperlegible Next Variable", "atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2"),
    fontFace("Atkinson Hyperlegible Mono Variable", "atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-wght-normal.woff2"),
    readFileSync(new URL("../ui/paper/paper.css", import.meta.url), "utf8"),
    `@page{size:${width}mm ${height}mm;margin:0} body{margin:0} .sr-only{position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%)}`,
  ];
  const title = xmlText(`${paper.header.name}, build sheet`);
  const body = renderToStaticMarkup(createElement(PaperPages, { paper }));
  return `<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><title>${title}</title><style>${styles.join("\n")}</style></head><body>${body}</body></html>\n`;
}

/** Browsers that print without a window, by the names systems give them. */
const BROWSERS = ["chromium", "chromium-browser"];
const FLAGS = [
  "--headless",
  "--no-sandbox",
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
  "--no-pdf-header-footer",
];
/** Longest a print is waited for, ms. */
const PRINT_MS = 60_000;

/** Prints the pages into a PDF. @returns why it could not be done, or null */
export function printPdf(paper: Paper, out: string): string | null {
  const folder = mkdtempSync(join(tmpdir(), "node-ledger-"));
  try {
    const page = join(folder, "sheet.html");
    // Printed beside, then put in its place: an older file there is never taken for a new one.
    const printed = join(folder, "sheet.pdf");
    writeFileSync(page, paperHtml(paper));
    const named = process.env.NODE_LEDGER_BROWSER;
    for (const browser of named ? [named] : BROWSERS) {
      const { error } = spawnSync(
        browser,
        [...FLAGS, `--user-data-dir=${join(folder, "profile")}`, `--print-to-pdf=${printed}`, pathToFileURL(page).href],
        { timeout: PRINT_MS, stdio: "ignore" },
      );
      if (error && "code" in error && error.code === "ENOENT") continue;
      if (error) return `${browser} did not print: ${error.message}`;
      const made = statSync(printed, { throwIfNoEntry: false });
      if (!made || made.size === 0) return `${browser} made no pages`;
      try {
        copyFileSync(printed, out);
        return null;
      } catch (cause) {
        return `the pages cannot be written to ${out}: ${cause instanceof Error ? cause.message : String(cause)}`;
      }
    }
    return `no browser was found to print with: install Debian's chromium, or name one in NODE_LEDGER_BROWSER`;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
