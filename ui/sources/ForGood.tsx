import { say } from "@/core/quantity/format";
import type { Giver, Rating } from "@/core/sources/ratings";
import { Figure } from "../figure/Figure";
import type { CellPlace } from "../grid/FigureTable";

/** What a source or converter may give continuously, with what is printed on it where that is more; asked for where nobody said. */
export function ForGood({ part, rating, place }: { part: Giver; rating: Rating | null | undefined; place: CellPlace }) {
  return (
    <>
      {rating?.continuousA == null ? (
        <span className="text-ask">?</span>
      ) : (
        <Figure
          cell={place}
          value={rating.continuousA}
          dimension="current"
          rounding="down"
          label={`What ${part.name} may give continuously`}
          of={{ kind: "rating", part: part.id }}
        />
      )}
      {rating?.printedA != null && <span className="fig block text-xs text-soft">of {say(rating.printedA, "current", "down")}</span>}
    </>
  );
}
