import * as Comlink from "comlink";
import { judged } from "@/core/analysis/analyse";
import { unpackAnalysis } from "@/core/analysis/packed";
import type { SchoolComparison } from "@/core/analysis/schools";
import type { Analysis } from "@/core/analysis/types";
import type { Candidate } from "@/core/choosing/drivers";
import type { FusePicture } from "@/core/choosing/fuse-picture";
import { Engine } from "@/core/engine/engine";
import type { FaultWalk } from "@/core/faults/walk";
import type { Account } from "@/core/figures/account";
import type { Channel } from "@/core/figures/channels";
import type { Contacts } from "@/core/figures/contacts";
import { deltaOf } from "@/core/machine/delta";
import type { Driver, Machine } from "@/core/machine/schema";
import type { ReturnsFigures } from "@/core/returns/summary";
import type { Ladder } from "@/core/sizing/ladder";
import type { FigureRef, Working } from "@/core/working/types";
import type { AnalysisService } from "@/workers/analysis.worker";
import type { Workbench } from "./workbench";

/** Answers about the newest figures. */
export interface Analyst {
  explain: (ref: FigureRef) => Promise<Working | null>;
  account: (partId: string, mode: number) => Promise<Account | null>;
  channels: (driverId: string) => Promise<readonly Channel[]>;
  candidates: (loadId: string, shelf: readonly Driver[]) => Promise<Candidate[]>;
  schools: () => Promise<SchoolComparison | null>;
  ladder: (wireId: string, walk: FaultWalk | null) => Promise<Ladder | null>;
  picture: (of: { kind: "wire" | "part"; id: string }, walk: FaultWalk | null) => Promise<FusePicture | null>;
  contacts: () => Promise<Contacts | null>;
  returns: () => Promise<ReturnsFigures | null>;
}

/**
 * Wires × modes up to which a machine is analysed on the screen's own thread: after an edit of a cell some fifteen
 * milliseconds, half of them once the figures are painted, which is far less than handing the plan to a worker, the figures
 * back, and painting twice. A machine of five hundred parts and six modes fits.
 */
const AT_ONCE = 7000;

/** Whether a machine is analysed with the edit itself, not by a worker after it. */
export function atOnce({ wires, modes }: Machine): boolean {
  return wires.length * modes.length <= AT_ONCE;
}

/** The worker for machines above that size, started when the first one comes. */
class Aside {
  private readonly worker = new Worker(new URL("../workers/analysis.worker.ts", import.meta.url), { type: "module" });
  readonly service = Comlink.wrap<AnalysisService>(this.worker);
  private sent: Machine | null = null;

  async analyse(machine: Machine): Promise<Analysis | null> {
    const delta = deltaOf(this.sent, machine);
    this.sent = machine;
    return this.service.analyse(delta).then(unpackAnalysis, () => null);
  }

  stop(): void {
    this.worker.terminate();
  }
}

/** Whether two versions have the same parts and wires, so that figures of one can stand beside verdicts of the other. */
function sameRows(a: Machine | null, b: Machine): boolean {
  const same = (x: readonly { id: string }[], y: readonly { id: string }[]) =>
    x === y || (x.length === y.length && x.every(({ id }, i) => id === y[i]?.id));
  return a !== null && a.modes.length === b.modes.length && same(a.parts, b.parts) && same(a.wires, b.wires);
}

/** After the next frame is on the screen; soon all the same where nothing is painted, as in a hidden window. */
export const afterPaint = () =>
  new Promise<void>((resolve) => {
    const hidden = setTimeout(resolve, 100);
    requestAnimationFrame(() => {
      clearTimeout(hidden);
      setTimeout(resolve, 4);
    });
  });

/**
 * Keeps a workbench's figures current after every change. While a worker is at it, only the newest document waits.
 * A fault in the analysis is told as such: it must not look like an answer, nor keep the next edit from being analysed.
 * @param painted when what was adopted is on the screen: where given, figures of unchanged rows are shown before they are
 *   judged
 */
export function startAnalyst(store: Workbench, painted?: () => Promise<void>): { analyst: Analyst; stop: () => void } {
  const here = new Engine();
  let aside: Aside | null = null;
  /** Who made the newest figures. */
  let asked: Analyst = {
    explain: async (ref) => here.explain(ref),
    account: async (partId, mode) => here.account(partId, mode),
    channels: async (driverId) => here.channels(driverId),
    candidates: async (loadId, shelf) => here.candidates(loadId, shelf),
    schools: async () => here.schools(),
    ladder: async (wireId, walk) => here.ladder(wireId, walk),
    picture: async (of, walk) => here.picture(of, walk),
    contacts: async () => here.contacts(),
    returns: async () => here.returns(),
  };
  const own = asked;
  let busy = false;
  let stopped = false;
  const attempt = <T>(work: () => T): T | null => {
    try {
      return work();
    } catch {
      return null;
    }
  };
  const run = async () => {
    if (busy) return;
    busy = true;
    while (!stopped && store.getState().analysed !== store.getState().machine) {
      const { machine } = store.getState();
      if (atOnce(machine)) {
        asked = own;
        const figures = attempt(() => here.figures(machine));
        if (figures && painted && sameRows(store.getState().analysed, machine)) {
          store.getState().adoptFigures(figures);
          await painted();
          if (stopped || store.getState().machine !== machine) continue;
        }
        store.getState().adoptAnalysis(figures && attempt(() => judged(figures)), machine);
      } else {
        aside ??= new Aside();
        const analysis = await aside.analyse(machine);
        asked = aside.service;
        if (!stopped) store.getState().adoptAnalysis(analysis, machine);
      }
    }
    busy = false;
  };
  const unsubscribe = store.subscribe((state, previous) => {
    if (state.machine !== previous.machine) void run();
  });
  void run();
  return {
    analyst: {
      explain: (ref) => asked.explain(ref),
      account: (partId, mode) => asked.account(partId, mode),
      channels: (driverId) => asked.channels(driverId),
      candidates: (loadId, shelf) => asked.candidates(loadId, shelf),
      schools: () => asked.schools(),
      ladder: (wireId, walk) => asked.ladder(wireId, walk),
      picture: (of, walk) => asked.picture(of, walk),
      contacts: () => asked.contacts(),
      returns: () => asked.returns(),
    },
    stop: () => {
      stopped = true;
      unsubscribe();
      aside?.stop();
    },
  };
}
