import { datasheet as f } from "@/core/machine/figure";
import type { Machine, Wire } from "@/core/machine/schema";
import { must, simple } from "../support/small";

export type Fuse = NonNullable<Wire["fuse"]>;

export const fused = (family: Fuse["family"], ratingA: number): Fuse => ({ family, ratingA });

/** One load on a wire that its fuse leaves alone. */
export const loaded = (amps: number, gauge = "14 AWG", over = {}) => simple({ amps, gauge, fuse: fused("blade_maxi_32v", 80), ...over });

export const timed = (machine: Machine, seconds: number, amps: number, load = "motor") => {
  const next = must(machine, { type: "addMode", name: "Brief", lastsS: seconds });
  return must(next, { type: "setCell", loadId: load, modeId: next.modes.at(-1)?.id ?? "", cell: { state: "amps", amps: f(amps) } });
};
