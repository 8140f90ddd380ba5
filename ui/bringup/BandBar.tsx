import { type Band, passBand } from "@/core/bringup/compare";

interface Props {
  band: Band;
  read: number | null;
  label: string;
  /** Says a value in the unit of the step. */
  words: (value: number, rounding?: "up" | "down") => string;
}

const WIDTH = 560;
const HEIGHT = 46;

/** Where a reading lies to its pass band, on one line; told in words as well. */
export function BandBar({ band, read, label, words }: Props) {
  const { low, high } = passBand(band);
  const values = [low, high, band.value, ...(read === null ? [] : [read])];
  const least = Math.min(...values);
  const span = Math.max(...values) - least || Math.abs(band.value) || 1;
  const x = (value: number) => 40 + ((value - least) / span) * (WIDTH - 80);
  const [from, to] = [x(low), Math.max(x(high), x(low) + 3)];
  const inside = read !== null && read >= low && read <= high;
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full max-w-[560px]" role="img" aria-label={label}>
      <line x1={0} x2={WIDTH} y1={18} y2={18} className="stroke-rule" />
      <rect x={from} y={9} width={to - from} height={18} className="fill-tint stroke-accent" />
      <text x={(from + to) / 2} y={42} textAnchor="middle" className="fig fill-soft text-[12px]">
        {words(low, "up")} – {words(high, "down")}
      </text>
      {read !== null && (
        <>
          <line x1={x(read)} x2={x(read)} y1={2} y2={34} strokeWidth={3} className={inside ? "stroke-ink" : "stroke-fix"} />
          {Math.abs(x(read) - (from + to) / 2) > 110 && (
            <text x={x(read)} y={42} textAnchor="middle" className={`fig text-[12px] font-bold ${inside ? "fill-ink" : "fill-fix"}`}>
              {words(read)}
            </text>
          )}
        </>
      )}
    </svg>
  );
}
