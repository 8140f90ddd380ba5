import { judged } from "@/core/analysis/analyse";
import { unpackAnalysis } from "@/core/analysis/packed";
import type { Analysis } from "@/core/analysis/types";
import { type Ask, Engine } from "@/core/engine/engine";
import { deltaOf } from "@/core/machine/delta";
import type { Machine } from "@/core/machine/schema";
import type { AnalysisService } from "@/workers/analysis.worker";
import { analysedOf } from "./findings";
import { Thread } from "./thread";
import type { Workbench } from "./workbench";

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
  private readonly thread = new Thread<AnalysisService>(
    () => new Worker(new URL("../workers/analysis.worker.ts", import.meta.url), { type: "module" }),
  );
  private sent: Machine | null = null;

  async analyse(machine: Machine): Promise<Analysis | null> {
    const asked = this.thread.ask((service, again) => {
      // A worker that was started again knows of no version before.
      const delta = deltaOf(again ? null : this.sent, machine);
      this.sent = machine;
      return service.analyse(delta);
    });
    return asked.then(unpackAnalysis, () => {
      this.sent = null;
      this.thread.stop();
      return null;
    });
  }

  // Every answer is a promise already, so that what lies between the threads changes no type.
  readonly ask: Ask = (question, ...of) => this.thread.ask((service) => (service as unknown as AnalysisService).ask(question, ...of));

  stop(): void {
    this.thread.stop();
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
export function startAnalyst(store: Workbench, painted?: () => Promise<void>): { ask: Ask; stop: () => void } {
  const here = new Engine();
  let aside: Aside | null = null;
  /** Who made the newest figures. */
  let asked = here.ask;
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
    while (!stopped && analysedOf(store.getState()) !== store.getState().machine) {
      const { machine } = store.getState();
      if (atOnce(machine)) {
        asked = here.ask;
        const figures = attempt(() => here.figures(machine));
        if (figures && painted && sameRows(analysedOf(store.getState()), machine)) {
          store.getState().adoptFigures(figures);
          await painted();
          if (stopped || store.getState().machine !== machine) continue;
        }
        store.getState().adoptAnalysis(figures && attempt(() => judged(figures)), machine);
      } else {
        aside ??= new Aside();
        const analysis = await aside.analyse(machine);
        asked = aside.ask;
        if (!stopped) store.getState().adoptAnalysis(analysis, machine);
      }
    }
    busy = false;
  };
  const unsubscribe = store.subscribe((state, previous) => {
    if (state.machine !== previous.machine || (state.findings.kind === "none" && previous.findings.kind !== "none")) void run();
  });
  void run();
  return {
    ask: (question, ...of) => asked(question, ...of),
    stop: () => {
      stopped = true;
      unsubscribe();
      aside?.stop();
    },
  };
}
