import type { Difference } from "@/core/machine/difference-words";

/** What differs, a line a thing. */
export function DifferenceList({ differences }: { differences: readonly Difference[] }) {
  return (
    <ul className="text-sm">
      {differences.map(({ what, said }) => (
        <li key={what + said.join()} className="border-b border-hair py-1">
          <b>{what}</b> <span className="fig text-xs">{said.join(", ")}</span>
        </li>
      ))}
    </ul>
  );
}
