import { formatQuantity } from "@/core/quantity/format";
import type { Working, WorkingInput } from "@/core/working/types";

const KNOWN: Readonly<Record<WorkingInput["known"], string>> = {
  measured: "measured",
  datasheet: "datasheet",
  typical: "typical",
  guess: "? guess",
  computed: "computed",
  table: "table",
  setting: "your setting",
};

/** How a figure was derived: formula, numbers, inputs with how they are known, source and school. */
export function WorkingCard({ working }: { working: Working | null }) {
  if (!working) return <p className="text-soft">Working it out…</p>;
  const { digits, unit } = formatQuantity(working.value, working.dimension, working.rounding);
  return (
    <div>
      <h3 className="font-bold">{working.title}</h3>
      <p className="fig mt-1 text-xl font-bold">
        {digits}
        <span className="unit">{unit}</span>
      </p>
      <p className="fig mt-2 text-xs">{working.formula}</p>
      <p className="fig mt-1 text-xs break-words">{working.numbers}</p>
      {working.inputs.length > 0 && (
        <table className="mt-3 w-full text-xs">
          <caption className="sr-only">Inputs</caption>
          <tbody>
            {working.inputs.map((input) => (
              <tr key={`${input.label} ${input.text}`} className="border-t border-hair align-baseline">
                <th scope="row" className="py-1 pr-2 text-left font-normal">
                  {input.label}
                  {input.source && <span className="block text-soft">{input.source}</span>}
                </th>
                <td className="fig py-1 pr-2 text-right whitespace-nowrap">{input.text}</td>
                <td
                  className={
                    input.known === "measured"
                      ? "font-bold"
                      : input.known === "guess"
                        ? "font-bold text-ask"
                        : input.known === "typical"
                          ? "italic"
                          : "text-soft"
                  }
                >
                  {KNOWN[input.known]}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {working.notes.map((note) => (
        <p key={note} className="mt-2 text-xs">
          {note}
        </p>
      ))}
      <p className="mt-2 border-t border-hair pt-2 text-xs text-soft">
        {working.school && <>School: {working.school} </>}
        {working.source}
      </p>
    </div>
  );
}
