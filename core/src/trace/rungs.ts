import type { Points } from '../geometry/vector.js';

/** A rung of a satin column: a place on the middle line and the two ends across. */
export interface Rung {
  readonly x: number;
  readonly y: number;
  readonly ax: number;
  readonly ay: number;
  readonly bx: number;
  readonly by: number;
}

/** Rungs farther apart than this many places never cross in a column that a person would sew. */
const WINDOW = 40;

/** Leaves out rungs until none crosses another near it: always the one that crosses most. */
export function dropCrossing(rungs: readonly Rung[]): Rung[] {
  const n = rungs.length;
  const crosses: number[][] = Array.from({ length: n }, () => []);
  eachCrossing(rungs, (i, j) => {
    crosses[i].push(j);
    crosses[j].push(i);
  });
  const count = crosses.map((list) => list.length);
  const gone = new Uint8Array(n);
  for (;;) {
    let worst = -1;
    for (let i = 0; i < n; i++) {
      if (gone[i] || count[i] === 0) continue;
      if (
        worst < 0 ||
        count[i] > count[worst] ||
        (count[i] === count[worst] && square(rungs[i]) > square(rungs[worst]))
      )
        worst = i;
    }
    if (worst < 0) return rungs.filter((_, i) => !gone[i]);
    gone[worst] = 1;
    for (const j of crosses[worst]) count[j]--;
    count[worst] = 0;
  }
}

/** Rungs end this share of their length before they would cross another. */
const BEFORE = 0.02;

/** Ends rungs before they cross one near them, on the side where less of them is lost: where a line turns narrowly they fan. */
export function endBeforeCrossing(rungs: readonly Rung[]): Rung[] {
  const from = new Float64Array(rungs.length);
  const to = new Float64Array(rungs.length).fill(1);
  const end = (i: number, p: Rung, q: Rung): void => {
    const [a, b] = [side(q, p.ax, p.ay), side(q, p.bx, p.by)];
    const at = a / (a - b);
    if (at < 0.5) from[i] = Math.max(from[i], at + BEFORE);
    else to[i] = Math.min(to[i], at - BEFORE);
  };
  eachCrossing(rungs, (i, j) => {
    end(i, rungs[i], rungs[j]);
    end(j, rungs[j], rungs[i]);
  });
  return rungs.map((r, i): Rung => {
    if (from[i] === 0 && to[i] === 1) return r;
    const [dx, dy] = [r.bx - r.ax, r.by - r.ay];
    return { ...r, ax: r.ax + dx * from[i], ay: r.ay + dy * from[i], bx: r.ax + dx * to[i], by: r.ay + dy * to[i] };
  });
}

const square = (r: Rung): number => (r.ax - r.bx) ** 2 + (r.ay - r.by) ** 2;

/** Side of a point seen along a rung. */
const side = (r: Rung, x: number, y: number): number => (r.bx - r.ax) * (y - r.ay) - (r.by - r.ay) * (x - r.ax);

/** Visits every two rungs near each other that cross. Nearly all do not, and most of those lie on one side of the other. */
function eachCrossing(rungs: readonly Rung[], visit: (i: number, j: number) => void): void {
  const n = rungs.length;
  const { rungs: ends } = ladderOf(rungs);
  for (let i = 0; i < n; i++) {
    const [ax, ay] = [ends[i * 4], ends[i * 4 + 1]];
    const [dx, dy] = [ends[i * 4 + 2] - ax, ends[i * 4 + 3] - ay];
    const last = Math.min(n, i + WINDOW);
    for (let j = i + 1; j < last; j++) {
      const k = j * 4;
      const left = dx * (ends[k + 1] - ay) - dy * (ends[k] - ax) > 0;
      const right = dx * (ends[k + 3] - ay) - dy * (ends[k + 2] - ax) > 0;
      if (left === right) continue;
      const { ax: px, ay: py, bx: qx, by: qy } = rungs[i];
      if (side(rungs[j], px, py) > 0 !== side(rungs[j], qx, qy) > 0) visit(i, j);
    }
  }
}

/** A ladder as columns have it: the ends of its rungs, and its middle line. */
export function ladderOf(rungs: readonly Rung[]): { readonly rungs: Points; readonly spine: Points } {
  const ends: Points = [];
  const spine: Points = [];
  for (const { ax, ay, bx, by, x, y } of rungs) {
    ends.push(ax, ay, bx, by);
    spine.push(x, y);
  }
  return { rungs: ends, spine };
}
