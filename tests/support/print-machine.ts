import { generateMachine } from "./generate";

/** Prints a generated machine (parts, seed, modes, "driven" or "plain"): interface tests cannot load core themselves, their loader knows no JSON imports. */
const [parts, seed, modes, kind] = process.argv.slice(2);
process.stdout.write(
  JSON.stringify(
    generateMachine({
      parts: Number(parts),
      seed: Number(seed),
      modes: Number(modes),
      meshed: true,
      ...(kind === "driven" ? { driven: true } : {}),
    }),
  ),
);
