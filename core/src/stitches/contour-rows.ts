import { groupRings, offset, subtract } from '../geometry/polygons.js';
import { areaWithin, boundsOf, distanceToSegment, lengthOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { CurvedRow } from './curved-rows.js';

/** Rings shorter than this are left to their neighbours. */
const LEAST_RING_MM = 1.2;
/** Half a thread; wider rests than the slack are not covered from both sides. */
const HALF_THREAD_MM = 0.2;
const SLACK_MM = 0.03;
const LEAST_REST_MM2 = 0.06;
/** Rings of neighbouring levels lie one spacing apart, those that meet in the middle of a shape at most two. */
const NEXT = 1.7;
const BESIDE = 2.2;

/**
 * Rows along the outline of a shape, one inside the other.
 * @param firstMm distance of the first row from the outline
 */
export function contourRows(rings: readonly Points[], spacingMm: number, firstMm: number): CurvedRow[] {
  const box = boundsOf(rings);
  const most = Math.ceil(Math.min(box.right - box.left, box.bottom - box.top) / 2 / spacingMm) + 2;
  const levels: Points[][] = [];
  let shape = offset(rings, -firstMm);
  for (let k = 0; k < most && shape.length > 0; k++) {
    const next = offset(rings, -(firstMm + (k + 1) * spacingMm));
    const level = groupRings(shape).flat().filter(isWorth);
    if (level.length > 0) levels.push(level);
    // Where a level closes up without another inside it, what the thread of both sides leaves open gets a row too.
    const open = subtract(offset(shape, -HALF_THREAD_MM), offset(next, HALF_THREAD_MM + SLACK_MM));
    const rests = groupRings(open).flatMap((rest) => (areaWithin(rest) > LEAST_REST_MM2 ? rest : []));
    if (rests.some(isWorth)) levels.push(rests.filter(isWorth));
    shape = next;
  }
  const out = levels.flatMap((level, row) =>
    level.map((points) => ({
      row,
      points,
      closed: true,
      above: [] as number[],
      below: [] as number[],
      beside: [] as number[],
    })),
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
      // The rests of a level stand between it and the next.
      for (const next of [k + 1, k + 2]) {
        (levels[next] ?? []).forEach((inner, j) => {
          if (gapBetween(inner, ring) > NEXT * spacingMm) return;
          out[a].below.push(first[next] + j);
          out[first[next] + j].above.push(a);
        });
      }
    });
  });
  return out;
}

const isWorth = (ring: Points): boolean => lengthOf(ring) >= LEAST_RING_MM;

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
