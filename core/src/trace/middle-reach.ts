import { segmentsCross, type Edge } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';

/** Rungs that are not quite square to their line end where they should all the same, to within this, in mm. */
const SLACK = 0.15;

/** How far a rung goes to one side from a place of a line: (x, y) on it, (nx, ny) the unit vector of that side; Infinity where nothing ends it. */
export type MiddleReach = (x: number, y: number, nx: number, ny: number) => number;

/**
 * Rungs of closed lines end where another place of those lines is as near as their own: halfway between two sides that lie closer
 * together than the lines are wide. Rungs that keep to this do not cross, and the thread between two sides lies once.
 * @param runs points of closed lines, close together; the first of each is not said again
 * @param most how far rungs reach where nothing is near, in mm
 * @returns undefined where the lines cross themselves or each other: between those there is no middle
 */
export function middleReach(runs: readonly Points[], most: number): MiddleReach | undefined {
  const side = most + SLACK;
  const cells = new Map<number, Edge[]>();
  const keyOf = (cx: number, cy: number): number => (cx + 32768) * 65536 + (cy + 32768);
  const near = function* (x: number, y: number): Generator<readonly Edge[]> {
    const [cx, cy] = [Math.floor(x / side), Math.floor(y / side)];
    for (let v = cy - 1; v <= cy + 1; v++) {
      for (let u = cx - 1; u <= cx + 1; u++) {
        const list = cells.get(keyOf(u, v));
        if (list) yield list;
      }
    }
  };
  for (const run of runs) {
    for (let i = 0, j = run.length - 2; i < run.length; j = i, i += 2) {
      const step: Edge = [run[j], run[j + 1], run[i], run[i + 1]];
      for (const list of near(step[0], step[1])) if (list.some((other) => segmentsCross(step, other))) return undefined;
      const key = keyOf(Math.floor(step[0] / side), Math.floor(step[1] / side));
      const list = cells.get(key);
      if (list) list.push(step);
      else cells.set(key, [step]);
    }
  }
  return (x, y, nx, ny) => {
    let reach = Infinity;
    // What ends a rung lies around the middle of it, no farther off than the rung is long.
    for (const list of near(x + nx * most, y + ny * most)) {
      for (const [px, py] of list) {
        const [dx, dy] = [px - x, py - y];
        const ahead = dx * nx + dy * ny;
        if (ahead <= SLACK) continue;
        reach = Math.min(reach, (dx * dx + dy * dy - SLACK * SLACK) / (2 * (ahead - SLACK)));
      }
    }
    return reach < most + SLACK / 2 ? Math.max(0, reach - SLACK / 2) : Infinity;
  };
}
