/** A list as one maker would write it, and what each line means, in short; see `brief`. Invented. */
export interface Hand {
  readonly who: string;
  readonly lines: readonly (readonly [text: string, meant: string])[];
}

/**
 * Lists of different hands: short, wordy, tabular, metric and not, abbreviated, misspelt. What is meant: kind, ×pieces, volts, then
 * currents (r run, i idle, s stall, p start, m most, f phase), watts, ohms, what a driver drives.
 */
export const HANDS: readonly Hand[] = [
  {
    who: "terse",
    lines: [
      ["pack 2x12V 33Ah SLA series", "pack 24V 33Ah lead_agm b2"],
      ["4 gearmotor 24V 250W 13.4A 2/driver", "motor ×4 24V r13.4 250W d2"],
      ["5V 3A computer", "computer ×1 5V r3"],
      ["horn 12V 3A", "sound ×1 12V r3"],
      ["estop", "stop"],
    ],
  },
  {
    who: "wordy",
    lines: [
      ["There are two pumps that run on 12 volts and draw about 3.5 amps each", "pump ×2 12V r~3.5"],
      ["A single board computer, 5 volts, needs up to 3 amps", "computer ×1 5V m3"],
      ["The main conveyor motor is 24 V and takes 8 A when running, 40 A when stalled", "motor ×1 24V r8 s40"],
      ["One emergency stop button on the lid", "stop"],
      ["The battery is a 24 V 60 Ah lithium iron phosphate pack", "pack 24V 60Ah lifepo4_energy"],
    ],
  },
  {
    who: "the issue's own",
    lines: [
      ["4 gearmotors 24 V 250 W, rated 13.4 A, two on a driver", "motor ×4 24V r13.4 250W d2"],
      ["pack 2 x 12V 33Ah sealed lead acid in series", "pack 24V 33Ah lead_agm b2"],
      ["5 steppers 1.7 A/phase 2.8 ohm", "stepper ×5 f1.7 2.8Ω"],
      ["supply 12 V 16 A + 5 V 20 A", "supply 12V16A 5V20A"],
      ["12 V work lights 4 x 10 W", "light ×4 12V 10W"],
      ["servo 6 V, stall 2.5 A x 10", "servo ×10 6V s2.5"],
      ["heater 12V 40W", "heater ×1 12V 40W"],
      ["lengths: driver 1.2 m, motors 0.8 m", "lengths driver1.2 motor0.8"],
      ["radio talks to controller by serial", "link radio>controller serial"],
    ],
  },
  {
    who: "bullets",
    lines: [
      ["- 2x drive motors 12V, 6A running, 35A stall", "motor ×2 12V r6 s35"],
      ["- 3S LiPo 5000 mAh", "pack 3s 5Ah lipo"],
      ["* RC receiver 5V 50mA", "radio ×1 5V r0.05"],
      ["• dual motor driver 2x20A", "driver ×1 c2 r20"],
      ["1. BEC 5V 3A", "converter 5V 3A"],
      ["2) camera 5V 250mA", "sensor ×1 5V r0.25"],
    ],
  },
  {
    who: "comma table",
    lines: [
      ["name,volts,amps,qty", "heading"],
      ["left winch motor,24,13.4,1", "motor ×1 24V r13.4"],
      ["floodlight,12,2.5,4", "light ×4 12V r2.5"],
      ["control board,5,0.4,1", "board ×1 5V r0.4"],
      ["water pump,12,4,2", "pump ×2 12V r4"],
    ],
  },
  {
    who: "decimal commas and semicolons",
    lines: [
      ["Name;Spannung;Strom;Anzahl", "heading"],
      ["Motor Schnecke;24;6,5;2", "motor ×2 24V r6.5"],
      ["Pumpe;12;3,2;1", "pump ×1 12V r3.2"],
      ["Lampe;12;0,8;6", "light ×6 12V r0.8"],
    ],
  },
  {
    who: "tabs with units in the head",
    lines: [
      ["Part\tQty\tVoltage (V)\tCurrent (mA)\tStall (A)", "heading"],
      ["Micro servo\t6\t5\t200\t0.65", "servo ×6 5V r0.2 s0.65"],
      ["LED ring\t2\t5\t700\t", "light ×2 5V r0.7"],
      ["Gearmotor arm\t1\t12\t900\t5.5", "motor ×1 12V r0.9 s5.5"],
    ],
  },
  {
    who: "decimal commas in prose",
    lines: [
      ["2 Motoren: motor 24V 4,5A", "motor ×2 24V r4.5"],
      ["pump 12 V 2,3 A", "pump ×1 12V r2.3"],
      ["Akku 25,6 V 50 Ah LiFePO4", "pack 25.6V 50Ah lifepo4_energy"],
      ["computer 5,1V 2,5A", "computer ×1 5.1V r2.5"],
    ],
  },
  {
    who: "misspelt",
    lines: [
      ["2 steper motors 24V 2A per phase", "stepper ×2 24V f2"],
      ["3 serovs 6v 1a stall", "servo ×3 6V s1"],
      ["linear acuator 12V 3A", "actuator ×1 12V r3"],
      ["battary 12V 7Ah", "pack 12V 7Ah"],
      ["emergancy stop", "stop"],
      ["bilge pmup 12V 4A", "pump ×1 12V r4"],
    ],
  },
  {
    who: "imperial",
    lines: [
      ["trolling motor 12V 30A", "motor ×1 12V r30"],
      ["deep cycle battery 12V 75Ah", "pack 12V 75Ah lead_flooded"],
      ["nav lights 12V 2 x 5W", "light ×2 12V 5W"],
      ["cables: battery 2 ft, motors 6 ft, everything else 3 ft", "lengths source0.6 motor1.8 all0.9"],
      ["1/4 hp motor 24V", "motor ×1 24V 187W"],
    ],
  },
  {
    who: "slashes and brackets",
    lines: [
      ["pan motor (12V, 0.6A, stall 2.8A)", "motor ×1 12V r0.6 s2.8"],
      ["tilt servo [6V / 1.2A stall]", "servo ×1 6V s1.2"],
      ["fans (4) 12V 0.15A", "fan ×4 12V r0.15"],
      ["speaker amp 12V/2A", "sound ×1 12V r2"],
    ],
  },
  {
    who: "stall first",
    lines: [
      ["12V motor, 22A stall, 5A loaded, 1.5A no load", "motor ×1 12V r5 s22 i1.5"],
      ["motor stall 9A run 2A free 0.2A at 12V", "motor ×1 12V r2 s9 i0.2"],
      ["gate motor 24 V: no-load 0.8 A, rated 4 A, locked rotor 26 A", "motor ×1 24V r4 s26 i0.8"],
    ],
  },
  {
    who: "stepper people",
    lines: [
      ["6 x nema 17, 1.5 A per phase, 24V", "stepper ×6 24V f1.5"],
      ["NEMA23 stepper 2.8A 1.1 ohm 36V x2", "stepper ×2 36V f2.8 1.1Ω"],
      ["PSU 24V 15A", "supply 24V15A"],
      ["5V regulator 3A", "converter 5V 3A"],
      ["stepper driver boards x 6", "driver ×6"],
    ],
  },
  {
    who: "servo heavy",
    lines: [
      ["16 servos, 6V, idle 10mA, running 0.5A, stall 2.3A", "servo ×16 6V r0.5 i0.01 s2.3"],
      ["servo controller 5V 100mA", "board ×1 5V r0.1"],
      ["2S LiPo 4000mAh 30C", "pack 2s 4Ah lipo"],
      ["UBEC 6V 10A", "converter 6V 10A"],
    ],
  },
  {
    who: "brushless people",
    lines: [
      ["2 hub motors 36V 250W", "brushless ×2 36V 250W"],
      ["brushless motor 24V 5A cont 15A peak", "brushless ×1 24V r5 p15"],
      ["10S2P 18650 pack 7Ah", "pack 10s 7Ah nmc_energy"],
      ["ESC 30A x 2", "driver ×2 r30"],
    ],
  },
  {
    who: "sections",
    lines: [
      ["Motors:", "heading"],
      ["left side 24V 10A, stall 60A", "motor ×1 24V r10 s60"],
      ["right side 24V 10A, stall 60A", "motor ×1 24V r10 s60"],
      ["", "nothing"],
      ["Lights:", "heading"],
      ["front 12V 20W", "light ×1 12V 20W"],
      ["rear 12V 5W", "light ×1 12V 5W"],
    ],
  },
  {
    who: "totals",
    lines: [
      ["8 lamps 12V 4A total", "light ×8 12V r0.5"],
      ["4 fans, 12 V, together 1 A", "fan ×4 12V r0.25"],
      ["3 heaters 24V 60W each", "heater ×3 24V 60W"],
    ],
  },
  {
    who: "sources",
    lines: [
      ["car battery 12V 55Ah", "pack 12V 55Ah lead_agm"],
      ["4x AA", "pack 4s alkaline_aa"],
      ["USB power bank 5V 3A", "supply 5V3A"],
      ["wall adapter 9V 2A", "supply 9V2A"],
      ["9V block", "pack 6s alkaline_9v"],
      ["computer power supply 12V 18A + 5V 22A", "supply 12V18A 5V22A"],
      ["8S LiFePO4 100Ah, 100 A BMS", "pack 8s 100Ah lifepo4_energy"],
      ["24 V 350 W mains supply (230 VAC in)", "supply 24V14.6A"],
    ],
  },
  {
    who: "converters",
    lines: [
      ["24V to 12V converter 10A", "converter 24>12V 10A"],
      ["step-down 24V→5V 5 A", "converter 24>5V 5A"],
      ["boost 5V to 12V 1A", "converter 5>12V 1A"],
      ["isolated dc-dc 24 to 5 V 2A", "converter 24>5V 2A iso"],
      ["LDO 3.3V 250mA", "converter 3.3V 0.25A"],
    ],
  },
  {
    who: "links",
    lines: [
      ["controller talks to both drivers", "link controller>both drivers"],
      ["computer -> controller (usb)", "link computer>controller usb"],
      ["receiver to controller by sbus serial", "link receiver>controller serial"],
      ["controller sends pwm to the servos", "link controller>servos pulse"],
      ["gps connected to computer via UART", "link gps>computer serial"],
    ],
  },
  {
    who: "hedging",
    lines: [
      ["winch maybe 20A at 12V", "motor ×1 12V r~20"],
      ["fan 12V ~0.3A", "fan ×1 12V r~0.3"],
      ["pump 12V, 4A measured", "pump ×1 12V r=4"],
      ["siren 12 V approx 1 A", "sound ×1 12V r~1"],
    ],
  },
  {
    who: "named parts",
    lines: [
      ["Motor 1: 12V 3A", "motor ×1 12V r3"],
      ["Motor 2: 12V 3A", "motor ×1 12V r3"],
      ["Camera 2 5V 0.3A", "sensor ×1 5V r0.3"],
      ["left conveyor: motor 24 V, 5 A", "motor ×1 24V r5"],
      ["Lift: actuator 24V 4.6A, end switches, stall 8.2A", "actuator ×1 24V r4.6 s8.2"],
    ],
  },
  {
    who: "heat and coils",
    lines: [
      ["peltier 12V 6A", "heater ×1 12V r6"],
      ["3 solenoids 24V 0.5A", "coil ×3 24V r0.5"],
      ["relay board 5V 80mA", "coil ×1 5V r0.08"],
      ["hot plate 24 V 120 W", "heater ×1 24V 120W"],
      ["electromagnet 12 V 10 ohm", "coil ×1 12V 10Ω"],
    ],
  },
  {
    who: "equals signs",
    lines: [
      ["pump = 12V, 3A", "pump ×1 12V r3"],
      ["qty 3 fan 24V 0.2A", "fan ×3 24V r0.2"],
      ["motor; 24V; 250W", "motor ×1 24V 250W"],
      ["lights | 12V | 1.5A", "light ×1 12V r1.5"],
    ],
  },
  {
    who: "no spaces",
    lines: [
      ["2xpump12V3A", "lost"],
      ["pump12V3A", "lost"],
      ["2x pump 12V3A", "pump ×2 12V r3"],
      ["motor 24V10A", "motor ×1 24V r10"],
    ],
  },
  {
    who: "upper case",
    lines: [
      ["2 WHEEL MOTORS 24 V 300 W", "motor ×2 24V 300W"],
      ["HEADLIGHT 12 V 55 W X 2", "light ×2 12V 55W"],
      ["MAIN FUSE 60 A", "fuse 60A"],
      ["KEY SWITCH", "switch"],
      ["BATTERY 24V 40AH LITHIUM", "pack 24V 40Ah nmc_energy"],
    ],
  },
  {
    who: "sound and show",
    lines: [
      ["amplifier 2 x 20 W 24V", "sound ×1 24V 40W"],
      ["pixel strip 5V 3A", "light ×1 5V r3"],
      ["smoke machine fan 12V 0.4A", "fan ×1 12V r0.4"],
      ["mp3 player 5V 0.1A", "sound ×1 5V r0.1"],
      ["strobe 12V 15W", "light ×1 12V 15W"],
    ],
  },
  {
    who: "drivers told",
    lines: [
      ["2 motors 12V 4A each on its own driver", "motor ×2 12V r4 d1"],
      ["two motors 12V 4A, both on one driver", "motor ×2 12V r4 d2"],
      ["motor 24V 6A, no driver", "motor ×1 24V r6 d0"],
      ["2 channel driver 24V 20A", "driver ×1 24V c2 r20"],
      ["3 motor controllers 30A", "driver ×3 r30"],
    ],
  },
  {
    who: "numbers in words",
    lines: [
      ["three linear actuators, 12 V, 4 A", "actuator ×3 12V r4"],
      ["a pair of headlights 12V 3A", "light ×2 12V r3"],
      ["half a dozen servos 5V 1A stall", "servo ×6 5V s1"],
      ["one horn 12V 5A", "sound ×1 12V r5"],
    ],
  },
  {
    who: "sensors",
    lines: [
      ["lidar 5V 0.45A", "sensor ×1 5V r0.45"],
      ["ultrasonic sensors 5V 15mA x 4", "sensor ×4 5V r0.015"],
      ["IMU 3.3V 10 mA", "sensor ×1 3.3V r0.01"],
      ["volt meter 24V 20mA", "display ×1 24V r0.02"],
      ["7 inch display 5V 0.5A", "display ×1 5V r0.5"],
    ],
  },
  {
    who: "units spelt out",
    lines: [
      ["Pump: twelve volt, 3 amps", "pump ×1 12V r3"],
      ["motor 24 volts DC 180 watts", "motor ×1 24V 180W"],
      ["heater 24 VDC 5 Amp", "heater ×1 24V r5"],
      ["battery 12 volts 18 amp hours AGM", "pack 12V 18Ah lead_agm"],
      ["stepper 1.2 amps per phase, 3 ohms", "stepper ×1 f1.2 3Ω"],
    ],
  },
  {
    who: "lengths within lines",
    lines: [
      ["rear motor 24V 8A, 3 m of cable", "motor ×1 24V r8 l3"],
      ["lamp 12V 1A 14AWG 2m", "light ×1 12V r1 l2"],
      ["all wires 1.5 m", "lengths all1.5"],
      ["motors 2 m, rest 1 m", "lengths motor2 all1"],
    ],
  },
  {
    who: "surroundings",
    lines: [
      ["ambient 40 C", "about 40C"],
      ["must run 2 hours", "about 7200s"],
      ["name: Harvest crane", "about Harvest crane"],
      ["outside temperature up to 35 °C", "about 35C"],
      ["# the rest is not bought yet", "remark"],
    ],
  },
  {
    who: "bad lines",
    lines: [
      ["-3 motors", "trouble"],
      ["motor 12V 1e9 A", "trouble"],
      ["lamp 0 V", "trouble"],
      ["motor 12V 1,500A", "trouble"],
      ["pump 12V 24V 3A", "trouble"],
      ["motor 230 VAC", "trouble"],
      ["the thing from the shed", "lost"],
    ],
  },
  {
    who: "foreign letters",
    lines: [
      ["🔋 12V 7Ah SLA battery", "pack 12V 7Ah lead_agm"],
      ["motor\u00a024\u202fV 5\u00a0A", "motor ×1 24V r5"],
      ["2 × pump – 12 V – 3 A", "pump ×2 12V r3"],
      ["\u202bservo 6V 1A\u202c", "servo ×1 6V r1"],
    ],
  },
  {
    who: "class by its name",
    lines: [
      ["wiper motor 12V", "motor ×1 12V wiper12"],
      ["2 n20 motors 6V", "motor ×2 6V micro_gm_hp"],
      ["775 motor 12V", "motor ×1 12V can775"],
      ["micro servo 5V x 3", "servo ×3 5V servo_micro"],
      ["TT motors x4 6V", "motor ×4 6V plastic_gm"],
    ],
  },
  {
    who: "spans",
    lines: [
      ["servos 4.8-6V 1A stall", "servo ×1 4.8-6V s1"],
      ["board 7 to 12 V 0.2A", "board ×1 7-12V r0.2"],
      ["pump 12V 3-4A", "pump ×1 12V r4"],
      ["fan 9..13V 0.3A", "fan ×1 9-13V r0.3"],
    ],
  },
  {
    who: "workshop talk",
    lines: [
      ["big gearmotor off the old conveyor, 24V, 14 amps or so", "motor ×1 24V r14"],
      ["cheap chinese dual H-bridge 2A", "driver ×1 c2 r2"],
      ["couple of 12v fans 0.2a", "fan ×2 12V r0.2"],
      ["battery: 12.8V LFP 20Ah", "pack 12.8V 20Ah lifepo4_energy"],
      ["my laptop 19V 3.4A", "computer ×1 19V r3.4"],
    ],
  },
  {
    who: "parts shop order",
    lines: [
      ["1 off power supply 24V 20A", "supply 24V20A"],
      ["2 pcs gear motor 24V 60W", "motor ×2 24V 60W"],
      ["10 pcs LED 12V 3W", "light ×10 12V 3W"],
      ["1 pc fuse holder", "fuse"],
      ["1 pc charging port", "port"],
      ["3 pcs bus bar", "bar"],
    ],
  },
  {
    who: "pipes",
    lines: [
      ["| Item | Qty | Volts | Amps | Note |", "heading"],
      ["| cutter motor | 1 | 24 | 7.6 | worm gear |", "motor ×1 24V r7.6"],
      ["| bilge pump | 2 | 12 | 3.5 | |", "pump ×2 12V r3.5"],
    ],
  },
  {
    who: "watts first",
    lines: [
      ["250 W 24 V motor x 2", "motor ×2 24V 250W"],
      ["40W heater 12V", "heater ×1 12V 40W"],
      ["20 W amplifier, 12 V", "sound ×1 12V 20W"],
      ["500W scooter motor 36V", "motor ×1 36V 500W scoot250"],
    ],
  },
  {
    who: "puppet theatre",
    lines: [
      ["curtain motor 12V 2.2A (stall 11A)", "motor ×1 12V r2.2 s11"],
      ["8 puppet servos 6 V 0.9 A stall each", "servo ×8 6V s0.9"],
      ["stage lights: 6 x 12V 10W", "light ×6 12V 10W"],
      ["sequencer board 5V 120 mA", "board ×1 5V r0.12"],
      ["supply 12V 10A", "supply 12V10A"],
    ],
  },
  {
    who: "greenhouse",
    lines: [
      ["4 vent actuators 24V 1.8A", "actuator ×4 24V r1.8"],
      ["3 misting pumps, 24 V, 2.1 A", "pump ×3 24V r2.1"],
      ["circulation fan 24V 30W", "fan ×1 24V 30W"],
      ["plc 24V 0.3A", "board ×1 24V r0.3"],
      ["2 x 12 V 18 Ah AGM in series", "pack 24V 18Ah lead_agm b2"],
    ],
  },
];
