import type { Explained } from "@/core/engine/bring-up";

/** A share of all that could be: never rounded to a certainty. */
export function shareWords(share: number): string {
  return share > 0.99 ? "> 99 %" : `${Math.round(share * 100)} %`;
}

/** Single faults that would explain what was read, likeliest first, as items of a list. */
export function FaultItems({ faults, look }: { faults: readonly Explained[]; look: boolean }) {
  return faults.map(({ id, words, size, look: where, share }) => (
    <li key={id} className="grid grid-cols-[64px_minmax(0,1fr)] border-b border-hair py-1.5">
      <span className="fig pr-3 text-right whitespace-nowrap">{shareWords(share)}</span>
      <span>
        <b>{words}</b>
        {size && `, ${size}`}
        {look && <span className="block text-xs text-soft">{where}</span>}
      </span>
    </li>
  ));
}
