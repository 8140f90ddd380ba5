import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Netlist } from "@/core/exchange/spice";

/** Runs the operating point of a netlist in ngspice and returns everything it prints, by lower-case name. */
export function runNgspice(netlist: Netlist): Map<string, number> {
  const names = [...netlist.branch, ...netlist.emf, ...netlist.load, ...netlist.converter].filter((name): name is string => name !== null);
  const prints = names.map((name) => `print @${name}[i]`).join("\n");
  const control = `.control\nset numdgt=15\nop\nprint all\n${prints}\nquit\n.endc\n.end\n`;
  const folder = mkdtempSync(join(tmpdir(), "node-ledger-spice-"));
  const file = join(folder, "machine.cir");
  writeFileSync(file, netlist.text.replace(/\.end\s*$/, control));
  const run = spawnSync("ngspice", ["-b", "-o", join(folder, "out.txt"), file], { encoding: "utf8" });
  if (run.error) throw new Error("ngspice is not installed: apt-get install ngspice");
  const output = readFileSync(join(folder, "out.txt"), "utf8") + run.stdout;
  rmSync(folder, { recursive: true });
  const values = new Map<string, number>();
  for (const match of output.matchAll(/^(\S+) = (-?[\d.]+e[+-]\d+)\s*$/gm))
    values.set((match[1] as string).toLowerCase(), Number(match[2]));
  if (values.size === 0) throw new Error(`ngspice gave no operating point:\n${output.slice(-2000)}`);
  return values;
}
