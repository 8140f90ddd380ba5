import type { Gauge } from "../reference/gauges";
import type { Insulation } from "../reference/insulation";
import { temperatureFactor } from "./resistance";

/**
 * Heat balance of one round insulated wire, horizontal, in still air (handbook wires-and-connectors section 2d):
 * I² R′(Tc) = (Tc − Ts)/R_ins = π D h (Ts − Ta), with h from natural convection (Churchill and Chu 1975, horizontal
 * cylinder) and radiation. Temperatures in °C, resistances and heat per metre of wire.
 */
export interface WireBody {
  /** Over the insulation, m. */
  readonly outerM: number;
  /** Conductor to surface, K·m/W. */
  readonly insulationKMPerW: number;
  readonly ohmPerM20: number;
  readonly emissivity: number;
  /** Heat stored by copper, and by copper with half of the insulation, J/(m·K). */
  readonly copperJPerMK: number;
  readonly totalJPerMK: number;
}

/** Copper’s share of a strand’s circle (typical); heat stored by copper, J/(cm³·K); radiation, W/(m²·K⁴) (CODATA). */
const STRAND_FILL = 0.75;
const COPPER_J_PER_CM3K = 3.45;
const STEFAN_BOLTZMANN = 5.670374e-8;

/** Wall of hook-up wire by conductor area in mm², mm (handbook, hook-up wire practice). */
export function wallMm(area: number): number {
  return area < 0.18 ? 0.4 : area <= 5.5 ? 0.8 : area <= 9 ? 1.15 : area <= 36 ? 1.5 : 2;
}

const bodies = new Map<Gauge, Map<Insulation, WireBody>>();

/** A wire as a body that heats. */
export function wireBody(gauge: Gauge, insulation: Insulation): WireBody {
  const known = bodies.get(gauge)?.get(insulation);
  if (known) return known;
  const d = Math.sqrt((4 * gauge.areaMm2) / Math.PI / STRAND_FILL);
  const outer = d + 2 * wallMm(gauge.areaMm2);
  const copper = COPPER_J_PER_CM3K * gauge.areaMm2;
  const insulationMm2 = (Math.PI / 4) * (outer ** 2 - d ** 2);
  const made: WireBody = {
    outerM: outer / 1000,
    insulationKMPerW: Math.log(outer / d) / (2 * Math.PI * insulation.thermalWPerMK),
    ohmPerM20: gauge.r20OhmPerKm / 1000,
    emissivity: insulation.emissivity,
    copperJPerMK: copper,
    totalJPerMK: copper + 0.5 * insulation.heatJPerCm3K * insulationMm2,
  };
  const own = bodies.get(gauge) ?? new Map<Insulation, WireBody>();
  own.set(insulation, made);
  bodies.set(gauge, own);
  return made;
}

/** Heat in W/m that leaves a wire's surface at `surfaceC` into still air at `airC`; 0 where it is no warmer. */
export function surfaceHeat(body: WireBody, surfaceC: number, airC: number): number {
  const rise = surfaceC - airC;
  if (rise <= 0) return 0;
  const film = (surfaceC + airC) / 2 + 273.15;
  const grown = (film / 273.15) ** 1.5;
  const viscosity = (1.716e-5 * grown * 383.55) / (film + 110.4);
  const conductivity = (0.02414 * grown * 467.15) / (film + 194);
  const density = 101325 / (287.05 * film);
  const kinematic = viscosity / density;
  const diffusivity = conductivity / (density * 1006);
  const prandtl = kinematic / diffusivity;
  const rayleigh = ((9.80665 / film) * rise * body.outerM ** 3) / (kinematic * diffusivity);
  const nusselt = (0.6 + (0.387 * rayleigh ** (1 / 6)) / (1 + (0.559 / prandtl) ** (9 / 16)) ** (8 / 27)) ** 2;
  const [s, a] = [surfaceC + 273.15, airC + 273.15];
  const radiation = body.emissivity * STEFAN_BOLTZMANN * (s * s + a * a) * (s + a);
  return Math.PI * body.outerM * ((nusselt * conductivity) / body.outerM + radiation) * rise;
}

function heated(body: WireBody, conductorC: number): number {
  return body.ohmPerM20 * temperatureFactor(conductorC);
}

/** Where a wire's heat balances. */
export interface Balance {
  amps: number;
  surfaceC: number;
  /** Heat given off, W/m, and conductor to air, K·m/W. */
  heatWPerM: number;
  kelvinMPerW: number;
}

/** The current that brings the conductor to `conductorC` in air at `airC`. Null where the air is as hot as that. */
export function balanceAt(body: WireBody, conductorC: number, airC: number): Balance | null {
  if (conductorC <= airC) return null;
  const leaves = (surface: number) => surfaceHeat(body, surface, airC) - (conductorC - surface) / body.insulationKMPerW;
  const surfaceC = rootOf(leaves, airC, conductorC);
  const heatWPerM = surfaceHeat(body, surfaceC, airC);
  return { amps: Math.sqrt(heatWPerM / heated(body, conductorC)), surfaceC, heatWPerM, kelvinMPerW: (conductorC - airC) / heatWPerM };
}

/** Above this nothing is claimed any more: copper melts at 1083 °C. */
const HOTTEST_C = 1083;

/** Conductor temperature in °C at a steady current; infinite where copper would melt before it balances. */
export function temperatureAt(body: WireBody, amps: number, airC: number): number {
  if (amps === 0) return airC;
  const excess = (surface: number) => {
    const heat = surfaceHeat(body, surface, airC);
    return heat - amps * amps * heated(body, surface + heat * body.insulationKMPerW);
  };
  if (excess(HOTTEST_C) < 0) return Number.POSITIVE_INFINITY;
  const surface = rootOf(excess, airC, HOTTEST_C);
  return surface + surfaceHeat(body, surface, airC) * body.insulationKMPerW;
}

/** How near a balance is found, K. */
const NEAR_K = 1e-7;

/**
 * Where a function that rises through zero between two temperatures does so, at the upper end of what is left: false position,
 * with the weight of an end that stays halved (the Illinois rule), which needs a quarter of the steps that halving does.
 */
function rootOf(excess: (celsius: number) => number, from: number, to: number): number {
  let [low, high] = [from, to];
  let [below, above] = [excess(low), excess(high)];
  let stays: "low" | "high" | null = null;
  for (let i = 0; i < 100 && high - low > NEAR_K; i++) {
    const between = high - (above * (high - low)) / (above - below);
    const at = between > low && between < high ? between : (low + high) / 2;
    const here = excess(at);
    if (here > 0) {
      [high, above] = [at, here];
      if (stays === "low") below /= 2;
      stays = "low";
    } else {
      [low, below] = [at, here];
      if (stays === "high") above /= 2;
      stays = "high";
    }
  }
  return high;
}

/** Time constants in s of a wire that settles at `conductorC`: with its insulation, and of the copper alone. */
export function timeConstants(body: WireBody, conductorC: number, airC: number): { tauS: number; tauCopperS: number } {
  const perW = balanceAt(body, conductorC, airC)?.kelvinMPerW ?? 0;
  return { tauS: body.totalJPerMK * perW, tauCopperS: body.copperJPerMK * perW };
}
