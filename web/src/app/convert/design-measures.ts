import {
  countThreads,
  figuresOf,
  oneOf,
  stitchLengthsOf,
  STITCH,
  threadRunsOf,
  TRIM,
  type Design,
  type SewingFigures,
  type StitchLengths,
  type ThreadCount,
  type ThreadRun,
} from '@open-kite/core';

/** What the interface shows of a stitch list; measured in the worker, so that long lists hold nothing up. */
export interface DesignMeasures {
  readonly figures: SewingFigures;
  readonly runs: readonly ThreadRun[];
  readonly lengths: StitchLengths;
  /** Stitches of each piece, by its index. */
  readonly pieceStitches: Uint32Array;
  /** Stitches of each thread that are of no piece: renderings lay them. */
  readonly renderedStitches: Uint32Array;
  /** Rows of the list at which the thread is cut. */
  readonly cuts: readonly number[];
  /** Cells and back stitches of each thread of a grid. */
  readonly threadCounts: readonly ThreadCount[];
}

export function measureDesign(design: Design): DesignMeasures {
  const { stitches, pieces, threads, pictures } = design;
  const grid = pictures.find(({ chart }) => chart);
  const pieceStitches = new Uint32Array(pieces.length);
  const renderedStitches = new Uint32Array(threads.length);
  const cuts: number[] = [];
  for (let i = 0; i < stitches.count; i++) if (stitches.command[i] === TRIM) cuts.push(i);
  // A piece has the stitches of one, however often the design lies in the hoop.
  const { stitches: one } = oneOf(design);
  for (let i = 0; i < one.count; i++) {
    if (one.command[i] !== STITCH) continue;
    if (one.piece[i] < pieces.length) pieceStitches[one.piece[i]]++;
    else renderedStitches[one.thread[i]]++;
  }
  return {
    figures: figuresOf(stitches, threads.length),
    lengths: stitchLengthsOf(stitches),
    runs: threadRunsOf(stitches),
    pieceStitches,
    renderedStitches,
    cuts,
    threadCounts: grid?.chart
      ? countThreads(grid.chart.grid, grid.chart.cells, grid.chart.backs, grid.threads.length)
      : [],
  };
}
