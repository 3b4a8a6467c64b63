import type { Points } from '../geometry/vector.js';

/**
 * Joins stretches of neighbouring rows to ways as long as can be: from the end of one the nearest end of another that is
 * near enough, rows going to and fro.
 * @param link needle points between the end of one and the end of the next; 0 stands for its first point, 1 for its last
 */
export function joinStretches(
  stretches: readonly Points[],
  trimOverMm: number,
  link?: (from: number, fromEnd: 0 | 1, to: number, toEnd: 0 | 1) => Points,
): Points[] {
  const cell = Math.max(2, trimOverMm);
  const ends = new Map<string, { stretch: number; end: 0 | 1 }[]>();
  const key = (x: number, y: number): string => `${Math.floor(x / cell)} ${Math.floor(y / cell)}`;
  const endOf = (i: number, end: 0 | 1): [number, number] => {
    const points = stretches[i];
    return end === 0 ? [points[0], points[1]] : [points[points.length - 2], points[points.length - 1]];
  };
  stretches.forEach((_, i) => {
    for (const end of [0, 1] as const) {
      const k = key(...endOf(i, end));
      const list = ends.get(k);
      if (list) list.push({ stretch: i, end });
      else ends.set(k, [{ stretch: i, end }]);
    }
  });
  const sewn = new Uint8Array(stretches.length);
  const nearest = (x: number, y: number): { stretch: number; end: 0 | 1 } | undefined => {
    let best: { stretch: number; end: 0 | 1 } | undefined;
    let least = trimOverMm;
    for (let dy = -1; dy <= 1; dy++) {
      for (let dx = -1; dx <= 1; dx++) {
        for (const candidate of ends.get(key(x + dx * cell, y + dy * cell)) ?? []) {
          if (sewn[candidate.stretch]) continue;
          const [ex, ey] = endOf(candidate.stretch, candidate.end);
          const gap = Math.sqrt((ex - x) ** 2 + (ey - y) ** 2);
          if (gap < least) [least, best] = [gap, candidate];
        }
      }
    }
    return best;
  };
  const runs: Points[] = [];
  for (let i = 0; i < stretches.length; i++) {
    if (sewn[i]) continue;
    const run: Points = [];
    let next: { stretch: number; end: 0 | 1 } | undefined = { stretch: i, end: 0 };
    while (next) {
      const { stretch, end }: { stretch: number; end: 0 | 1 } = next;
      sewn[stretch] = 1;
      const points = stretches[stretch];
      if (end === 0) for (const v of points) run.push(v);
      else for (let k = points.length - 2; k >= 0; k -= 2) run.push(points[k], points[k + 1]);
      next = nearest(run[run.length - 2], run[run.length - 1]);
      if (next && link) for (const v of link(stretch, end === 0 ? 1 : 0, next.stretch, next.end)) run.push(v);
    }
    runs.push(run);
  }
  return runs;
}
