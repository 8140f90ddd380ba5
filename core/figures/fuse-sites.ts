import type { Command } from "../machine/commands";
import type { FuseRef, Wire } from "../machine/schema";
import { perBuild } from "./build";

/** A fuse wherever it sits: in line on a wire, or a part of its own. */
export interface FuseSite {
  fuse: FuseRef;
  /** Row it belongs to. */
  subject: { kind: "wire" | "part"; id: string };
  name: string;
  /** Index of its branch in the circuit. */
  branch: number;
  /** Wires its current flows on in, for what it protects. */
  wire: Wire | null;
  /** Part on whose rail it sits. */
  partId: string;
  change: (fuse: FuseRef) => Command;
}

/** Every fuse of a machine. */
export const fuseSites = perBuild((figures): readonly FuseSite[] => {
  const sites: FuseSite[] = [];
  const { machine, solved } = figures;
  machine.wires.forEach((wire, branch) => {
    if (!wire.fuse) return;
    const to = figures.partOf.get(wire.to.part);
    sites.push({
      fuse: wire.fuse,
      subject: { kind: "wire", id: wire.id },
      name: `${to?.name ?? "wire"} feed`,
      branch,
      wire,
      partId: wire.to.part,
      change: (fuse) => ({ type: "setFuse", wireId: wire.id, fuse }),
    });
  });
  const branchOf = new Map(solved.circuit.branches.map((branch, i) => [branch.kind === "fuse" ? branch.id : "", i]));
  for (const part of machine.parts) {
    if (part.kind !== "fuse") continue;
    sites.push({
      fuse: part.fuse,
      subject: { kind: "part", id: part.id },
      name: part.name,
      branch: branchOf.get(part.id) ?? -1,
      wire: figures.ledger.rowOf.get(part.id)?.feed ?? null,
      partId: part.id,
      change: (fuse) => ({ type: "updatePart", id: part.id, changes: { fuse: { ...part.fuse, ...fuse } } }),
    });
  }
  return sites;
});
