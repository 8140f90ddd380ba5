"use client";
import { useEffect, useRef } from "react";
import { toast } from "sonner";
import { type LeftBehind as Left, saveLeftBehind } from "@/state/left-behind";

interface Props {
  /** The machine that is open here: its own edits are taken up by its workbench. */
  except?: string;
  /** Names of machines, where the page knows them. */
  names?: readonly { id: string; name: string }[];
}

const SAID: Readonly<Record<Left["became"], (edits: string) => string>> = {
  saved: (edits) => `${edits} still here, and saved now.`,
  asks: (edits) => `${edits} still here. The same figures were changed elsewhere: open the machine to choose.`,
  waits: (edits) => `${edits} still here. The server does not take them yet; it is tried again.`,
  gone: (edits) => `${edits} still here, but the machine was deleted: bring it back to see them.`,
};

/** Whichever page is opened: edits that closed windows left behind go into their machines, and it is said. */
export function LeftBehind({ except, names = [] }: Props) {
  const known = useRef(names);
  known.current = names;
  useEffect(() => {
    const ending = new AbortController();
    const tell = ({ machine, edits, at, became, letGo }: Left) => {
      if (ending.signal.aborted) return;
      const name = known.current.find(({ id }) => id === machine)?.name ?? "another machine";
      const clock = new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
      const were = edits === 1 ? `1 edit of ${name} from ${clock} was` : `${edits} edits of ${name} from ${clock} were`;
      const open = { label: "Open", onClick: () => window.location.assign(`/m/${machine}/feeds`) };
      const action = became === "asks" ? { action: open } : became === "gone" ? { action: { label: "Let them go", onClick: letGo } } : {};
      toast(SAID[became](were), { id: `left ${machine}`, duration: 12_000, ...action });
    };
    void saveLeftBehind(except ?? null, tell, ending.signal);
    return () => ending.abort();
  }, [except]);
  return null;
}
