import { direction, distance, type Point, type Points } from '../geometry/vector.js';
import type { Rings } from '../geometry/polygons.js';
import { findCells, connectedParts, neighboursOf, type Cells } from './cells.js';
import { runAlong } from './running.js';
import { scanRows, type Rows } from './scan-rows.js';
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
  /** Where the needle comes from, and where it goes on to. */
  readonly entry?: Point;
  readonly exit?: Point;
}

/** Shift of the needle points from row to row, in stitch lengths: neighbours never line up. */
const BRICK = [0, 0.5, 0.25, 0.75];
const SHORT_ROW = 0.5;
/** Needle points inside a row keep this far from its ends. */
const END_MARGIN = 1;
const TRAVEL_STITCH = 3;
const LONGEST_TURN = 4;

/**
 * Fills a shape with rows of stitches in one go. Rows are gathered into cells; the cells form a tree rooted where the
 * needle leaves. Every cell is sewn after those that hang on it and ends at its parent's side, and the way to the next
 * start leads only through cells not yet sewn: whatever is travelled over is covered afterwards, and nothing jumps.
 *
 * @param rings closed rings in mm, read by the even-odd rule
 * @returns runs of needle points; more than one only where a shape hangs together by less than a thread
 */
export function tatami(rings: Rings, settings: TatamiSettings): Points[] {
  const turned = direction(-settings.angle);
  const rows = scanRows(
    rings.map((ring) => turn(ring, turned)),
    settings.spacingMm,
  );
  const entry = settings.entry && turnPoint(settings.entry, turned);
  const exit = settings.exit && turnPoint(settings.exit, turned);
  const back = direction(settings.angle);
  const runs: Points[] = [];
  let from = entry;
  for (const group of inOrder(connectedParts(rows), rows, entry)) {
    const run = new Filling(rows, findCells(rows), settings).sew(group, from, exit);
    if (run.length === 0) continue;
    from = { x: run[run.length - 2], y: run[run.length - 1] };
    runs.push(turn(run, back));
  }
  return runs;
}

const turnPoint = (p: Point, u: Point): Point => ({ x: p.x * u.x - p.y * u.y, y: p.x * u.y + p.y * u.x });

function turn(points: Points, u: Point): Points {
  const out: Points = new Array<number>(points.length);
  for (let i = 0; i < points.length; i += 2) {
    out[i] = points[i] * u.x - points[i + 1] * u.y;
    out[i + 1] = points[i] * u.y + points[i + 1] * u.x;
  }
  return out;
}

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

interface Visit {
  readonly cell: number;
  readonly parent: number;
  next: number;
  children: number[];
}

class Filling {
  private readonly sewn: Uint8Array;
  private readonly out: Points = [];
  /** Row part the needle is in. */
  private at = 0;

  constructor(
    private readonly rows: Rows,
    private readonly plan: Cells,
    private readonly settings: TatamiSettings,
  ) {
    this.sewn = new Uint8Array(plan.cells.length);
  }

  sew(group: number[], entry?: Point, exit?: Point): Points {
    const nearest = (p: Point): number =>
      group.reduce((best, id) => (gapTo(this.rows, id, p) < gapTo(this.rows, best, p) ? id : best), group[0]);
    const start = entry ? nearest(entry) : group[0];
    const end = exit ? nearest(exit) : group[group.length - 1];
    this.at = start;
    const { parent, children } = this.tree(this.plan.cellOf[end], this.plan.cellOf[start]);
    const stack: Visit[] = [this.visit(this.plan.cellOf[end], parent, children)];
    while (stack.length > 0) {
      const top = stack[stack.length - 1];
      if (top.next < top.children.length) {
        stack.push(this.visit(top.children[top.next++], parent, children));
        continue;
      }
      this.fill(top.cell, top.parent, exit);
      stack.pop();
    }
    return this.out;
  }

  private visit(cell: number, parent: Int32Array, children: Map<number, number[]>): Visit {
    return { cell, parent: parent[cell], next: 0, children: children.get(cell) ?? [] };
  }

  /** Shortest-way tree of cells from the root; the branch that leads to `first` comes before its siblings. */
  private tree(root: number, first: number): { parent: Int32Array; children: Map<number, number[]> } {
    const { cells, cellOf } = this.plan;
    const parent = new Int32Array(cells.length).fill(-1);
    const seen = new Uint8Array(cells.length);
    seen[root] = 1;
    const queue = [root];
    const children = new Map<number, number[]>();
    for (const cell of queue) {
      const { parts } = cells[cell];
      for (const id of parts.length > 1 ? [parts[0], parts[parts.length - 1]] : parts) {
        for (const q of neighboursOf(this.rows.parts[id])) {
          const other = cellOf[q];
          if (seen[other]) continue;
          seen[other] = 1;
          parent[other] = cell;
          queue.push(other);
          const list = children.get(cell);
          if (list) list.push(other);
          else children.set(cell, [other]);
        }
      }
    }
    for (let cell = first; cell !== root; cell = parent[cell]) {
      const siblings = children.get(parent[cell]) as number[];
      siblings.splice(siblings.indexOf(cell), 1);
      siblings.unshift(cell);
    }
    return { parent, children };
  }

  /** Sews one cell so that it ends at its parent's side, travelling to the start first where that is needed. */
  private fill(cell: number, parent: number, exit?: Point): void {
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
    const before =
      this.out.length > 0 ? this.out[this.out.length - 2] : this.settings.entry ? this.entryX() : part.left;
    let leftToRight = before <= (part.left + part.right) / 2;
    this.travelTo(order[0], leftToRight ? part.left : part.right);
    const singles: Points = [];
    for (const id of order) {
      this.sewRow(id, leftToRight, singles);
      leftToRight = !leftToRight;
    }
    this.flush(singles);
    this.sewn[cell] = 1;
    this.at = order[order.length - 1];
  }

  private entryX(): number {
    const u = direction(-this.settings.angle);
    return turnPoint(this.settings.entry as Point, u).x;
  }

  /** Whether a part is near the needle: the same row, or the one next to it. */
  private isNear(id: number): boolean {
    return Math.abs(this.rows.parts[id].row - this.rows.parts[this.at].row) <= 1;
  }

  /** Walks under rows still to be sewn to a part; nothing is needed where it is next to the needle. */
  private travelTo(target: number, x: number): void {
    if (this.at === target && this.out.length === 0) return;
    const way = this.wayTo(target);
    if (way.length === 0) return;
    const n = this.out.length;
    const start = n > 0 ? { x: this.out[n - 2], y: this.out[n - 1] } : undefined;
    const points = travel(this.rows, way, start, { x, y: this.rows.y[this.rows.parts[target].row] });
    if (points.length < 4) return;
    const stitched = runAlong(points, TRAVEL_STITCH);
    // The first point is where the needle is, the last where the row begins: the row brings that one itself.
    for (let i = start ? 2 : 0; i < stitched.length - 2; i += 2) this.push(stitched[i], stitched[i + 1]);
  }

  /** Parts from the needle to the target through cells not yet sewn, both ends included. */
  private wayTo(target: number): number[] {
    const { parts } = this.rows;
    const before = new Map<number, number>([[this.at, -1]]);
    const queue = [this.at];
    for (let k = 0; k < queue.length && !before.has(target); k++) {
      for (const q of neighboursOf(parts[queue[k]])) {
        if (before.has(q) || this.sewn[this.plan.cellOf[q]]) continue;
        before.set(q, queue[k]);
        queue.push(q);
      }
    }
    if (!before.has(target)) return [];
    const way: number[] = [];
    for (let at = target; at >= 0; at = before.get(at) as number) way.push(at);
    return way.reverse();
  }

  private sewRow(id: number, leftToRight: boolean, singles: Points): void {
    const { stitchLengthMm, compensationMm } = this.settings;
    const part = this.rows.parts[id];
    const y = this.rows.y[part.row];
    if (part.right - part.left < SHORT_ROW) {
      singles.push((part.left + part.right) / 2, y);
      return;
    }
    this.flush(singles);
    const left = part.left - compensationMm;
    const right = part.right + compensationMm;
    const shift = BRICK[part.row % BRICK.length] * stitchLengthMm;
    const inner: number[] = [];
    const firstIndex = Math.ceil((left + END_MARGIN - shift) / stitchLengthMm);
    for (let k = firstIndex; shift + k * stitchLengthMm <= right - END_MARGIN; k++) {
      inner.push(shift + k * stitchLengthMm);
    }
    const xs = [left, ...inner, right];
    if (!leftToRight) xs.reverse();
    this.turnTo(xs[0], y);
    for (let i = 1; i < xs.length; i++) this.push(xs[i], y);
  }

  /** Rows too short for a stitch of their own become one line of even stitches. */
  private flush(singles: Points): void {
    if (singles.length === 0) return;
    const run = singles.length > 2 ? runAlong(singles, 2.5) : singles.slice();
    singles.length = 0;
    this.turnTo(run[0], run[1]);
    for (let i = 2; i < run.length; i += 2) this.push(run[i], run[i + 1]);
  }

  /** Goes on to the start of a row; a long way is split into stitches. */
  private turnTo(x: number, y: number): void {
    const n = this.out.length;
    if (n > 0) {
      const [px, py] = [this.out[n - 2], this.out[n - 1]];
      const parts = Math.ceil(distance(px, py, x, y) / LONGEST_TURN);
      for (let k = 1; k < parts; k++) this.push(px + ((x - px) * k) / parts, py + ((y - py) * k) / parts);
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
