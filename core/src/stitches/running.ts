import { distance, type Point, type Points } from '../geometry/vector.js';
import { lengthOf, nearestPoint, reversed, simplify, withoutStart } from '../geometry/polyline.js';

export interface RunningSettings {
  /** Longest stitch in mm. */
  readonly stitchLengthMm: number;
  /** Width the line should cover in mm; passes are laid beside each other to fill it. */
  readonly widthMm: number;
  /** Passes over every branch: 1, 2 or 3; as many as the width needs where it is 0 or not given. */
  readonly passes?: number;
}

/** How far a stitch may leave the line it follows, in mm. */
const CHORD_ERROR = 0.1;
const SHORTEST = 0.5;
const THREAD = 0.4;
/** A stitch that is sewn three times turns so far before the end of its line, or this share of itself. */
const TURN_BEFORE_MM = 0.6;
const MOST_TURN_SHARE = 0.35;
/** A walk back ends so far before its start, so that the thread is not tied off on top of where it was tied in. */
const SHORT_OF_START_MM = 1.1;
const LEAST_TO_SHORTEN_MM = 12;

/**
 * Needle points along a run, ends included: corners are kept, stitches are even between them and shorter on bends.
 */
export function runAlong(points: Points, stitchLengthMm: number): Points {
  const anchors = dropClose(simplify(points, CHORD_ERROR));
  const out: Points = [anchors[0], anchors[1]];
  for (let i = 2; i < anchors.length; i += 2) {
    const [ax, ay, bx, by] = [anchors[i - 2], anchors[i - 1], anchors[i], anchors[i + 1]];
    const parts = Math.max(1, Math.ceil(distance(ax, ay, bx, by) / stitchLengthMm - 1e-9));
    for (let k = 1; k <= parts; k++) out.push(ax + ((bx - ax) * k) / parts, ay + ((by - ay) * k) / parts);
  }
  return out;
}

/** Leaves out points nearer than the shortest stitch to the one before; the last point stays. */
function dropClose(points: Points): Points {
  const out: Points = [points[0], points[1]];
  for (let i = 2; i < points.length; i += 2) {
    const n = out.length;
    if (distance(out[n - 2], out[n - 1], points[i], points[i + 1]) >= SHORTEST) out.push(points[i], points[i + 1]);
    else if (i === points.length - 2) {
      if (n > 2) out.length = n - 2;
      out.push(points[i], points[i + 1]);
    }
  }
  return out;
}

interface Branch {
  readonly from: number;
  readonly to: number;
  readonly points: Points;
}

/** A branch walked once; `again` where it was walked before, the other way. */
interface Pass {
  readonly points: Points;
  readonly again: boolean;
}

/**
 * Sews a net of lines in one go, every branch there and back, starting at the node nearest to `entry` and ending
 * where it started. Passes keep to the right of the walk, so that the two of a branch lie side by side.
 * @param paths runs that meet at equal end points; they must be connected
 */
export function runningLine(paths: readonly Points[], settings: RunningSettings, entry?: Point): Points {
  const { nodes, branches } = netOf(paths);
  if (branches.length === 0) return [];
  const start = entry ? nearestPoint(nodes, entry.x, entry.y).at / 2 : 0;
  const walk = thereAndBack(nodes, branches, start);
  const { passes = 0 } = settings;
  if (passes > 0) return chosenPasses(walk, branches.length, passes, settings.stitchLengthMm);
  const spare = Math.max(0, settings.widthMm - THREAD) / 2;
  // Two passes cover up to two threads side by side; wider lines get a second round further in.
  const sides = spare > 0.22 ? [spare, spare / 3] : [spare];
  const out: Points = [];
  for (const side of sides) {
    for (const { points } of walk)
      append(out, runAlong(shiftRight(points, Math.min(side, 0.8)), settings.stitchLengthMm));
  }
  return lengthOf(out) > LEAST_TO_SHORTEN_MM ? reversed(withoutStart(reversed(out), SHORT_OF_START_MM)) : out;
}

/**
 * A line of a chosen number of passes. A single line goes forth once; three passes take every stitch forth, back and
 * forth again. In a net what leads on has to be gone back over, so its branches get one pass more.
 */
function chosenPasses(walk: readonly Pass[], branches: number, passes: number, stitchMm: number): Points {
  const out: Points = [];
  for (const { points, again } of walk) {
    if (again && branches === 1 && passes !== 2) continue;
    const run = runAlong(points, stitchMm);
    append(out, passes === 3 && !again ? tripled(run) : run);
  }
  return out;
}

/**
 * Every stitch forth, back and forth again. At its two ends, where other lines may meet it, the needle goes into the cloth but
 * once: it turns a little before.
 */
function tripled(run: Points): Points {
  const last = run.length - 2;
  const out: Points = [run[0], run[1]];
  for (let i = 2; i <= last; i += 2) {
    const [ax, ay, bx, by] = [run[i - 2], run[i - 1], run[i], run[i + 1]];
    const inset = Math.min(MOST_TURN_SHARE, TURN_BEFORE_MM / distance(ax, ay, bx, by));
    const [from, to] = [i === 2 ? inset : 0, i === last ? 1 - inset : 1];
    const [dx, dy] = [bx - ax, by - ay];
    out.push(ax + dx * to, ay + dy * to, ax + dx * from, ay + dy * from, bx, by);
  }
  return out;
}

/** Adds needle points, leaving out those too near to the last: nets have branches shorter than a stitch. */
function append(out: Points, more: Points): void {
  for (let i = 0; i < more.length; i += 2) {
    const n = out.length;
    if (n > 0 && distance(out[n - 2], out[n - 1], more[i], more[i + 1]) < SHORTEST) continue;
    out.push(more[i], more[i + 1]);
  }
}

function netOf(paths: readonly Points[]): { nodes: Points; branches: Branch[] } {
  const nodes: Points = [];
  const ids = new Map<string, number>();
  const nodeAt = (x: number, y: number): number => {
    const key = `${x} ${y}`;
    let id = ids.get(key);
    if (id === undefined) {
      id = nodes.length / 2;
      ids.set(key, id);
      nodes.push(x, y);
    }
    return id;
  };
  const branches = paths
    .filter((points) => lengthOf(points) > 0)
    .map((points) => ({
      from: nodeAt(points[0], points[1]),
      to: nodeAt(points[points.length - 2], points[points.length - 1]),
      points,
    }));
  return { nodes, branches };
}

/** Depth-first walk over every branch twice, once in each direction; iterative, since nets can be deep. */
function thereAndBack(nodes: Points, branches: readonly Branch[], start: number): Pass[] {
  const at = new Map<number, number[]>();
  branches.forEach((branch, i) => {
    for (const node of branch.from === branch.to ? [branch.from] : [branch.from, branch.to]) {
      const list = at.get(node);
      if (list) list.push(i);
      else at.set(node, [i]);
    }
  });
  const used = new Uint8Array(branches.length);
  const seen = new Uint8Array(nodes.length / 2);
  const walk: Pass[] = [];
  const stack: { node: number; back?: Points; next: number }[] = [{ node: start, next: 0 }];
  seen[start] = 1;
  while (stack.length > 0) {
    const top = stack[stack.length - 1];
    const list = at.get(top.node) ?? [];
    if (top.next >= list.length) {
      if (top.back) walk.push({ points: top.back, again: true });
      stack.pop();
      continue;
    }
    const index = list[top.next++];
    if (used[index]) continue;
    used[index] = 1;
    const branch = branches[index];
    const there = branch.from === top.node ? branch.points : reversed(branch.points);
    const far = branch.from === top.node ? branch.to : branch.from;
    walk.push({ points: there, again: false });
    if (seen[far]) walk.push({ points: reversed(there), again: true });
    else {
      seen[far] = 1;
      stack.push({ node: far, back: reversed(there), next: 0 });
    }
  }
  return walk;
}

/** The run moved to its right-hand side; corners are mitred, at most to twice the shift. */
function shiftRight(points: Points, by: number): Points {
  if (by <= 0 || points.length < 4) return points;
  const n = points.length / 2;
  const out: Points = [];
  for (let i = 0; i < n; i++) {
    const a = normal(points, Math.max(0, i - 1));
    const b = normal(points, Math.min(n - 2, i));
    const mx = a.x + b.x;
    const my = a.y + b.y;
    const square = mx * mx + my * my;
    const scale = square < 1 ? 1 : 2 / square;
    out.push(points[i * 2] + mx * by * scale, points[i * 2 + 1] + my * by * scale);
  }
  return out;
}

function normal(points: Points, i: number): Point {
  const dx = points[i * 2 + 2] - points[i * 2];
  const dy = points[i * 2 + 3] - points[i * 2 + 1];
  const length = Math.sqrt(dx * dx + dy * dy) || 1;
  return { x: -dy / length, y: dx / length };
}
