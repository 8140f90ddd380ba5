/** What the list says of a machine beside its name. */
export interface MachineOverview {
  parts: number;
  mainV: number | null;
  worstA: number | null;
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
