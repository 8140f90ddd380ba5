import { CONTACT_MOST_K, CONTACT_RISE_K } from "../wires/brief";
import type { Severity } from "./types";

/**
 * What a contact over its current comes to: its rise goes with the square and is 30 K at its rating. Over that it wears out
 * early, from 60 K on it burns or melts its housing.
 * @param share current over what it bears for as long as it flows
 */
export function contactSeverity(share: number): { severity: Severity; riseK: number } {
  const riseK = CONTACT_RISE_K * share ** 2;
  return { riseK, severity: share <= 1 ? "watch" : riseK > CONTACT_MOST_K ? "stop" : "fix" };
}
