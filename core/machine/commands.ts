import type { Cell, Decision, FuseRef, Mission, Mode, Part, PartKind, PartOf, Settings, Signal, TerminalRef, Wire } from "./schema";

/** Where a new part hangs and with what conductors; lengths and gauges may still be unknown. */
export interface FeedPlan {
  /** Supply conductor's source end, e.g. a bar. Absent for a negative bar. */
  from?: TerminalRef;
  /** Where the return lands. Absent for parts in the supply path only (switch, fuse, positive bar). */
  back?: TerminalRef;
  wire?: Partial<Pick<Wire, "gauge" | "lengthM" | "parallel" | "insulation" | "bundle" | "fuse">>;
}

/** What both conductors of a feed share. Ends are named as on the supply wire; on the return they stand the other way round. */
export type FeedChanges = Partial<
  Pick<
    Wire,
    | "gauge"
    | "lengthM"
    | "parallel"
    | "insulation"
    | "bundle"
    | "board"
    | "fromEnd"
    | "toEnd"
    | "surroundings"
    | "moves"
    | "strand"
    | "relief"
    | "soldered"
    | "unequal"
    | "twisted"
    | "label"
    | "pinned"
  >
>;

/** What may change of a part of one kind; undefined takes a figure away. */
export type ChangesOf<K extends PartKind> = { [F in keyof Omit<PartOf<K>, "id" | "kind">]?: PartOf<K>[F] | undefined };
/** What may change of a part: the fields of its own kind, and no others. */
export type PartChanges = { [K in PartKind]: ChangesOf<K> }[PartKind];

/** Any change to a plan. Everything that edits goes through one of these, so undo, history and remedies are one thing. */
export type Command =
  | { type: "rename"; name?: string; description?: string }
  | { type: "setSettings"; changes: Partial<Settings> }
  | { type: "addPart"; part: Part; feed?: FeedPlan }
  | { type: "updatePart"; id: string; changes: PartChanges }
  | { type: "removePart"; id: string; moveTo?: TerminalRef }
  | { type: "addWire"; wire: Omit<Wire, "id"> & { id?: string } }
  | { type: "updateWire"; id: string; changes: Partial<Omit<Wire, "id" | "from" | "to" | "role">> }
  | { type: "setFeed"; id: string; changes: FeedChanges }
  | { type: "setFuse"; wireId: string; fuse: FuseRef | null }
  | { type: "reland"; wireId: string; end: "from" | "to"; at: TerminalRef }
  | { type: "removeWire"; id: string }
  | { type: "addSignal"; signal: Omit<Signal, "id"> & { id?: string } }
  | { type: "updateSignal"; id: string; changes: Partial<Omit<Signal, "id" | "from" | "to">> }
  | { type: "removeSignal"; id: string }
  | { type: "addMode"; name: string; lastsS: number | null; copyFrom?: string }
  | { type: "updateMode"; id: string; changes: Partial<Omit<Mode, "id">> }
  | { type: "moveMode"; id: string; by: -1 | 1 }
  | { type: "removeMode"; id: string }
  | { type: "setCell"; loadId: string; modeId: string; cell: Cell | null }
  | { type: "setMission"; mission: Mission | null }
  /** Accepts a verdict or puts it off; one on the same verdict takes the place of the one before. */
  | { type: "decide"; decision: Decision }
  | { type: "undecide"; id: string }
  | { type: "batch"; label: string; commands: Command[] };
