import type { MissionPlan } from "../loads/mission";
import type { Wire } from "../machine/schema";
import type { Rows } from "../network/rows";
import { settledTemperature } from "../wires/ampacity";
import type { WireStatics } from "./build";
import type { Solved } from "./solved";
import type { JudgedWire } from "./types";
import { withMission, worstsOf } from "./worst";

/** What flows in a conductor of which the network knows what its supply draws: of a stepper that is on, at least its phase current. */
export function inLead(amps: number, phaseA: number): number {
  return amps === 0 || Math.abs(amps) >= phaseA ? amps : Math.sign(amps) * phaseA;
}

/** Everything computed for one wire; `plan` is the machine's mission, `scratch` holds one entry per mode, `branch` is its index in the circuit, `collapse`: some mode has no operating point. */
export function wireFigures(
  solved: Solved,
  plan: MissionPlan | null,
  scratch: Float64Array,
  rows: Rows,
  wire: Wire,
  branch: number,
  statics: WireStatics,
  collapse: boolean,
): JudgedWire {
  const { circuit, planned, low, unknown } = solved;
  const { runOhm, fuseOhm, limitA, ampacity, exposure, phaseA } = statics;
  const ohm = circuit.branches[branch]?.ohm ?? 0;
  const count = scratch.length;
  const amps = rows.next();
  const atLeast = new Uint8Array(count);
  const dropV = rows.next();
  const heatW = rows.next();
  // Collapsed points hold zeros: they add nothing to a worst.
  const lowA = low === planned ? null : scratch;
  let unsure = false;
  for (let m = 0; m < amps.length; m++) {
    const current = inLead(planned[m]?.branchA[branch] ?? 0, phaseA);
    amps[m] = current;
    dropV[m] = Math.abs(current) * ohm;
    heatW[m] = current * current * runOhm;
    if (lowA) lowA[m] = inLead(low[m]?.branchA[branch] ?? 0, phaseA);
    if (unknown[m]?.branch[branch]) {
      atLeast[m] = 1;
      unsure = true;
    }
  }
  const { worst, worstContinuous } = withMission(plan, worstsOf(solved, amps, lowA), amps, lowA, ampacity?.tauS ?? 0);
  const temperatureC = ampacity ? settledTemperature(wire, ampacity, worstContinuous.amps) : null;
  return {
    id: wire.id,
    amps,
    atLeast,
    dropV,
    heatW,
    runOhm,
    fuseOhm,
    worst,
    worstContinuous,
    worstAtLeast: collapse || unsure,
    limitA,
    ampacity,
    exposure,
    phaseA,
    temperatureC,
  };
}
