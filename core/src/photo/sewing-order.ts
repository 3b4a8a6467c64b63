/** Side of the squares in which threads are counted, in cells. */
const SQUARE = 8;
/** A thread is seen brighter than in a patch of its own where it lies free, and less for every row beside it that is sewn later. */
const FREE = 1.095;
const FOR_A_LATER_ROW = 0.058;

/** Squares of a lattice, in which threads are counted. */
export class Squares {
  readonly count: number;
  private readonly wide: number;

  constructor(
    private readonly cols: number,
    rows: number,
  ) {
    this.wide = Math.ceil(cols / SQUARE);
    this.count = this.wide * Math.ceil(rows / SQUARE);
  }

  /** The square of a cell. */
  of(cell: number): number {
    return Math.floor(cell / this.cols / SQUARE) * this.wide + Math.floor((cell % this.cols) / SQUARE);
  }

  /** Cells of every thread in every square, so many numbers a square. */
  countIn(label: Uint8Array, side: number): Float64Array {
    const out = new Float64Array(this.count * side);
    label.forEach((thread, cell) => out[this.of(cell) * side + thread]++);
    return out;
  }

  /** The same in every square with those around it. */
  countAround(label: Uint8Array, side: number): Float64Array {
    const { wide } = this;
    const inside = this.countIn(label, side);
    const out = new Float64Array(inside.length);
    for (let s = 0; s < this.count; s++) {
      const x = s % wide;
      for (let near = s - wide; near <= s + wide; near += wide) {
        for (let n = near - (x > 0 ? 1 : 0); n <= near + (x < wide - 1 ? 1 : 0); n++) {
          for (let t = 0; n >= 0 && n < this.count && t < side; t++) out[s * side + t] += inside[n * side + t];
        }
      }
    }
    return out;
  }
}

/** What is gained where a thread of so many cells is sewn before one of so many others: the ways of the scarcer one are hidden. */
export const hides = (first: number, later: number): number => Math.min(first, later) * (later - first);

/** Threads, from number 1 on, by their light, or against it. */
export function orderByLight(colours: Float32Array, count: number, lightFirst: boolean): number[] {
  const light = (t: number): number =>
    0.2126 * colours[t * 3] + 0.7152 * colours[t * 3 + 1] + 0.0722 * colours[t * 3 + 2];
  const order = Array.from({ length: count }, (_, t) => t + 1);
  return order.sort((a, b) => (lightFirst ? light(b) - light(a) : light(a) - light(b)) || a - b);
}

/**
 * Threads so that wherever two are mixed the scarcer one is sewn first: the ways between its lines are hidden under the other,
 * where they would wind over it in the open. What two threads would have of that is counted square by square; whole orders are
 * improved by moving one thread at a time.
 * @param label thread of every cell, 0 for none
 * @param from order to begin with
 */
export function orderByShare(
  label: Uint8Array,
  { cols, rows }: { readonly cols: number; readonly rows: number },
  from: readonly number[],
): number[] {
  const side = Math.max(...from) + 1;
  /** What is gained where the first of two threads is sewn before the second. */
  const gain = new Float64Array(side * side);
  const squares = new Squares(cols, rows);
  const cells = squares.countIn(label, side);
  for (let at = 0; at < cells.length; at += side) {
    for (const a of from) for (const b of from) gain[a * side + b] += hides(cells[at + a], cells[at + b]);
  }
  const order = [...from];
  for (let best = 1; best > 0;) {
    best = 0;
    let [who, where] = [0, 0];
    for (let i = 0; i < order.length; i++) {
      for (const step of [1, -1]) {
        let sum = 0;
        for (let j = i + step; j >= 0 && j < order.length; j += step) {
          sum += step * gain[order[j] * side + order[i]];
          if (sum > best + 1e-6) [best, who, where] = [sum, i, j];
        }
      }
    }
    if (best > 0) order.splice(where, 0, ...order.splice(who, 1));
  }
  return order;
}

/** Puts threads first (places below 0) or last (above 0), the farthest outermost; others stay as they follow each other. */
export function withPlaces(order: readonly number[], places: readonly number[]): number[] {
  const place = (t: number): number => places.at(t - 1) ?? 0;
  return order
    .map((thread, k) => ({ thread, k }))
    .sort((a, b) => place(a.thread) - place(b.thread) || a.k - b.k)
    .map(({ thread }) => thread);
}

/**
 * How bright each thread looks among the others, against a patch of its own.
 * @param rank place of each thread in the order
 */
export function gainsAmong(label: Uint8Array, cols: number, rank: Uint8Array): number[] {
  const later = new Float64Array(rank.length);
  const cells = new Float64Array(rank.length);
  for (let i = cols; i < label.length - cols; i++) {
    const thread = label[i];
    cells[thread]++;
    for (const other of [label[i - cols], label[i + cols]]) {
      if (rank[other] > rank[thread]) later[thread]++;
      else if (other === thread) later[thread] += 0.5;
    }
  }
  return Array.from(rank, (_, t) => FREE - FOR_A_LATER_ROW * (cells[t] > 0 ? later[t] / cells[t] : 1));
}
