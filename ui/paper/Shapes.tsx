import { FAINT } from "@/core/exchange/flow-svg";
import type { Shape, Tone } from "@/core/returns/pen";

/** How a picture is painted: what ink each tone is, the paper under it, and its two faces. */
export interface Paint {
  readonly ink: (tone: Tone) => string;
  readonly paper: string;
  /** Share of the ink that faint bands have. */
  readonly faint: number;
  readonly sans: string;
  readonly mono: string;
  /** How far the edge of a band in the colour of the paper reaches on both sides, px. */
  readonly halo: number;
}

/** One shape of a computed picture. */
export function ShapeMark({ shape, paint, opacity }: { shape: Shape; paint: Paint; opacity?: number | undefined }) {
  const { ink, paper } = paint;
  if (shape.kind === "band")
    return (
      <g opacity={opacity}>
        {shape.halo && <path d={shape.d} fill="none" stroke={paper} strokeWidth={shape.width + 2 * paint.halo} />}
        <path
          d={shape.d}
          fill="none"
          stroke={ink(shape.tone)}
          strokeWidth={shape.width}
          strokeOpacity={shape.faint ? paint.faint : undefined}
          strokeDasharray={shape.dash}
        />
      </g>
    );
  if (shape.kind === "box")
    return (
      <rect
        x={shape.x}
        y={shape.y}
        width={shape.w}
        height={shape.h}
        fill={shape.fill ? ink(shape.fill) : "none"}
        stroke={shape.stroke ? ink(shape.stroke) : "none"}
        strokeWidth={shape.strokeWidth}
        strokeDasharray={shape.dash}
        opacity={opacity}
      />
    );
  return (
    <text
      x={shape.x}
      y={shape.y}
      fontSize={shape.size}
      textAnchor={shape.anchor}
      fill={ink(shape.tone)}
      fontFamily={shape.mono ? paint.mono : paint.sans}
      fontWeight={shape.bold ? 700 : 400}
      stroke={shape.halo ? paper : undefined}
      strokeWidth={shape.halo ? 3 : undefined}
      paintOrder="stroke"
      transform={shape.upright ? `rotate(-90 ${shape.x} ${shape.y})` : undefined}
      opacity={opacity}
    >
      {shape.text}
    </text>
  );
}

/** Black and white, whatever the screen shows in colour. */
export const ON_PAPER: Paint = {
  ink: (tone) => (tone === "paper" || tone === "sheet" ? "#fff" : tone === "hair" ? "#999" : tone === "soft" ? "#444" : "#000"),
  paper: "#fff",
  faint: FAINT * 0.7,
  sans: '"Atkinson Hyperlegible Next Variable", sans-serif',
  mono: '"Atkinson Hyperlegible Mono Variable", monospace',
  halo: 1.5,
};
