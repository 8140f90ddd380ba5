import { describe, expect, it } from "vitest";
import { randomFrom } from "@/tests/support/random";
import { SymmetricSolver } from "./ldl";
import { minimumDegree } from "./ordering";

/** Dense Gaussian elimination with pivoting: the plain way to the same answer. */
function dense(matrix: number[][], rhs: number[]): number[] {
  const n = rhs.length;
  const a = matrix.map((row, i) => [...row, rhs[i] as number]);
  for (let k = 0; k < n; k++) {
    let best = k;
    for (let i = k + 1; i < n; i++) if (Math.abs(a[i]?.[k] ?? 0) > Math.abs(a[best]?.[k] ?? 0)) best = i;
    [a[k], a[best]] = [a[best] as number[], a[k] as number[]];
    for (let i = k + 1; i < n; i++) {
      const factor = (a[i]?.[k] ?? 0) / (a[k]?.[k] ?? 1);
      for (let j = k; j <= n; j++) (a[i] as number[])[j] = (a[i]?.[j] ?? 0) - factor * (a[k]?.[j] ?? 0);
    }
  }
  const x = new Array<number>(n).fill(0);
  for (let i = n - 1; i >= 0; i--) {
    let sum = a[i]?.[n] ?? 0;
    for (let j = i + 1; j < n; j++) sum -= (a[i]?.[j] ?? 0) * (x[j] ?? 0);
    x[i] = sum / (a[i]?.[i] ?? 1);
  }
  return x;
}

/** A random network: a spanning tree, some extra ties, and one grounded node so that it is definite. */
function network(n: number, ties: number, seed: number) {
  const random = randomFrom(seed);
  const pairs: [number, number][] = [];
  for (let i = 1; i < n; i++) pairs.push([Math.floor(random() * i), i]);
  for (let k = 0; k < ties; k++) {
    const a = Math.floor(random() * n);
    const b = Math.floor(random() * n);
    if (a !== b) pairs.push([a, b]);
  }
  const matrix = Array.from({ length: n }, () => new Array<number>(n).fill(0));
  const add = (i: number, j: number, value: number) => {
    (matrix[i] as number[])[j] = (matrix[i]?.[j] ?? 0) + value;
  };
  for (const [a, b] of pairs) {
    const siemens = 10 ** (random() * 5 - 1);
    add(a, a, siemens);
    add(b, b, siemens);
    add(a, b, -siemens);
    add(b, a, -siemens);
  }
  add(0, 0, 50);
  const rhs = Array.from({ length: n }, () => random() * 20 - 10);
  return { pairs, matrix, rhs };
}

function load(solver: SymmetricSolver, matrix: number[][]): void {
  solver.values.fill(0);
  matrix.forEach((row, i) => {
    row.forEach((value, j) => {
      if (value !== 0 && j <= i) solver.values[solver.slot(i, j)] = value;
    });
  });
}

describe("the sparse solver", () => {
  it("agrees with dense elimination on trees and meshes", () => {
    for (let seed = 1; seed <= 40; seed++) {
      const n = 2 + (seed % 30);
      const { pairs, matrix, rhs } = network(n, seed % 3 === 0 ? 0 : seed, seed);
      const solver = new SymmetricSolver(n, pairs);
      load(solver, matrix);
      expect(solver.factor()).toBe(true);
      const x = new Float64Array(n + 1);
      solver.solve(Float64Array.from([...rhs, 0]), x);
      dense(matrix, rhs).forEach((value, i) => {
        expect(Math.abs((x[i] ?? 0) - value)).toBeLessThan(1e-8 * Math.max(1, Math.abs(value)));
      });
    }
  });

  it("factors again with other numbers in the same pattern, and solves in place", () => {
    const { pairs, matrix, rhs } = network(12, 5, 3);
    const solver = new SymmetricSolver(12, pairs);
    for (const scale of [1, 7, 0.01]) {
      load(
        solver,
        matrix.map((row) => row.map((value) => value * scale)),
      );
      expect(solver.factor()).toBe(true);
      const x = Float64Array.from([...rhs, 5]);
      solver.solve(x, x);
      expect(x[12]).toBe(0);
      dense(matrix, rhs).forEach((value, i) => {
        expect((x[i] ?? 0) * scale).toBeCloseTo(value, 7);
      });
    }
  });

  it("says so when the matrix is singular or not definite", () => {
    const { pairs, matrix } = network(6, 0, 4);
    const solver = new SymmetricSolver(6, pairs);
    load(solver, matrix);
    solver.values[solver.slot(0, 0)] = (matrix[0]?.[0] ?? 0) - 50;
    expect(solver.factor()).toBe(false);
    solver.values[solver.slot(5, 5)] = -1;
    expect(solver.factor()).toBe(false);
  });

  it("refuses an entry outside its pattern", () => {
    const solver = new SymmetricSolver(3, [[0, 1]]);
    expect(() => solver.slot(0, 2)).toThrow(RangeError);
  });

  it("eliminates a tree from its leaves, so that a tree fills nothing", () => {
    const n = 200;
    const adjacency = Array.from({ length: n }, () => new Set<number>());
    const random = randomFrom(9);
    for (let i = 1; i < n; i++) {
      const parent = Math.floor(random() * i);
      adjacency[i]?.add(parent);
      adjacency[parent]?.add(i);
    }
    const order = minimumDegree(adjacency);
    expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: n }, (_, i) => i));
    const place = new Map([...order].map((node, k) => [node, k]));
    for (let node = 0; node < n; node++) {
      const later = [...(adjacency[node] ?? [])].filter((each) => (place.get(each) ?? 0) > (place.get(node) ?? 0));
      expect(later.length).toBeLessThanOrEqual(1);
    }
  });
});
