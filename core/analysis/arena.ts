/**
 * Memory for the many short per-mode rows of an analysis: two buffers instead of thousands, which a worker hands over in
 * two pieces. Rows begin as zeros.
 */
export class Arena {
  private readonly doublePool: Float64Array;
  private readonly flagPool: Uint8Array;
  private doubleNext = 0;
  private flagNext = 0;

  /** @param length entries of every row; `doubles` and `flags`: rows of each that will be asked for, at most */
  constructor(
    private readonly length: number,
    doubles: number,
    flags: number,
  ) {
    this.doublePool = new Float64Array(length * doubles);
    this.flagPool = new Uint8Array(length * flags);
  }

  doubles(): Float64Array {
    const start = this.doubleNext;
    this.doubleNext += this.length;
    if (this.doubleNext > this.doublePool.length) throw new RangeError("more rows asked for than were planned");
    return this.doublePool.subarray(start, this.doubleNext);
  }

  flags(): Uint8Array {
    const start = this.flagNext;
    this.flagNext += this.length;
    if (this.flagNext > this.flagPool.length) throw new RangeError("more rows asked for than were planned");
    return this.flagPool.subarray(start, this.flagNext);
  }
}
