import { common, thicken } from '../geometry/polygons.js';
import { distance, type Points } from '../geometry/vector.js';

/** A line that turns by more than this at a point has a corner there: the cosine of 30 degrees. */
const CORNER = 0.866;
const STYLE = { cap: 'butt', join: 'miter', miterLimit: 4 } as const;

/** A part of a drawn line from corner to corner, and its outline, cut at the bisectors of its corners. */
export interface CornerPart {
  readonly run: Points;
  readonly rings: readonly Points[];
}

/** Indices of the points at which a line turns sharply; of a closed one, whose last point is its first, that as well. */
export function cornersAlong(run: Points): number[] {
  const n = run.length / 2;
  const closed = isClosed(run);
  const out: number[] = [];
  for (let i = closed ? 0 : 1; i < n - 1; i++) {
    const before = i > 0 ? i - 1 : n - 2;
    const [ax, ay] = towards(run, before, i);
    const [bx, by] = towards(run, i, i + 1);
    if (ax * bx + ay * by < CORNER) out.push(i);
  }
  return out;
}

const isClosed = (run: Points): boolean => run.length > 6 && run[0] === run.at(-2) && run[1] === run.at(-1);

/** Unit vector from one point of a line to another. */
function towards(run: Points, a: number, b: number): [number, number] {
  const length = distance(run[a * 2], run[a * 2 + 1], run[b * 2], run[b * 2 + 1]) || 1;
  return [(run[b * 2] - run[a * 2]) / length, (run[b * 2 + 1] - run[a * 2 + 1]) / length];
}

/**
 * Parts of a drawn line between its corners. They keep its form: neighbours meet along the bisector of the corner between
 * them.
 * @param rings outline of the whole line
 * @returns nothing where there is no corner to part it at
 */
export function cornerParts(run: Points, widthMm: number, rings: readonly Points[]): CornerPart[] {
  const closed = isClosed(run);
  const corners = cornersAlong(run);
  if (corners.length < (closed ? 2 : 1)) return [];
  const last = run.length / 2 - 1;
  const cuts = closed ? corners : [0, ...corners, last];
  const parts = closed ? cuts.length : cuts.length - 1;
  return Array.from({ length: parts }, (_, k): CornerPart => {
    const from = cuts[k];
    const to = cuts[(k + 1) % cuts.length];
    const part =
      from < to ? run.slice(from * 2, to * 2 + 2) : [...run.slice(from * 2, -2), ...run.slice(0, to * 2 + 2)];
    const reach = 4 * widthMm;
    let own: readonly Points[] = thicken(
      [extended(part, corners.includes(from), corners.includes(to), widthMm)],
      widthMm,
      false,
      STYLE,
    );
    for (const [at, isStart] of [
      [from, true],
      [to, false],
    ] as const) {
      if (corners.includes(at))
        own = common(own, [behindBisector(run, at, isStart, closed, reach + lengthAcross(part))]);
    }
    return { run: part, rings: common(own, rings) };
  });
}

/** A line drawn out at its corners, so that its outline reaches their tips. */
function extended(run: Points, atStart: boolean, atEnd: boolean, mm: number): Points {
  const n = run.length / 2;
  const [ax, ay] = towards(run, 1, 0);
  const [bx, by] = towards(run, n - 2, n - 1);
  const reach = 2 * mm;
  return [
    ...(atStart ? [run[0] + ax * reach, run[1] + ay * reach] : []),
    ...run,
    ...(atEnd ? [run[n * 2 - 2] + bx * reach, run[n * 2 - 1] + by * reach] : []),
  ];
}

const lengthAcross = (run: Points): number => {
  let most = 0;
  for (let i = 2; i < run.length; i += 2) most = Math.max(most, distance(run[0], run[1], run[i], run[i + 1]));
  return most;
};

/** The half of the plane on a part's side of the bisector of a corner, as a large square. */
function behindBisector(run: Points, at: number, isStart: boolean, closed: boolean, reach: number): Points {
  const n = run.length / 2;
  const before = at > 0 ? at - 1 : closed ? n - 2 : 0;
  const [ax, ay] = towards(run, before, at);
  const [bx, by] = towards(run, at, at + 1 < n ? at + 1 : 1);
  // The bisector's normal points along the line.
  let [nx, ny] = [ax + bx, ay + by];
  const length = Math.sqrt(nx * nx + ny * ny);
  // A line that turns back on itself has its bisector along itself.
  [nx, ny] = length > 1e-6 ? [nx / length, ny / length] : [-ay, ax];
  const side = isStart ? 1 : -1;
  const [cx, cy] = [run[at * 2], run[at * 2 + 1]];
  const [ux, uy] = [nx * side, ny * side];
  const corner = (along: number, across: number): [number, number] => [
    cx + ux * along * reach - uy * across * reach,
    cy + uy * along * reach + ux * across * reach,
  ];
  return [...corner(0, -1), ...corner(1, -1), ...corner(1, 1), ...corner(0, 1)];
}
