import { CellHeap } from '../geometry/cell-heap.js';
import { paintRings, type Grid } from '../picture/paint-rings.js';
import { boundsOf } from '../geometry/polyline.js';
import { distance, type Point, type Points } from '../geometry/vector.js';
import { ringsOf, type Piece } from '../pieces/piece.js';
import { stitchKindOf } from '../stitches/kinds/index.js';

/** What covers the cloth, when: a grid on which ways are looked for that nobody will see. */
export interface SewnGround {
  readonly width: number;
  readonly height: number;
  readonly left: number;
  readonly top: number;
  readonly cellMm: number;
  /** Place in the order, from 1, of the last piece that hides a cell wholly; 0 where none does. */
  readonly hiddenBy: Int32Array;
  /** Threads of the pieces in their order. */
  readonly threads: readonly number[];
}

const CELL_MM = 0.5;
/** Large designs get larger cells. */
const MOST_CELLS = 600_000;

/** Paints pieces in sewing order. */
export function sewnGround(pieces: readonly Piece[], order: readonly number[]): SewnGround {
  const whole = boundsOf(
    pieces.map(({ bounds: { left, top, right, bottom } }) => [left, top, right, bottom] satisfies Points),
  );
  const area = Math.max(1, (whole.right - whole.left) * (whole.bottom - whole.top));
  const cellMm = Math.max(CELL_MM, Math.sqrt(area / MOST_CELLS));
  const left = whole.left - cellMm;
  const top = whole.top - cellMm;
  const width = Math.ceil((whole.right - left) / cellMm) + 2;
  const height = Math.ceil((whole.bottom - top) / cellMm) + 2;
  const hiddenBy = new Int32Array(width * height);
  const grid = { width, height, left, top, scale: 1 / cellMm };
  order.forEach((index, place) => {
    const piece = pieces[index];
    if (!stitchKindOf(piece.kind).covers || piece.widthMm < 2 * cellMm) return;
    for (const cell of coveredCells(piece, grid)) hiddenBy[cell] = place + 1;
  });
  return { width, height, left, top, cellMm, hiddenBy, threads: order.map((index) => pieces[index].thread) };
}

/** Cells that outlines cover on the grid they were last painted on: most pieces stay when one is moved. */
const painted = new WeakMap<Piece['outline'], { readonly on: string; readonly cells: readonly number[] }>();

function coveredCells(piece: Piece, grid: Grid): readonly number[] {
  const on = `${grid.left} ${grid.top} ${grid.scale} ${grid.width} ${grid.height}`;
  const known = painted.get(piece.outline);
  if (known?.on === on) return known.cells;
  const cells: number[] = [];
  paintRings(ringsOf(piece), grid, (cell, coverage) => {
    // Only cells that lie wholly inside: the thread of a way is as wide as one.
    if (coverage >= 252) cells.push(cell);
  });
  painted.set(piece.outline, { on, cells });
  return cells;
}

const kept = new WeakMap<readonly number[], HiddenWays>();

/** Hidden ways of an order; kept as long as that order is. */
export function hiddenWaysOf(pieces: readonly Piece[], order: readonly number[]): HiddenWays {
  let ways = kept.get(order);
  if (!ways) kept.set(order, (ways = new HiddenWays(sewnGround(pieces, order))));
  return ways;
}

/** Cells of a way may lie open for this long altogether, in mm. */
const MOST_OPEN_MM = 1.6;
const OPEN_COST = 9;
const MOST_VISITS = 12_000;

/** Looks for ways below what is sewn later; keeps its working arrays between searches, and what it found. */
export class HiddenWays {
  private readonly cost: Float32Array;
  private readonly from: Int32Array;
  private readonly seen: Int32Array;
  /** Open cells of the way to a cell. */
  private readonly opened: Uint8Array;
  /** Whether a cell waits in the heap by a way that may still be taken. */
  private readonly waits: Uint8Array;
  private readonly heap = new CellHeap(MOST_VISITS * 8);
  private round = 0;
  private readonly known = new Map<string, Points | undefined>();

  constructor(private readonly ground: SewnGround) {
    const n = ground.hiddenBy.length;
    this.cost = new Float32Array(n);
    this.from = new Int32Array(n);
    this.seen = new Int32Array(n);
    this.opened = new Uint8Array(n);
    this.waits = new Uint8Array(n);
  }

  /**
   * A way from one place to another that what is sewn after `place` pieces hides, but for a little at its ends.
   * @param mostMm longer ways are not worth their stitches
   * @returns corners with both ends, or undefined where there is none (A*: Hart, Nilsson and Raphael 1968)
   */
  find(a: Point, b: Point, place: number, mostMm: number): Points | undefined {
    const key = `${a.x} ${a.y} ${b.x} ${b.y} ${place} ${mostMm}`;
    if (!this.known.has(key)) this.known.set(key, this.search(a, b, place, mostMm));
    return this.known.get(key);
  }

  private search(a: Point, b: Point, place: number, mostMm: number): Points | undefined {
    const { width, height, cellMm } = this.ground;
    const start = this.cellAt(a);
    const goal = this.cellAt(b);
    if (start < 0 || goal < 0) return undefined;
    const round = ++this.round;
    const [gx, gy] = [goal % width, Math.floor(goal / width)];
    const least = (cell: number): number => {
      const dx = Math.abs((cell % width) - gx);
      const dy = Math.abs(Math.floor(cell / width) - gy);
      return Math.max(dx, dy) + 0.41 * Math.min(dx, dy);
    };
    const { heap } = this;
    heap.clear();
    this.seen[start] = round;
    this.cost[start] = 0;
    this.from[start] = -1;
    heap.push(start, least(start));
    const most = mostMm / cellMm + (MOST_OPEN_MM / cellMm) * OPEN_COST;
    // A way that lies open too long is not taken, however it goes on: the search ends once there are only such.
    const mostOpen = Math.floor(MOST_OPEN_MM / cellMm + 1e-9);
    this.opened[start] = this.isHidden(start, place) ? 0 : 1;
    let hopeful = (this.waits[start] = this.opened[start] <= mostOpen ? 1 : 0);
    for (let visits = 0; visits < MOST_VISITS; visits++) {
      if (heap.size === 0 || hopeful === 0) return undefined;
      const at = heap.pop();
      if (at === goal) return this.wayTo(goal, a, b, place);
      hopeful -= this.waits[at];
      this.waits[at] = 0;
      const [x, y] = [at % width, Math.floor(at / width)];
      for (let dy = -1; dy <= 1; dy++) {
        for (let dx = -1; dx <= 1; dx++) {
          if ((dx === 0 && dy === 0) || x + dx < 0 || y + dy < 0 || x + dx >= width || y + dy >= height) continue;
          const next = at + dy * width + dx;
          const isHidden = this.isHidden(next, place);
          const step = (dx !== 0 && dy !== 0 ? 1.41 : 1) * (isHidden ? 1 : OPEN_COST);
          const cost = this.cost[at] + step;
          if (this.seen[next] === round && this.cost[next] <= cost + 1e-6) continue;
          const whole = cost + least(next);
          if (whole > most) continue;
          if (this.seen[next] === round) hopeful -= this.waits[next];
          this.opened[next] = Math.min(mostOpen + 1, this.opened[at] + (isHidden ? 0 : 1));
          hopeful += this.waits[next] = this.opened[next] <= mostOpen ? 1 : 0;
          this.seen[next] = round;
          this.cost[next] = cost;
          this.from[next] = at;
          heap.push(next, whole);
        }
      }
    }
    return undefined;
  }

  /**
   * How much of a straight way is seen at last, in mm: what is sewn after `place` pieces leaves it open, and it lies on
   * cloth or on another thread.
   */
  openAlong(a: Point, b: Point, place: number, thread: number): number {
    const { cellMm } = this.ground;
    const length = distance(a.x, a.y, b.x, b.y);
    const steps = Math.max(1, Math.ceil((length / cellMm) * 4));
    let open = 0;
    for (let k = 0; k < steps; k++) {
      const t = (k + 0.5) / steps;
      if (this.isOpen({ x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t }, place, thread)) open++;
    }
    return (open / steps) * length;
  }

  /** Whether thread at a place is seen at last: nothing sewn after `place` pieces hides it, and none of its own lies there. */
  isOpen(at: Point, place: number, thread: number): boolean {
    const { hiddenBy, threads } = this.ground;
    const cell = this.cellAt(at);
    const cover = cell < 0 ? 0 : hiddenBy[cell];
    return cover <= place && (cover === 0 || threads[cover - 1] !== thread);
  }

  private isHidden(cell: number, place: number): boolean {
    return this.ground.hiddenBy[cell] > place;
  }

  private cellAt({ x, y }: Point): number {
    const { left, top, cellMm, width, height } = this.ground;
    const cx = Math.floor((x - left) / cellMm);
    const cy = Math.floor((y - top) / cellMm);
    return cx < 0 || cy < 0 || cx >= width || cy >= height ? -1 : cy * width + cx;
  }

  /** The way found, pulled tight; nothing where too much of it lies open. */
  private wayTo(goal: number, a: Point, b: Point, place: number): Points | undefined {
    const { width, left, top, cellMm } = this.ground;
    const cells: number[] = [];
    for (let at = goal; at >= 0; at = this.from[at]) cells.push(at);
    cells.reverse();
    const open = cells.filter((cell) => !this.isHidden(cell, place)).length * cellMm;
    if (open > MOST_OPEN_MM) return undefined;
    const centre = (cell: number): Point => ({
      x: left + ((cell % width) + 0.5) * cellMm,
      y: top + (Math.floor(cell / width) + 0.5) * cellMm,
    });
    const places = [a, ...cells.slice(1, -1).map(centre), b];
    const out: Points = [a.x, a.y];
    for (let at = 0; at < places.length - 1;) {
      let next = at + 1;
      while (next + 1 < places.length && this.isStraight(places[at], places[next + 1], place)) next++;
      out.push(places[next].x, places[next].y);
      at = next;
    }
    return out;
  }

  /** Whether a straight way stays hidden. */
  private isStraight(a: Point, b: Point, place: number): boolean {
    const { cellMm } = this.ground;
    const steps = Math.ceil(Math.max(Math.abs(b.x - a.x), Math.abs(b.y - a.y)) / (cellMm * 0.5));
    for (let k = 1; k < steps; k++) {
      const t = k / steps;
      const cell = this.cellAt({ x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t });
      if (cell < 0 || !this.isHidden(cell, place)) return false;
    }
    return true;
  }
}
