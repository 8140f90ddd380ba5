import type { Rail } from "@/core/machine/tree";

export function railColour(order: number): string {
  return `var(--rail-${order % 6})`;
}

/** A rail's tag in its hue; the return side has a plain one. */
export function RailTag({ rail }: { rail: Rail | null }) {
  const colour = rail ? railColour(rail.order) : "var(--soft)";
  return (
    <span className="fig inline-block border px-1 text-[11px] leading-4 font-semibold" style={{ color: colour, borderColor: colour }}>
      {rail ? rail.tag : "0 V"}
    </span>
  );
}
