import { analyse } from "../analysis/analyse";
import type { Machine } from "../machine/schema";
import { flowOf } from "../returns/flow";
import type { Picture, Shape, Tone } from "../returns/pen";
import { pictureOf } from "../returns/picture";
import { returnsOf } from "../returns/summary";
import { xmlText } from "./escape";

/** Colours of the light theme, so that a file looks the same wherever it is opened. */
const INKS: Readonly<Record<string, string>> = {
  ink: "#1c211f",
  soft: "#565c57",
  hair: "#dcd7c8",
  paper: "#faf8f2",
  sheet: "#fffdf8",
  fix: "#9a4a06",
};
const RAILS = ["#1f5a7a", "#7a4a12", "#5f3a86", "#236b3e", "#8a2f3f", "#5b6114"];

/** The colour a tone has on paper. */
export function inkOf(tone: Tone): string {
  return INKS[tone] ?? RAILS[Number(tone.slice(5)) % RAILS.length] ?? "#1c211f";
}

/** Share of the ink that bands under the axis have. */
export const FAINT = 0.5;
/** How far a band's paper-coloured edge reaches on both sides, px: crossings read as over and under. */
export const HALO = 1.5;

/** The picture as an SVG document that needs nothing else. */
export function pictureSvg(picture: Pick<Picture, "width" | "height" | "shapes">, title: string): string {
  const { width, height, shapes } = picture;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" role="img">`,
    `<title>${xmlText(title)}</title>`,
    `<rect width="${width}" height="${height}" fill="${INKS.paper}"/>`,
    ...shapes.map(element),
    "</svg>",
    "",
  ].join("\n");
}

/** The flow of a machine in one mode as an SVG document. */
export function flowSvg(machine: Machine, mode: number): string {
  const { figures, analysis } = analyse(machine);
  const flow = flowOf(machine, analysis, returnsOf(figures), mode);
  return pictureSvg(pictureOf(machine, flow, { width: 1120, height: 560 }), `${machine.name}, ${machine.modes[mode]?.name ?? ""}`);
}

function element(shape: Shape): string {
  const title = shape.title ? `<title>${xmlText(shape.title)}</title>` : "";
  if (shape.kind === "band") {
    const dash = shape.dash ? ` stroke-dasharray="${shape.dash}"` : "";
    const edge = shape.halo ? `<path d="${shape.d}" fill="none" stroke="${INKS.paper}" stroke-width="${shape.width + 2 * HALO}"/>` : "";
    return `${edge}<path d="${shape.d}" fill="none" stroke="${inkOf(shape.tone)}" stroke-width="${shape.width}"${shape.faint ? ` stroke-opacity="${FAINT}"` : ""}${dash}>${title}</path>`;
  }
  if (shape.kind === "box") {
    const stroke = shape.stroke ? ` stroke="${inkOf(shape.stroke)}" stroke-width="${shape.strokeWidth}"` : "";
    const dash = shape.dash ? ` stroke-dasharray="${shape.dash}"` : "";
    return `<rect x="${shape.x}" y="${shape.y}" width="${shape.w}" height="${shape.h}" fill="${shape.fill ? inkOf(shape.fill) : "none"}"${stroke}${dash}>${title}</rect>`;
  }
  const family = shape.mono ? "monospace" : "sans-serif";
  const halo = shape.halo ? ` stroke="${INKS.paper}" stroke-width="3" paint-order="stroke"` : "";
  const turned = shape.upright ? ` transform="rotate(-90 ${shape.x} ${shape.y})"` : "";
  return `<text x="${shape.x}" y="${shape.y}" font-family="${family}" font-size="${shape.size}" text-anchor="${shape.anchor}" fill="${inkOf(shape.tone)}"${shape.bold ? ' font-weight="bold"' : ""}${halo}${turned}>${xmlText(shape.text)}</text>`;
}
