import { minimumDegree } from "./ordering";

/** Share of its diagonal below which a pivot is rounding noise: the matrix is singular as far as doubles can tell. */
const LEAST_PIVOT = 1e-11;

/**
 * Sparse LDLᵀ of a symmetric matrix without pivoting, up-looking. The symbolic part (ordering, elimination tree,
 * column counts, where each entry lands) is made once a topology; `factor` only computes numbers and allocates nothing.
 */
export class SymmetricSolver {
  readonly size: number;
  /** Upper triangle of the permuted matrix by columns; `values` is what `factor` reads. */
  readonly values: Float64Array;
  private readonly colStart: Int32Array;
  private readonly rowIndex: Int32Array;
  private readonly position: Int32Array;
  private readonly order: Int32Array;
  private readonly parent: Int32Array;
  private readonly lStart: Int32Array;
  private readonly lRow: Int32Array;
  private readonly lValue: Float64Array;
  private readonly lCount: Int32Array;
  private readonly diagonal: Float64Array;
  private readonly work: Float64Array;
  private readonly pattern: Int32Array;
  private readonly stack: Int32Array;
  private readonly flag: Int32Array;
  private readonly permuted: Float64Array;
  private readonly slotOf = new Map<number, number>();

  /** @param pairs off-diagonal positions (a, b), a ≠ b, that may become non-zero */
  constructor(size: number, pairs: readonly (readonly [number, number])[]) {
    this.size = size;
    const adjacency = Array.from({ length: size }, () => new Set<number>());
    for (const [a, b] of pairs) {
      adjacency[a]?.add(b);
      adjacency[b]?.add(a);
    }
    this.order = minimumDegree(adjacency);
    this.position = new Int32Array(size);
    for (let k = 0; k < size; k++) this.position[this.order[k] as number] = k;

    const columns: number[][] = Array.from({ length: size }, () => []);
    adjacency.forEach((set, a) => {
      const pa = this.position[a] as number;
      for (const b of set) {
        const pb = this.position[b] as number;
        if (pb < pa) columns[pa]?.push(pb);
      }
    });
    this.colStart = new Int32Array(size + 1);
    const rows: number[] = [];
    columns.forEach((column, k) => {
      column.sort((x, y) => x - y);
      for (const row of column) {
        this.slotOf.set(row * size + k, rows.length);
        rows.push(row);
      }
      this.slotOf.set(k * size + k, rows.length);
      rows.push(k);
      this.colStart[k + 1] = rows.length;
    });
    this.rowIndex = Int32Array.from(rows);
    this.values = new Float64Array(rows.length);

    this.parent = new Int32Array(size).fill(-1);
    this.flag = new Int32Array(size);
    this.lCount = new Int32Array(size);
    this.symbolic();
    this.lStart = new Int32Array(size + 1);
    for (let k = 0; k < size; k++) this.lStart[k + 1] = (this.lStart[k] as number) + (this.lCount[k] as number);
    const fill = this.lStart[size] as number;
    this.lRow = new Int32Array(fill);
    this.lValue = new Float64Array(fill);
    this.diagonal = new Float64Array(size);
    this.work = new Float64Array(size);
    this.pattern = new Int32Array(size);
    this.stack = new Int32Array(size);
    this.permuted = new Float64Array(size);
  }

  /** Where entry (a, b) of the unpermuted matrix lives in `values`; (a, b) and (b, a) are one slot. */
  slot(a: number, b: number): number {
    const pa = this.position[a] as number;
    const pb = this.position[b] as number;
    const found = this.slotOf.get(Math.min(pa, pb) * this.size + Math.max(pa, pb));
    if (found === undefined) throw new RangeError(`entry (${a}, ${b}) is not in the pattern`);
    return found;
  }

  private symbolic(): void {
    const { size, parent, flag, lCount, colStart, rowIndex } = this;
    for (let k = 0; k < size; k++) {
      parent[k] = -1;
      flag[k] = k;
      for (let p = colStart[k] as number; p < (colStart[k + 1] as number); p++) {
        let i = rowIndex[p] as number;
        while (i < k && flag[i] !== k) {
          if (parent[i] === -1) parent[i] = k;
          lCount[i] = (lCount[i] as number) + 1;
          flag[i] = k;
          i = parent[i] as number;
        }
      }
    }
  }

  /**
   * Factors `values`. Returns false when a pivot is not positive: the matrix is singular or, with constant-power loads
   * linearised in it, the operating point has passed the point of voltage collapse.
   */
  factor(): boolean {
    const { size, parent, flag, lCount, lStart, lRow, lValue, colStart, rowIndex, values, diagonal, work, pattern, stack } = this;
    lCount.fill(0);
    for (let k = 0; k < size; k++) {
      let top = size;
      flag[k] = k;
      work[k] = 0;
      for (let p = colStart[k] as number; p < (colStart[k + 1] as number); p++) {
        let i = rowIndex[p] as number;
        work[i] = (work[i] as number) + (values[p] as number);
        let length = 0;
        while (flag[i] !== k) {
          stack[length++] = i;
          flag[i] = k;
          i = parent[i] as number;
        }
        while (length > 0) pattern[--top] = stack[--length] as number;
      }
      let pivot = work[k] as number;
      const scale = Math.abs(pivot);
      work[k] = 0;
      for (; top < size; top++) {
        const i = pattern[top] as number;
        const y = work[i] as number;
        work[i] = 0;
        const start = lStart[i] as number;
        const end = start + (lCount[i] as number);
        for (let p = start; p < end; p++) {
          const row = lRow[p] as number;
          work[row] = (work[row] as number) - (lValue[p] as number) * y;
        }
        const l = y / (diagonal[i] as number);
        pivot -= l * y;
        lRow[end] = k;
        lValue[end] = l;
        lCount[i] = (lCount[i] as number) + 1;
      }
      if (!(pivot > LEAST_PIVOT * scale)) return false;
      diagonal[k] = pivot;
    }
    return true;
  }

  /** Solves with the current factor: reads `b`, writes `x` (both in unpermuted order; may be the same array). */
  solve(b: Float64Array, x: Float64Array): void {
    const { size, order, permuted, lStart, lCount, lRow, lValue, diagonal } = this;
    for (let k = 0; k < size; k++) permuted[k] = b[order[k] as number] as number;
    for (let k = 0; k < size; k++) {
      const y = permuted[k] as number;
      const end = (lStart[k] as number) + (lCount[k] as number);
      for (let p = lStart[k] as number; p < end; p++) {
        const row = lRow[p] as number;
        permuted[row] = (permuted[row] as number) - (lValue[p] as number) * y;
      }
    }
    for (let k = size - 1; k >= 0; k--) {
      let y = (permuted[k] as number) / (diagonal[k] as number);
      const end = (lStart[k] as number) + (lCount[k] as number);
      for (let p = lStart[k] as number; p < end; p++) y -= (lValue[p] as number) * (permuted[lRow[p] as number] as number);
      permuted[k] = y;
    }
    for (let k = 0; k < size; k++) x[order[k] as number] = permuted[k] as number;
  }
}
