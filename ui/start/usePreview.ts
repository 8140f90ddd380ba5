"use client";
import * as Comlink from "comlink";
import { useCallback, useEffect, useRef, useState } from "react";
import type { DraftingThread } from "@/state/drafting";
import type { Drafted } from "@/workers/drafting.worker";

/** Pause after a key before a draft is made of it, ms. */
const PAUSE_MS = 500;

interface Preview {
  readonly of: string;
  readonly drafted: Drafted;
}

/**
 * A draft of the list as it stands, made while the builder pauses, so that it is there when it is asked for. `wanted` false: not
 * made. @returns the last draft, whether it is of this text, how far a newer one is, whether it broke off, and another try
 */
export function usePreview(thread: DraftingThread, text: string, name: string, wanted: boolean) {
  const [preview, setPreview] = useState<Preview | null>(null);
  const [progress, setProgress] = useState<number | null>(null);
  const [failed, setFailed] = useState(false);
  const turn = useRef(0);
  const key = `${name}\n${text}`;
  const make = useCallback(async () => {
    const mine = ++turn.current;
    setProgress(0);
    setFailed(false);
    const told = Comlink.proxy(async (done: number, of: number) => {
      if (turn.current !== mine) return false;
      setProgress(done / Math.max(1, of));
      return true;
    });
    try {
      const drafted = await thread.ask((service) => service.draft(text, name, told), Number.POSITIVE_INFINITY);
      if (turn.current !== mine || !drafted) return;
      setPreview({ of: key, drafted });
      setProgress(null);
    } catch {
      if (turn.current !== mine) return;
      setProgress(null);
      setFailed(true);
    }
  }, [thread, text, name, key]);
  useEffect(() => {
    turn.current++;
    setProgress(null);
    if (!wanted) return;
    const timer = setTimeout(() => void make(), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [make, wanted]);
  const fresh = preview?.of === key;
  return { drafted: preview?.drafted ?? null, fresh, progress, failed, make };
}
