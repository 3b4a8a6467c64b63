import { distance } from '../geometry/vector.js';
import { STITCH, type StitchList } from '../sequence/stitch-list.js';

/** What lies this near to the end of a row goes along with it, the more the nearer. */
const REACH_MM = 0.8;
/** Rows around pull across a run, and not along it, when they do so by this many times. */
const MOSTLY = 2;
/** They stand close together, and pull the same way. */
const LEAST_ENDS = 4;
const AGREE = 0.9;
/** Rows of cells are numbered with room for designs of any size. */
const ROW = 1 << 15;

/**
 * Moves needle points at which no row ends, as those of an edge run below satin, sideways with the ends of rows of the same piece around
 * them: it is the cloth that is drawn together, and what is sewn into it goes along.
 * @param ends rows that end at each needle point
 * @param x where needle points lie by now; changed in place, as y is
 */
export function dragAlong(list: StitchList, ends: Uint8Array, x: Float32Array, y: Float32Array): void {
  const cellOf = (px: number, py: number): number => Math.floor(py / REACH_MM) * ROW + Math.floor(px / REACH_MM);
  const cells = new Map<number, number[]>();
  for (let i = 0; i < list.count; i++) {
    if (ends[i] === 0) continue;
    const cell = cellOf(list.x[i], list.y[i]);
    const there = cells.get(cell);
    if (there) there.push(i);
    else cells.set(cell, [i]);
  }
  for (let i = 0; i < list.count; i++) {
    if (ends[i] > 0 || list.command[i] !== STITCH) continue;
    const cell = cellOf(list.x[i], list.y[i]);
    const [dx, dy] = [list.x[i] - list.x[i - 1], list.y[i] - list.y[i - 1]];
    const length = Math.sqrt(dx * dx + dy * dy);
    if (length === 0) continue;
    const [ux, uy] = [dx / length, dy / length];
    let [aside, sum, asideAll, alongAll, count] = [0, 0, 0, 0, 0];
    for (let row = -1; row <= 1; row++) {
      for (let column = -1; column <= 1; column++) {
        for (const k of cells.get(cell + row * ROW + column) ?? []) {
          if (list.piece[k] !== list.piece[i]) continue;
          const near = REACH_MM - distance(list.x[i], list.y[i], list.x[k], list.y[k]);
          if (near <= 0) continue;
          const [mx, my] = [x[k] - list.x[k], y[k] - list.y[k]];
          const off = mx * -uy + my * ux;
          aside += near * off;
          sum += near;
          count++;
          asideAll += near * Math.abs(off);
          alongAll += near * Math.abs(mx * ux + my * uy);
        }
      }
    }
    // A row among others that run as it does is one of them: the thread holds it where it is.
    if (count < LEAST_ENDS || asideAll < MOSTLY * alongAll || Math.abs(aside) < AGREE * asideAll) continue;
    x[i] -= (uy * aside) / sum;
    y[i] += (ux * aside) / sum;
  }
}
