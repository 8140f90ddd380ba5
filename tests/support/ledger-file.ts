import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach } from "vitest";
import { letGo } from "@/server/database";

/** A folder of its own for the ledger of each test, which is the one of the process while the test runs. */
export function ledgerFolder(): { path: () => string; file: (name: string) => string } {
  let folder = "";
  beforeEach(() => {
    letGo();
    folder = mkdtempSync(join(tmpdir(), "node-ledger-file-"));
    process.env.NODE_LEDGER_DB = join(folder, "ledger.db");
  });
  afterEach(() => {
    letGo();
    delete process.env.NODE_LEDGER_DB;
    rmSync(folder, { recursive: true });
  });
  return { path: () => join(folder, "ledger.db"), file: (name) => join(folder, name) };
}
