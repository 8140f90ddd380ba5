"use client";
import { useEffect, useRef, useState } from "react";
import { Button } from "../kit/Button";
import { useWorkbench, useWorkbenchContext } from "../workbench/context";
import { openStep } from "../workbench/step-names";

interface Stop {
  step: string;
  /** What is pointed at. */
  at: string;
  pane: "table" | "verdicts";
  title: string;
  says: string;
}

/** Five places, in the order one works. */
const STOPS: readonly Stop[] = [
  {
    step: "feeds",
    at: 'section[aria-label="Modes"]',
    pane: "table",
    title: "A state of the machine",
    says: "Parked, cruising, starting: pick one and every figure on the screen is for it. The large number is what leaves the battery then.",
  },
  {
    step: "feeds",
    at: "main",
    pane: "table",
    title: "The account",
    says: "From the battery down to each load: what flows, through which wire and fuse, and what is lost on the way. Any number opens how it was worked out.",
  },
  {
    step: "feeds",
    at: 'aside[aria-label="Verdicts"]',
    pane: "verdicts",
    title: "What is wrong, and why",
    says: "Worst first. The links below each were tried before they are offered: one click takes it, Ctrl Z takes it back. Dotted words explain themselves.",
  },
  {
    step: "returns",
    at: "main",
    pane: "table",
    title: "The way home",
    says: "Every amp that goes out over the top comes home underneath. Where motors and boards share the way, boards are disturbed.",
  },
  {
    step: "settle",
    at: "main",
    pane: "table",
    title: "The few changes that settle most",
    says: "Tried together, in the order that works. Then come the bring-up, with what to read at each step, and the sheet to build from.",
  },
];

/** A look round an example: five stops that can be left at any time, and that never come by themselves. */
export function LookRound() {
  const id = useWorkbench((state) => state.id);
  const { store } = useWorkbenchContext();
  const [stop, setStop] = useState<number | null>(null);
  const card = useRef<HTMLElement>(null);
  useEffect(() => {
    if (window.location.hash !== "#look-round") return;
    // Only because it was asked for: a reload or a bookmark does not begin it again.
    window.history.replaceState(window.history.state, "", window.location.pathname);
    setStop(0);
  }, []);
  const now = stop === null ? undefined : STOPS[stop];
  useEffect(() => {
    if (!now) return;
    if (!window.location.pathname.endsWith(`/${now.step}`)) openStep(id, now.step);
    store.getState().showPane(now.pane);
    const timer = setTimeout(() => {
      document.querySelector(now.at)?.setAttribute("data-looked-at", "yes");
      card.current?.focus();
    }, 50);
    return () => {
      clearTimeout(timer);
      for (const each of document.querySelectorAll("[data-looked-at]")) each.removeAttribute("data-looked-at");
    };
  }, [now, id, store]);
  if (!now || stop === null) return null;
  const last = stop === STOPS.length - 1;
  return (
    <section
      ref={card}
      tabIndex={-1}
      aria-label={`A look round, ${stop + 1} of ${STOPS.length}`}
      className="no-print fixed bottom-6 left-6 z-40 w-[400px] max-w-[calc(100vw-24px)] border-2 border-ink bg-sheet p-4 text-sm max-desk:bottom-[68px] max-desk:left-3"
      onKeyDown={(event) => event.key === "Escape" && setStop(null)}
    >
      <h2 className="text-base font-bold">{now.title}</h2>
      <p className="mt-1">{now.says}</p>
      <div className="mt-3 flex items-baseline gap-3">
        <Button kind="main" onClick={() => setStop(last ? null : stop + 1)}>
          {last ? "Done" : "Next"}
        </Button>
        {stop > 0 && <Button onClick={() => setStop(stop - 1)}>Back</Button>}
        {!last && (
          <Button kind="quiet" onClick={() => setStop(null)}>
            Leave
          </Button>
        )}
        <span className="fig ml-auto text-xs text-soft">
          {stop + 1} of {STOPS.length}
        </span>
      </div>
    </section>
  );
}
