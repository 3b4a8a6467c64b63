import { STITCH, type StitchList } from './stitch-list.js';

/** A needle point at which the thread turns, begins or ends: those between two lie on one straight row. */
export interface RowTurn {
  /** Row of the list. */
  readonly at: number;
  /** No thread leads to it. */
  readonly starts: boolean;
}

/**
 * Needle points at which rows of stitches begin and end.
 * @param straight cosine of the angle up to which stitches go on in one row
 */
export function turnsOf({ count, command, x, y }: StitchList, straight: number): RowTurn[] {
  const turns: RowTurn[] = [];
  for (let i = 0; i < count; i++) {
    const sewn = command[i] === STITCH;
    if (sewn && i > 0 && i + 1 < count && command[i + 1] === STITCH) {
      const [ax, ay] = [x[i] - x[i - 1], y[i] - y[i - 1]];
      const [bx, by] = [x[i + 1] - x[i], y[i + 1] - y[i]];
      const sizes = Math.sqrt((ax * ax + ay * ay) * (bx * bx + by * by));
      if (sizes > 0 && (ax * bx + ay * by) / sizes > straight) continue;
    }
    turns.push({ at: i, starts: !sewn });
  }
  return turns;
}
