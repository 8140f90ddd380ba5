import { generateMachine } from "./generate";

/** Prints a generated machine: interface tests cannot load core themselves, their loader knows no JSON imports. */
const [parts, seed] = process.argv.slice(2).map(Number);
process.stdout.write(JSON.stringify(generateMachine({ parts: parts ?? 60, seed: seed ?? 1, meshed: true, modes: 6 })));
