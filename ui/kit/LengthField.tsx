"use client";
import { type Figure, measured } from "@/core/machine/figure";
import type { Wire } from "@/core/machine/schema";
import { editText, say } from "@/core/quantity/format";
import { parseQuantity } from "@/core/quantity/parse";
import { EditCell } from "../grid/EditCell";
import type { CellPlace } from "../grid/FigureTable";
import { QuantityInput } from "./QuantityInput";
import type { Committed } from "./useDraft";

interface Props {
  label: string;
  wire: Pick<Wire, "lengthM">;
  onCommit: (lengthM: Figure | undefined) => Committed;
}

/**
 * A wire's length beside its name. Who types a length has measured it: whatever doubt the figure before had, its tolerance
 * among it, goes with the number it belonged to.
 */
export function LengthField({ label, wire, onCommit }: Props) {
  return (
    <QuantityInput
      slim
      optional
      label={label}
      dimension="length"
      value={wire.lengthM?.value}
      onCommit={(value) => onCommit(value === undefined ? undefined : measured(value))}
    />
  );
}

/** The same in a cell of a table. */
export function LengthCell({ label, wire, onCommit, cell }: Props & { cell: CellPlace }) {
  return (
    <EditCell
      cell={cell}
      initial={wire.lengthM ? editText(wire.lengthM.value, "length") : ""}
      label={label}
      parse={(text) => parseQuantity(text, "length")}
      commit={(value) => onCommit(measured(value))}
    >
      {wire.lengthM ? <span className="fig">{say(wire.lengthM.value, "length")}</span> : <span className="text-ask">?</span>}
    </EditCell>
  );
}
