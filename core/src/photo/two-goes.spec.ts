import { orderByShare } from './sewing-order.js';
import { sewInTwoGoes } from './two-goes.js';

const [COLS, ROWS] = [192, 64];

/** Thread of a cell by its place: what lies in dashes on what. */
function labelOf(at: (c: number, r: number) => number): Uint8Array {
  return Uint8Array.from({ length: COLS * ROWS }, (_, i) => at(i % COLS, Math.floor(i / COLS)));
}

const dash = (c: number, r: number): boolean => r % 4 === 1 && c % 8 < 3;
/** Dashes of thread 1 on a field of 2, and on the right dashes of 2 on a field of 1. */
const mixed = (): Uint8Array => labelOf((c, r) => (c < 96 === dash(c, r) ? 1 : 2));

const goes = (label: Uint8Array, most: number, canBe = (thread: number): boolean => thread > 0) =>
  sewInTwoGoes(label, { cols: COLS, rows: ROWS }, orderByShare(label, { cols: COLS, rows: ROWS }, [1, 2]), canBe, most);

describe('a thread in two goes', () => {
  it('is sewn before what it is scarce in, and again after what is scarce in it', () => {
    const label = mixed();
    const { order, twice } = goes(label, 2);
    expect(twice.length).toBe(1);
    const [{ thread, first, isFirst }] = twice;
    const other = 3 - thread;
    expect(order).toEqual([first, other, thread]);
    mixed().forEach((before, cell) => {
      expect(label[cell]).toBe(before === thread && isFirst(cell) ? first : before);
      // Where the two fields meet, either will do.
      const c = cell % COLS;
      if (Math.abs(c - 96) > 12) expect(isFirst(cell)).toBe(c < 96 === (thread === 1));
    });
  });

  it('stays in one where nobody asked for more, and where nothing more would be hidden', () => {
    for (const [most, canBe] of [
      [0, () => true],
      [2, () => false],
    ] as const) {
      const label = mixed();
      const { order, twice } = goes(label, most, canBe);
      expect(twice).toEqual([]);
      expect([...order].sort()).toEqual([1, 2]);
      expect(label).toEqual(mixed());
    }
    const apart = labelOf((c) => (c < 96 ? 1 : 2));
    expect(goes(apart, 2).twice).toEqual([]);
    // One order hides the ways of both dashes.
    const alike = labelOf((c, r) => (dash(c, r) ? 1 : 2));
    expect(goes(alike, 2).twice).toEqual([]);
  });
});
