import { hides, orderByShare, Squares } from './sewing-order.js';

/** A thread that is sewn in two goes: before most others where it is scarce, and in its place where it is not. */
export interface Twice {
  readonly thread: number;
  /** The number its cells have in the first go, the next one after all others. */
  readonly first: number;
  /** Whether a cell belongs to the first go. */
  readonly isFirst: (cell: number) => boolean;
}

/**
 * A second go costs a change of thread: it is worth that from so much hidden on, here 30 squares with eight cells of the thread
 * among those of one other.
 */
const LEAST_HIDDEN = 30 * hides(8, 56);
/** Squares are counted with the eight around them: cells count nine times, and their products the square of that. */
const AROUND = 81;

/**
 * Finds threads that are scarce in one place and most of another: wherever they stand in the order, their ways are seen in one
 * of them. Such a thread gets a second number in `label` where it is scarce, and an order that has both is looked for.
 * @param label thread of every cell, 0 for none; changed
 * @param from order of the threads
 * @param canBe whether a thread may be sewn twice
 * @param most threads sewn twice
 */
export function sewInTwoGoes(
  label: Uint8Array,
  { cols, rows }: { readonly cols: number; readonly rows: number },
  from: readonly number[],
  canBe: (thread: number) => boolean,
  most: number,
): { readonly order: readonly number[]; readonly twice: readonly Twice[] } {
  const squares = new Squares(cols, rows);
  const twice: Twice[] = [];
  let order = from;
  const left = new Set(from.filter(canBe));
  while (twice.length < most) {
    const found = mostHidden(squares, label, order, left);
    if (!found) break;
    const { thread, isScarce } = found;
    left.delete(thread);
    const isFirst = (cell: number): boolean => isScarce[squares.of(cell)] === 1;
    const first = Math.max(...order) + 1;
    const before = label.slice();
    label.forEach((now, cell) => {
      if (now === thread && isFirst(cell)) label[cell] = first;
    });
    const next = orderByShare(label, { cols, rows }, [first, ...order]);
    // Both goes one after the other are one.
    if (Math.abs(next.indexOf(first) - next.indexOf(thread)) === 1) {
      label.set(before);
      continue;
    }
    twice.push({ thread, first, isFirst });
    order = next;
  }
  return { order, twice };
}

/** The thread of which most would be hidden if it were sewn first where it is scarce, and the squares where it is. */
function mostHidden(
  squares: Squares,
  label: Uint8Array,
  order: readonly number[],
  among: ReadonlySet<number>,
): { readonly thread: number; readonly isScarce: Uint8Array } | undefined {
  const side = Math.max(...order) + 1;
  const around = squares.countAround(label, side);
  let most = LEAST_HIDDEN * AROUND;
  let found: { thread: number; isScarce: Uint8Array } | undefined;
  order.forEach((thread, k) => {
    if (!among.has(thread)) return;
    const isScarce = new Uint8Array(squares.count);
    let sum = 0;
    for (let s = 0; s < squares.count; s++) {
      const at = s * side;
      let gain = 0;
      for (let j = 0; j < k; j++) gain += hides(around[at + thread], around[at + order[j]]);
      // Where there is none of it yet, what is mended with it later had better be hidden too.
      if (gain >= 0) isScarce[s] = 1;
      if (gain > 0) sum += gain;
    }
    if (sum > most) [most, found] = [sum, { thread, isScarce }];
  });
  return found;
}
