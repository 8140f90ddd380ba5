import * as Comlink from "comlink";
import type { Log } from "@/core/bringup/log";
import type { Kit } from "@/core/bringup/types";
import { BringUpEngine, type BringUpView, type Explanation, type Extra, type Tried } from "@/core/engine/bring-up";
import type { Command } from "@/core/machine/commands";
import type { Machine } from "@/core/machine/schema";
import type { Sheet } from "@/core/sheet/sheet";

const engine = new BringUpEngine();

/** Questions of Bring-up that take longer than a frame. */
const service = {
  view: (machine: Machine, log: Log, kit: Kit): BringUpView => engine.view(machine, log, kit),
  explain: (machine: Machine, log: Log, kit: Kit, extra: readonly Extra[]): Explanation | null => engine.explain(machine, log, kit, extra),
  faults: (machine: Machine, kit: Kit): { id: string; words: string }[] => engine.faults(machine, kit),
  sheet: (...of: Parameters<BringUpEngine["sheet"]>): Sheet => engine.sheet(...of),
  tried: (machine: Machine, command: Command): Tried => engine.try(machine, command),
};

export type BringUpService = typeof service;

Comlink.expose(service);
