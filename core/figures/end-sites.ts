import { type EndSite, endSites } from "../connectors/ends";
import { steady } from "./standing";

/** All connectors of a machine, listed once for all versions that differ in cells alone. */
export const sitesOf = steady((still): readonly EndSite[] => endSites(still.machine));
