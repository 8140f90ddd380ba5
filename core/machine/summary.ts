/** A line of the list of machines. */
export interface MachineSummary {
  id: string;
  name: string;
  description: string;
  revision: number;
  updatedAt: string;
  parts: number;
  mainV: number | null;
  worstA: number | null;
  stops: number;
  fixes: number;
  watches: number;
  asks: number;
}
