import type { Build } from "../figures/build";
import { partName, wireName } from "../figures/names";
import type { Opens } from "./walk";

const PLACES: Readonly<Record<string, string>> = {
  "in+": "the input of ",
  "out+": "the output of ",
  "5v": "the logic side of ",
};

/** A place of the walk in words: "Cutter bar", "the output of Buck 5 V". */
export function placeName(figures: Pick<Build, "partOf">, place: string): string {
  const [part = "", terminal = ""] = place.split(".");
  return `${PLACES[terminal] ?? ""}${figures.partOf.get(part)?.name ?? "a part that is gone"}`;
}

/** "the 25 A fuse in the feed of Cutter driver", "the 80 A Main fuse". */
export function deviceName(figures: Build, device: Pick<Opens, "kind" | "id" | "fuse">): string {
  if (device.kind === "part") return `the ${device.fuse.ratingA} A ${partName(figures, device.id)}`;
  const wire = figures.wireOf.get(device.id);
  return `the ${device.fuse.ratingA} A fuse${wire ? ` in the ${wireName(figures, wire)}` : ""}`;
}

/** A²s as people say them. */
export function energyText(a2s: number): string {
  if (a2s >= 1e6) return `${(a2s / 1e6).toPrecision(3)} MA²s`;
  return a2s >= 1e4 ? `${(a2s / 1000).toPrecision(3)} kA²s` : `${Number(a2s.toPrecision(3))} A²s`;
}
