import { randomFrom } from "../support/random";

/** A list of a machine somebody might build: a source or none, motors, movers, lights, boards, links, in everyday lines. */
export function randomList(seed: number, most = 12): string {
  const random = randomFrom(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const between = (low: number, high: number) => Number((low + random() * (high - low)).toPrecision(2));
  const main = pick([12, 24, 24, 36]);
  const lines: string[] = [];
  const battery = random() < 0.65;
  const ah = pick([12, 20, 40, 60, 100]);
  if (battery)
    lines.push(
      pick([
        `pack ${main} V ${ah} Ah lifepo4`,
        main > 12 ? `${main / 12} x 12 V ${ah} Ah AGM in series` : `battery 12 V ${ah} Ah AGM`,
        `${Math.round(main / 3.6)}S li-ion ${ah} Ah`,
      ]),
    );
  else lines.push(`supply ${main} V ${pick([10, 20, 40])} A${random() < 0.3 && main === 12 ? " + 5 V 20 A" : ""}`);
  const motors = 1 + Math.floor(random() * 3);
  for (let i = 0; i < motors; i++) {
    const amps = between(0.5, main >= 24 ? 14 : 9);
    const count = 1 + Math.floor(random() * 3);
    lines.push(
      pick([
        `${count} gearmotors ${main} V ${amps} A`,
        `${count} x motor ${main}V ${amps}A stall ${(amps * between(3, 7)).toPrecision(2)}A, ${pick(["one", "two"])} on a driver`,
        `conveyor motor ${main} V ${Math.round(main * amps)} W`,
        `linear actuator ${main} V ${between(2, 5)} A, end switches`,
        `${count} steppers ${main} V ${between(0.8, 3)} A per phase ${between(0.9, 3)} ohm`,
      ]),
    );
  }
  // Something that moves on other volts: behind a converter, or on a source of its own.
  if (random() < 0.35) {
    const other = pick([12, 24, 48].filter((volts) => volts !== main));
    lines.push(pick([`steppers 2 x ${other} V 1.5 A per phase 1.2 ohm`, `gearmotor ${other} V ${between(0.4, 2)} A`]));
    if (random() < 0.4) lines.push(pick([`supply ${other} V 10 A`, `pack ${other} V 10 Ah lifepo4`]));
  }
  const rest = Math.floor(random() * (most - 5));
  for (let i = 0; i < rest; i++)
    lines.push(
      pick([
        `work lights 12 V ${1 + Math.floor(random() * 4)} x ${pick([5, 10, 20])} W`,
        `horn 12 V ${between(1, 4)} A`,
        `${1 + Math.floor(random() * 8)} servos 6 V stall ${between(0.8, 2.5)} A`,
        `servo 5 V ${between(0.1, 0.4)} A running ${between(0.6, 1.2)} A stall`,
        `fan 12 V ${between(0.1, 0.5)} A`,
        `pump ${main} V ${between(1, 5)} A`,
        `heater ${main} V ${pick([20, 40, 80])} W`,
        `camera 5 V 0.25 A`,
        `computer 5 V 3 A max`,
        `solenoid ${main} V 0.5 A`,
        `display 5 V 0.5 A`,
        `amplifier 12 V 20 W`,
        `router 12 V 0.6 A`,
        `camera 11-13 V 0.4 A`,
        `2 pumps ${main} V ${between(1, 4)} A on one driver`,
      ]),
    );
  lines.push("controller 5 V 0.3 A");
  if (random() < 0.5) lines.push(pick(["controller talks to all drivers", "controller sends pwm to the servos", "radio 5 V 50 mA"]));
  if (random() < 0.4) lines.push("e-stop");
  if (random() < 0.4) lines.push(`lengths: driver ${between(0.5, 2.5)} m, motors ${between(0.3, 2)} m`);
  return lines.join("\n");
}
