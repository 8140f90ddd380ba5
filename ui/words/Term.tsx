"use client";
import { Popover } from "radix-ui";
import { type PointerEvent, useContext, useEffect, useRef, useState } from "react";
import type { Entry } from "@/core/glossary/entries";
import type { WordHere } from "@/core/glossary/here";
import { WorkbenchContext } from "../workbench/context";

/** Wait before a word under the pointer explains itself, ms: who passes over it wants nothing. */
const HOVER_MS = 350;

interface Props {
  entry: Entry;
  children: string;
  /** A mark beside a word that is a button or a label itself: it is met by pointer, finger, and F1 in what it stands beside. */
  mark?: boolean;
}

/** A trade word that explains itself where it stands: under the pointer, in focus, or at a tap; with this machine's numbers where it has some. */
export function Term({ entry, children, mark }: Props) {
  const [open, setOpen] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const wait = () => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
  };
  useEffect(() => () => void (timer.current && clearTimeout(timer.current)), []);
  // The mark beside a field is no stop of its own on the way from field to field: F1 in the field opens it.
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    const box = mark ? button.current?.closest<HTMLElement>("[data-explains], th") : null;
    if (!box) return;
    const explain = (event: KeyboardEvent) => {
      if (event.key !== "F1") return;
      event.preventDefault();
      setOpen(true);
    };
    box.addEventListener("keydown", explain);
    return () => box.removeEventListener("keydown", explain);
  }, [mark]);
  const enter = (event: PointerEvent) => {
    if (event.pointerType !== "mouse") return;
    wait();
    timer.current = setTimeout(() => setOpen(true), HOVER_MS);
  };
  const leave = (event: PointerEvent) => {
    if (event.pointerType !== "mouse") return;
    wait();
    timer.current = setTimeout(() => setOpen(false), HOVER_MS);
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button
          ref={button}
          type="button"
          className={mark ? "term px-0.5 text-xs font-normal text-soft" : "term"}
          tabIndex={mark ? -1 : undefined}
          aria-label={mark ? "Explain" : `${children}: what is that?`}
          onPointerEnter={enter}
          onPointerLeave={leave}
          onFocus={(event) => event.currentTarget.matches(":focus-visible") && setOpen(true)}
          onBlur={() => setOpen(false)}
          onKeyDown={(event) => event.key === "Escape" && setOpen(false)}
        >
          {mark ? "?" : children}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          collisionPadding={8}
          sideOffset={4}
          className="z-50 w-[300px] max-w-[92vw] border border-ink bg-sheet px-3 py-2 text-sm font-normal text-ink"
          onOpenAutoFocus={(event) => event.preventDefault()}
          onCloseAutoFocus={(event) => event.preventDefault()}
          onPointerEnter={wait}
          onPointerLeave={leave}
          aria-label={entry.word}
        >
          <p>
            <b>{entry.word}.</b> {entry.says}
          </p>
          <Here id={entry.id} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** What the word is in the open machine. */
function Here({ id }: { id: string }) {
  const ask = useContext(WorkbenchContext)?.ask;
  const [told, setTold] = useState<WordHere | null>(null);
  useEffect(() => {
    let wanted = true;
    void ask?.()?.("word", id).then(
      (text) => wanted && setTold(text),
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, [ask, id]);
  if (told === null) return null;
  return (
    <div className="mt-1.5 border-t border-hair pt-1.5">
      <p>{told.says}</p>
      {told.bars.length > 0 && <Bars bars={told.bars} />}
    </div>
  );
}

/** This machine's own figures as bars on one scale: what flows is solid, what it is held against an outline. */
function Bars({ bars }: { bars: WordHere["bars"] }) {
  return (
    <dl className="mt-1.5 text-xs leading-tight">
      {bars.map(({ name, text, share, limit }) => (
        <div key={name} className="mt-1">
          <div className="flex justify-between gap-2">
            <dt>{name}</dt>
            <dd className="fig whitespace-nowrap">{text}</dd>
          </div>
          <div aria-hidden className="mt-0.5 h-2 w-full bg-hair/40">
            <div
              className={limit ? "h-2 border border-ink bg-sheet" : "h-2 bg-ink"}
              style={{ width: `${Math.max(1, Math.round(share * 100))}%` }}
            />
          </div>
        </div>
      ))}
    </dl>
  );
}
