/** A trade word: what it is called, the forms it is met in, and what it is in two sentences. */
export interface Entry {
  readonly id: string;
  readonly word: string;
  /** Met in a text as one of these; without regard to case. */
  readonly forms: RegExp;
  readonly says: string;
}

const entry = (word: string, forms: string, says: string): Entry => ({
  id: word
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, ""),
  word,
  forms: new RegExp(`(?<![\\p{L}\\p{N}-])(?:${forms})(?![\\p{L}\\p{N}])`, "iu"),
  says,
});

/** Every trade word of the screens, in the order of the alphabet. Plain words for the trade's own terms; no source. */
export const GLOSSARY: readonly Entry[] = [
  entry(
    "Account",
    "accounts?",
    "What arrives at a place, what leaves it and what comes home, in amps. The two sides must balance: current does not get lost.",
  ),
  entry(
    "Actuator",
    "(?:linear )?actuators?",
    "A motor that pushes or pulls along a line, by a screw. Run into its end without end switches it is held still, and draws its most.",
  ),
  entry(
    "Amp hours",
    "amp hours|Ah|capacity",
    "How much a battery holds: 33 Ah give one amp for 33 hours, or ten for about three. What is drawn fast comes out less.",
  ),
  entry(
    "Analogue",
    "analogue",
    "A signal that says how much, not only yes or no. A ground that moves by a hundredth of a volt moves what is read.",
  ),
  entry(
    "Back-fed",
    "back-?fed|unfed|fed twice",
    "A board that gets its power from a side where none should come in, from nowhere, or from two at once. Each makes it behave oddly or die.",
  ),
  entry(
    "Back-EMF",
    "back-?emf",
    "A turning motor makes a voltage of its own that works against the supply. It is why a turning motor draws far less than one held still.",
  ),
  entry(
    "Band",
    "bands?|outside its band",
    "From where to where a reading may be if the machine is built as planned. Outside it something is not as drawn.",
  ),
  entry(
    "Bar",
    "(?:bus |minus |plus |negative |positive )?bars?(?! code)|node|nodes",
    "A strip of metal with screws where several wires meet: one for plus, one for minus. All of it has the same voltage, so a ledger can be kept of it.",
  ),
  entry(
    "Board",
    "boards?",
    "A printed circuit with a job of its own: a controller, a computer, a radio. It needs a steady voltage within a narrow window.",
  ),
  entry(
    "Bond",
    "bond(?:s|ed|ing)?",
    "A wire that ties the metal frame to the minus side. Once, at one place: twice makes a second way for current.",
  ),
  entry(
    "Boost",
    "boosts?|step-up",
    "A converter that makes a higher voltage from a lower one. It draws more amps than it gives: the power stays the same.",
  ),
  entry(
    "Braking energy",
    "braking(?: energy)?|regenerat\\w+|gives back",
    "A motor that is slowed down becomes a generator and pushes current back. A battery can take it; most mains supplies cannot, and the voltage rises.",
  ),
  entry(
    "Breaking capacity",
    "breaking capacity|breaks? the short|cannot break",
    "The largest short-circuit current a fuse or contact can stop without bursting or welding. A strong battery can push more than a cheap fuse breaks.",
  ),
  entry(
    "Bridge",
    "(?:h-)?bridges?",
    "The four switches in a motor driver that turn a motor either way. What they keep for themselves, in volts, the motor does not get, and the driver heats with.",
  ),
  entry(
    "Buck",
    "bucks?|step-down",
    "A converter that makes a lower voltage from a higher one. It draws fewer amps than it gives: 5 V at 4 A from 24 V is about 1 A.",
  ),
  entry(
    "Capacitor",
    "capacitors?|capacitance",
    "Holds a little charge, like a very small battery. Empty ones take a huge current for an instant when they are switched on.",
  ),
  entry(
    "Channel",
    "channels?",
    "One motor's output of a driver. A driver with two channels drives two motors, and its limits count for each and for both together.",
  ),
  entry(
    "Chassis",
    "chassis|frame",
    "The metal the machine is built on. It is not a wire: current that finds its way into it shows up where nobody looks.",
  ),
  entry(
    "Clear",
    "clear(?:s|ed|ing)?(?= )",
    "To end a short: the fuse opens and no current flows any more. In time means before the wire behind it is damaged.",
  ),
  entry(
    "Coil",
    "coils?",
    "Many turns of wire that pull a contact or a bolt when current flows. When it is switched off it kicks back with a high voltage, which a diode catches.",
  ),
  entry(
    "Collapse",
    "collapses?",
    "The load asks for more than source and wires can bring, and the voltage falls away altogether. It is no figure that is a little low: nothing works then.",
  ),
  entry("Conductor", "conductors?", "The metal of a wire that carries current. A feed has two: one out, one home."),
  entry(
    "Connector",
    "connectors?|plugs?|housings?",
    "What two wires are joined by and can be taken apart at. Each contact bears only so many amps before it runs hot.",
  ),
  entry(
    "Contactor",
    "contactors?|contacts?",
    "A large switch that a small current closes and opens. Direct current makes an arc when it opens: it needs to be made for that.",
  ),
  entry(
    "Continuous",
    "continuous(?:ly)?",
    "For as long as you like, not just for a moment. Wires, fuses and drivers bear more for a second than they do for an hour.",
  ),
  entry(
    "Converter",
    "converters?|regulators?",
    "Makes one voltage from another: 5 V for boards from a 24 V battery. It has a largest current, and an input window outside which it stops or dies.",
  ),
  entry("Crossed", "crossed|polarity|swapped", "Plus where minus belongs. Most electronics die of it at once."),
  entry("DC", "DC", "Direct current, as batteries give it. It does not pass through zero as mains does, so an arc, once lit, stays lit."),
  entry(
    "Derate",
    "derat\\w+",
    "To count on less than what is printed, because it is hot, boxed in or bundled. A wire among five others may carry about half of what it does alone.",
  ),
  entry("Drill", "drills?", "A fault on a simulated bench, to practise finding it before it is your own."),
  entry(
    "Driver",
    "(?:motor )?drivers?",
    "The board between battery and motor that switches and turns it. The amps in its name are mostly what its chip survives for an instant.",
  ),
  entry(
    "Drop",
    "drops?|voltage drop",
    "Volts lost in the wire on the way: thin and long wires lose more. What is lost there the load does not get, and the wire heats with.",
  ),
  entry(
    "Dropout",
    "dropout|drops out",
    "The least a regulator needs above its output to hold it. Below that its output falls with the input.",
  ),
  entry("Duty", "duty", "The share of time a driver has its motor switched on. At 50 % a motor sees about half the volts."),
  entry("Efficiency", "efficienc\\w+", "How much of what goes in comes out again. The rest is heat."),
  entry(
    "Emergency stop",
    "emergency stop|e-stop|stop circuit",
    "A button that takes the power from everything that can hurt, and stays pressed until somebody means to start again. Boards may stay alive.",
  ),
  entry(
    "Feed",
    "feeds?|fed",
    "A wire that brings current to something, with its way home, its fuse and its ends. The plan is an account of feeds.",
  ),
  entry(
    "Freewheel",
    "freewheel\\w*|way round for a motor's current",
    "A diode that lets a motor's or coil's current run out when it is switched off. Without it that current makes a spark or kills the switch.",
  ),
  entry(
    "Fuse",
    "fuses?|fused",
    "Melts before the wire behind it does. It guards the wire, not the load: it must be smaller than what the wire bears and larger than what the load draws.",
  ),
  entry("Gauge", "gauges?|AWG|mm²|sizes?", "How thick a wire is. Smaller AWG numbers are thicker; three numbers down is twice the copper."),
  entry(
    "Ground",
    "grounds?|common reference|reference",
    "The minus side, from which all voltages are counted. Two boards that talk must count from the same place.",
  ),
  entry(
    "Group",
    "groups?",
    "Several loads alike behind one feed. The fuse of the group guards the feed; each piece's own lead must bear it too.",
  ),
  entry(
    "Heat balance",
    "heat balance|handbook chassis wiring|boat practice|building-wire table",
    "One of four habits of saying what a wire may carry: from tables of handbooks, boats or buildings, or worked out from what heats and cools it.",
  ),
  entry(
    "Inrush",
    "inrush|plugging in",
    "The large current for an instant when something empty or at rest is switched on. It welds contacts and opens small fuses.",
  ),
  entry("Insulation", "insulation", "The plastic round a wire. It decides how hot the wire may become."),
  entry(
    "Internal resistance",
    "internal resistance|output resistance|resistance",
    "What stands in the way of current, in ohms; a battery has some inside. It is why its volts fall when much is drawn.",
  ),
  entry(
    "Isolated",
    "isolat\\w+",
    "No metal leads from one side to the other. Signals pass by light or a transformer, and a disturbed ground stays where it is.",
  ),
  entry("Label", "labels?", "What is written on both ends of a wire. In a year it is the only one who remembers."),
  entry("Lead", "leads?", "The wire between a driver and its motor, or from a group's feed to one of its pieces."),
  entry("Level", "levels?", "The voltage a board counts as yes or no. One that gives 3.3 V may be too low for one that listens at 5 V."),
  entry(
    "Linear",
    "linear(?: regulators?)?|LDO",
    "A regulator that burns off what is too much. Simple and quiet, but 24 V to 5 V turns four fifths into heat.",
  ),
  entry(
    "Link",
    "links?",
    "A signal between two boards: a wire that says something, not one that feeds. It stands on the ground both share.",
  ),
  entry("Load", "loads?", "Whatever uses current: motors, lights, boards."),
  entry("Logic", "logic", "The side of the machine that thinks: controllers, computers, radios. It wants steady volts and a quiet ground."),
  entry("Loop", "loops?", "Two ways home for the same current. Some of a motor's current then takes the way through a thin signal wire."),
  entry(
    "Management",
    "management|BMS",
    "The board in a lithium pack that watches its cells and switches off before they are harmed. It has a largest current of its own.",
  ),
  entry("Mission", "missions?", "The modes one after the other, with their times: what the machine really does on one charge."),
  entry(
    "Mode",
    "modes?",
    "A state the machine can be in: parked, running, all starting at once. Every figure is worked out for each of them.",
  ),
  entry(
    "Offset",
    "offsets?",
    "How far the ground at one board is above the ground at another while current flows. A link bears only so much of it.",
  ),
  entry(
    "Open-circuit volts",
    "open-circuit volts|rested volts|at rest",
    "What a battery shows when nothing is drawn. Under load it shows less.",
  ),
  entry(
    "Over its rating",
    "ratings?|rated",
    "What a part is made for, printed on it. More for a moment may pass; more for long heats and ages it.",
  ),
  entry("Peak", "peaks?|briefly", "The most for a short time. What bears a peak of ten seconds may not bear it for a minute."),
  entry("Peukert", "peukert\\S*", "A lead battery gives less the faster it is emptied. Peukert's number says how much less."),
  entry("Pin", "(?:signal )?pins?", "One small contact of a board. It gives a signal, a few hundredths of an amp, and is no supply."),
  entry(
    "Precharge",
    "precharg\\w+",
    "A resistor that fills empty capacitors slowly before the main contact closes. Without it the contact welds.",
  ),
  entry(
    "Provenance",
    "provenance|guess(?:es)?|typical|datasheet|measured",
    "How a figure is known: measured by you, printed on its sheet, typical of its sort, or guessed. The surer it is, the narrower what follows from it.",
  ),
  entry(
    "Rail",
    "rails?|bus",
    "Everything that hangs on one source or one converter, at one voltage. Its tag is a letter and its volts: A24, B5.",
  ),
  entry(
    "Return",
    "returns?|way back|comes? home|minus",
    "The way home. Every amp that goes out comes back, and where it comes back decides what it disturbs.",
  ),
  entry("R.m.s.", "r\\.?m\\.?s\\.?", "The steady current that would heat as much as one that comes and goes. It lies above the average."),
  entry("Rotary joint", "rotary joints?|rings?", "Lets wires go round and round, by rings and brushes. Each ring bears few amps."),
  entry("Sag", "sags?", "The fall of a battery's volts while much is drawn. Boards reset when it falls below their least."),
  entry(
    "School",
    "schools?",
    "One of several good habits that builders follow, and that differ: for instance a fuse for each driver, or one main fuse only. You choose; the plan is then judged by it.",
  ),
  entry(
    "Selectivity",
    "selectiv\\w+|more than its own fuse|open together",
    "Only the fuse nearest to a fault opens, and the rest of the machine lives on. It needs the one before it to be clearly larger.",
  ),
  entry(
    "Series",
    "(?:in )?series|(?:in )?parallel|tapped",
    "One after the other the volts add up, side by side the amps and amp hours do. Tapping one of several in a row empties that one first.",
  ),
  entry(
    "Servo",
    "servos?",
    "A small motor that holds a place it is told by a pulse. Pushed against, it draws its stall current, and often many do so at once.",
  ),
  entry("Shield", "shields?", "Metal round a signal cable. Tied at one end it keeps noise out, tied at both it carries current."),
  entry(
    "Short circuit",
    "shorts?|short circuits?|short-circuit",
    "Plus touches minus with nothing between. All that the source can push flows until something opens.",
  ),
  entry(
    "Silicon",
    "silicon|resettable",
    "Electronics in place of metal: they switch off fast, and can fail closed. A fuse that melts cannot.",
  ),
  entry("Source", "sources?", "What current comes from: a battery, a supply, a port."),
  entry(
    "Stage",
    "stages?",
    "A part of first power-up: look, measure without power, then boards, then one motor. The next begins when the last one was as it should be.",
  ),
  entry(
    "Stall",
    "stalls?|stalled|held still|stalling",
    "A motor that is powered and cannot turn. It then draws its most, five to ten times what it does running, and heats within seconds.",
  ),
  entry(
    "Stepper",
    "steppers?",
    "A motor that turns in small steps and holds between them. Its drive sets the current in its windings, which is not what it draws from the rail.",
  ),
  entry(
    "Supply",
    "suppl(?:y|ies)",
    "A box that makes DC, mostly from mains. It limits or switches off when too much is asked, where a battery just gives.",
  ),
  entry("Switch", "switch(?:es)?", "Opens and closes a way. For DC it needs a DC rating: an AC one keeps burning."),
  entry("Terminal", "terminals?", "The screw, stud or pin of a part where a wire ends."),
  entry(
    "Verdict",
    "verdicts?|severit\\w+",
    "What a check concluded. Stop: do not power it. Fix: it will trip, reset, overheat or age. Watch: little is left. Ask: a figure is missing that matters.",
  ),
  entry("Voltage layer", "layers?", "A driver is chip, board and what it is stacked on, each with limits of its own. The weakest counts."),
  entry(
    "Window",
    "windows?|input volts|input at (?:least|most)",
    "The volts between which a part works. Below it stops or resets, above it dies.",
  ),
  entry(
    "Wire current",
    "may carry|carries|ampacity",
    "How many amps a wire bears without its insulation becoming too hot. It falls in bundles, boxes and heat.",
  ),
  entry(
    "Working",
    "workings?",
    "How a figure was worked out: the formula with its numbers, and where each comes from. Any figure opens its own.",
  ),
  entry(
    "Y-lead",
    "y-leads?|fuse block|terminal strip|junction",
    "One lead that splits into two or more. What comes before the split carries the sum.",
  ),
];
