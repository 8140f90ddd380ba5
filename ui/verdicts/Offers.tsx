"use client";
import type { Offer, Offered } from "@/core/settling/offers";
import { SEVERITY_WORDS } from "@/core/verdicts/types";
import type { Answer } from "../workbench/useQuestion";

interface Props {
  answer: Answer<Offered>;
  onTake: (offer: Offer) => void;
}

/** "1 Fix and 2 Watch come with it". */
function bringsWords({ brings }: Offer): string {
  const counts = new Map<string, number>();
  for (const { severity } of brings) counts.set(severity, (counts.get(severity) ?? 0) + 1);
  return [...counts].map(([severity, n]) => `${n} ${SEVERITY_WORDS[severity as keyof typeof SEVERITY_WORDS]}`).join(", ");
}

/** What can be done about a cause: changes that were tried, with what each settles and brings, or what no click can give. */
export function Offers({ answer, onTake }: Props) {
  const { value, stale, failed } = answer;
  if (!value)
    return <p className="mt-1.5 text-xs text-soft">{failed ? "What settles it could not be worked out." : "Trying what settles it…"}</p>;
  if (value.needs) return <p className="mt-1.5 text-xs leading-snug">Yours to decide: {value.needs}</p>;
  if (value.offers.length === 0) return null;
  return (
    <ul className="mt-1.5 space-y-0.5 text-xs" aria-busy={stale}>
      {value.offers.map((offer) => (
        <li key={offer.label}>
          <button type="button" data-remedy className="link text-left disabled:opacity-50" disabled={stale} onClick={() => onTake(offer)}>
            {offer.label}
          </button>
          <span className="pl-2 whitespace-nowrap text-soft">
            settles <span className="fig">{offer.settles.length}</span>
            {offer.brings.length > 0 && (
              <span title={offer.brings.map(({ headline }) => headline).join("\n")}>, brings {bringsWords(offer)}</span>
            )}
          </span>
        </li>
      ))}
    </ul>
  );
}
