import { applyCommand } from "../machine/apply";
import type { Command } from "../machine/commands";
import { freshId, newPart } from "../machine/defaults";
import { type Figure, guess } from "../machine/figure";
import { type Machine, NAME_MAX, type PartKind, type PartOf, type TerminalRef, type Wire } from "../machine/schema";
import type { LengthsReading } from "./reading";

/** Lengths taken where nobody said, m (common practice, no source): within the box, from there to what moves. */
export const LENGTHS_M = { source: 0.3, bar: 0.3, driver: 1, motor: 1, load: 1, converter: 0.5 } as const;
/** What a conductor leads to. */
export type LengthTo = keyof typeof LENGTHS_M;

/** Makes a plan by the same commands the screens use, each applied at once, so that a draft cannot hold what a builder could not enter. */
export class Builder {
  readonly commands: Command[] = [];
  private readonly waiting: Command[] = [];
  private readonly parts: { id: string; name: string }[];

  constructor(
    private made: Machine,
    private readonly lengths: readonly LengthsReading["to"][number][] = [],
  ) {
    this.parts = made.parts.map(({ id, name }) => ({ id, name }));
  }

  /** The machine with everything done so far: commands are applied together, since each application looks at the whole. */
  get machine(): Machine {
    if (this.waiting.length > 0) {
      const command: Command = { type: "batch", label: "Draft", commands: this.waiting.splice(0) };
      const result = applyCommand(this.made, command);
      if (!result.ok) throw new Error(`${result.message} (${JSON.stringify(command).slice(0, 2000)})`);
      this.made = result.machine;
    }
    return this.made;
  }

  do(command: Command): void {
    this.waiting.push(command);
    this.commands.push(command);
  }

  /** The length of a conductor: as the list says of what it leads to, else a usual one that is marked a guess. */
  length(to: LengthTo, loadKind: string | null = null, own: Figure | null = null): Figure {
    if (own) return own;
    const told = this.told(to, loadKind);
    return told ? { value: told.lengthM.value, provenance: told.lengthM.provenance } : guess(LENGTHS_M[to]);
  }

  /** The size of a conductor, where the list says one of what it leads to. */
  gauge(to: LengthTo, loadKind: string | null = null): string | null {
    return this.told(to, loadKind)?.gauge ?? null;
  }

  private told(to: LengthTo, loadKind: string | null): LengthsReading["to"][number] | undefined {
    // From a switch or a contact to the bar beside it is no way to speak of.
    if (to === "bar") return undefined;
    const what = to === "converter" ? "load" : to;
    return (
      this.lengths.find((each) => each.kind !== null && each.kind === loadKind) ??
      this.lengths.find((each) => each.kind === null && each.what === what && (what !== "load" || loadKind === null)) ??
      (to === "source" ? undefined : this.lengths.find((each) => each.what === null))
    );
  }

  /** A name nothing else has. */
  name(wanted: string): string {
    const taken = new Set(this.parts.map(({ name }) => name.toLowerCase()));
    const base = wanted.slice(0, NAME_MAX - 4).trim() || "Part";
    if (!taken.has(base.toLowerCase())) return base;
    let n = 2;
    while (taken.has(`${base} ${n}`.toLowerCase())) n++;
    return `${base} ${n}`;
  }

  /** Adds a part with its feed; its id. */
  add<K extends PartKind>(
    kind: K,
    name: string,
    over: Partial<Omit<PartOf<K>, "id" | "name" | "kind">>,
    hang: { from?: TerminalRef; back?: TerminalRef; lengthM?: Figure; gauge?: string | null } = {},
  ): string {
    const id = freshId("p", this.parts);
    const wire: Partial<Pick<Wire, "lengthM" | "gauge">> = {
      ...(hang.lengthM ? { lengthM: hang.lengthM } : {}),
      ...(hang.gauge ? { gauge: hang.gauge } : {}),
    };
    const part = newPart(kind, id, this.name(name), over);
    this.parts.push({ id, name: part.name });
    const feed =
      hang.from || hang.back ? { ...(hang.from ? { from: hang.from } : {}), ...(hang.back ? { back: hang.back } : {}), wire } : undefined;
    this.do({ type: "addPart", part, ...(feed ? { feed } : {}) });
    return id;
  }
}

/** A terminal. */
export const at = (part: string, terminal = "bar"): TerminalRef => ({ part, terminal });
