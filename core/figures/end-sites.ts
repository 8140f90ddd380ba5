import { type EndSite, endSites } from "../connectors/ends";
import { perBuild } from "./build";

/** All connectors of a machine, listed once for all versions that differ in cells alone. */
export const sitesOf = perBuild((build): readonly EndSite[] => endSites(build.machine));
