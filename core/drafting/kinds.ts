/** A list to begin with: a kind of machine, filled in, to be edited. Invented. */
export interface KindOfMachine {
  readonly id: string;
  readonly name: string;
  readonly what: string;
  readonly list: string;
}

/** Kinds of machines, each as a list. */
export const KINDS: readonly KindOfMachine[] = [
  {
    id: "battery",
    name: "A battery with drivers",
    what: "One pack, a few strong motors on drivers, lights, a controller. Something that carries or pulls.",
    list: `name: Orchard hoist
pack 2 x 12 V 33 Ah AGM in series
e-stop
2 gearmotors 24 V 250 W, rated 13.4 A, one on a driver
winch motor 24 V 8 A, stall 45 A
work lights 12 V 4 x 10 W
horn 12 V 3 A
controller 5 V 0.3 A
controller talks to all drivers
lengths: drivers 1.2 m, motors 0.8 m`,
  },
  {
    id: "mains",
    name: "A mains supply with steppers",
    what: "A bought supply with DC outputs, steppers and servos. Something that stands and moves in turn.",
    list: `name: Loom automaton
supply 24 V 15 A
supply 5 V 20 A
5 steppers 24 V 1.7 A per phase 1.5 ohm
blower fan 24 V 1.2 A
chase lights 24 V 20 W
6 servos 5 V stall 1.1 A
player board 5 V 0.5 A
lengths: steppers 1.5 m, servos 1 m`,
  },
  {
    id: "cells",
    name: "A few cells and a small bridge",
    what: "Four cells, two small gearmotors, a microcontroller. A first machine.",
    list: `name: Bead sorter
4 AA NiMH cells
2 plastic gearmotors 6 V, running 0.25 A, stall 0.9 A, two on a driver
microcontroller 3.6-6 V 50 mA
lengths: all 0.3 m`,
  },
  {
    id: "two packs",
    name: "Two packs, motor and logic",
    what: "Motors on one pack, boards on another, their minus joined at one point. Something whose boards must not be disturbed.",
    list: `name: Tide mill
pack 24 V 40 Ah lifepo4
logic battery 3S lipo 5 Ah
e-stop
2 sluice motors 24 V 6 A, stall 38 A, one on a driver
bilge pump 24 V 3 A
controller 5 V 0.3 A
single board computer 5 V 3 A max
radio receiver 5 V 50 mA
receiver talks to controller by serial
controller talks to both drivers
lengths: drivers 1 m, motors 1.5 m`,
  },
];
