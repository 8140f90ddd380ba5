/** Servos, heaters, light and sound. SI units. Source: handbook motors-and-drivers sections 5 and 6. */

/** Resistance (Ω) of a heater from its rating; its power goes with the square of the voltage. */
export function heaterOhm(powerW: number, volts: number): number {
  return volts ** 2 / powerW;
}

/** Supply current (A) of an amplifier at full sine output. Music of the same peak averages an eighth of the power (IEC 62368-1, from memory). */
export function amplifierCurrent(powerW: number, efficiency: number, volts: number): number {
  return powerW / (efficiency * volts);
}
/** Mean power of music, as a share of what the amplifier is rated for (handbook motors-and-drivers, common practice). */
export const MUSIC_SHARE = 1 / 8;

/** Current (A) taken at a voltage for a power, at an efficiency. */
export function currentForPower(powerW: number, volts: number, efficiency = 1): number {
  return powerW / (efficiency * volts);
}
