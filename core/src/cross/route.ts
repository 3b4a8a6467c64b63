import { distance, type Points } from '../geometry/vector.js';
import type { CellGrid, Cross } from './grid.js';
import { hiddenLink, isOpenFloat, type Cover } from './links.js';

/** How the crosses of one thread are sewn. */
export interface RouteSettings {
  /** How often each leg is sewn: once, twice or three times. */
  readonly passes: number;
  /** Thread may lie open over this many millimetres between two parts; farther apart it is cut. */
  readonly floatMm: number;
}

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
 * Sews the crosses of one thread; nothing is travelled in the open but floats between parts that do not touch.
 * @param cover what is sewn over or under the thread's cells, where other threads are known
 */
export function routeCrosses(
  grid: CellGrid,
  crosses: readonly Cross[],
  settings: RouteSettings,
  cover?: Cover,
): Points[] {
  return joinParts(grid, walkCrosses(grid, crosses, settings.passes), settings, cover);
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

/**
 * For each part those that have to be sewn before it: parts found later, backwards in time, that share a cell with it.
 */
function partsBefore(grid: CellGrid, parts: readonly Walk[]): Set<number>[] {
  const stride = grid.cols * 2 + 1;
  const inCell = new Map<number, number[]>();
  parts.forEach((part, k) => {
    for (let i = 1; i < part.length; i++) {
      const x2 = (part[i] % stride) + (part[i - 1] % stride);
      const y2 = Math.floor(part[i] / stride) + Math.floor(part[i - 1] / stride);
      const cell = Math.floor(y2 / 4) * grid.cols + Math.floor(x2 / 4);
      const list = inCell.get(cell);
      if (!list) inCell.set(cell, [k]);
      else if (list[list.length - 1] !== k) list.push(k);
    }
  });
  const before = parts.map(() => new Set<number>());
  for (const list of inCell.values()) {
    for (let i = 0; i < list.length; i++) for (let j = i + 1; j < list.length; j++) before[list[i]].add(list[j]);
  }
  return before;
}

/** Joins parts, the nearest next of those that may be sewn; links lie hidden below later cells, or float over short gaps. */
export function joinParts(
  grid: CellGrid,
  parts: readonly Walk[],
  { passes, floatMm }: RouteSettings,
  cover?: Cover,
): Points[] {
  const before = partsBefore(grid, parts);
  const waiting = before.map((set) => set.size);
  const after: number[][] = parts.map(() => []);
  before.forEach((set, k) => {
    for (const earlier of set) after[earlier].push(k);
  });
  const stride = grid.cols * 2 + 1;
  const half = grid.cellMm / 2;
  const place = (p: number): [number, number] => [
    grid.left + (p % stride) * half,
    grid.top + Math.floor(p / stride) * half,
  ];
  const free = new StartsByPlace(grid, parts.length);
  const chains = new Chains(parts, stride);
  const release = (k: number): void => {
    free.add(k, parts[k][0]);
    if (beginsFreely(parts[k], stride)) free.add(k, parts[k][1]);
    chains.release(k);
  };
  parts.forEach((_, k) => {
    if (waiting[k] === 0) release(k);
  });
  const runs: Points[] = [];
  let run: Points = [];
  let at = 0;
  let last: number | undefined;
  for (;;) {
    const touching = last === undefined ? undefined : chains.after(last);
    const nearest = touching ?? free.nearest(at);
    if (!nearest) break;
    const next = touching ? nearest.part : chains.head(nearest.part);
    const start = next === nearest.part ? nearest.place : parts[next][0];
    free.drop(next);
    chains.drop(next);
    for (const later of after[next]) if (--waiting[later] === 0) release(later);
    const part = start === parts[next][0] ? parts[next] : swapped(parts[next], 0);
    const walk = endsFreely(part, stride) ? endedWell(part, free) : part;
    const gap = distance(...place(at), ...place(walk[0]));
    const linked = run.length > 0 && gap > 0;
    const own = linked && touching ? [chains.middleOf(last as number), walk[0]] : undefined;
    const hidden = own ?? (linked && cover ? hiddenLink(grid, cover, at, walk[0]) : undefined);
    if (hidden) for (const p of hidden) run.push(...place(p));
    else if (run.length > 0 && (gap > floatMm || (cover && !isOpenFloat(grid, cover, at, walk[0])))) {
      runs.push(run);
      run = [];
    }
    sewWalk(walk.map(place), passes === 3 ? 3 : 1, run);
    at = walk[walk.length - 1];
    last = next;
  }
  if (run.length > 0) runs.push(run);
  return runs;
}

/**
 * Parts that touch where a cell has the end of its lower leg: from the end of a part the needle goes back over half its
 * last leg and on over half the leg below. Nothing is crossed, and nothing lies beside the legs.
 */
class Chains {
  private readonly starts = new Map<number, number[]>();
  private readonly ends = new Map<number, number[]>();
  private readonly open = new Set<number>();

  constructor(
    private readonly parts: readonly Walk[],
    private readonly stride: number,
  ) {
    parts.forEach((part, k) => {
      for (const place of this.startsOf(part)) push(this.starts, place, k);
      for (const place of this.exitsOf(k)) push(this.ends, place, k);
    });
  }

  /** From now on a part may be sewn. */
  release(part: number): void {
    this.open.add(part);
  }

  drop(part: number): void {
    this.open.delete(part);
  }

  /** Middle of the cell whose leg a part ends with. */
  middleOf(part: number): number {
    const walk = this.parts[part];
    return (walk[walk.length - 2] + walk[walk.length - 1]) / 2;
  }

  /** A part that begins where the last cell of another has the end of its lower leg. */
  after(part: number): { readonly part: number; readonly place: number } | undefined {
    for (const place of this.exitsOf(part)) {
      const next = this.starts.get(place)?.find((k) => this.open.has(k));
      if (next !== undefined) return { part: next, place };
    }
    return undefined;
  }

  /** The part that a chain leading to this one begins with. */
  head(part: number): number {
    const seen = new Set([part]);
    for (let at = part; ;) {
      const before = this.startsOf(this.parts[at])
        .flatMap((place) => this.ends.get(place) ?? [])
        .find((k) => this.open.has(k) && !seen.has(k));
      if (before === undefined) return at;
      seen.add((at = before));
    }
  }

  private startsOf(part: Walk): readonly number[] {
    return beginsFreely(part, this.stride) ? [part[0], part[1]] : [part[0]];
  }

  private exitsOf(part: number): readonly number[] {
    const walk = this.parts[part];
    const middle = this.middleOf(part);
    // An upper leg leads from lower left to upper right, or back.
    const isUpper = Math.abs(walk[walk.length - 1] - walk[walk.length - 2]) === 2 * this.stride - 2;
    return isUpper ? [middle - this.stride - 1, middle + this.stride + 1] : [];
  }
}

function push(lists: Map<number, number[]>, key: number, value: number): void {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}

/** Whether two corners are the ends of a leg across the cell that a middle belongs to. */
const isLegAround = (a: number, b: number, middle: number, stride: number): boolean =>
  a + b === middle * 2 && (middle % stride) % 2 === 1 && Math.floor(middle / stride) % 2 === 1 && a !== b;

/** Whether a part begins with a leg that is left through the middle of its cell: it may be begun at either end. */
const beginsFreely = (part: Walk, stride: number): boolean =>
  part.length > 3 && isLegAround(part[0], part[1], part[2], stride);

/** The same for its last leg. */
const endsFreely = (part: Walk, stride: number): boolean => {
  const n = part.length;
  return n > 4 && isLegAround(part[n - 1], part[n - 2], part[n - 3], stride);
};

/** A part with the two places at an index the other way round. */
function swapped(part: Walk, at: number): Walk {
  const out = part.slice();
  [out[at], out[at + 1]] = [part[at + 1], part[at]];
  return out;
}

/** A part whose last leg ends where the next part is nearer. */
function endedWell(part: Walk, free: StartsByPlace): Walk {
  const other = swapped(part, part.length - 2);
  const after = (walk: Walk): number => free.nearest(walk[walk.length - 1])?.gap2 ?? 0;
  return after(other) < after(part) ? other : part;
}

/** Starts of parts in squares of the grid, so that the nearest is found without looking at all of them. */
class StartsByPlace {
  private readonly squares = new Map<number, [part: number, place: number][]>();
  private readonly stride: number;
  private readonly across: number;
  private readonly down: number;
  private readonly dropped: Uint8Array;
  private count = 0;

  constructor(grid: CellGrid, parts: number) {
    this.dropped = new Uint8Array(parts);
    this.stride = grid.cols * 2 + 1;
    this.across = Math.ceil(this.stride / SQUARE);
    this.down = Math.ceil((grid.rows * 2 + 1) / SQUARE);
  }

  add(part: number, place: number): void {
    const key =
      Math.floor(Math.floor(place / this.stride) / SQUARE) * this.across + Math.floor((place % this.stride) / SQUARE);
    const list = this.squares.get(key);
    if (list) list.push([part, place]);
    else this.squares.set(key, [[part, place]]);
    this.count++;
  }

  drop(part: number): void {
    this.dropped[part] = 1;
  }

  /** The part that starts nearest to a place, the first of equals, and the square of how far away that is in half cells. */
  nearest(from: number): { readonly part: number; readonly place: number; readonly gap2: number } | undefined {
    if (this.count === 0) return undefined;
    const [x, y] = [from % this.stride, Math.floor(from / this.stride)];
    const [sx, sy] = [Math.floor(x / SQUARE), Math.floor(y / SQUARE)];
    let best: { part: number; place: number; gap2: number } | undefined;
    for (let ring = 0; ring <= Math.max(this.across, this.down); ring++) {
      // Whatever lies in this ring of squares or beyond is at least this far away.
      if (best && ((ring - 1) * SQUARE) ** 2 > best.gap2) break;
      for (let qy = sy - ring; qy <= sy + ring; qy++) {
        const edge = qy === sy - ring || qy === sy + ring;
        for (let qx = sx - ring; qx <= sx + ring; qx += edge ? 1 : Math.max(1, 2 * ring)) {
          if (qx < 0 || qy < 0 || qx >= this.across || qy >= this.down) continue;
          const list = this.squares.get(qy * this.across + qx);
          if (!list) continue;
          for (let i = list.length - 1; i >= 0; i--) {
            const [part, place] = list[i];
            if (this.dropped[part]) {
              list.splice(i, 1);
              this.count--;
              continue;
            }
            const gap2 = ((place % this.stride) - x) ** 2 + (Math.floor(place / this.stride) - y) ** 2;
            if (!best || gap2 < best.gap2 || (gap2 === best.gap2 && part < best.part)) best = { part, place, gap2 };
          }
        }
      }
    }
    return best;
  }
}
const SQUARE = 16;

function sewWalk(places: readonly (readonly [number, number])[], passes: number, run: Points): void {
  const n = run.length;
  if (n === 0 || run[n - 2] !== places[0][0] || run[n - 1] !== places[0][1]) run.push(...places[0]);
  for (let i = 1; i < places.length; i++) {
    for (let k = 0; k < passes; k++) run.push(...places[k % 2 === 0 ? i : i - 1]);
  }
}
