/** Share of its diagonal below which a pivot is rounding noise: the matrix is singular as far as doubles can tell. */
const LEAST_PIVOT = 1e-11;

/**
 * Sparse LDLᵀ of a symmetric matrix without pivoting, up-looking. Unknowns are eliminated in the order of their numbers:
 * number them by `minimumDegree` first. The symbolic part (which entries each row of L has, and where they land) is made
 * once a topology; `factor` only computes numbers and allocates nothing.
 *
 * Vectors have `size + 1` entries and `values` one more than the pattern: the last ones belong to the reference, whose
 * row and column are not solved, so that elements may be stamped without asking which end is fixed.
 */
export class SymmetricSolver {
  readonly size: number;
  /** Upper triangle by columns, diagonal last in each; then the spill entry. `factor` reads it. */
  readonly values: Float64Array;
  /** Index in `values` of whatever touches the reference. */
  readonly spill: number;
  private readonly colStart: Int32Array;
  private readonly rowIndex: Int32Array;
  /** Columns of L that row k has an entry in, in the order they must be used, and where that entry lies in `lValue`. */
  private readonly reachStart: Int32Array;
  private readonly reachColumn: Int32Array;
  private readonly reachEntry: Int32Array;
  private readonly lStart: Int32Array;
  private readonly lRow: Int32Array;
  private readonly lValue: Float64Array;
  private readonly inverse: Float64Array;
  private readonly work: Float64Array;
  private readonly slotOf = new Map<number, number>();

  /** @param pairs off-diagonal positions (a, b), a ≠ b, that may become non-zero */
  constructor(size: number, pairs: readonly (readonly [number, number])[]) {
    this.size = size;
    const columns = Array.from({ length: size }, () => new Set<number>());
    for (const [a, b] of pairs) columns[Math.max(a, b)]?.add(Math.min(a, b));
    this.colStart = new Int32Array(size + 1);
    const rows: number[] = [];
    columns.forEach((column, k) => {
      for (const row of [...column].sort((x, y) => x - y)) {
        this.slotOf.set(row * size + k, rows.length);
        rows.push(row);
      }
      this.slotOf.set(k * size + k, rows.length);
      rows.push(k);
      this.colStart[k + 1] = rows.length;
    });
    this.rowIndex = Int32Array.from(rows);
    this.spill = rows.length;
    this.values = new Float64Array(rows.length + 1);

    const reach = this.symbolic();
    const lCount = new Int32Array(size);
    for (const columns of reach) for (const i of columns) lCount[i] = (lCount[i] as number) + 1;
    this.lStart = new Int32Array(size + 1);
    for (let k = 0; k < size; k++) this.lStart[k + 1] = (this.lStart[k] as number) + (lCount[k] as number);
    const fill = this.lStart[size] as number;
    this.lRow = new Int32Array(fill);
    this.lValue = new Float64Array(fill);
    this.reachStart = new Int32Array(size + 1);
    this.reachColumn = new Int32Array(fill);
    this.reachEntry = new Int32Array(fill);
    const next = this.lStart.slice();
    let at = 0;
    reach.forEach((columns, k) => {
      for (const i of columns) {
        const entry = next[i] as number;
        next[i] = entry + 1;
        this.lRow[entry] = k;
        this.reachColumn[at] = i;
        this.reachEntry[at++] = entry;
      }
      this.reachStart[k + 1] = at;
    });
    this.inverse = new Float64Array(size);
    this.work = new Float64Array(size);
  }

  /** Where entry (a, b) lives in `values`; (a, b) and (b, a) are one slot; the spill where either is the reference. */
  slot(a: number, b: number): number {
    if (a === this.size || b === this.size) return this.spill;
    const found = this.slotOf.get(Math.min(a, b) * this.size + Math.max(a, b));
    if (found === undefined) throw new RangeError(`entry (${a}, ${b}) is not in the pattern`);
    return found;
  }

  /** For each row k the columns i < k in which L has an entry, each after those it depends on (elimination tree). */
  private symbolic(): number[][] {
    const { size, colStart, rowIndex } = this;
    const parent = new Int32Array(size).fill(-1);
    const flag = new Int32Array(size).fill(-1);
    return Array.from({ length: size }, (_, k) => {
      const reach: number[] = [];
      flag[k] = k;
      for (let p = colStart[k] as number; p < (colStart[k + 1] as number); p++) {
        for (let i = rowIndex[p] as number; flag[i] !== k; i = parent[i] as number) {
          if (parent[i] === -1) parent[i] = k;
          flag[i] = k;
          reach.push(i);
        }
      }
      // A parent has the higher number, so rising order is an order in which nothing is used before it is ready.
      return reach.sort((x, y) => x - y);
    });
  }

  /**
   * Factors `values`. Returns false when a pivot is not positive: the matrix is singular or, with constant-power loads
   * linearised in it, the operating point has passed the point of voltage collapse.
   */
  factor(): boolean {
    const { size, reachStart, reachColumn, reachEntry, lStart, lRow, lValue, colStart, rowIndex, values, inverse, work } = this;
    for (let k = 0; k < size; k++) {
      const diagonal = (colStart[k + 1] as number) - 1;
      for (let p = colStart[k] as number; p < diagonal; p++) work[rowIndex[p] as number] = values[p] as number;
      let pivot = values[diagonal] as number;
      const scale = Math.abs(pivot);
      const end = reachStart[k + 1] as number;
      for (let r = reachStart[k] as number; r < end; r++) {
        const i = reachColumn[r] as number;
        const entry = reachEntry[r] as number;
        const y = work[i] as number;
        work[i] = 0;
        for (let p = lStart[i] as number; p < entry; p++) {
          const row = lRow[p] as number;
          work[row] = (work[row] as number) - (lValue[p] as number) * y;
        }
        const l = y * (inverse[i] as number);
        pivot -= l * y;
        lValue[entry] = l;
      }
      if (!(pivot > LEAST_PIVOT * scale)) {
        work.fill(0);
        return false;
      }
      inverse[k] = 1 / pivot;
    }
    return true;
  }

  /** Solves with the current factor: reads `b`, writes `x` (may be the same array). The reference's entry becomes 0. */
  solve(b: Float64Array, x: Float64Array): void {
    const { size, lStart, lRow, lValue, inverse } = this;
    if (x !== b) x.set(b);
    for (let k = 0; k < size; k++) {
      const y = x[k] as number;
      const end = lStart[k + 1] as number;
      for (let p = lStart[k] as number; p < end; p++) {
        const row = lRow[p] as number;
        x[row] = (x[row] as number) - (lValue[p] as number) * y;
      }
    }
    for (let k = size - 1; k >= 0; k--) {
      let y = (x[k] as number) * (inverse[k] as number);
      const end = lStart[k + 1] as number;
      for (let p = lStart[k] as number; p < end; p++) y -= (lValue[p] as number) * (x[lRow[p] as number] as number);
      x[k] = y;
    }
    x[size] = 0;
  }
}
