import type { Shape } from "../returns/pen";
import type { Drawing } from "../sheet/drawing";
import { pictureSvg } from "./flow-svg";

/** Height of a line of notes under the drawing, px, and the size of its text. */
const LINE = 13;
const SIZE = 9.5;

/** The distribution as an SVG document that needs nothing else; what the tree cannot show stands under it in words. */
export function drawingSvg({ width, height, shapes, also, unfed }: Drawing, title: string): string {
  const words = [...also.map((text) => `Also: ${text}`), ...(unfed.length > 0 ? [`Not fed: ${unfed.join(", ")}`] : [])];
  const notes = words.map(
    (text, i): Shape => ({
      kind: "text",
      x: 4,
      y: height + 10 + (i + 1) * LINE,
      text,
      size: SIZE,
      anchor: "start",
      tone: "ink",
      mono: false,
      bold: false,
      upright: false,
      halo: false,
      loads: [],
    }),
  );
  const foot = notes.length > 0 ? 16 + notes.length * LINE : 4;
  return pictureSvg({ width, height: height + foot, shapes: [...shapes, ...notes] }, title);
}
