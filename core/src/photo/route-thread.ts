import { CellHeap } from '../geometry/cell-heap.js';
import { distance, type Points } from '../geometry/vector.js';
import { METRIC, squaredBy } from '../colour/colour-metric.js';
import type { Lattice } from './lattice.js';
import { CELL_MM } from './cell.js';
import { slantHops } from './slant-hops.js';

/** The cells of one thread, and what its ways cost. */
export interface RouteInput {
  readonly lattice: Lattice;
  /** Thread of every cell. */
  readonly label: Uint8Array;
  readonly thread: number;
  /** Whether a thread is sewn later than this one. */
  readonly isLater: (thread: number) => boolean;
  /** What is shown, and the metric of colours, of every cell. */
  readonly shown: Float32Array;
  readonly metric: Float32Array;
  readonly colour: readonly number[];
  /** How many times as much a way in the open costs at a cell as it would elsewhere. */
  readonly openFactor: (cell: number) => number;
  /** Stitches at most this long. */
  readonly longestMm: number;
  /** Stretches that would need a cut of the thread and are shorter than this are left out. */
  readonly leastChainMm: number;
  /** Ways dearer than this are not sewn: the thread is cut. */
  readonly mostCost: number;
}

/** A needle point at which a row of thread ends. */
export interface RowEnd {
  /** The last cell of the row. */
  readonly cell: number;
  /** To which side it ends: 1 where columns grow, else -1. */
  readonly side: 1 | -1;
  /** Number of its needle point in the run. */
  readonly point: number;
}

/** A run of thread, with the ends of its rows. */
export interface EndedRun {
  readonly points: Points;
  readonly ends: readonly RowEnd[];
}

export interface Route {
  /** Needle points of each stretch that is sewn without a cut, and where its rows end. */
  readonly runs: EndedRun[];
  /** Cells that ways of the thread lead over. */
  readonly crossed: number[];
  /** Cells that are left to other threads. */
  readonly left: number[];
  /** Millimetres of way that nothing sewn later hides. */
  readonly openMm: number;
}

interface Run {
  readonly row: number;
  readonly from: number;
  readonly to: number;
}

/** Over cells of its own that are sewn later on, and over those that are sewn already, where it shows a little. */
const OWN = 0.25;
const SEWN_OWN = 0.6;
const HIDDEN = 0.35;
/** Of a way in the open a millimetre costs this, and more the more it differs from what it lies on. */
const OPEN = 1.2;
const BY_DIFFERENCE = 0.22;
const MOST_EXPANSIONS = 5000;
/** Parts of a row that belong together under what is sewn later, in cells between them. */
const JOINED_CELLS = 6;
/** Row ends reach this far beyond the middle of their last cell. */
const REACH_MM = 0.12;
/** The same where the next cell is sewn later, and hides what lies below it. */
const UNDER_MM = 0.35;
const WAY_STITCH_MM = 4;
/** Shorter stitches from row to row are slanted; a little more than what counts as short. */
const LEAST_STITCH_MM = 0.52;

/** Sews all runs of a thread in stretches as long as can be had, the ways between them hidden or short. */
export function routeThread(input: RouteInput): Route {
  const { lattice, label, thread } = input;
  const runs = collectRuns(input);
  const walker = new Walker(input, runs);
  const out: EndedRun[] = [];
  const crossed: number[] = [];
  const left: number[] = [];
  let openMm = 0;
  let from = 0;
  for (let run = 0; run < runs.length; run++) {
    // Runs are in the order of rows: what is found here is the uppermost that is not sewn yet.
    if (walker.isSewn(run)) continue;
    const chain = walker.chainFrom(run, from);
    if (chain.ownMm < input.leastChainMm) {
      for (const r of chain.runs) {
        for (let c = runs[r].from; c <= runs[r].to; c++) {
          const cell = runs[r].row * lattice.cols + c;
          if (label[cell] === thread) left.push(cell);
        }
      }
      continue;
    }
    slantHops(chain.points, LEAST_STITCH_MM);
    out.push({ points: chain.points, ends: chain.ends });
    for (const cell of chain.crossed) crossed.push(cell);
    openMm += chain.openMm;
    from = chain.last;
  }
  return { runs: out, crossed, left, openMm };
}

/** Cells of the thread along the rows; gaps that are sewn over later are sewn through. */
function collectRuns({ lattice, label, thread, isLater }: RouteInput): Run[] {
  const { cols, rows, inside } = lattice;
  const runs: Run[] = [];
  for (let row = 0; row < rows; row++) {
    let from = -1;
    let to = -1;
    for (let c = 0; c < cols; c++) {
      const cell = row * cols + c;
      if (label[cell] === thread) {
        if (from < 0) from = c;
        to = c;
      } else if (from >= 0 && (c - to >= JOINED_CELLS || !inside[cell] || !isLater(label[cell]))) {
        runs.push({ row, from, to });
        from = -1;
      }
    }
    if (from >= 0) runs.push({ row, from, to });
  }
  return runs;
}

interface Chain {
  readonly points: Points;
  readonly ends: readonly RowEnd[];
  readonly runs: number[];
  readonly crossed: number[];
  readonly ownMm: number;
  readonly openMm: number;
  readonly last: number;
}

/** Steps from a cell to those around it: columns and rows. */
const STEPS: readonly (readonly [number, number])[] = [
  [-1, 0],
  [1, 0],
  [0, -1],
  [0, 1],
  [-1, -1],
  [1, -1],
  [-1, 1],
  [1, 1],
];

const STEP_COLS = Int32Array.from(STEPS, ([dx]) => dx);
const STEP_ROWS = Int32Array.from(STEPS, ([, dy]) => dy);

/** Finds ways between runs by Dijkstra's method over the cells, several goals at once. */
class Walker {
  private readonly sewn: Uint8Array;
  /** Cells whose run is sewn. */
  private readonly covered: Uint8Array;
  /** Run that has an end at a cell, counted from 1; a second one behind it. */
  private readonly ends: Int32Array;
  private readonly ends2: Int32Array;
  private readonly cost: Float64Array;
  private readonly came: Int32Array;
  private readonly stamp: Int32Array;
  /** What a millimetre across a cell costs; below 0 where nobody has asked yet. */
  private readonly known: Float64Array;
  private readonly heap = new CellHeap(MOST_EXPANSIONS * 9);
  private search = 0;
  /** Length of the eight steps from a cell, in the order of STEPS. */
  private readonly stepMm: readonly number[];

  constructor(
    private readonly input: RouteInput,
    private readonly runs: readonly Run[],
  ) {
    const { cols, rows, pitch } = input.lattice;
    const count = cols * rows;
    this.sewn = new Uint8Array(runs.length);
    this.covered = new Uint8Array(count);
    this.ends = new Int32Array(count);
    this.ends2 = new Int32Array(count);
    this.cost = new Float64Array(count);
    this.came = new Int32Array(count);
    this.stamp = new Int32Array(count);
    this.known = new Float64Array(count).fill(-1);
    runs.forEach(({ row, from, to }, i) => {
      this.ends[row * cols + from] = i + 1;
      if (to !== from) this.ends2[row * cols + to] = i + 1;
    });
    const slant = Math.sqrt(CELL_MM * CELL_MM + pitch * pitch);
    this.stepMm = STEPS.map(([dx, dy]) => (dx === 0 ? pitch : dy === 0 ? CELL_MM : slant));
  }

  isSewn(run: number): boolean {
    return this.sewn[run] === 1;
  }

  /** Sews from a run on as long as the next one can be reached. */
  chainFrom(first: number, from: number): Chain {
    const { lattice, longestMm } = this.input;
    const { cols } = lattice;
    const points: Points = [];
    const ends: RowEnd[] = [];
    const done: number[] = [];
    const crossed: number[] = [];
    let ownMm = 0;
    let openMm = 0;
    let run = first;
    // Begin at the end that is nearer to where the thread was cut.
    const { row, from: a, to: b } = this.runs[run];
    const gap = (c: number): number =>
      distance(lattice.x[from], lattice.y[from], lattice.x[row * cols + c], lattice.y[row * cols + c]);
    let at = row * cols + (gap(a) <= gap(b) ? a : b);
    for (;;) {
      const r = this.runs[run];
      const start = r.row * cols + r.from;
      const end = r.row * cols + r.to;
      const other = at === start ? end : start;
      this.sewn[run] = 1;
      this.covered.fill(1, start, end + 1);
      this.known.fill(-1, start, end + 1);
      done.push(run);
      const side = other >= at ? 1 : -1;
      const point = points.length / 2;
      ownMm += this.sewRow(points, at, other, longestMm);
      ends.push({ cell: at, side: side > 0 ? -1 : 1, point }, { cell: other, side, point: points.length / 2 - 1 });
      at = other;
      const goal = this.nearest(at);
      if (goal < 0) break;
      const way = this.wayTo(goal);
      openMm += this.sewWay(points, way, crossed);
      at = goal;
      const found = this.ends[goal] > 0 && !this.sewn[this.ends[goal] - 1] ? this.ends[goal] : this.ends2[goal];
      run = found - 1;
    }
    return { points, ends, runs: done, crossed, ownMm, openMm, last: at };
  }

  /** Needle points along a row, the ends a little beyond the middle of their cells. */
  private sewRow(points: Points, from: number, to: number, longest: number): number {
    const { lattice, label, isLater } = this.input;
    const { x, y, cols } = lattice;
    const step = to > from ? 1 : to < from ? -1 : 0;
    const beyond = (cell: number, way: number): [number, number] => {
      // Along the row as it lies here; at the border of the lattice the neighbour inside tells it.
      const c = cell % cols;
      const near = c + way >= 0 && c + way < cols ? cell + way : cell - way;
      const sign = near === cell + way ? 1 : -1;
      const length = distance(x[near], y[near], x[cell], y[cell]) || 1;
      // Round ends leave corners open: what is sewn over later gets thread below it.
      const isUnder = sign > 0 && isLater(label[near]);
      const k = (sign * (isUnder ? UNDER_MM : REACH_MM)) / length;
      return [x[cell] + (x[near] - x[cell]) * k, y[cell] + (y[near] - y[cell]) * k];
    };
    if (step === 0) {
      const [ax, ay] = beyond(from, -1);
      const [bx, by] = beyond(from, 1);
      points.push(ax, ay, bx, by);
      return CELL_MM;
    }
    points.push(...beyond(from, -step));
    const length = Math.abs(to - from) * CELL_MM;
    const parts = Math.max(1, Math.ceil(length / longest));
    for (let k = 1; k < parts; k++) {
      const cell = from + step * Math.round((Math.abs(to - from) * k) / parts);
      points.push(x[cell], y[cell]);
    }
    points.push(...beyond(to, step));
    return length + CELL_MM;
  }

  /** Needle points of a way, only where it turns. Returns how much of it stays open. */
  private sewWay(points: Points, way: readonly number[], crossed: number[]): number {
    const { lattice, label, thread, isLater } = this.input;
    const { x, y } = lattice;
    let open = 0;
    for (let i = 1; i < way.length; i++) {
      const cell = way[i];
      const own = label[cell] === thread;
      if (own) continue;
      crossed.push(cell);
      if (!isLater(label[cell])) open += distance(x[way[i - 1]], y[way[i - 1]], x[cell], y[cell]);
    }
    const turn = (i: number): boolean => way[i + 1] - way[i] !== way[i] - way[i - 1];
    let last = 0;
    for (let i = 1; i < way.length - 1; i++) {
      const far = distance(x[way[last]], y[way[last]], x[way[i + 1]], y[way[i + 1]]) > WAY_STITCH_MM;
      if (!far && (!turn(i) || this.isClear(way, last, i + 1))) continue;
      points.push(x[way[i]], y[way[i]]);
      last = i;
    }
    return open;
  }

  /** Whether a straight stitch between two places of a way lies on cells as good as those of the way. */
  private isClear(way: readonly number[], from: number, to: number): boolean {
    const { cols } = this.input.lattice;
    const ax = way[from] % cols;
    const ay = Math.floor(way[from] / cols);
    const bx = way[to] % cols;
    const by = Math.floor(way[to] / cols);
    const n = Math.max(Math.abs(bx - ax), Math.abs(by - ay));
    for (let k = 1; k < n; k++) {
      const cell = Math.round(ay + ((by - ay) * k) / n) * cols + Math.round(ax + ((bx - ax) * k) / n);
      if (this.perMm(cell) > HIDDEN) return false;
    }
    return true;
  }

  private perMm(cell: number): number {
    const known = this.known[cell];
    return known >= 0 ? known : (this.known[cell] = this.costOf(cell));
  }

  private costOf(cell: number): number {
    const { lattice, label, thread, isLater, shown, metric, colour, openFactor } = this.input;
    if (!lattice.inside[cell]) return Infinity;
    const now = label[cell];
    if (now === thread) return this.covered[cell] ? SEWN_OWN : OWN;
    if (isLater(now)) return HIDDEN;
    const d0 = colour[0] - shown[cell * 3];
    const d1 = colour[1] - shown[cell * 3 + 1];
    const d2 = colour[2] - shown[cell * 3 + 2];
    const square = squaredBy(metric, cell * METRIC, d0, d1, d2);
    const open = OPEN + BY_DIFFERENCE * Math.sqrt(Math.max(0, square));
    return open * openFactor(cell);
  }

  /** The end of a run not sewn yet that is reached at the least cost; -1 where none is within reach. */
  private nearest(start: number): number {
    const { cols, rows } = this.input.lattice;
    const { mostCost } = this.input;
    const mark = ++this.search;
    const { heap, cost, came, stamp, stepMm, known } = this;
    heap.clear();
    cost[start] = 0;
    came[start] = -1;
    stamp[start] = mark;
    heap.push(start, 0);
    for (let n = 0; heap.size > 0 && n < MOST_EXPANSIONS; n++) {
      const now = heap.least;
      const cell = heap.pop();
      if (now > cost[cell]) {
        n--;
        continue;
      }
      if (now > mostCost) return -1;
      if (this.isEnd(cell)) return cell;
      const c = cell % cols;
      const r = (cell - c) / cols;
      // Lists are read by index here: this is where most of the time goes.
      for (let k = 0; k < 8; k++) {
        const nx = c + STEP_COLS[k];
        const ny = r + STEP_ROWS[k];
        if (nx < 0 || ny < 0 || nx >= cols || ny >= rows) continue;
        const next = ny * cols + nx;
        // Whatever a step costs, it is more than nothing.
        if (stamp[next] === mark && cost[next] <= now) continue;
        const perMm = known[next] >= 0 ? known[next] : this.perMm(next);
        const to = now + stepMm[k] * perMm;
        if (to > mostCost || (stamp[next] === mark && cost[next] <= to)) continue;
        stamp[next] = mark;
        cost[next] = to;
        came[next] = cell;
        heap.push(next, to);
      }
    }
    return -1;
  }

  private isEnd(cell: number): boolean {
    const a = this.ends[cell];
    if (a > 0 && !this.sewn[a - 1]) return true;
    const b = this.ends2[cell];
    return b > 0 && !this.sewn[b - 1];
  }

  private wayTo(goal: number): number[] {
    const way: number[] = [];
    for (let cell = goal; cell >= 0; cell = this.came[cell]) way.push(cell);
    return way.reverse();
  }
}
