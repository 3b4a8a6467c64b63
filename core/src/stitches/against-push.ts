import { reversed } from '../geometry/polyline.js';
import { distance } from '../geometry/vector.js';
import type { Column } from '../trace/column.js';
import type { SewnShape } from './stitch-kind.js';

/** The first rung stands so far inside the shape already, in the mean: rungs stand twice that apart. */
const BEFORE_FIRST_MM = 0.075;
/** Shorter columns keep their length: nothing of them would be left. */
const LEAST_LONG_MM = 2.5;

/**
 * Columns as they are sewn on a fabric that makes satin longer: shorter by its push at the ends that end freely. Where an end lies
 * against another column or reaches under a neighbour, nothing shows.
 */
export function againstPush(
  columns: readonly Column[],
  pushMm: number,
  reachAt: SewnShape['reachAt'] | undefined,
): readonly Column[] {
  if (pushMm <= BEFORE_FIRST_MM) return columns;
  return columns.map((column) => {
    const { rungs, free } = column;
    if (!free || lengthBetween(rungs) < LEAST_LONG_MM) return column;
    const isOpen = (end: 0 | 1): boolean => free[end] && !isUnder(column, end, reachAt);
    let ladder: Pick<Column, 'rungs' | 'spine'> = column;
    if (isOpen(0)) ladder = cutStart(ladder, pushMm - BEFORE_FIRST_MM);
    if (isOpen(1)) ladder = turned(cutStart(turned(ladder), pushMm - BEFORE_FIRST_MM));
    return { ...column, ...ladder };
  });
}

const middleOf = (rungs: Column['rungs'], k: number): [number, number] => [
  (rungs[k * 4] + rungs[k * 4 + 2]) / 2,
  (rungs[k * 4 + 1] + rungs[k * 4 + 3]) / 2,
];

/** From the middle of the first rung to that of the last. */
function lengthBetween(rungs: Column['rungs']): number {
  let length = 0;
  for (let k = 1; k < rungs.length / 4; k++) length += distance(...middleOf(rungs, k - 1), ...middleOf(rungs, k));
  return length;
}

/** A ladder without so much of its beginning; its first rung stands just there. */
function cutStart({ rungs, spine }: Pick<Column, 'rungs' | 'spine'>, mm: number): Pick<Column, 'rungs' | 'spine'> {
  const n = rungs.length / 4;
  let way = 0;
  for (let k = 1; k < n - 1; k++) {
    const step = distance(...middleOf(rungs, k - 1), ...middleOf(rungs, k));
    if (way + step <= mm) {
      way += step;
      continue;
    }
    const t = (mm - way) / step;
    const between = (list: readonly number[], width: number): number[] =>
      Array.from({ length: width }, (_, i) => {
        const [from, to] = [list[(k - 1) * width + i], list[k * width + i]];
        return from + (to - from) * t;
      });
    return {
      rungs: [...between(rungs, 4), ...rungs.slice(k * 4)],
      spine: [...between(spine, 2), ...spine.slice(k * 2)],
    };
  }
  return { rungs, spine };
}

/** A ladder seen from its other end. */
const turned = ({ rungs, spine }: Pick<Column, 'rungs' | 'spine'>): Pick<Column, 'rungs' | 'spine'> => ({
  rungs: reversed(rungs),
  spine: reversed(spine),
});

/** Whether the piece goes on under a neighbour beyond an end of a column. */
function isUnder({ rungs }: Column, end: 0 | 1, reachAt: SewnShape['reachAt'] | undefined): boolean {
  if (!reachAt) return false;
  const n = rungs.length / 4;
  const [here, before] = end === 0 ? [0, 1] : [n - 1, n - 2];
  const [x, y] = middleOf(rungs, here);
  const [bx, by] = middleOf(rungs, before);
  const length = distance(x, y, bx, by);
  return length > 0 && reachAt(x, y, (x - bx) / length, (y - by) / length) > 0;
}
