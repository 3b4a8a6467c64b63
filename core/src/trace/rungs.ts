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
  for (let i = 0; i < n; i++) {
    for (let j = i + 1; j < Math.min(n, i + WINDOW); j++) {
      if (!doCross(rungs[i], rungs[j])) continue;
      crosses[i].push(j);
      crosses[j].push(i);
    }
  }
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

const square = (r: Rung): number => (r.ax - r.bx) ** 2 + (r.ay - r.by) ** 2;

/** Side of a point seen along a rung. */
const side = (r: Rung, x: number, y: number): number => (r.bx - r.ax) * (y - r.ay) - (r.by - r.ay) * (x - r.ax);

function doCross(p: Rung, q: Rung): boolean {
  return side(p, q.ax, q.ay) > 0 !== side(p, q.bx, q.by) > 0 && side(q, p.ax, p.ay) > 0 !== side(q, p.bx, p.by) > 0;
}
