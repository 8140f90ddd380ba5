import type { Reading, ReadLine, Said } from "@/core/drafting/reading";

const round = (value: number) => String(Number(value.toPrecision(3)));
const mark = (said: Said) => (said.provenance === "guess" ? "~" : said.provenance === "measured" ? "=" : "");

/** What was read of a line, in the short form that the lists of hands are written in. */
export function brief({ reading, troubles }: ReadLine): string {
  if (reading === null) return "lost";
  return troubles.length > 0 ? "trouble" : pieces(reading).filter(Boolean).join(" ");
}

function pieces(reading: Reading): string[] {
  const amps = (said: Said | null) => (said ? `${round(said.value)}A` : "");
  switch (reading.is) {
    case "load": {
      const letters = { run: "r", idle: "i", start: "p", stall: "s", most: "m" } as const;
      const volts = reading.volts
        ? `${reading.volts.low === undefined ? "" : `${round(reading.volts.low)}-`}${round(reading.volts.value)}V`
        : "";
      return [
        reading.kind,
        `×${reading.count}`,
        volts,
        ...(["run", "idle", "start", "stall", "most"] as const).map((role) => {
          const said = reading.amps[role];
          return said ? `${letters[role]}${mark(said)}${round(said.value)}` : "";
        }),
        reading.phaseA ? `f${round(reading.phaseA.value)}` : "",
        reading.watts ? `${round(reading.watts.value)}W` : "",
        reading.ohms ? `${round(reading.ohms.value)}Ω` : "",
        reading.perDriver === null ? "" : `d${reading.perDriver}`,
        reading.lengthM ? `l${round(reading.lengthM.value)}` : "",
        reading.motorClass &&
        (Object.keys(reading.amps).length === 0 || reading.watts) &&
        reading.phaseA === null &&
        reading.kind !== "actuator"
          ? reading.motorClass
          : "",
      ];
    }
    case "pack":
      return [
        "pack",
        reading.volts ? `${round(reading.volts.value)}V` : `${reading.series}s`,
        reading.capacityAh ? `${round(reading.capacityAh.value)}Ah` : "",
        reading.chemistry ?? "",
        reading.blocks ? `b${reading.blocks}` : "",
      ];
    case "supply":
      return ["supply", ...reading.outputs.map(({ volts, amps: of }) => `${round(volts.value)}V${amps(of)}`)];
    case "converter":
      return [
        "converter",
        `${reading.inputV ? `${round(reading.inputV.value)}>` : ""}${reading.outputV ? round(reading.outputV.value) : "?"}V`,
        amps(reading.amps),
        reading.isolated ? "iso" : "",
      ];
    case "driver":
      return [
        "driver",
        `×${reading.count}`,
        reading.volts ? `${round(reading.volts.value)}V` : "",
        reading.channels ? `c${reading.channels}` : "",
        reading.amps ? `r${round(reading.amps.value)}` : "",
      ];
    case "lengths":
      return ["lengths", ...reading.to.map(({ what, kind, lengthM }) => `${kind ?? what ?? "all"}${Number(lengthM.value.toFixed(1))}`)];
    case "link":
      return ["link", `${reading.from.toLowerCase()}>${reading.to.toLowerCase().replace(/^the /, "")}`, reading.kind ?? ""];
    case "about":
      return [
        "about",
        reading.name ?? "",
        reading.ambientC ? `${reading.ambientC.value}C` : "",
        reading.runS ? `${reading.runS.value}s` : "",
      ];
    case "nothing":
    case "remark":
    case "heading":
      return [reading.is];
    default:
      return [reading.is, amps(reading.amps)];
  }
}
