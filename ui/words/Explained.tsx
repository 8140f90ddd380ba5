"use client";
import { Fragment, useMemo } from "react";
import { explained, wordsOf } from "@/core/glossary/find";
import { Term } from "./Term";

interface Props {
  children: string;
  /** Most words explained in it; the first ones. */
  most?: number;
}

/** A text whose trade words explain themselves, each where it first stands. */
export function Explained({ children, most }: Props) {
  const pieces = useMemo(() => explained(children, most).map((piece, i) => ({ ...piece, key: `${i} ${piece.text}` })), [children, most]);
  return (
    <>
      {pieces.map(({ text, entry, key }) =>
        entry ? (
          <Term key={key} entry={entry}>
            {text}
          </Term>
        ) : (
          <Fragment key={key}>{text}</Fragment>
        ),
      )}
    </>
  );
}

/** The words of a headline that the text below it does not explain, as a line of their own: a headline is a button itself. */
export function WordsOf({ text, but }: { text: string; but: string }) {
  const words = useMemo(() => {
    const told = new Set(wordsOf(but).map(({ id }) => id));
    return wordsOf(text).filter(({ id }) => !told.has(id));
  }, [text, but]);
  if (words.length === 0) return null;
  return (
    <p className="mt-0.5 flex flex-wrap gap-x-2.5 text-xs text-soft">
      {words.map((entry) => (
        <Term key={entry.id} entry={entry}>
          {entry.word.toLowerCase()}
        </Term>
      ))}
    </p>
  );
}

/** A mark beside a label or a sorting head that has a trade word in it. */
export function MarkOf({ text }: { text: string }) {
  const [entry] = useMemo(() => wordsOf(text), [text]);
  return entry ? (
    <Term entry={entry} mark>
      {entry.word}
    </Term>
  ) : null;
}
