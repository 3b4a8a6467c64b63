import { JUMP, STITCH, TRIM, type HandRow } from '@open-kite/core';
import { movedRows, pointAt, withBetween, withoutRows, withPoints } from './hand-rows';

const rows: readonly HandRow[] = [
  [0, 0, STITCH],
  [2, 0, STITCH],
  [2, 0, TRIM],
  [5, 0, STITCH],
  [7, 0, STITCH],
];

describe('needle points by hand', () => {
  it('move with what happens at them', () => {
    expect(movedRows(rows, new Set([1]), 1, 2)).toEqual([
      [0, 0, STITCH],
      [3, 2, STITCH],
      [3, 2, TRIM],
      [5, 0, STITCH],
      [7, 0, STITCH],
    ]);
  });

  it('are taken away with what happens at them, but never all of them', () => {
    expect(withoutRows(rows, new Set([1])).map(([x]) => x)).toEqual([0, 5, 7]);
    expect(withoutRows(rows, new Set([0, 1, 3]))).toBe(rows);
  });

  it('get a point in the middle of the stitch after them, none over a cut', () => {
    expect(withPoints(rows, new Set([0, 1])).map(([x]) => x)).toEqual([0, 1, 2, 2, 5, 7]);
  });

  it('get a cut after them, or lose it', () => {
    expect(withBetween(rows, new Set([3]), 'jump')[4]).toEqual([5, 0, JUMP]);
    expect(withBetween(rows, new Set([1]), 'trim').map(([, , command]) => command)).toEqual([0, 0, 0, 0]);
    // After the last point there is nothing to cut from.
    expect(withBetween(rows, new Set([4]), 'trim')).toEqual([...rows]);
  });

  it('are found by a place near them', () => {
    expect(pointAt(rows, 5.2, 0.1, 0.5)).toBe(3);
    expect(pointAt(rows, 3.6, 0, 0.5)).toBeUndefined();
  });
});
