import { alongRings } from '../geometry/along-rings.js';
import { ontoRings } from '../geometry/polyline.js';
import { direction, distance, turnPoints, type Point, type Points } from '../geometry/vector.js';
import { chainOfParts, connectedParts, divideAfter, neighboursOf, sewingOrderOfCells, type Cells } from './cells.js';
import { fillUnderlay, type FillUnderlay } from './fill-underlay.js';
import type { PullAt } from './measured-cloth.js';
import { offsetPattern } from './offset-patterns.js';
import { runAlong } from './running.js';
import { rowCells, scanRows, type Rows } from './scan-rows.js';
import { travel } from './travel.js';

export interface TatamiSettings {
  /** Direction of the rows in degrees, clockwise from level. */
  readonly angle: number;
  /** Distance between rows in mm. */
  readonly spacingMm: number;
  /** Longest stitch inside a row in mm. */
  readonly stitchLengthMm: number;
  /** How far each row reaches over both its ends, in mm, against the pull of the fabric. */
  readonly compensationMm: number;
  /** The same for each row by its length and direction, where the cloth was measured. */
  readonly pullAt?: PullAt;
  /** How needle points move along from row to row; bricks of quarters unless said. */
  readonly pattern?: string;
  /** What is sewn below the rows; nothing unless said. */
  readonly underlay?: FillUnderlay;
  /** Other rows are sewn over these: ways between them need not be neat, however far apart they lie. */
  readonly below?: boolean;
  /** Where the needle comes from, and where it goes on to. */
  readonly entry?: Point;
  readonly exit?: Point;
}

const SHORT_ROW = 0.5;
/** Needle points inside a row keep this far from its ends. */
const END_MARGIN = 1;
const TRAVEL_STITCH = 3;
const LONGEST_TURN = 4;
/** Stitches between two rows are wanted this long; a row begins up to so much further in to make them so. */
const TURN_MM = 0.51;
const MOST_INSET = 0.27;
/** Rows wider apart than this do not cover: travel keeps to the outline, where it is an edge and no scratch. */
const OPEN_ROWS = 0.9;

/**
 * Fills a shape with rows of stitches in one go. Rows are gathered into cells; the cells form a tree rooted where the
 * needle leaves. Every cell is sewn after those that hang on it and ends at its parent's side, and the way to the next
 * start leads only through cells not yet sewn: whatever is travelled over is covered afterwards, and nothing jumps.
 *
 * @param rings closed rings in mm, read by the even-odd rule
 * @returns runs of needle points; more than one only where a shape hangs together by less than a thread
 */
export function tatami(rings: readonly Points[], settings: TatamiSettings): Points[] {
  const turned = direction(-settings.angle);
  const level = rings.map((ring) => turnPoints(ring, turned));
  const rows = scanRows(level, settings.spacingMm);
  const entry = settings.entry && turnPoint(settings.entry, turned);
  const exit = settings.exit && turnPoint(settings.exit, turned);
  const back = direction(settings.angle);
  const runs: Points[] = [];
  let from = entry;
  for (const group of inOrder(connectedParts(rows.parts), rows, entry)) {
    const run = new Filling(level, rows, rowCells(rows), settings).sew(group, from, exit);
    if (run.length === 0) continue;
    from = { x: run[run.length - 2], y: run[run.length - 1] };
    runs.push(turnPoints(run, back));
  }
  return runs;
}

/** A lattice below level rows. */
const upright = (
  rings: readonly Points[],
  spacingMm: number,
  stitchLengthMm: number,
  entry: Point | undefined,
): Points[] => tatami(rings, { angle: 90, spacingMm, stitchLengthMm, compensationMm: 0, entry, below: true });

const turnPoint = (p: Point, u: Point): Point => ({ x: p.x * u.x - p.y * u.y, y: p.x * u.y + p.y * u.x });

/** Unconnected groups, nearest to the entry first, so that the way between them stays short. */
function inOrder(groups: number[][], rows: Rows, entry?: Point): number[][] {
  if (groups.length < 2 || !entry) return groups;
  const gap = (group: number[]): number => group.reduce((best, id) => Math.min(best, gapTo(rows, id, entry)), Infinity);
  return groups
    .map((group) => ({ group, gap: gap(group) }))
    .sort((a, b) => a.gap - b.gap)
    .map(({ group }) => group);
}

function gapTo(rows: Rows, id: number, p: Point): number {
  const part = rows.parts[id];
  const x = Math.min(part.right, Math.max(part.left, p.x));
  return distance(x, rows.y[part.row], p.x, p.y);
}

class Filling {
  private readonly sewn: Uint8Array;
  private readonly out: Points = [];
  private readonly offsetOf: (row: number) => number;
  /** Whether what lies below the rows shows. */
  private readonly isOpen: boolean;
  /** Row part the needle is in. */
  private at = 0;

  constructor(
    private readonly rings: readonly Points[],
    private readonly rows: Rows,
    private readonly plan: Cells,
    private readonly settings: TatamiSettings,
  ) {
    // One more than there are: the cell the exit lies in may be divided.
    this.sewn = new Uint8Array(plan.cells.length + 1);
    this.offsetOf = offsetPattern(settings.pattern ?? '').offset;
    this.isOpen = settings.spacingMm > OPEN_ROWS && settings.below !== true;
  }

  sew(group: number[], entry?: Point, exit?: Point): Points {
    const nearest = (p: Point): number =>
      group.reduce((best, id) => (gapTo(this.rows, id, p) < gapTo(this.rows, best, p) ? id : best), group[0]);
    const start = entry ? nearest(entry) : group[0];
    const end = exit ? nearest(exit) : group[group.length - 1];
    const { parts } = this.rows;
    if (exit) divideAfter(this.plan, end);
    this.at = start;
    if (this.settings.underlay) this.layUnderlay(this.settings.underlay, group, entry);
    const { cellOf } = this.plan;
    for (const { cell, parent } of sewingOrderOfCells(parts, this.plan, cellOf[end], cellOf[this.at])) {
      this.fill(cell, parent, entry, exit);
    }
    return this.out;
  }

  /** Sews what lies below the rows first; between its runs the needle travels under the rows to come. */
  private layUnderlay(underlay: FillUnderlay, group: readonly number[], entry?: Point): void {
    for (const run of fillUnderlay(this.rings, underlay, entry, upright)) {
      const [x, y] = run;
      let target = group[0];
      for (const id of group) {
        if (gapTo(this.rows, id, { x, y }) < gapTo(this.rows, target, { x, y })) target = id;
      }
      if (gapTo(this.rows, target, { x, y }) > this.rows.pitch) continue;
      if (this.out.length === 0 && entry) this.enter(entry, x, y);
      if (this.out.length > 0) this.travelTo(target, x, y);
      for (let i = 0; i < run.length; i += 2) this.push(run[i], run[i + 1]);
      const n = this.out.length;
      const last = { x: this.out[n - 2], y: this.out[n - 1] };
      for (const id of group) {
        if (gapTo(this.rows, id, last) < gapTo(this.rows, target, last)) target = id;
      }
      this.at = target;
    }
  }

  /** Sews one cell so that it ends at its parent's side, travelling to the start first where that is needed. */
  private fill(cell: number, parent: number, entry?: Point, exit?: Point): void {
    const { parts } = this.plan.cells[cell];
    const first = parts[0];
    const last = parts[parts.length - 1];
    let down: boolean;
    if (parent >= 0) {
      const touches = neighboursOf(this.rows.parts[last]).some((q) => this.plan.cellOf[q] === parent);
      const touchesTop = neighboursOf(this.rows.parts[first]).some((q) => this.plan.cellOf[q] === parent);
      down = touches && (!touchesTop || this.isNear(first));
    } else if (exit) down = gapTo(this.rows, last, exit) <= gapTo(this.rows, first, exit);
    else down = this.isNear(first);
    const order = down ? parts : parts.slice().reverse();
    const part = this.rows.parts[order[0]];
    const n = this.out.length;
    const before = n > 0 ? this.out[n - 2] : (entry?.x ?? part.left);
    let leftToRight = before <= (part.left + part.right) / 2;
    if (parent < 0 && exit) {
      // The last row is to end on the side of the exit.
      const { left, right } = this.rows.parts[order[order.length - 1]];
      const endsRight = exit.x > (left + right) / 2;
      const rows = order.filter((id) => this.rows.parts[id].right - this.rows.parts[id].left >= SHORT_ROW).length;
      leftToRight = rows % 2 === 1 ? endsRight : !endsRight;
    }
    const y = this.rows.y[part.row];
    if (n === 0 && entry) this.enter(entry, leftToRight ? part.left : part.right, y);
    this.travelTo(order[0], leftToRight ? part.left : part.right, y);
    const singles: Points = [];
    for (const id of order) {
      this.sewRow(id, leftToRight, singles);
      leftToRight = !leftToRight;
    }
    this.flush(singles);
    this.sewn[cell] = 1;
    this.at = order[order.length - 1];
  }

  /** Puts the needle in where it comes in, if the first row begins somewhere else. */
  private enter(entry: Point, x: number, y: number): void {
    if (distance(entry.x, entry.y, x, y) < 2) return;
    const part = this.rows.parts[this.at];
    const inset = Math.min(0.5, (part.right - part.left) / 2);
    const inside = Math.min(part.right - inset, Math.max(part.left + inset, entry.x));
    this.push(inside, this.rows.y[part.row]);
  }

  /** Whether a part is near the needle: the same row, or the one next to it. */
  private isNear(id: number): boolean {
    return Math.abs(this.rows.parts[id].row - this.rows.parts[this.at].row) <= 1;
  }

  /** Walks under rows still to be sewn to a place in a part; nothing is needed where it is next to the needle. */
  private travelTo(target: number, x: number, y: number): void {
    const n = this.out.length;
    if (this.at === target && n === 0) return;
    const start = n > 0 ? { x: this.out[n - 2], y: this.out[n - 1] } : undefined;
    const points =
      start && this.isOpen ? alongRings(this.rings, start, { x, y }) : this.underRows(target, start, { x, y });
    if (points.length < 4) return;
    const stitched = runAlong(points, TRAVEL_STITCH);
    // The first point is where the needle is, the last where the row begins: the row brings that one itself.
    for (let i = start ? 2 : 0; i < stitched.length - 2; i += 2) this.pushInside(stitched[i], stitched[i + 1]);
  }

  private underRows(target: number, start: Point | undefined, goal: Point): Points {
    const { parts } = this.rows;
    const way = chainOfParts(parts, this.at, target, (q) => !this.sewn[this.plan.cellOf[q]]);
    return way.length === 0 ? [] : travel(this.rows, way, start, goal);
  }

  private sewRow(id: number, leftToRight: boolean, singles: Points): void {
    const { stitchLengthMm } = this.settings;
    const part = this.rows.parts[id];
    const y = this.rows.y[part.row];
    if (part.right - part.left < SHORT_ROW) {
      singles.push((part.left + part.right) / 2, y);
      return;
    }
    this.flush(singles);
    const against = this.againstPull(part.right - part.left);
    const left = part.left - against;
    const right = part.right + against;
    const shift = this.offsetOf(part.row) * stitchLengthMm;
    const inner: number[] = [];
    const firstIndex = Math.ceil((left + END_MARGIN - shift) / stitchLengthMm);
    for (let k = firstIndex; shift + k * stitchLengthMm <= right - END_MARGIN; k++) {
      inner.push(shift + k * stitchLengthMm);
    }
    if (!leftToRight) inner.reverse();
    const [from, to] = leftToRight ? [left, right] : [right, left];
    this.turnTo(from + (leftToRight ? 1 : -1) * this.insetFor(from, y, leftToRight), y);
    for (const x of inner) this.push(x, y);
    this.push(to, y);
  }

  private againstPull(rowMm: number): number {
    const { compensationMm, pullAt, angle } = this.settings;
    if (!pullAt) return compensationMm;
    const { x, y } = direction(angle);
    return pullAt(rowMm, x, y);
  }

  /** How much further in a row begins, so that the stitch that leads to it is no shorter than is good for it. */
  private insetFor(x: number, y: number, leftToRight: boolean): number {
    const n = this.out.length;
    if (n === 0) return 0;
    const rise = Math.abs(y - this.out[n - 1]);
    if (rise >= TURN_MM || rise < 0.1) return 0;
    const ahead = (x - this.out[n - 2]) * (leftToRight ? 1 : -1);
    const wanted = Math.sqrt(TURN_MM * TURN_MM - rise * rise);
    if (Math.abs(ahead) >= wanted) return 0;
    const inset = wanted - ahead;
    return inset <= MOST_INSET ? inset : 0;
  }

  /** Rows too short for a stitch of their own become one line of even stitches. */
  private flush(singles: Points): void {
    if (singles.length === 0) return;
    const run = singles.length > 2 ? runAlong(singles, 2.5) : singles.slice();
    singles.length = 0;
    this.turnTo(run[0], run[1]);
    for (let i = 2; i < run.length; i += 2) this.pushInside(run[i], run[i + 1]);
  }

  /** Adds a needle point of a way that may cut a corner of the shape. */
  private pushInside(x: number, y: number): void {
    const inside = ontoRings(this.rings, x, y);
    this.push(inside.x, inside.y);
  }

  /** Goes on to the start of a row; a long way is split into stitches. */
  private turnTo(x: number, y: number): void {
    const n = this.out.length;
    if (n > 0) {
      const [px, py] = [this.out[n - 2], this.out[n - 1]];
      if (this.isOpen && distance(px, py, x, y) > OPEN_ROWS) {
        const edge = runAlong(alongRings(this.rings, { x: px, y: py }, { x, y }), TRAVEL_STITCH);
        for (let i = 2; i < edge.length; i += 2) this.push(edge[i], edge[i + 1]);
        return;
      }
      const parts = Math.ceil(distance(px, py, x, y) / LONGEST_TURN);
      for (let k = 1; k < parts; k++) this.pushInside(px + ((x - px) * k) / parts, py + ((y - py) * k) / parts);
    }
    this.push(x, y);
  }

  /** Adds a needle point, unless it lies on the last one. */
  private push(x: number, y: number): void {
    const n = this.out.length;
    if (n > 0 && distance(this.out[n - 2], this.out[n - 1], x, y) < 0.3) {
      // The earlier point gives way: the later one is the end of a row.
      if (n > 2 && distance(this.out[n - 4], this.out[n - 3], x, y) >= 0.3) this.out.length = n - 2;
      else return;
    }
    this.out.push(x, y);
  }
}
