/** What the list says of a machine beside its name. */
export interface MachineOverview {
  parts: number;
  mainV: number | null;
  worstA: number | null;
  /** The worst is a least value: a load is unknown, or a mode has no operating point. */
  worstAtLeast: boolean;
  stops: number;
  fixes: number;
  watches: number;
  asks: number;
}

/** A line of the list of machines; `overview` is null where this version cannot read the machine. */
export interface MachineSummary {
  id: string;
  name: string;
  description: string;
  revision: number;
  updatedAt: string;
  overview: MachineOverview | null;
}
