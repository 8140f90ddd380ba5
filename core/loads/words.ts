import type { Cell, LevelName } from "../machine/load-schema";
import type { Load } from "../machine/schema";
import type { LoadKind } from "../reference/load-kinds";

/** What each kind calls its levels: a board has no stall and a heater no start. Null: the kind does not have it. */
export function levelWord(kind: LoadKind, level: LevelName): string | null {
  const turning = kind === "motor" || kind === "servo" || kind === "actuator" || kind === "pump" || kind === "fan";
  switch (level) {
    case "idle":
      return kind === "stepper" ? "holds" : turning || kind === "brushless" ? "turning free" : kind === "heater" ? null : "idle";
    case "run":
      return kind === "servo" ? "moving" : kind === "coil" ? "on" : "runs";
    case "start":
      return turning
        ? "starts"
        : kind === "brushless"
          ? "at its limit"
          : kind === "heater" || kind === "coil" || kind === "light"
            ? "switched on"
            : "peak";
    case "stall":
      return turning ? "stalls" : null;
  }
}

/** A cell's state in words, as it can be typed: "run 70 %", "stall 1", "off". */
export function cellWords(load: Load, cell: Cell): string {
  const some = "pieces" in cell && cell.pieces !== undefined && cell.pieces < load.count ? ` ${cell.pieces}` : "";
  switch (cell.state) {
    case "off":
      return "off";
    case "amps":
      return "typed";
    case "idle":
      return load.loadKind === "stepper" ? "hold" : "idle";
    case "run":
      return `run${cell.percent === 100 ? "" : ` ${cell.percent} %`}${cell.duty === undefined ? "" : ` at ${Math.round(cell.duty * 100)} %`}`;
    case "start":
      return `${levelWord(load.loadKind, "stall") === null ? "peak" : "start"}${some}`;
    case "stall":
      return `stall${some}${cell.duty === undefined ? "" : ` at ${Math.round(cell.duty * 100)} %`}`;
    case "reverse":
      return `reverse${some}`;
  }
}
