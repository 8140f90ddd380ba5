/**
 * Physics by hand, for tests only, with nothing of core in it: conductors by the AWG formula (ASTM B258) and IEC 60228, heat
 * balance of a wire in still air (Churchill and Chu 1975, radiation, conduction through the wall), adiabatic withstand (IEC
 * 60364-5-54 annex A) and fuse gates (ISO 8820-3, from memory).
 */

/** Copper area of "14 AWG", "1/0 AWG" or "2.5 mm²", mm². */
export function copperMm2(gauge: string): number {
  const metric = /^([\d.]+) mm²$/.exec(gauge);
  if (metric) return Number(metric[1]);
  const text = gauge.replace(" AWG", "");
  const n = text.endsWith("/0") ? 1 - Number(text[0]) : Number(text);
  const diameter = 0.127 * 92 ** ((36 - n) / 39);
  return (Math.PI / 4) * diameter ** 2;
}

/** Ω a metre at 20 °C, 2 % more than solid copper for stranding. */
export function ohmPerM(gauge: string): number {
  return (0.0172414 / copperMm2(gauge)) * 1.02;
}

/** Most a wire's insulation bears continuously, °C, from the names of the standards. */
export const INSULATION_C: Readonly<Record<string, number>> = {
  pvc70: 70,
  pvc80: 80,
  pvc105: 105,
  xlpe125: 125,
  sil180: 180,
  sil200: 200,
};

/** What a short may bring an insulation to, °C (IEC 60364-4-43 table 43A for PVC and XLPE; silicone from memory). */
export const SHORT_C: Readonly<Record<string, number>> = { pvc70: 160, pvc80: 160, pvc105: 160, xlpe125: 250, sil180: 350, sil200: 350 };

interface Body {
  outerM: number;
  wallKMPerW: number;
  ohm20: number;
  joulePerMK: number;
}

function body(gauge: string): Body {
  const area = copperMm2(gauge);
  const d = Math.sqrt((4 * area) / (0.75 * Math.PI));
  const wall = area < 0.18 ? 0.4 : area <= 5.5 ? 0.8 : area <= 9 ? 1.15 : area <= 36 ? 1.5 : 2;
  const outer = d + 2 * wall;
  return {
    outerM: outer / 1000,
    wallKMPerW: Math.log(outer / d) / (2 * Math.PI * 0.17),
    ohm20: ohmPerM(gauge),
    joulePerMK: 3.45 * area + 0.5 * 1.7 * (Math.PI / 4) * (outer ** 2 - d ** 2),
  };
}

/** Film of a horizontal cylinder in still air with radiation, W/(m²·K). */
export function film(diameterM: number, surfaceC: number, airC: number): number {
  const t = (surfaceC + airC) / 2 + 273.15;
  const mu = (1.716e-5 * (t / 273.15) ** 1.5 * 383.55) / (t + 110.4);
  const k = (0.02414 * (t / 273.15) ** 1.5 * 467.15) / (t + 194);
  const rho = 101325 / (287.05 * t);
  const [nu, alpha] = [mu / rho, k / (rho * 1006)];
  const ra = ((9.80665 / t) * (surfaceC - airC) * diameterM ** 3) / (nu * alpha);
  const nusselt = (0.6 + (0.387 * ra ** (1 / 6)) / (1 + (0.559 / (nu / alpha)) ** (9 / 16)) ** (8 / 27)) ** 2;
  const [s, a] = [surfaceC + 273.15, airC + 273.15];
  return (nusselt * k) / diameterM + 0.9 * 5.670374e-8 * (s * s + a * a) * (s + a);
}

/** Where a conductor settles at a current in air, °C; `together` loaded wires share the air (n^-0.34). Infinite: it melts. */
export function settlesC(gauge: string, amps: number, airC: number, together = 1): number {
  if (amps <= 0) return airC;
  const { outerM, wallKMPerW, ohm20 } = body(gauge);
  const current = amps * together ** 0.34;
  let [low, high] = [airC, 1100];
  for (let i = 0; i < 60; i++) {
    const hot = (low + high) / 2;
    const made = current ** 2 * ohm20 * (1 + 0.00393 * (hot - 20));
    // The surface is colder than the conductor by what the wall keeps.
    const surface = hot - made * wallKMPerW;
    const given = surface > airC ? Math.PI * outerM * film(outerM, surface, airC) * (surface - airC) : 0;
    if (given > made) high = hot;
    else low = hot;
  }
  return high > 1090 ? Number.POSITIVE_INFINITY : (low + high) / 2;
}

/** The same after some seconds from cold: first order with copper and half the insulation. */
export function afterC(gauge: string, amps: number, airC: number, together: number, seconds: number): number {
  const settles = settlesC(gauge, amps, airC, together);
  const { outerM, wallKMPerW, joulePerMK } = body(gauge);
  const perW = 1 / (Math.PI * outerM * film(outerM, airC + 40, airC)) + wallKMPerW;
  const share = 1 - Math.exp(-seconds / (joulePerMK * perW));
  return Number.isFinite(settles) ? airC + (settles - airC) * share : Number.POSITIVE_INFINITY;
}

/** k²S² of a copper wire from what its insulation bears up to 160 °C, A²s. */
export function withstand(gauge: string, fromC: number, toC = 160): number {
  return (226 * copperMm2(gauge)) ** 2 * Math.log(1 + (toC - fromC) / (234.5 + fromC));
}

/** Most a fuse of a kind lets through of a hard short, A²s: last gate of its standard (blade 0.1 s at 6 x, strip and maxi 1 s at 6 x). */
export function letThrough(family: string, ratingA: number): number {
  return (family.startsWith("blade_maxi") || family.startsWith("strip") || family.startsWith("cube") ? 36 : 3.6) * ratingA ** 2;
}
