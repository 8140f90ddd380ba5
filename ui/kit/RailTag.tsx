import type { Rail } from "@/core/machine/tree";

export function railColour(order: number): string {
  return `var(--rail-${order % 6})`;
}

/** A rail's tag in its hue; the return side has a plain one. */
export function RailTag({ rail, slim }: { rail: Rail | null; slim?: boolean }) {
  const colour = rail ? railColour(rail.order) : "var(--soft)";
  return (
    <span
      className={`fig inline-block border px-1 text-[11px] font-semibold ${slim ? "leading-[11px]" : "leading-4"}`}
      style={{ color: colour, borderColor: colour }}
    >
      {rail ? rail.tag : "0 V"}
    </span>
  );
}
