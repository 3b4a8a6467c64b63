import type { Points } from '../geometry/vector.js';
import type { CellGrid } from './grid.js';

/**
 * Back stitches lie on the lattice of half cells: corners, middles and the middles of edges. A step leads from one place to
 * one of its eight neighbours; its name is that of the place it leaves downwards or to the right, times four, and its
 * direction: 0 right, 1 right and down, 2 down, 3 left and down.
 */
export type BackStitches = ReadonlyMap<number, number>;

const STEPS: readonly (readonly [number, number])[] = [
  [1, 0],
  [1, 1],
  [0, 1],
  [-1, 1],
];

/** Places in a row of the lattice. */
export const latticeStride = ({ cols }: Pick<CellGrid, 'cols'>): number => cols * 2 + 1;

/** Name of the step between two neighbouring places; undefined where they are none. */
export function stepBetween(stride: number, x0: number, y0: number, x1: number, y1: number): number | undefined {
  const [dx, dy] = [x1 - x0, y1 - y0];
  for (let direction = 0; direction < 4; direction++) {
    const [sx, sy] = STEPS[direction];
    if (dx === sx && dy === sy) return (y0 * stride + x0) * 4 + direction;
    if (dx === -sx && dy === -sy) return (y1 * stride + x1) * 4 + direction;
  }
  return undefined;
}

/** Both ends of a step: x, y, x, y in half cells. */
export function endsOfStep(stride: number, step: number): readonly [number, number, number, number] {
  const place = Math.floor(step / 4);
  const [sx, sy] = STEPS[step % 4];
  const x = place % stride;
  const y = Math.floor(place / stride);
  return [x, y, x + sx, y + sy];
}

/** Whether a number names a step inside a grid. */
export function isStep({ cols, rows }: Pick<CellGrid, 'cols' | 'rows'>, step: number): boolean {
  if (!Number.isInteger(step) || step < 0) return false;
  const stride = latticeStride({ cols });
  const [x0, y0, x1, y1] = endsOfStep(stride, step);
  return y0 <= rows * 2 && x1 >= 0 && x1 < stride && y1 <= rows * 2 && x0 < stride;
}

/** Steps of a straight line along the grid or a diagonal; none where it is neither. */
export function stepsOfLine(stride: number, x0: number, y0: number, x1: number, y1: number): number[] {
  const [dx, dy] = [x1 - x0, y1 - y0];
  if (dx !== 0 && dy !== 0 && Math.abs(dx) !== Math.abs(dy)) return [];
  const n = Math.max(Math.abs(dx), Math.abs(dy));
  const [sx, sy] = [Math.sign(dx), Math.sign(dy)];
  const out: number[] = [];
  for (let k = 0; k < n; k++) {
    const step = stepBetween(stride, x0 + sx * k, y0 + sy * k, x0 + sx * (k + 1), y0 + sy * (k + 1));
    if (step !== undefined) out.push(step);
  }
  return out;
}

/** The place a line drawn from another would end at: along the grid or a diagonal, whichever is nearer. */
export function snapLine(x0: number, y0: number, x1: number, y1: number): readonly [number, number] {
  const [dx, dy] = [x1 - x0, y1 - y0];
  const [ax, ay] = [Math.abs(dx), Math.abs(dy)];
  if (ax > 2.4 * ay) return [x1, y0];
  if (ay > 2.4 * ax) return [x0, y1];
  const n = Math.round((ax + ay) / 2);
  return [x0 + Math.sign(dx) * n, y0 + Math.sign(dy) * n];
}

/**
 * Sews the back stitches of one thread: what hangs together in one go, there and back, so that every line lies double and
 * the needle ends where it began. Straight steps become stitches of one cell at most.
 */
export function sewBackStitches(grid: CellGrid, steps: readonly number[]): Points[] {
  const stride = latticeStride(grid);
  const around = new Map<number, number[]>();
  const link = (a: number, b: number): void => {
    const list = around.get(a);
    if (list) list.push(b);
    else around.set(a, [b]);
  };
  for (const step of [...steps].sort((a, b) => a - b)) {
    const [x0, y0, x1, y1] = endsOfStep(stride, step);
    link(y0 * stride + x0, y1 * stride + x1);
    link(y1 * stride + x1, y0 * stride + x0);
  }
  const half = grid.cellMm / 2;
  const runs: Points[] = [];
  // Ends of lines first: from there a line is walked whole.
  const starts = [...around.keys()].sort(
    (a, b) => (around.get(a) as number[]).length - (around.get(b) as number[]).length || a - b,
  );
  for (const start of starts) {
    if ((around.get(start) as number[]).length === 0) continue;
    const run: Points = [];
    for (const place of stitchesOf(walkThereAndBack(around, start), stride)) {
      run.push(grid.left + (place % stride) * half, grid.top + Math.floor(place / stride) * half);
    }
    runs.push(run);
  }
  return runs;
}

/** A way over every step twice, once each way; the steps are used up. */
function walkThereAndBack(around: Map<number, number[]>, start: number): number[] {
  const walk = [start];
  const trail = [start];
  while (trail.length > 0) {
    const at = trail[trail.length - 1];
    const next = around.get(at) as number[];
    if (next.length === 0) {
      trail.pop();
      if (trail.length > 0) walk.push(trail[trail.length - 1]);
      continue;
    }
    const before = trail.length > 1 ? trail[trail.length - 2] : at;
    // Straight on where that is possible.
    const ahead = next.indexOf(at + (at - before));
    const [to] = next.splice(ahead >= 0 && before !== at ? ahead : 0, 1);
    const back = around.get(to) as number[];
    back.splice(back.indexOf(at), 1);
    trail.push(to);
    walk.push(to);
  }
  return walk;
}

/** Half steps that go on straight become one stitch, from corner to corner where that is possible. */
function stitchesOf(walk: readonly number[], stride: number): number[] {
  const out = [walk[0]];
  for (let i = 1; i < walk.length; i++) {
    const before = out[out.length - 1];
    const straight = i + 1 < walk.length && walk[i] - before === walk[i + 1] - walk[i];
    // A stitch ends on whole cells: what begins in the middle of an edge is half a cell first.
    const even = (walk[i] % stride) % 2 === 0 && Math.floor(walk[i] / stride) % 2 === 0;
    const first = walk[i - 1] === before;
    if (straight && first && !even) continue;
    out.push(walk[i]);
  }
  return out;
}
