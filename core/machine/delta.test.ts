import { describe, expect, it } from "vitest";
import { generateMachine } from "@/tests/support/generate";
import { must } from "@/tests/support/small";
import { applyDelta, deltaOf } from "./delta";
import type { Machine } from "./schema";

describe("a machine sent by its changes", () => {
  it("arrives the same after edits, removals, additions and undo, sharing what did not change", () => {
    const first = generateMachine({ parts: 40, seed: 5 });
    const load = first.parts.find((part) => part.kind === "load");
    const versions: Machine[] = [first];
    const edit = (command: Parameters<typeof must>[1]) => versions.push(must(versions.at(-1) as Machine, command));
    edit({ type: "setCell", loadId: load?.id ?? "", modeId: "m1", cell: { state: "off" } });
    edit({ type: "removePart", id: load?.id ?? "" });
    edit({ type: "addMode", name: "Extra", lastsS: 3, copyFrom: "m1" });
    edit({ type: "rename", name: "Other" });
    versions.push(first);

    let sent: Machine | null = null;
    let there: Machine | null = null;
    for (const version of versions) {
      const wire = structuredClone(deltaOf(sent, version));
      const next = applyDelta(there, wire);
      expect(next).toEqual(version);
      if (there && sent) {
        const kept = version.parts.flatMap((part, i) => (sent?.parts[i] === part ? [i] : []));
        for (const i of kept) expect(next.parts[i]).toBe(there.parts[i]);
      }
      sent = version;
      there = next;
    }
  });

  it("sends one part for one changed cell", () => {
    const first = generateMachine({ parts: 40, seed: 5 });
    const load = first.parts.find((part) => part.kind === "load");
    const second = must(first, { type: "setCell", loadId: load?.id ?? "", modeId: "m1", cell: { state: "off" } });
    const { parts, wires } = deltaOf(first, second);
    expect(parts.changed.map(([, part]) => part.id)).toEqual([load?.id]);
    expect(wires.changed).toEqual([]);
  });
});
