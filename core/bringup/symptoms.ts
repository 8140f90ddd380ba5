import type { JudgedStep } from "./judge";

/** What a reading that is off usually means, likeliest first (handbook grounding section 9, common practice, no source). */
export function likelyCauses({ step, beyond, reading }: Pick<JudgedStep, "step" | "beyond" | "reading">): string[] {
  const value = reading?.value ?? null;
  const { stage, quantity, expect } = step;
  const expected = expect.kind === "band" ? expect.band.value : 0;
  const early = stage === "tree" || stage === "logic" || stage === "drivers";
  const running = stage === "free" || stage === "loaded" || stage === "single";
  if (quantity === "amps") {
    if (beyond > 0)
      return early
        ? [
            "a wrong board on a rail",
            "an indicator or bleed resistor that is not in the plan",
            "a regulator that oscillates",
            "a driver that is enabled",
          ]
        : ["it rubs, or is loaded", "another motor or gear than planned", "a winding with a short in it", "two things on one feed"];
    return ["a fuse that is open", "an enable that is off", "a plug that is not seated", "a crimp on insulation"];
  }
  if (quantity === "volts" && expect.kind === "band") {
    if (value !== null && expected > 1 && value < -0.5) return ["plus and minus are swapped"];
    if (beyond > 0 && expected > 1)
      return [
        "a trimmer never set",
        "a sense wire that is open",
        running ? "a motor that gives back while it stops" : "two supplies on one rail",
      ];
    if (value !== null && expected > 1 && value > 0.5 && value < 4 && early && value < 0.7 * expected)
      return [
        "back-feed through signal pins or USB",
        "a second regulator on the same rail",
        "a regulator that cannot start under the limit",
      ];
    if (value !== null && expected > 1 && value < 0.3 * expected)
      return early
        ? [
            "polarity swapped, a diode conducts",
            "a short",
            "a capacitor the wrong way round",
            "a plug in the wrong fuse way",
            "a fuse that is open",
          ]
        : ["a fuse that is open", "a plug that is not seated"];
    if (beyond < 0 && expected > 1)
      return running
        ? ["a thin wire", "a bad crimp: find it by millivolts along the way", "a regulator at its limit", "a small or cold battery"]
        : ["the bench supply is at its limit", "a regulator that cannot start under the limit", "a bad crimp"];
    return [
      "a return on the wrong bar",
      "a loose link between bars",
      "a way home that the plan does not have: shield, frame, signal ground",
    ];
  }
  if (quantity === "celsius")
    return ["a crimp, its torque or its plating", "gauge, bundle or r.m.s. current", "a fuse holder that runs hot"];
  if (quantity === "ohms" && expect.kind === "least") return ["a crossed wire", "a pinched wire", "a part the wrong way round"];
  if (quantity === "ohms") return ["a crimp on insulation", "a plug that is not seated", "the wire ends somewhere else"];
  return [];
}
