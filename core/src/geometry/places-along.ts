import { distance, type Points } from './vector.js';

/** A place on a line, and its direction there: a unit vector. */
export interface PlaceAlong {
  readonly x: number;
  readonly y: number;
  readonly ux: number;
  readonly uy: number;
}

/** So near to its start a line ends where it begins. */
const CLOSED_MM = 1e-6;

/** Places on a line, evenly: from end to end, or all the way round where its last point is its first. */
export function placesAlong(line: Points, count: number): PlaceAlong[] {
  const n = line.length / 2;
  const way = [0];
  for (let k = 1; k < n; k++) {
    way.push(way[k - 1] + distance(line[k * 2 - 2], line[k * 2 - 1], line[k * 2], line[k * 2 + 1]));
  }
  const length = way[n - 1] ?? 0;
  if (!(length > 0) || count < 1) return [];
  const closed = distance(line[0], line[1], line[line.length - 2], line[line.length - 1]) < CLOSED_MM;
  const parts = closed ? count : Math.max(1, count - 1);
  let k = 1;
  return Array.from({ length: count }, (_, i): PlaceAlong => {
    // One alone stands in the middle of an open line.
    const at = !closed && count === 1 ? length / 2 : (length * i) / parts;
    while (k < n - 1 && (way[k] < at || way[k] === way[k - 1])) k++;
    const [ax, ay, bx, by] = line.slice(k * 2 - 2, k * 2 + 2);
    const step = way[k] - way[k - 1];
    const t = step > 0 ? Math.min(1, (at - way[k - 1]) / step) : 0;
    return { x: ax + (bx - ax) * t, y: ay + (by - ay) * t, ux: (bx - ax) / step, uy: (by - ay) / step };
  });
}
