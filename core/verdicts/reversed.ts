import type { BuiltPart } from "../machine/schema";
import type { Severity } from "./types";

const WITHOUT_HARM = new Set(["heater", "motor", "pump", "actuator"]);

/** What the wrong polarity does to a part. */
export function harm(part: BuiltPart | undefined): { severity: Severity; words: string } {
  if (part && "reverseSafe" in part && part.reverseSafe)
    return { severity: "fix", words: "It is said to bear that, and does nothing until they are swapped." };
  if (part?.kind === "load" && WITHOUT_HARM.has(part.loadKind))
    return part.loadKind === "heater"
      ? { severity: "watch", words: "A heater warms either way; what is crossed here is found again where it matters." }
      : { severity: "fix", words: "It turns the other way as soon as power is on." };
  return { severity: "stop", words: "Electronics conduct the wrong way round almost like a short, and are destroyed at once." };
}
