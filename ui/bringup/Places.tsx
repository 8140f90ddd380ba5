import type { Place } from "@/core/bringup/types";

const WORDS: Readonly<Record<Place["what"], string>> = {
  red: "red probe",
  black: "black probe",
  clamp: "clamp",
  look: "look at",
  touch: "touch",
};

/** Where probes, clamp or eyes go: what, at which terminal, with what is written on it. */
export function Places({ places }: { places: readonly Place[] }) {
  return (
    <dl className="max-w-[520px] text-sm">
      {places.map(({ what, at, label, note }) => (
        <div key={`${what} ${at}`} className="grid grid-cols-[92px_minmax(0,1fr)] gap-x-3 border-b border-hair py-1.5">
          <dt className="text-soft">{WORDS[what]}</dt>
          <dd>
            <b>{at}</b>
            {label && <span className="pl-1.5 text-xs text-soft">label {label}</span>}
            {note && <span className="block text-xs text-soft">{note}</span>}
          </dd>
        </div>
      ))}
    </dl>
  );
}
