/**
 * Rows of one number a mode, cut from larger pieces of memory: above eight modes each small array of its own would be
 * allocated outside the heap, and thousands of those cost more than what is computed into them.
 */
export class Rows {
  private piece = new Float64Array(0);
  private used = 0;

  constructor(private readonly length: number) {}

  /** A row of zeros. */
  next(): Float64Array {
    if (this.used + this.length > this.piece.length) {
      this.piece = new Float64Array(Math.max(this.length, PIECE));
      this.used = 0;
    }
    this.used += this.length;
    return this.piece.subarray(this.used - this.length, this.used);
  }
}

/** Numbers reserved at once. */
const PIECE = 4096;
