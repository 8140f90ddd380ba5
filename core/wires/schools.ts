import type { AmpacitySchool } from "./ampacity";

/** What each school of continuous wire current is, and demands, in a sentence. */
export const SCHOOL_WORDS: Readonly<Record<AmpacitySchool, { name: string; demands: string; source: string }>> = {
  chassis: {
    name: "Handbook chassis wiring",
    demands: "single wires in an open frame and short runs; lowered here for warm air and neighbours. It has little left for a bundle.",
    source: "Reprinted handbook of gauge tables, chassis-wiring column (ambient and insulation not stated there), from memory.",
  },
  boat: {
    name: "Boat practice",
    demands: "wire of 105 °C insulation to earn the whole figure, 18 AWG or thicker, bundles counted from three wires on.",
    source: "ABYC E-11, 105 °C insulation, outside engine spaces, from memory.",
  },
  building: {
    name: "Building-wire table",
    demands: "long enclosed runs that nobody watches: 18 AWG or thicker, and small fuses on thin wire.",
    source: "NFPA 70 (NEC) Table 310.16 and 240.4(D), from memory.",
  },
  "heat balance": {
    name: "Heat balance at our ambient",
    demands:
      "a true figure for the air around the wire: the conductor may then get as hot as its insulation bears, so its ends must bear it too.",
    source: "Heat balance of a wire in still air (Churchill and Chu 1975, radiation, conduction through the insulation).",
  },
};
