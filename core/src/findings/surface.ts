import { boundsOf } from '../geometry/polyline.js';
import type { Point } from '../geometry/vector.js';
import { paintStitch } from '../forecast/paint-stitch.js';
import { innerRows } from '../picture/inner-rows.js';
import type { Grid } from '../picture/paint-rings.js';
import { ringsOf, type Piece } from '../pieces/piece.js';
import { stitchKindOf } from '../stitches/kinds/index.js';
import type { Segments } from '../sewn-look/segments.js';

/** What lies on top in every cell of a fine grid: the piece that should be seen there, and the thread that is. */
export interface Surface {
  readonly width: number;
  readonly height: number;
  readonly cellMm: number;
  /** Index of the piece whose closed stitches should be seen; -1 where there is none, or where lines are drawn. */
  readonly piece: Int32Array;
  /** Thread on top; 255 where the cloth is bare. */
  readonly thread: Uint8Array;
  /** How many cells deep each lies inside its piece, 1 at its edge; those at `MOST_DEEP_MM` and deeper are alike. */
  readonly depth: Uint8Array;
  /** Middle of a cell, in mm. */
  readonly placeOf: (cell: number) => Point;
}

export const BARE = 255;

const PER_MM = 6;
/** Nobody asks how much deeper a place lies. */
const MOST_DEEP_MM = 0.8;
const MOST_CELLS = 4_000_000;
/** Half a thread, and a little: rows that just meet leave nothing bare. */
const HALF_THREAD_MM = 0.23;
/** Rows farther apart than this let the cloth be seen, and should. */
const CLOSED_MM = 0.6;
/** No gradient, no open rows, no line: nothing else should be seen there than its thread. */
const isClosed = ({ kind, family, choices, gradient }: Piece): boolean => {
  const { spacingMm } = choices.values;
  const open = (typeof spacingMm === 'number' && spacingMm > CLOSED_MM) || choices.ramp !== undefined;
  return stitchKindOf(kind).covers && family !== 'line' && gradient === undefined && !open;
};

/**
 * Paints pieces and thread in sewing order.
 * @param isBelow whether a piece lies below a painted picture: between its rows anything is seen
 */
export function surfaceOf(
  pieces: readonly Piece[],
  order: readonly number[],
  segments: Segments,
  isBelow: (piece: number) => boolean = () => false,
): Surface {
  const box = boundsOf(pieces.map(({ bounds: b }) => [b.left, b.top, b.right, b.bottom]));
  const [wide, high] = [Math.max(1, box.right - box.left) + 2, Math.max(1, box.bottom - box.top) + 2];
  const scale = Math.min(PER_MM, Math.sqrt(MOST_CELLS / (wide * high)));
  const grid = {
    width: Math.ceil(wide * scale),
    height: Math.ceil(high * scale),
    left: box.left - 1,
    top: box.top - 1,
    scale,
  };
  const { width, height, left, top } = grid;
  const piece = new Int32Array(width * height).fill(-1);
  for (const index of order) {
    const each = pieces[index];
    const seen = isClosed(each) && !isBelow(index) ? index : -1;
    innerRows(ringsOf(each), grid, (from, to) => piece.fill(seen, from, to));
  }
  return {
    width,
    height,
    cellMm: 1 / scale,
    piece,
    thread: paintThread(segments, grid),
    depth: depthsOf(piece, grid, Math.ceil(MOST_DEEP_MM * scale)),
    placeOf: (cell) => ({
      x: left + ((cell % width) + 0.5) / scale,
      y: top + (Math.floor(cell / width) + 0.5) / scale,
    }),
  };
}

/** The last thread over every cell. */
function paintThread({ ends, thread, count }: Segments, grid: Grid): Uint8Array {
  const { left, top, scale } = grid;
  const out = new Uint8Array(grid.width * grid.height).fill(BARE);
  const r = HALF_THREAD_MM * scale;
  for (let s = 0; s < count; s++) {
    paintStitch(
      out,
      thread[s],
      grid,
      r,
      (ends[s * 4] - left) * scale,
      (ends[s * 4 + 1] - top) * scale,
      (ends[s * 4 + 2] - left) * scale,
      (ends[s * 4 + 3] - top) * scale,
    );
  }
  return out;
}

/** For every cell, how many cells in all directions belong to the same piece, up to a number: a distance by steps of a king. */
function depthsOf(piece: Int32Array, { width, height }: { width: number; height: number }, most: number): Uint8Array {
  const depth = new Uint8Array(piece.length);
  // Forth, then back: each time the four neighbours that are known already.
  const sweep = (from: number, to: number, step: number): void => {
    for (let cell = from; cell !== to; cell += step) {
      const own = piece[cell];
      if (own < 0) continue;
      let least = step > 0 ? most : depth[cell];
      for (const by of [1, width - 1, width, width + 1]) {
        const next = cell - by * step;
        const deep = piece[next] === own ? depth[next] + 1 : 1;
        if (deep < least) least = deep;
      }
      depth[cell] = least;
    }
  };
  const inner = width + 1;
  sweep(inner, width * height - inner, 1);
  sweep(width * height - inner - 1, inner - 1, -1);
  return depth;
}
