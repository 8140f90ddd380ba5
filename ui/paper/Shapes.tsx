import { FAINT } from "@/core/exchange/flow-svg";
import type { Shape } from "@/core/returns/pen";

/** Ink on paper: black and white, whatever the screen shows in colour. */
function ink(tone: Shape extends { tone: infer T } ? T : string): string {
  return tone === "paper" || tone === "sheet" ? "#fff" : tone === "hair" ? "#999" : tone === "soft" ? "#444" : "#000";
}

/** A shape of a computed picture in black and white. */
export function PaperShape({ shape }: { shape: Shape }) {
  if (shape.kind === "band")
    return (
      <g>
        {shape.halo && <path d={shape.d} fill="none" stroke="#fff" strokeWidth={shape.width + 3} />}
        <path
          d={shape.d}
          fill="none"
          stroke={shape.faint ? "#000" : ink(shape.tone)}
          strokeWidth={shape.width}
          strokeOpacity={shape.faint ? FAINT * 0.7 : undefined}
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
      />
    );
  return (
    <text
      x={shape.x}
      y={shape.y}
      fontSize={shape.size}
      textAnchor={shape.anchor}
      fill={ink(shape.tone)}
      className={shape.mono ? "paper-mono" : undefined}
      fontWeight={shape.bold ? 700 : 400}
      stroke={shape.halo ? "#fff" : undefined}
      strokeWidth={shape.halo ? 3 : undefined}
      paintOrder="stroke"
      transform={shape.upright ? `rotate(-90 ${shape.x} ${shape.y})` : undefined}
    >
      {shape.text}
    </text>
  );
}
