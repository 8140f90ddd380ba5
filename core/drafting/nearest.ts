import type { LoadKind } from "../reference/load-kinds";
import type { Nearest, Reading } from "./reading";
import { nearest, type Thing } from "./vocabulary";
import type { LineWords } from "./words-of-line";

/** What a line is most often meant as where no word of it is known. */
const USUAL: readonly LoadKind[] = ["motor", "light", "board"];
/** Most readings offered beside "leave it out". */
const OFFERED = 3;

function wordOf(thing: Thing, meant: string): string {
  return thing.is === "load" ? (thing.kind === "other" ? meant : thing.kind) : meant;
}

/** The line as a remark: kept, and not planned. */
export function leftOut(text: string): Nearest {
  return { label: "leave it out", line: `# ${text.trim()}` };
}

/** The nearest ways a line could be meant, each as the line it would then be. */
export function nearestOf(text: string, words: LineWords | null, reading: Reading | null): Nearest[] {
  if (words === null) return [leftOut(text.slice(0, 200))];
  const trimmed = text.trim();
  if (reading !== null) return [...alternatives(trimmed, words, reading), leftOut(text)];
  const near = nearest(
    words.tokens.flatMap((token) => (token.is === "word" ? [token.word] : [])),
    OFFERED,
  ).map(({ meant, thing }) => wordOf(thing, meant));
  const offered = [...new Set([...near, ...USUAL])].slice(0, OFFERED);
  return [...offered.map((label): Nearest => ({ label, line: `${label}: ${trimmed}` })), leftOut(text)];
}

/** Where a line is understood but for one thing: that thing both ways. */
function alternatives(text: string, words: LineWords, reading: Reading): Nearest[] {
  if (reading.is === "pack" && reading.unjoined !== null)
    return [
      { label: "in series", line: `${text} in series` },
      { label: "in parallel", line: `${text} in parallel` },
    ];
  if (reading.is !== "load") return [];
  const [loose] = words.figures("amps");
  if (loose) {
    const shown = words.text.slice(loose.start, loose.end).trim();
    const before = words.text.slice(0, loose.start);
    const after = words.text.slice(loose.end);
    return (["stall", "start", "idle"] as const)
      .filter((role) => reading.amps[role] === undefined)
      .map((role) => ({
        label: `${shown} ${role === "stall" ? "held still" : role === "start" ? "starting" : "idle"}`,
        line: `${before}${role} ${shown}${after}`.trim(),
      }));
  }
  const negative = words.tokens.find((token) => token.is === "number" && token.value < 0);
  if (negative)
    return [{ label: `${negative.text.slice(1)} of them`, line: words.text.replace(negative.text, negative.text.slice(1)).trim() }];
  return [];
}
