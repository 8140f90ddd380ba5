"use client";
import { clsx } from "clsx";
import { memo, useId, useRef, useState } from "react";
import { PLAIN } from "@/core/glossary/plain";
import type { Offer } from "@/core/settling/offers";
import { type Cause, membersOf } from "@/core/verdicts/causes";
import type { Verdict } from "@/core/verdicts/types";
import { useSpeltOut } from "@/state/reader";
import { SeverityMark } from "../kit/Severity";
import { Explained, WordsOf } from "../words/Explained";
import { Offers } from "./Offers";
import { useOffers, useSeen } from "./useOffers";

interface Props {
  cause: Cause;
  /** Its row is the chosen one. */
  chosen: boolean;
  /** It was found by a word that may stand in any of its members. */
  unfolded: boolean;
  onJump: (verdict: Verdict) => void;
  onTake: (cause: Cause, offer: Offer) => void;
  onAccept: (cause: Cause) => void;
  /** Verdicts of the chosen row, which stand first among its members; ids with a space between. */
  first: string;
}

/** Members that are shown without being asked for. */
const FEW = 3;

/** What is said of one more place, with what settles it there alone. */
function Member({ verdict, onJump, onTake }: { verdict: Verdict; onTake?: (cause: Cause, offer: Offer) => void } & Pick<Props, "onJump">) {
  return (
    <li className="py-0.5">
      <button type="button" className="text-left leading-snug hover:underline" title={verdict.detail} onClick={() => onJump(verdict)}>
        {verdict.headline} <SeverityMark severity={verdict.severity} />
      </button>
      {onTake && <Alone verdict={verdict} onTake={onTake} />}
    </li>
  );
}

/** Remedies of one of several that are alike. */
function Alone({ verdict, onTake }: { verdict: Verdict } & Pick<Props, "onTake">) {
  const cause: Cause = {
    id: verdict.id,
    severity: verdict.severity,
    headline: verdict.headline,
    head: verdict,
    alike: [],
    follows: [],
    remedies: [],
  };
  const answer = useOffers(cause, true);
  return <Offers answer={answer} onTake={(offer) => onTake(cause, offer)} />;
}

/** One cause: what is wrong, why, what else is said of it, and what was tried that settles it. */
export const CauseItem = memo(function CauseItem({ cause, chosen, unfolded, first, onJump, onTake, onAccept }: Props) {
  const { head, headline, severity, alike, follows } = cause;
  const ref = useRef<HTMLLIElement>(null);
  const seen = useSeen(ref);
  const answer = useOffers(cause, seen);
  const [opened, setOpened] = useState<boolean | null>(null);
  // What is said of the chosen row is read at once, and a few lines need no folding.
  const open = opened ?? (chosen || unfolded || alike.length + follows.length <= FEW);
  const members = useId();
  const rest = alike.length + follows.length;
  const plain = PLAIN[head.rule];
  const spelt = useSpeltOut() && plain !== undefined;
  const own = new Set(first.split(" "));
  const ownFirst = (list: readonly Verdict[]) => [...list].sort((a, b) => Number(own.has(b.id)) - Number(own.has(a.id)));
  return (
    <li ref={ref} data-cause={cause.id} className={clsx("border-b border-hair py-2.5", chosen && "-mx-4 bg-tint px-4")}>
      <SeverityMark severity={severity} />
      <button
        type="button"
        data-headline
        className="mt-1 block w-full text-left text-sm leading-snug font-bold hover:underline"
        onClick={() => onJump(head)}
      >
        {spelt ? plain : headline}
      </button>
      {spelt && <p className="mt-0.5 text-sm leading-snug">{headline}</p>}
      <p className="mt-1 text-xs leading-snug">
        <Explained most={3}>{head.detail}</Explained>
      </p>
      <WordsOf text={headline} but={head.detail} />
      {rest > 0 && (
        <button
          type="button"
          aria-expanded={open}
          aria-controls={members}
          className="mt-1 block text-left text-xs text-soft hover:text-ink"
          onClick={() => setOpened(!open)}
        >
          <span aria-hidden>{open ? "▾" : "▸"}</span>{" "}
          {[
            alike.length > 0 ? `${alike.length} alike` : "",
            follows.length > 0 ? `${follows.length} ${follows.length === 1 ? "follows" : "follow"} from it` : "",
          ]
            .filter(Boolean)
            .join(", ")}
        </button>
      )}
      {rest > 0 && open && (
        <ul id={members} className="mt-1 border-l border-hair pl-3 text-xs">
          {ownFirst(alike.length > 0 ? [head, ...alike] : []).map((verdict) => (
            <Member key={verdict.id} verdict={verdict} onJump={onJump} onTake={onTake} />
          ))}
          {ownFirst(follows).map((verdict) => (
            <Member key={verdict.id} verdict={verdict} onJump={onJump} />
          ))}
        </ul>
      )}
      <Offers answer={answer} onTake={(offer) => onTake(cause, offer)} />
      <button type="button" data-accept className="mt-1 text-xs text-soft hover:underline" onClick={() => onAccept(cause)}>
        Accept or put off…
      </button>
    </li>
  );
}, sameCause);

/** A cause that says the same is the same: figures behind it may have moved without changing a word. */
function sameCause(a: Props, b: Props): boolean {
  if (
    a.onJump !== b.onJump ||
    a.onTake !== b.onTake ||
    a.onAccept !== b.onAccept ||
    a.chosen !== b.chosen ||
    a.unfolded !== b.unfolded ||
    a.first !== b.first
  )
    return false;
  const [one, other] = [membersOf(a.cause), membersOf(b.cause)];
  return (
    a.cause.id === b.cause.id &&
    a.cause.headline === b.cause.headline &&
    one.length === other.length &&
    one.every((verdict, i) => {
      const also = other[i];
      return (
        also !== undefined &&
        verdict.id === also.id &&
        verdict.headline === also.headline &&
        verdict.detail === also.detail &&
        verdict.severity === also.severity
      );
    })
  );
}
