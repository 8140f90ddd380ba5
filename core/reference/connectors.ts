import rows from "./data/connectors.json";

/**
 * One family and size of connector. All values are typical and from memory: the part's own sheet always wins. Currents are
 * continuously, per contact, about `riseK` above the air, with the thickest wire it takes.
 */
export interface ConnectorRow {
  readonly id: string;
  readonly name: string;
  /** For a column of a table. */
  readonly short: string;
  /** `plug`: unmated by hand; `joint`: by tool; `rotary`: turns. */
  readonly sort: "plug" | "joint" | "rotary";
  readonly poles: string;
  readonly maxPoles: number;
  /** Contacts of one housing where the family has one number of them. */
  readonly fixedPoles: number | null;
  /** With one or two contacts loaded, and with all of them, A; null: as the wire in it. */
  readonly contactA: number | null;
  readonly allContactA: number | null;
  readonly riseK: number;
  /** The headline figure often printed, A: not continuously. */
  readonly printedA: number | null;
  readonly milliohm: number;
  readonly agedMilliohm: number;
  readonly awgThinnest: string;
  readonly awgThickest: string;
  readonly mm2Min: number;
  readonly mm2Max: number;
  readonly maxV: number;
  readonly keyed: string;
  readonly polarised: string;
  /** Whether the socket half may stay live when the plug is out. */
  readonly touchSafe: string;
  readonly cycles: number | null;
  readonly hotPlug: string;
  readonly check: string;
  readonly note: string;
  readonly certainty: string;
}

/** The table of connector families. */
export const CONNECTORS: readonly ConnectorRow[] = rows as readonly ConnectorRow[];
/** Connector families by id. */
export const CONNECTOR_IDS = CONNECTORS.map(({ id }) => id) as [string, ...string[]];

const byId = new Map(CONNECTORS.map((row) => [row.id, row]));

/** A connector family's row. */
export function connectorById(id: string): ConnectorRow | undefined {
  return byId.get(id);
}
