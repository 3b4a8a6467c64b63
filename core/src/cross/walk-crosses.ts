import type { CellGrid, Cross } from './grid.js';

/** A way of the needle over corners; the middle of a cell is a corner with halves. */
export type Walk = number[];

/**
 * Walks the crosses of one thread, part by part. The way is built backwards in time over the corners of the grid: an upper
 * leg may be walked at any time, a lower leg, or a way through the middle, only in a cell whose upper leg is walked
 * already. Turned round, every upper leg is sewn last and lies over all that was sewn or travelled below it.
 */
export function walkCrosses(grid: CellGrid, crosses: readonly Cross[], passes: number): Walk[] {
  // Walked twice, every corner has an even number of ways; three times over, the needle goes to and fro on each leg.
  const walker = new Walker(grid, crosses, passes === 2 ? 2 : 1);
  const parts: Walk[] = [];
  for (const cell of [...new Set(crosses.map((cross) => cross.cell))].sort((a, b) => a - b)) {
    while (walker.hasWork(cell)) parts.push(walker.walkFrom(cell));
  }
  return parts.map((part) => part.reverse());
}

/**
 * The crosses of one thread, as legs that are still to be walked: the lower leg of a cell runs from upper left to lower
 * right, the upper from lower left to upper right. Corners of a cell are counted from the upper left one clockwise.
 */
class Walker {
  /** Passes of each leg that are left. Cells have a rim of empty ones around them, so that nothing lies beyond. */
  private readonly lower: Uint8Array;
  private readonly upper: Uint8Array;
  /** Corners from which a short leg goes to the middle; flags. */
  private readonly stubs: Uint8Array;
  /** Whether the upper leg lies, seen backwards in time: from then on anything below it is free to walk. */
  private readonly covered: Uint8Array;
  /** Whole crosses: ways lead only through them. */
  private readonly whole: Uint8Array;
  private readonly cols: number;
  /** Cells a row, with the rim. */
  private readonly across: number;
  /** Corners and middles lie on one lattice of half cells. */
  private readonly stride: number;
  /** From a place that is a cell's corner of that number: to the cell, its middle, and its opposite corner. */
  private readonly toCell: readonly number[];
  private readonly toMiddle: readonly number[];
  private readonly toOpposite: readonly number[];
  private readonly came: Int32Array;
  private readonly stamp: Int32Array;
  private readonly queue: Int32Array;
  private search = 0;

  constructor({ cols, rows }: CellGrid, crosses: readonly Cross[], passes: number) {
    this.cols = cols;
    this.across = cols + 2;
    this.stride = cols * 2 + 1;
    const s = this.stride;
    this.toCell = [0, -1, -this.across - 1, -this.across];
    this.toMiddle = [s + 1, s - 1, -s - 1, -s + 1];
    this.toOpposite = this.toMiddle.map((step) => step * 2);
    const count = s * (rows * 2 + 1);
    this.came = new Int32Array(count);
    this.stamp = new Int32Array(count);
    this.queue = new Int32Array(count);
    const n = this.across * (rows + 2);
    this.lower = new Uint8Array(n);
    this.upper = new Uint8Array(n);
    this.stubs = new Uint8Array(n);
    for (const cross of crosses) this.add(cross, passes);
    // Where there is no upper leg nothing has to lie above the rest.
    this.covered = this.upper.map((left) => (left === 0 ? 1 : 0));
    this.whole = this.upper.map((left, cell) => (left > 0 && this.lower[cell] > 0 ? 1 : 0));
  }

  private add({ cell, part, corner }: Cross, passes: number): void {
    const { lower, upper, stubs } = this;
    const at = this.rimmed(cell);
    if (part === 'full') lower[at] = upper[at] = passes;
    else if (part === 'half' && corner % 2 === 0) lower[at] = passes;
    else if (part === 'half') upper[at] = passes;
    else if (part === 'quarter') stubs[at] |= 1 << corner;
    else if (part === 'side') stubs[at] |= (1 << corner) | (1 << ((corner + 1) % 4));
    else {
      // A three-quarter cross has the leg beside its corner whole, and a short one at the corner.
      if (corner % 2 === 0) upper[at] = passes;
      else lower[at] = passes;
      stubs[at] |= 1 << corner;
    }
  }

  /** Index of a cell of the grid among those with the rim. */
  private rimmed(cell: number): number {
    return (Math.floor(cell / this.cols) + 1) * this.across + (cell % this.cols) + 1;
  }

  hasWork(cell: number): boolean {
    const at = this.rimmed(cell);
    return this.lower[at] + this.upper[at] + this.stubs[at] > 0;
  }

  private isMiddle(place: number): boolean {
    return (place % this.stride) % 2 === 1;
  }

  /** The cell whose upper left corner a place is, among those with the rim. */
  private cellBelow(place: number): number {
    const x2 = place % this.stride;
    return ((place - x2) / this.stride / 2 + 1) * this.across + x2 / 2 + 1;
  }

  /** Walks everything that can be reached from a cell. */
  walkFrom(cell: number): Walk {
    const at = this.rimmed(cell);
    const corner = this.upper[at] > 0 ? 3 : this.lower[at] > 0 ? 0 : firstOf(this.stubs[at]);
    const upperLeft = Math.floor(cell / this.cols) * 2 * this.stride + (cell % this.cols) * 2;
    let place = this.cornerFrom(upperLeft + this.toMiddle[0], corner);
    const walk: Walk = [place];
    for (;;) {
      const next = this.step(place, walk);
      if (next >= 0) place = next;
      else if (this.wayToWork(place, walk)) place = walk[walk.length - 1];
      else return walk;
    }
  }

  private cornerFrom(middle: number, corner: number): number {
    return middle - this.toMiddle[corner];
  }

  /** Walks one leg from a corner, if there is one to walk; returns where it leads. */
  private step(place: number, walk: Walk): number {
    if (this.isMiddle(place)) return -1;
    const below = this.cellBelow(place);
    let bestCost = Infinity;
    let bestCorner = -1;
    for (const corner of AROUND) {
      const cell = below + this.toCell[corner];
      if (this.covered[cell] && (this.stubs[cell] >> corner) & 1) {
        // Two short legs of one cell are a way through its middle.
        const left = this.stubs[cell] & ~(1 << corner);
        const on = left === 0 ? corner : firstOf(left);
        this.stubs[cell] = left & ~(1 << on);
        const middle = place + this.toMiddle[corner];
        const next = this.cornerFrom(middle, on);
        walk.push(middle, next);
        return next;
      }
      const isLower = corner % 2 === 0;
      if (isLower ? this.lower[cell] === 0 || !this.covered[cell] : this.upper[cell] === 0) continue;
      // Ends with an even number of legs left can be left again; lower legs first, they are the harder to reach.
      const cost = (this.legsAt(place + this.toOpposite[corner]) % 2 === 0 ? 0 : 2) + (isLower ? 0 : 1);
      if (cost < bestCost) [bestCost, bestCorner] = [cost, corner];
    }
    if (bestCorner < 0) return -1;
    const cell = below + this.toCell[bestCorner];
    if (bestCorner % 2 === 0) this.lower[cell]--;
    else this.covered[cell] = --this.upper[cell] === 0 ? 1 : 0;
    const next = place + this.toOpposite[bestCorner];
    walk.push(next);
    return next;
  }

  /** Whole legs still to be walked at a corner. */
  private legsAt(place: number): number {
    const below = this.cellBelow(place);
    const [a, b, c, d] = this.toCell;
    return this.lower[below + a] + this.upper[below + b] + this.lower[below + c] + this.upper[below + d];
  }

  /**
   * Walks the shortest way through covered cells to a corner where a leg can be walked; of equally short ones, to one where
   * a lower leg waits, since what is left behind has to be come back for.
   * @returns whether there is one
   */
  private wayToWork(start: number, walk: Walk): boolean {
    const { queue, came, stamp, ways } = this;
    const mark = ++this.search;
    stamp[start] = mark;
    queue[0] = start;
    let end = 1;
    for (let from = 0; from < end;) {
      // All places as many stitches away.
      const front = end;
      let best = -1;
      let most = 0;
      for (; from < front; from++) {
        const place = queue[from];
        const count = this.waysFrom(place);
        for (let k = 0; k < count; k++) {
          const to = ways[k];
          if (stamp[to] === mark) continue;
          stamp[to] = mark;
          came[to] = place;
          queue[end++] = to;
          if (most === 2) continue;
          const work = this.workAt(to);
          if (work > most) [most, best] = [work, to];
        }
      }
      if (best >= 0) {
        const first = walk.length;
        for (let p = best; p !== start; p = came[p]) walk.push(p);
        for (let a = first, b = walk.length - 1; a < b; a++, b--) [walk[a], walk[b]] = [walk[b], walk[a]];
        return true;
      }
    }
    return false;
  }

  /** What can be walked from a corner: 2 a lower or a short leg, 1 an upper one, 0 nothing. */
  private workAt(place: number): number {
    if (this.isMiddle(place)) return 0;
    const below = this.cellBelow(place);
    let work = 0;
    for (let corner = 0; corner < 4; corner++) {
      const cell = below + this.toCell[corner];
      if (this.covered[cell] && ((corner % 2 === 0 && this.lower[cell] > 0) || (this.stubs[cell] >> corner) & 1)) {
        return 2;
      }
      if (corner % 2 === 1 && this.upper[cell] > 0) work = 1;
    }
    return work;
  }

  private readonly ways = new Int32Array(8);

  /**
   * Places one stitch away over legs that are hidden in the end: across a covered cell, or to and from its middle.
   * @returns how many, in `ways`
   */
  private waysFrom(place: number): number {
    const { ways } = this;
    let n = 0;
    if (this.isMiddle(place)) {
      for (let corner = 0; corner < 4; corner++) ways[n++] = this.cornerFrom(place, corner);
      return n;
    }
    const below = this.cellBelow(place);
    for (const corner of AROUND) {
      const cell = below + this.toCell[corner];
      if (!this.covered[cell] || !this.whole[cell]) continue;
      ways[n++] = place + this.toOpposite[corner];
      ways[n++] = place + this.toMiddle[corner];
    }
    return n;
  }
}

/** Which corner of theirs a place is, of the cells around it from the upper left one clockwise. */
const AROUND = [2, 3, 0, 1];

const firstOf = (flags: number): number => 31 - Math.clz32(flags & -flags);
