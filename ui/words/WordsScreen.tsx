"use client";
import { useState } from "react";
import { GLOSSARY } from "@/core/glossary/entries";
import { spellOut, useSpeltOut } from "@/state/reader";
import { finder } from "../kit/finds";
import { PageHead } from "../kit/PageHead";

/** Every trade word of the screens, and how verdicts are worded. */
export function WordsScreen() {
  const [text, setText] = useState("");
  const spelt = useSpeltOut();
  const finds = finder(text);
  const shown = GLOSSARY.filter(({ word, says }) => finds(`${word} ${says}`));
  return (
    <div className="mx-auto max-w-[860px] px-6 pb-10 max-sm:px-3">
      <PageHead title="Words" says="the same explanations stand at the dotted words on every screen, with the machine’s own numbers" />
      <main>
        <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 py-3 text-sm">
          <input
            aria-label="Find a word"
            placeholder="find"
            className="field w-[220px]"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <label className="flex items-baseline gap-2">
            <input type="checkbox" checked={spelt} onChange={(event) => spellOut(event.target.checked)} />
            Spell verdicts out: plain words first, the trade’s wording second
          </label>
        </div>
        {shown.length === 0 && (
          <p className="py-6 text-sm text-soft">
            No word goes by that. Every word that a heading or a verdict uses is here, under its usual name.
          </p>
        )}
        <dl className="text-sm">
          {shown.map(({ id, word, says }) => (
            <div key={id} id={id} className="grid grid-cols-[150px_minmax(0,1fr)] gap-x-4 border-b border-hair py-2 max-sm:grid-cols-1">
              <dt className="font-bold">{word}</dt>
              <dd>{says}</dd>
            </div>
          ))}
        </dl>
      </main>
    </div>
  );
}
