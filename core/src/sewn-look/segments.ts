import { STITCH, type StitchList } from '../sequence/stitch-list.js';

/** Boxes are kept for this many stitches together. */
export const BOX_STITCHES = 64;

/** Stitches as segments from needle point to needle point, ready to draw in sewing order. */
export interface Segments {
  readonly count: number;
  /** ax, ay, bx, by in mm, four numbers a segment. */
  readonly ends: Float32Array;
  readonly thread: Uint8Array;
  /** Row of the stitch list each segment ends at. */
  readonly row: Uint32Array;
  /** left, top, right, bottom in mm of each group of BOX_STITCHES segments. */
  readonly boxes: Float32Array;
}

/** Takes the sewn segments out of a stitch list; jumps and the first needle point after one draw nothing. */
export function segmentsOf(list: StitchList): Segments {
  const ends = new Float32Array(list.count * 4);
  const thread = new Uint8Array(list.count);
  const row = new Uint32Array(list.count);
  let count = 0;
  for (let i = 1; i < list.count; i++) {
    if (list.command[i] !== STITCH) continue;
    const ax = list.x[i - 1];
    const ay = list.y[i - 1];
    const bx = list.x[i];
    const by = list.y[i];
    if (ax === bx && ay === by) continue;
    ends[count * 4] = ax;
    ends[count * 4 + 1] = ay;
    ends[count * 4 + 2] = bx;
    ends[count * 4 + 3] = by;
    thread[count] = list.thread[i];
    row[count] = i;
    count++;
  }
  const boxes = new Float32Array(Math.ceil(count / BOX_STITCHES) * 4);
  for (let k = 0; k < boxes.length / 4; k++) {
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let s = k * BOX_STITCHES; s < Math.min(count, (k + 1) * BOX_STITCHES); s++) {
      left = Math.min(left, ends[s * 4], ends[s * 4 + 2]);
      right = Math.max(right, ends[s * 4], ends[s * 4 + 2]);
      top = Math.min(top, ends[s * 4 + 1], ends[s * 4 + 3]);
      bottom = Math.max(bottom, ends[s * 4 + 1], ends[s * 4 + 3]);
    }
    boxes.set([left, top, right, bottom], k * 4);
  }
  return { count, ends: ends.slice(0, count * 4), thread: thread.slice(0, count), row: row.slice(0, count), boxes };
}

/** Number of segments sewn before a row of the stitch list. */
export function segmentsBefore(segments: Segments, row: number): number {
  let low = 0;
  let high = segments.count;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (segments.row[mid] < row) low = mid + 1;
    else high = mid;
  }
  return low;
}
