import { describe, expect, it } from "vitest";
import { driven, simple } from "@/tests/support/small";
import { Engine } from "./engine";

describe("questions to the engine", () => {
  it("are answered by the last machine, and by none before there is one", async () => {
    const engine = new Engine();
    await expect(engine.ask("ladder", "w2", null)).rejects.toThrow();
    engine.analyse(simple());
    expect((await engine.ask("ladder", "w2", null))?.rungs.length).toBeGreaterThan(2);
    expect((await engine.ask("picture", { kind: "part", id: "main" }, null))?.short).toBeNull();
    expect((await engine.ask("contacts"))?.contacts).toEqual([]);
    expect((await engine.ask("account", "motor", 0))?.arrives).toHaveLength(1);
    expect((await engine.ask("explain", { kind: "partAmps", part: "motor", mode: 0 }))?.value).toBeCloseTo(5, 6);
    expect((await engine.ask("schools"))?.rails).toHaveLength(1);
    expect((await engine.ask("returns"))?.links).toEqual([]);
  });

  it("about what is not there give nothing, and none is answered with what was true before an analysis broke off", async () => {
    const engine = new Engine();
    const machine = driven();
    engine.analyse(machine);
    expect(await engine.ask("channels", "drive")).toHaveLength(1);
    expect(await engine.ask("channels", "motor")).toEqual([]);
    expect(await engine.ask("candidates", "drive", [])).toEqual([]);
    expect((await engine.ask("candidates", "motor", [])).length).toBeGreaterThan(3);
    const broken = {
      ...machine,
      get parts(): never {
        throw new Error("a fault");
      },
    };
    expect(() => engine.analyse(broken)).toThrow("a fault");
    await expect(engine.ask("contacts")).rejects.toThrow();
  });
});
