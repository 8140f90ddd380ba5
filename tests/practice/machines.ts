/** A whole machine with what practice gives it: main fuse, main gauge, copper. All invented. */
export interface WholeMachine {
  readonly name: string;
  readonly lines: string;
  readonly main: readonly [number, number] | null;
  readonly mainGauge: readonly [string, string];
  /** Fuse and gauge (thickest, thinnest) of feeds, by the part they lead to. */
  readonly feeds: readonly { readonly to: RegExp; readonly fuse: readonly [number, number]; readonly gauge: readonly [string, string] }[];
  readonly copperKg: readonly [number, number];
}

export const MACHINES: readonly WholeMachine[] = [
  {
    name: "Orchard cart",
    lines: `pack 24 V 50 Ah LFP, management board 100 A
main switch
emergency stop on motor power
2 gearmotors 24 V 350 W, rated 18.7 A, stall 130 A
dual driver 60 A, limit set to 40 A, ramp 0.4 s
tilt actuator 24 V 4.6 A, stall 9 A
converter 24 to 12 V 10 A
4 work lights 12 V 10 W
horn 12 V 3 A
converter 24 to 5 V 5 A
controller 5 V 0.3 A
receiver 5 V 0.1 A
computer 5 V 2.5 A
lengths: pack 0.6 m, driver 0.8 m, motors 1.0 m, actuator 1.5 m, converters 0.5 m, lights 1.5 m`,
    main: [60, 80],
    mainGauge: ["4", "8"],
    feeds: [
      { to: /driver$/i, fuse: [40, 60], gauge: ["6", "10"] },
      { to: /12 V/, fuse: [5, 15], gauge: ["12", "18"] },
      { to: /5 V/, fuse: [2, 5], gauge: ["16", "22"] },
      { to: /light/i, fuse: [5, 7.5], gauge: ["14", "20"] },
      { to: /^computer/i, fuse: [4, 5], gauge: ["14", "20"] },
    ],
    copperKg: [0.43, 1.2],
  },
  {
    name: "Fishing skiff",
    lines: `pack 12 V 50 Ah LFP, board 60 A
stern thruster 12 V 32 A
bow thruster 12 V 28 A, stall 110 A, without driver
bilge pump 12 V 2.5 A
navigation lights 12 V 0.8 A
sounder 12 V 0.6 A
converter 12 to 5 V 3 A
computer 5 V 1.5 A
lengths: pack 0.5 m, driver 2.0 m, pump 3 m, lights 3 m, converter 0.6 m`,
    main: [60, 80],
    mainGauge: ["4", "8"],
    feeds: [
      { to: /stern thruster driver/i, fuse: [40, 50], gauge: ["4", "10"] },
      { to: /bow thruster/i, fuse: [40, 50], gauge: ["4", "10"] },
      { to: /pump/i, fuse: [4, 5], gauge: ["12", "18"] },
      { to: /5 V/, fuse: [2, 5], gauge: ["16", "22"] },
    ],
    copperKg: [0.66, 1.9],
  },
  {
    name: "Bench arm",
    lines: `mains supply 24 V 15 A
emergency stop on the drives
3 steppers 24 V 2.8 A a phase
3 small steppers 24 V 1.2 A a phase
converter 24 to 6 V 5 A
gripper servo 6 V, stall 3 A
converter 24 to 5 V 3 A
controller 5 V 0.3 A
camera 5 V 0.5 A
brake coil 24 V 0.4 A
lengths: source 0.5 m, steppers 0.5 m, servo 1.5 m, converters 0.4 m`,
    main: null,
    mainGauge: ["10", "14"],
    feeds: [
      { to: /^stepper \d|^stepper$/i, fuse: [3, 5], gauge: ["14", "20"] },
      { to: /6 V/, fuse: [2, 5], gauge: ["16", "22"] },
      { to: /5 V/, fuse: [2, 5], gauge: ["16", "22"] },
      { to: /brake/i, fuse: [1, 3], gauge: ["18", "22"] },
    ],
    copperKg: [0.16, 0.44],
  },
  {
    name: "Wave wall",
    lines: `mains supply 12 V 20 A
16 gearmotors 12 V 0.4 A, stall 2.1 A
8 dual bridges 2.5 A
LED strip 12 V 4 A
converter 12 to 5 V 3 A
controller 5 V 0.4 A
lengths: source 0.5 m, driver 2 m, motors 1.5 m, lights 2 m, converter 0.5 m`,
    main: null,
    mainGauge: ["10", "14"],
    feeds: [
      { to: /strip/i, fuse: [5, 7.5], gauge: ["14", "18"] },
      { to: /5 V/, fuse: [2, 5], gauge: ["16", "22"] },
    ],
    copperKg: [0.22, 0.63],
  },
  {
    name: "Stage wagon",
    lines: `pack 16S LFP 100 Ah, board 150 A
main switch
emergency stop
brushless motor 48 V 70 A, max 100 A
converter 48 to 12 V 20 A
lights 12 V 8 A
horn 12 V 4 A
converter 48 to 24 V 5 A
brake coil 24 V 0.8 A
controller 24 V 0.5 A
lengths: pack 0.6 m, motors 1.2 m, converters 0.8 m, lights 2.5 m`,
    main: [125, 150],
    mainGauge: ["1/0", "4"],
    feeds: [
      { to: /brushless/i, fuse: [125, 150], gauge: ["1/0", "4"] },
      { to: /12 V/, fuse: [5, 15], gauge: ["12", "18"] },
      { to: /24 V/, fuse: [2, 7.5], gauge: ["14", "20"] },
      { to: /light/i, fuse: [10, 15], gauge: ["12", "16"] },
      { to: /horn/i, fuse: [5, 10], gauge: ["14", "20"] },
    ],
    copperKg: [1.6, 4.4],
  },
  {
    name: "Bead conveyor",
    lines: `4 AA NiMH
switch
2 plastic gearmotors 6 V 0.25 A, stall 1 A
dual bridge 2 A
microcontroller 0.05 A
light sensor 0.01 A
lengths: all 0.3 m`,
    main: [1, 3],
    mainGauge: ["18", "24"],
    feeds: [],
    copperKg: [0.005, 0.014],
  },
];
