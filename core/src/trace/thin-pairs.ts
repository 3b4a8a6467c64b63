import { distance, type Points } from '../geometry/vector.js';
import { isInMask, radiusAt, type AreaMask } from './area-mask.js';
import { reversed } from '../geometry/polyline.js';
import type { Branch } from './skeleton.js';

/** An arm is thin where it is no wider than this share of the junction it leads to. */
const THIN = 0.55;
/** Looked at so many radii of the junction away from it. */
const LOOKED_AT = 1.1;
/** Farther out it is still as wide: what narrows on is a corner, and no arm. */
const STILL_AT = 1.3;
const STILL_WIDE = 0.75;
/** Nearer to the junction than this share of its radius the chord changes nothing. */
const LEAST_SAG = 0.25;
/** Of the way between two arms so much lies on either side of the junction: they lead away from it to both sides. */
const LEAST_SIDE = 0.205;

interface Arm {
  readonly branch: number;
  readonly atStart: boolean;
  /** Index among the branch's numbers, from the junction on, of the place looked at. */
  readonly at: number;
  readonly x: number;
  readonly y: number;
  readonly radius: number;
}

/**
 * Where two thin arms meet a thick stem, as the serifs at its foot do, the skeleton leads from one to the other by a detour
 * up into the stem. They are led straight on instead, and the stem ends at them.
 */
export function straightenThinPairs(branches: readonly Branch[], mask: AreaMask): Branch[] {
  const arms = new Map<number, { branch: number; atStart: boolean }[]>();
  branches.forEach(({ from, to }, branch) => {
    if (from === to) return;
    arms.set(from, [...(arms.get(from) ?? []), { branch, atStart: true }]);
    arms.set(to, [...(arms.get(to) ?? []), { branch, atStart: false }]);
  });
  const out = branches.slice();
  for (const ends of arms.values()) {
    if (ends.length !== 3) continue;
    const [first] = ends;
    const { points } = out[first.branch];
    const [jx, jy] = first.atStart ? points : points.slice(-2);
    const radius = radiusAt(mask, jx, jy);
    const seen = ends.flatMap((end): Arm[] => {
      const arm = lookAlong(out[end.branch].points, end.atStart, jx, jy, radius, mask);
      return arm ? [{ ...end, ...arm }] : [];
    });
    const thin = seen.filter((arm) => arm.radius < THIN * radius);
    if (seen.length !== 3 || thin.length !== 2) continue;
    const place = placeOnChord(thin[0], thin[1], jx, jy, radius, mask);
    if (!place) continue;
    for (const end of ends) {
      const arm = thin.find(({ branch, atStart }) => branch === end.branch && atStart === end.atStart);
      const branch = out[end.branch];
      const run = end.atStart ? branch.points : reversed(branch.points);
      const led = arm ? [...place, ...run.slice(arm.at)] : [...place, ...run];
      out[end.branch] = { ...branch, points: end.atStart ? led : reversed(led) };
    }
  }
  return out;
}

/** The place of a branch that lies a junction's radius away from it. */
function lookAlong(
  points: Points,
  atStart: boolean,
  jx: number,
  jy: number,
  radius: number,
  mask: AreaMask,
): Omit<Arm, 'branch' | 'atStart'> | undefined {
  const run = atStart ? points : reversed(points);
  const from = (at: number, radii: number): number => {
    let i = at;
    while (i < run.length && distance(jx, jy, run[i], run[i + 1]) < radii * radius) i += 2;
    return i;
  };
  const at = from(2, LOOKED_AT);
  const on = from(at, STILL_AT);
  if (on >= run.length) return undefined;
  const [x, y] = [run[at], run[at + 1]];
  const own = radiusAt(mask, x, y);
  if (radiusAt(mask, run[on], run[on + 1]) < STILL_WIDE * own) return undefined;
  return { at, x, y, radius: own };
}

/** Where the straight way between two arms passes a junction; undefined where it does not lie in the shape, or hardly elsewhere. */
function placeOnChord(a: Arm, b: Arm, jx: number, jy: number, radius: number, mask: AreaMask): Points | undefined {
  const length = distance(a.x, a.y, b.x, b.y);
  const [ux, uy] = [(b.x - a.x) / length, (b.y - a.y) / length];
  const along = (jx - a.x) * ux + (jy - a.y) * uy;
  const [x, y] = [a.x + ux * along, a.y + uy * along];
  if (Math.min(along, length - along) < LEAST_SIDE * length) return undefined;
  if (distance(x, y, jx, jy) < LEAST_SAG * radius) return undefined;
  for (let way = 0; way <= length; way++) if (!isInMask(mask, a.x + ux * way, a.y + uy * way)) return undefined;
  return [x, y];
}
