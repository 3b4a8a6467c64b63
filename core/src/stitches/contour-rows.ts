import { groupRings, offset, type Rings } from '../geometry/polygons.js';
import { boundsOf, distanceToSegment, lengthOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { CurvedRow } from './curved-rows.js';

/** Rings shorter than this are left to their neighbours. */
const LEAST_RING_MM = 1.2;
/** Rings of neighbouring levels lie one spacing apart, those that meet in the middle of a shape at most two. */
const NEXT = 1.7;
const BESIDE = 2.2;

/**
 * Rows along the outline of a shape, one inside the other.
 * @param firstMm distance of the first row from the outline
 */
export function contourRows(rings: Rings, spacingMm: number, firstMm: number): CurvedRow[] {
  const box = boundsOf(rings);
  const most = Math.ceil(Math.min(box.right - box.left, box.bottom - box.top) / 2 / spacingMm) + 2;
  const levels: Points[][] = [];
  for (let k = 0; k < most; k++) {
    const level = groupRings(offset(rings, -(firstMm + k * spacingMm)))
      .flat()
      .filter((ring) => lengthOf(ring) >= LEAST_RING_MM);
    if (level.length === 0) break;
    levels.push(level);
  }
  const out = levels.flatMap((level, row) =>
    level.map((points) => ({ row, points, closed: true, above: [] as number[], below: [] as number[], beside: [] as number[] })),
  );
  const first: number[] = [0];
  for (const level of levels) first.push(first[first.length - 1] + level.length);
  levels.forEach((level, k) => {
    level.forEach((ring, i) => {
      const a = first[k] + i;
      level.slice(i + 1).forEach((other, j) => {
        const b = a + j + 1;
        if (gapBetween(ring, other) > BESIDE * spacingMm) return;
        out[a].beside.push(b);
        out[b].beside.push(a);
      });
      (levels[k + 1] ?? []).forEach((inner, j) => {
        if (gapBetween(inner, ring) > NEXT * spacingMm) return;
        out[a].below.push(first[k + 1] + j);
        out[first[k + 1] + j].above.push(a);
      });
    });
  });
  return out;
}

/** Least distance of a ring's points from the edges' points of another; an estimate that is enough for neighbours. */
function gapBetween(a: Points, b: Points): number {
  let least = Infinity;
  for (let i = 0; i < a.length; i += 2) {
    for (let j = 0, k = b.length - 2; j < b.length; k = j, j += 2) {
      const d = distanceToSegment(a[i], a[i + 1], b[k], b[k + 1], b[j], b[j + 1]);
      if (d < least) least = d;
    }
  }
  return least;
}
