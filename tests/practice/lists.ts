/**
 * Lists a builder would write for the lines of practice.csv, by their number; `{m}` is the length of the feed. All invented.
 * `feed` and `lead` say which wire is compared, by the name of the part it leads to; absent: what the list has one of.
 */
export interface PracticeList {
  readonly lines: string;
  /** Part at the end of the feed in question. */
  readonly feed?: RegExp;
  /** Load at the end of the lead in question; null: the row has none here. */
  readonly lead?: RegExp | null;
}

const on = (source: string, ...lines: string[]) => [source, "main switch", ...lines].join("\n");
const V12 = "pack 12 V 100 Ah LFP, board 150 A";
const V24 = "pack 24 V 100 Ah LFP, board 150 A";
const V36 = "pack 36 V 20 Ah 10S lithium ion, board 60 A";
const V48 = "pack 48 V 100 Ah LFP, board 200 A";
/** Further loads, so that the feed in question is one of several. */
const beside12 = "navigation lights 12 V 3 A\nwash pump 12 V 3 A";
const beside24 = "deck lights 24 V 2 A\nwash pump 24 V 3 A";
const beside48 = "deck lights 48 V 1 A\nwash pump 48 V 2 A";
const driver = "lengths: driver {m} m, motors 1 m";
const all = "lengths: all {m} m";

export const LISTS: Readonly<Record<string, PracticeList>> = {
  P01: {
    lines: on("4 AA alkaline cells", "2 plastic gearmotors 6 V 0.25 A, stall 1 A", "dual bridge 2 A", driver),
    feed: /bridge|driver/i,
    lead: /motor/i,
  },
  P02: { lines: on("2 AA alkaline cells", "toy motor 3 V 0.6 A, stall 2 A, without driver", all), feed: /motor/i, lead: null },
  P03: {
    lines: on(V12, beside12, "5 micro servos 5 V, stall 0.65 A", "controller 5 V 0.1 A", "lengths: servos {m} m"),
    feed: /servo/i,
    lead: null,
  },
  P04: { lines: on(V12, "gearmotor 12 V 1 A, stall 5 A", driver), feed: /driver/i, lead: /^gearmotor$/i },
  P05: { lines: on(V24, "stepper 24 V 1.7 A a phase", all), feed: /stepper/i, lead: null },
  P06: { lines: on(V48, "4 steppers 48 V 3.5 A a phase", all), feed: /stepper/i, lead: null },
  P07: { lines: on(V48, "2 steppers 48 V 6 A a phase", all), feed: /stepper/i, lead: null },
  P08: { lines: on(V12, "diaphragm pump 12 V 5 A", all), feed: /pump/i, lead: null },
  P09: { lines: on(V12, "bilge pump 12 V 2 A", all), feed: /pump/i, lead: null },
  P10: { lines: on(V12, "linear actuator 12 V 3.5 A, stall 10 A", driver), feed: /driver/i, lead: /actuator$/i },
  P11: { lines: on(V12, "wiper motor 12 V 5 A, stall 22 A", driver), feed: /driver/i, lead: /motor$/i },
  P12: { lines: on(V12, "window motor 12 V 8 A, stall 24 A", driver), feed: /driver/i, lead: /motor$/i },
  P13: { lines: on(V12, "775 motor 12 V 6 A, stall 40 A", driver), feed: /driver/i, lead: /motor$/i },
  P14: {
    lines: on("pack 18 V 5 Ah 5S lithium ion, board 60 A", "drill motor 18 V 18 A, stall 100 A", driver),
    feed: /driver/i,
    lead: /motor$/i,
  },
  P15: { lines: on(V12, "stern thruster 12 V 30 A", driver), feed: /driver/i, lead: /thruster$/i },
  P16: { lines: on(V12, "bow thruster 12 V 40 A, stall 120 A, without driver", all), feed: /thruster/i, lead: null },
  P17: { lines: on("pack 12 V 200 Ah LFP, board 300 A", "winch 12 V 100 A, stall 330 A, without driver", all), feed: /winch/i, lead: null },
  P18: { lines: on(V12, "winch 12 V 35 A, stall 120 A, without driver", all), feed: /winch/i, lead: null },
  P19: { lines: on(V12, "air compressor 12 V 23 A", all), feed: /compressor/i, lead: null },
  P20: { lines: on(V12, "blower 12 V 12 A", all), feed: /blower/i, lead: null },
  P21: { lines: on(V12, beside12, "horn 12 V 4 A", all), feed: /horn/i, lead: null },
  P22: { lines: on(V12, beside12, "4 LED work lights 12 V 10 W", all), feed: /work light/i, lead: null },
  P23: { lines: on(V12, beside12, "2 halogen lamps 12 V 55 W", all), feed: /lamp/i, lead: null },
  P24: { lines: on(V12, beside12, "LED strip 12 V 6 A", all), feed: /strip/i, lead: null },
  P25: { lines: on(V12, beside12, "LED strip 5 V 10 A", "lengths: lights {m} m"), feed: /strip/i, lead: null },
  P26: { lines: on(V12, beside12, "4 solenoid valves 12 V 6.5 W", all), feed: /valve/i, lead: null },
  P27: { lines: on(V12, beside12, "audio amplifier 12 V 4 A", all), feed: /amplifier/i, lead: null },
  P28: {
    lines: on(V24, "4 planetary gearmotors 24 V 2.1 A, stall 14 A, each its own driver", driver),
    feed: /driver/i,
    lead: /gearmotor \d$/i,
  },
  P29: {
    lines: on("pack 24 V 100 Ah LFP, board 100 A", "4 gearmotors 24 V 250 W 13.4 A", "2 dual motor drivers 60 A", driver),
    feed: /driver/i,
    lead: /gearmotor \d$/i,
  },
  P30: { lines: on(V24, "gearmotor 24 V 250 W 13.4 A", "motor driver 30 A", driver), feed: /driver/i, lead: /^gearmotor$/i },
  P31: { lines: on(V24, "2 gearmotors 24 V 350 W 18.7 A", "dual motor driver 60 A", driver), feed: /driver/i, lead: /gearmotor \d$/i },
  P32: {
    lines: on(V24, "2 wheelchair motors 24 V 12 A, stall 100 A", "dual motor driver 60 A", driver),
    feed: /driver/i,
    lead: /motor \d$/i,
  },
  P33: { lines: on(V24, "gearmotor 24 V 500 W 26.7 A", "motor driver 60 A", driver), feed: /driver/i, lead: /^gearmotor$/i },
  P34: { lines: on(V24, "traction motor 24 V 32 A, stall 220 A", "motor driver 120 A", driver), feed: /driver/i, lead: /traction motor$/i },
  P35: { lines: on(V24, "winch 24 V 55 A, stall 180 A, without driver", all), feed: /winch/i, lead: null },
  P36: { lines: on("pack 24 V 200 Ah LFP, board 200 A", "hydraulic pump 24 V 70 A", all), feed: /pump/i, lead: null },
  P37: { lines: on(V24, "linear actuator 24 V 4.6 A, stall 9 A", driver), feed: /driver/i, lead: /actuator$/i },
  P38: { lines: on(V24, beside24, "converter 24 to 12 V 10 A", "heater 12 V 9 A", all), feed: /converter/i, lead: null },
  P39: {
    lines: on(V24, beside24, "converter 24 to 5 V 5 A", "computer 5 V 3 A", "controller 5 V 1 A", all),
    feed: /converter/i,
    lead: null,
  },
  P40: {
    lines: on(V12, beside12, "controller 5 V 0.5 A", "receiver 5 V 0.3 A", "3 sensors 5 V 0.2 A", all),
    feed: /block|bar p 5|controller/i,
    lead: null,
  },
  P41: { lines: on(V12, beside12, "computer 5 V 3 A", "lengths: boards {m} m"), feed: /computer/i, lead: null },
  P42: { lines: on(V12, beside12, "8 servos 6 V, stall 2.7 A", "lengths: servos {m} m"), feed: /servo/i, lead: null },
  P43: { lines: on(V12, beside12, "2 giant servos 12 V 1 A, stall 7 A", "lengths: servos {m} m"), feed: /servo/i, lead: null },
  P44: { lines: on(V36, "motor 36 V 500 W 18 A", "motor driver 40 A", driver), feed: /driver/i, lead: /^motor$/i },
  P45: { lines: on(V36, "2 hub motors 36 V, max 15 A", all), feed: /hub/i, lead: null },
  P46: { lines: on(V48, "hub motor 48 V 26 A, max 35 A", all), feed: /hub/i, lead: null },
  P47: { lines: on(V48, "brushless motor 48 V 80 A, max 100 A", all), feed: /brushless/i, lead: null },
  P48: { lines: on(V48, beside48, "converter 48 to 12 V 20 A", "heater 12 V 18 A", all), feed: /converter/i, lead: null },
  P49: { lines: on("pack 6S 10 Ah lipo, 80 A", "brushless motor 22 V 40 A, max 45 A", all), feed: /brushless/i, lead: null },
  P50: { lines: on(V24, beside24, "heater 24 V 100 W", all), feed: /heater/i, lead: null },
  P51: { lines: on(V24, beside24, "charging port 8 A", "heater 24 V 100 W", all), feed: /port/i, lead: null },
  P52: { lines: on(V24, beside24, "emergency stop", "gearmotor 24 V 250 W 13.4 A", all), feed: /coil|stop loop/i, lead: null },
  P53: {
    lines: "power supply 24 V 15 A\nheater 24 V 6 A\npump 24 V 3 A\nfan 24 V 3 A\nlengths: source {m} m",
    lead: null,
  },
  P54: { lines: on(V12, "pump 12 V 5 A", "heater 12 V 6 A", "2 lights 12 V 2 A", "lengths: source {m} m"), lead: null },
  P55: {
    lines: on(V24, "2 gearmotors 24 V 18 A", "dual motor driver 60 A", "heater 24 V 10 A", "pump 24 V 4 A", "lengths: source {m} m"),
    lead: null,
  },
  P56: {
    lines: on("pack 12 V 200 Ah LFP, board 150 A", "2 thrusters 12 V 32 A", "heater 12 V 10 A", "pump 12 V 6 A", "lengths: source {m} m"),
    lead: null,
  },
  P57: {
    lines: on("pack 48 V 100 Ah LFP, board 200 A", "2 brushless motors 48 V 45 A, max 60 A", "heater 48 V 10 A", "lengths: source {m} m"),
    lead: null,
  },
};
