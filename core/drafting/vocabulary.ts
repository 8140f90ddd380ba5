import type { ChemistryId } from "../reference/chemistries";
import type { LoadKind } from "../reference/load-kinds";
import type { SupplyMake } from "../reference/supplies";
import { distance, isSwapped, singular, slipsIn } from "./spell";

/** What a word of a list stands for. `mild`: gives way to a more telling word beside it ("pump motor" is a pump). */
export type Thing =
  | { readonly is: "load"; readonly kind: LoadKind; readonly mild?: boolean; readonly motorClass?: string; readonly logicClass?: string }
  | { readonly is: "pack"; readonly mild?: boolean }
  | { readonly is: "supply"; readonly make?: SupplyMake; readonly mild?: boolean; readonly volts?: readonly number[] }
  | {
      readonly is: "converter";
      readonly topology?: "buck" | "boost" | "linear" | "buck-boost";
      readonly isolated?: boolean;
      readonly mild?: boolean;
    }
  | { readonly is: "driver"; readonly mild?: boolean }
  | { readonly is: "stop" }
  | { readonly is: "switch" }
  | { readonly is: "fuse" }
  | { readonly is: "bar" }
  | { readonly is: "port" }
  | { readonly is: "diode" }
  /** Something that is not planned here, and why. */
  | { readonly is: "outside"; readonly why: string };

const load = (kind: LoadKind, more: { mild?: boolean; motorClass?: string; logicClass?: string } = {}): Thing => ({
  is: "load",
  kind,
  ...more,
});

/**
 * The words people use, by what they stand for; a plural is read as its singular. Several words stand before one of them, so
 * that "stepper motor driver" is a driver. Common practice, no source.
 */
const WORDS: readonly (readonly [string, Thing])[] = [
  ...entries(
    "motor|engine|motoren|motors dc|dc motor|brushed motor|gear motor|gearmotor|geared motor|gear head motor|gearhead|gearbox motor|electric motor|getriebemotor|motorino|moteur",
    load("motor", { mild: true }),
  ),
  ...entries(
    "winch|windlass|hoist|conveyor|auger|wheel|paddle|propeller|prop|thruster|turntable|crane|drum|capstan|mixer|agitator|stirrer|saw|cutter|spindle|roller|wheel motor|drive motor|traction motor|left drive|right drive|rear drive|front drive|cutter bar|gate opener|awning|shutter|lift motor|feeder|grinder|mower|sweeper|rotator|pan motor|tilt motor",
    load("motor"),
  ),
  ...entries("wiper motor|wiper|windscreen wiper|windshield wiper", load("motor", { motorClass: "wiper12" })),
  ...entries("window motor|window lift|window lift motor|window winder", load("motor", { motorClass: "window12" })),
  ...entries("drill motor|drill", load("motor", { motorClass: "drill18" })),
  ...entries("trolling motor", load("motor", { motorClass: "troll12" })),
  ...entries("wheelchair motor|power chair motor", load("motor", { motorClass: "wchair24" })),
  ...entries("scooter motor", load("motor", { motorClass: "scoot250" })),
  ...entries("775 motor|775", load("motor", { motorClass: "can775" })),
  ...entries("550 motor", load("motor", { motorClass: "can550" })),
  ...entries("540 motor", load("motor", { motorClass: "can540" })),
  ...entries("380 motor", load("motor", { motorClass: "can380" })),
  ...entries("130 motor|toy motor", load("motor", { motorClass: "toy130" })),
  ...entries("n20 motor|n20|micro gearmotor|micro gear motor|micro metal gearmotor", load("motor", { motorClass: "micro_gm_hp" })),
  ...entries(
    "tt motor|plastic gearmotor|yellow gearmotor|yellow motor|small gearmotor|small gear motor|hobby gearmotor",
    load("motor", { motorClass: "plastic_gm" }),
  ),
  ...entries("brushless motor|brushless|bldc|bldc motor|outrunner|hub motor|pmsm|brushless dc motor|inrunner", load("brushless")),
  ...entries("stepper|stepper motor|stepping motor|step motor|schrittmotor|steppermotor", load("stepper")),
  ...entries("nema 8|nema8", load("stepper", { motorClass: "nema8" })),
  ...entries("nema 11|nema11", load("stepper", { motorClass: "nema11" })),
  ...entries("nema 14|nema14", load("stepper", { motorClass: "nema14" })),
  ...entries("nema 17|nema17|nema 17 stepper|nema17 stepper", load("stepper", { motorClass: "nema17" })),
  ...entries("nema 23|nema23|nema 23 stepper|nema23 stepper", load("stepper", { motorClass: "nema23" })),
  ...entries("nema 34|nema34", load("stepper", { motorClass: "nema34" })),
  ...entries("servo|servo motor|servomotor|rc servo|hobby servo|smart servo|serial servo", load("servo")),
  ...entries("micro servo|9g servo|mini servo", load("servo", { motorClass: "servo_micro" })),
  ...entries("standard servo", load("servo", { motorClass: "servo_std" })),
  ...entries(
    "actuator|linear actuator|linear motor|ram|jack|lift cylinder|electric cylinder|linear drive|lift actuator",
    load("actuator", { motorClass: "linact12" }),
  ),
  ...entries(
    "pump|bilge pump|water pump|air pump|fuel pump|diaphragm pump|peristaltic pump|vacuum pump|pumpe|compressor|fridge|refrigerator|freezer|cool box|coolbox",
    load("pump"),
  ),
  ...entries("fan|blower|cooling fan|cooler|ventilator|extractor|lüfter|luefter|smoke machine fan|bubble machine", load("fan")),
  ...entries("40 mm fan|40mm fan", load("fan", { logicClass: "fan40" })),
  ...entries("80 mm fan|80mm fan", load("fan", { logicClass: "fan80" })),
  ...entries("120 mm fan|120mm fan", load("fan", { logicClass: "fan120" })),
  ...entries(
    "heater|heating|heated bed|hot plate|hotplate|smoke machine|fog machine|fogger|hazer|haze machine|heating pad|heat pad|heat mat|heating mat|heater cartridge|peltier|tec|glow plug|heating element|hot wire|hotwire|seat heater|defroster|heizung",
    load("heater"),
  ),
  ...entries(
    "solenoid|valve|solenoid valve|electromagnet|magnet|relay|coil|latch|door lock|lock|electric lock|striker|relay board|relay module|brake|parking brake|clutch",
    load("coil"),
  ),
  ...entries(
    "light|lamp|led|led strip|led strips|strip light|work light|headlight|head light|strobe|beacon|spotlight|spot|floodlight|flood light|bulb|lighting|led light|led bar|light bar|pixel|pixel strip|addressable led|indicator|lampe|nav light|navigation light|tail light|laser|led ring|led matrix|blinker|lantern",
    load("light"),
  ),
  ...entries(
    "speaker|amplifier|amp|horn|sound|sound board|sound module|sound card|buzzer|siren|audio amplifier|audio amp|loudspeaker|bell|mp3 player|music player|player|mp3 module|audio player|audio board|klaxon",
    load("sound"),
  ),
  ...entries(
    "computer|laptop|single board computer|single-board computer|sbc|pc|mini pc|media player|tablet|navigation computer|vision computer|embedded computer|linux board",
    load("computer", { logicClass: "computer4" }),
  ),
  ...entries(
    "controller|control|controls|uc|autopilot|board|controller board|microcontroller|micro controller|mcu|control board|logic board|main board|mainboard|motherboard|flight controller|servo controller|servo board|sequencer|brain|logic|logic controller|plc|micro|ecu|interface board|io board|dev board|controler|steuerung|electronics|breakout|breakout board|motion controller|led controller|light controller|pixel controller|timer|timer board|thermostat",
    load("board", { mild: true, logicClass: "controller8" }),
  ),
  ...entries("wifi board|wifi module|wifi controller|wireless board", load("board", { logicClass: "controllerWifi" })),
  ...entries(
    "radio|receiver|rc receiver|radio receiver|rx|telemetry|telemetry radio|modem|transceiver|transmitter|radio module|wifi router|router|access point|radio link|bluetooth module|bluetooth",
    load("radio", { logicClass: "receiver" }),
  ),
  ...entries(
    "sensor|encoder|sonar|ultrasonic|ultrasonic sensor|range finder|rangefinder|distance sensor|level sensor|limit sensor|load cell|pressure sensor|temperature sensor|hall sensor|current sensor|proximity sensor|light barrier|photo sensor|bump sensor|touch sensor|compass|thermometer|hygrometer|microphone|potentiometer|pot|thermocouple|float switch",
    load("sensor"),
  ),
  ...entries("camera|webcam|cam|security camera|video camera|fpv camera", load("sensor", { logicClass: "camera" })),
  ...entries("depth camera", load("sensor", { logicClass: "depthCamera" })),
  ...entries("lidar|laser scanner|scanner|range scanner", load("sensor", { logicClass: "scanner" })),
  ...entries("gps|gps module|gps receiver|gnss", load("sensor", { logicClass: "position" })),
  ...entries("imu|gyro|accelerometer|inertial sensor", load("sensor", { logicClass: "inertial" })),
  ...entries(
    "display|screen|monitor|lcd|touch screen|touchscreen|touch display|touch panel|hmi|hmi touch|operator panel|volt meter|voltmeter|volt-meter|panel meter|battery meter|battery monitor|amp meter|ammeter|meter|gauge display|battery gauge|chart plotter|plotter|fish finder|watt meter|power meter",
    load("display"),
  ),
  ...entries("gimbal|camera gimbal|gimbal head", load("other")),
  ...entries("oled|oled display", load("display", { logicClass: "oled" })),
  ...entries(
    "pack|battery|battery pack|akku|accu|accumulator|batterie|cells|cell|batteries|car battery|motorcycle battery|leisure battery|gel battery|tool battery|drill battery|battery block|lipo pack|lead acid battery|lead battery|lithium battery|lithium pack|lipo|lipo battery|lifepo4|lifepo|life|lfp|li ion|li-ion|liion|lion|sla|agm|gel cell|lead acid|lead-acid|sealed lead acid|sealed lead-acid|nimh|nicd|nimh pack|lithium ion|lithium-ion|lithium iron phosphate|18650|18650 pack|power pack|aa|aaa|aa cell|aaa cell|aa battery|aaa battery|d cell|alkaline battery|alkaline cell",
    { is: "pack" },
  ),
  ...entries("9v block|9 v block|9v battery|9 v battery|pp3", { is: "pack" }),
  ...entries(
    "power supply|psu|supply|smps|dc supply|mains supply|netzteil|bench supply|bench power supply|lab supply|mains adapter|psu unit|switching supply|switch mode supply|led supply|alimentation",
    { is: "supply" },
  ),
  ...entries(
    "adapter|adaptor|laptop charger|notebook charger|wall charger|wall adapter|wall wart|plug in adapter|plug-in adapter|power brick|brick|laptop supply|laptop brick|desktop adapter|ac adapter",
    { is: "supply", make: "adapter" },
  ),
  ...entries(
    "computer supply|pc supply|pc power supply|computer power supply|computer psu|pc psu|atx|atx supply|atx power supply|computer type supply|computer-type supply|server supply",
    { is: "supply", make: "computer" },
  ),
  ...entries("usb|usb port|usb supply|usb charger|usb power|power bank|powerbank|usb power bank|usb adapter|phone charger", {
    is: "supply",
    make: "usb",
    volts: [5],
  }),
  ...entries(
    "converter|dc dc converter|dc-dc converter|dcdc|dc dc|dc-dc|regulator|voltage regulator|bec|ubec|sbec|step down|step-down|stepdown|buck|buck converter|buck module|step down converter|step-down converter|dc converter|wandler|voltage converter|power module|stepdown converter|buck regulator|switching regulator|voltage reducer|reducer",
    { is: "converter" },
  ),
  ...entries("boost|boost converter|step up|step-up|stepup|step up converter|step-up converter|boost module", {
    is: "converter",
    topology: "boost",
  }),
  ...entries("buck boost|buck-boost|buck boost converter|buck-boost converter|sepic", { is: "converter", topology: "buck-boost" }),
  ...entries("ldo|linear regulator|low drop regulator", { is: "converter", topology: "linear" }),
  ...entries("isolated converter|isolated dc dc|isolated dc-dc|isolated dc dc converter|isolated dc-dc converter", {
    is: "converter",
    isolated: true,
  }),
  ...entries(
    "driver|motor driver|motor controller|speed controller|h bridge|h-bridge|hbridge|esc|motor drive|driver board|motor shield|motor board|stepper driver|stepper controller|stepper drive|motor driver board|servo drive|brushed esc|motortreiber|bridge|motor bridge|pwm controller|motor speed controller",
    { is: "driver" },
  ),
  ...entries(
    "e stop|e-stop|estop|emergency stop|emergency stop button|e stop button|e-stop button|kill switch|stop button|mushroom button|panic button|emergency switch|not aus|notaus|emergency off|emergency off button|stop switch|emergency button|red button|dead man switch|deadman",
    { is: "stop" },
  ),
  ...entries(
    "main switch|power switch|on off switch|on/off switch|switch|master switch|key switch|isolator|battery switch|battery isolator|rocker switch|toggle switch|toggle|disconnect|battery disconnect|hauptschalter|slide switch|main contactor|contactor",
    { is: "switch" },
  ),
  ...entries("fuse|main fuse|battery fuse|breaker|circuit breaker|sicherung|fuse holder|anl fuse|strip fuse|blade fuse", { is: "fuse" }),
  ...entries(
    "bus bar|busbar|fuse block|fuse box|terminal strip|terminal block|distribution block|distribution board|distribution|power distribution board|junction box|fuse panel|ground bar|positive bar|negative bar|bars",
    { is: "bar" },
  ),
  ...entries("charging port|charge port|charger port|charging socket|charge socket|charging jack|charge plug", { is: "port" }),
  ...entries("charger|battery charger", { is: "supply", make: "charger" }),
  ...entries("solar panel|solar|solar cell|generator|alternator|dynamo|fuel cell|wind turbine", {
    is: "outside",
    why: "What charges the machine is not planned here: write the battery it charges.",
  }),
  ...entries("inverter|mains inverter", { is: "outside", why: "Mains is not planned here. Write what it takes on the DC side as a load." }),
  ...entries("network switch|ethernet switch|network hub|usb hub|hub|ethernet hub", load("board")),
  ...entries("hydraulic power unit|hydraulic pump|power steering pump", load("pump")),
  ...entries("diode|ideal diode|flyback diode|blocking diode|schottky", { is: "diode" }),
];

function entries(words: string, thing: Thing): [string, Thing][] {
  return words.split("|").map((each): [string, Thing] => [each, thing]);
}

/** One spelling for a phrase: lower case, hyphens as spaces, each word in its singular. */
function folded(phrase: string): string {
  return phrase
    .toLowerCase()
    .split(/[\s-]+/)
    .filter(Boolean)
    .map(singular)
    .join(" ");
}

const BY_PHRASE = new Map(WORDS.map(([words, thing]) => [folded(words), thing]));
/** Most words in a phrase. */
export const PHRASE_MOST = Math.max(...[...BY_PHRASE.keys()].map((each) => each.split(" ").length));
const ONE_WORDS = [...BY_PHRASE.keys()].filter((each) => !each.includes(" ") && each.length >= 4);
const ALL_WORDS = new Set([...BY_PHRASE.keys()].flatMap((each) => each.split(" ")));

/** What a phrase stands for, letter for letter, or by the end of a compound ("headlamp", "Getriebemotor"); null where nothing does. */
export function thingOf(phrase: string): Thing | null {
  const own = folded(phrase);
  return BY_PHRASE.get(own) ?? (own.includes(" ") ? null : compound(own));
}

/** Nouns that others are put before without a space. */
const ENDS = [
  "motor",
  "lamp",
  "light",
  "pump",
  "servo",
  "battery",
  "heater",
  "sensor",
  "supply",
  "board",
  "pumpe",
  "lampe",
  "camera",
  "computer",
  "fan",
];

function compound(word: string): Thing | null {
  const end = ENDS.find((each) => word.endsWith(each) && word.length >= each.length + 3);
  return end === undefined || PLAIN_WORDS.has(word) ? null : (BY_PHRASE.get(end) ?? null);
}

/** Everyday words that a misspelling must not be mistaken for. */
const PLAIN_WORDS = new Set(
  "about above after below other their there these those which while watch water weight white where would could should front right rear left centre center upper lower small large medium heavy light short power total stall start idle running rated maximum minimum current voltage standing spare sealed acid lithium series parallel each cable cables wires length lengths matching machine machines everything rest mount plate plates clock block chain belt motion remote manual solar panel elephant brown green black yellow silver metal plastic wooden steel".split(
    " ",
  ),
);

/** Whether a word may be a slip of another: short ones keep their first letter, else "fridge" would be a bridge. */
const beginsAlike = (own: string, meant: string) => own.length >= 8 || own[0] === meant[0];

/** What a misspelt word most likely stands for, with how it is spelt; null where nothing is near enough, or two are as near. */
export function misspelt(word: string): { thing: Thing; meant: string } | null {
  const own = singular(word.toLowerCase());
  const most = slipsIn(own.length);
  if (own.length < 4 || PLAIN_WORDS.has(own) || PLAIN_WORDS.has(word)) return null;
  const swapped = ONE_WORDS.find((meant) => isSwapped(own, meant));
  if (swapped) return { thing: BY_PHRASE.get(swapped) as Thing, meant: swapped };
  if (most === 0) return null;
  let best: { meant: string; slips: number; thing: Thing } | null = null;
  for (const meant of ONE_WORDS) {
    if (!beginsAlike(own, meant)) continue;
    const slips = distance(own, meant, Math.min(most, slipsIn(meant.length)));
    if (slips > most || slips > slipsIn(meant.length) || (best && slips > best.slips)) continue;
    const thing = BY_PHRASE.get(meant) as Thing;
    if (best && slips === best.slips && JSON.stringify(best.thing) !== JSON.stringify(thing)) return null;
    best = { meant, slips, thing };
  }
  return best;
}

/** The word of some phrase that a misspelt one is nearest to; the word itself where it is spelt right, or near nothing. */
export function respelt(word: string): string {
  const own = singular(word.toLowerCase());
  const most = slipsIn(own.length);
  if (most === 0 || ALL_WORDS.has(own) || PLAIN_WORDS.has(own)) return own;
  let best: { word: string; slips: number } | null = null;
  for (const meant of ALL_WORDS) {
    if (!beginsAlike(own, meant)) continue;
    const slips = distance(own, meant, most);
    if (slips <= most && slips <= slipsIn(meant.length) && (!best || slips < best.slips)) best = { word: meant, slips };
  }
  return best?.word ?? own;
}

/** Nearest words to one that nothing is near enough to, for the builder to pick from. */
export function nearest(words: readonly string[], many: number): { meant: string; thing: Thing }[] {
  const found: { meant: string; thing: Thing; score: number }[] = [];
  for (const word of words) {
    if (word.length < 3) continue;
    for (const meant of ONE_WORDS) {
      const score = distance(singular(word), meant, 3) / meant.length;
      if (score <= 0.45) found.push({ meant, thing: BY_PHRASE.get(meant) as Thing, score });
    }
  }
  const kinds = new Set<string>();
  return found
    .sort((a, b) => a.score - b.score)
    .filter(({ thing }) => {
      const key = JSON.stringify(thing);
      return kinds.has(key) ? false : kinds.add(key);
    })
    .slice(0, many);
}

/** Chemistries by the words they go by; the more telling first. */
export const CHEMISTRY_WORDS: readonly (readonly [RegExp, ChemistryId])[] = [
  [/(?:lifepo ?4|lfp|iron phosphate).*power cells?/i, "lifepo4_power"],
  [/power cells?/i, "nmc_power"],
  [/\blifepo ?4|\blife?po\b|\blfp\b|iron phosphate|\blife\b/i, "lifepo4_energy"],
  [/\blipos?\b|\bli-?po\b|lithium[ -]poly|polymer/i, "lipo"],
  [/18650|21700|li-?ion|lithium[ -]ion|\bnmc\b|lithium/i, "nmc_energy"],
  [/flooded|wet cell|deep[ -]cycle|leisure|traction|marine battery/i, "lead_flooded"],
  [/\bagm\b|\bsla\b|\bvrla\b|\bgel\b|lead[ -]?acid|\blead\b|sealed|car battery|starter battery|motorcycle|\bpb\b|blei/i, "lead_agm"],
  [/sub-?c\b/i, "nimh_power"],
  [/ni-?mh|ni-?cd|nickel|rechargeable aa/i, "nimh_aa"],
  [/\b9 ?v (?:block|battery)|\bpp3\b/i, "alkaline_9v"],
  [/\bd[ -]cells?\b|mono cell/i, "alkaline_d"],
  [/alkaline|\baa\b|\baas\b|mignon|primary/i, "alkaline_aa"],
];

/** Words for how boards talk. */
export const LINK_WORDS: readonly (readonly [
  RegExp,
  "logic" | "serial" | "pulse" | "i2c" | "analogue" | "audio" | "rs485" | "can" | "usb" | "opto",
])[] = [
  [/\bi2c\b|\biic\b|\bi²c\b/i, "i2c"],
  [/rs-?485|modbus|\bdmx\b/i, "rs485"],
  [/\bcan\b(?: ?bus)?|canbus/i, "can"],
  [/\busb\b/i, "usb"],
  [/serial|uart|\bttl\b|rs-?232|\bsbus\b|\btx\b/i, "serial"],
  [/opto/i, "opto"],
  [/audio|line[ -]level|line out/i, "audio"],
  [/analog(?:ue)?|\badc\b|0-5 ?v|0-10 ?v/i, "analogue"],
  [/\bpwm\b|pulse|servo signal|\bppm\b/i, "pulse"],
  [/logic|gpio|digital|step[ /]dir|\bdir\b|\bpins?\b|on\/off/i, "logic"],
];
