import type { Piece } from '../pieces/piece.js';
import { distance, type Points } from '../geometry/vector.js';
import { stitchPiece, type StitchSettings } from '../stitches/generate.js';
import { CHANGE, END, JUMP, NO_PIECE, STITCH, StitchWriter, TRIM, type StitchList } from './stitch-list.js';

export interface SewSettings {
  readonly stitches: StitchSettings;
  /** Rows of neighbouring threads run in different directions: degrees added from thread to thread. */
  readonly angleStep: number;
  /** The thread is cut when the next needle point is farther away than this. */
  readonly trimOverMm: number;
}

const TIE_STITCH = 0.7;
const TIE_STITCHES = 3;
const SHORTEST = 0.5;
/** Needle points nearer than this are one. */
const LEAST_MM = 0.3;
const LONGEST_MM = 12;

/** Sews one piece after the other and joins them by ties, trims, jumps and thread changes. */
export function* sewPieces(
  pieces: readonly Piece[],
  order: readonly number[],
  settings: SewSettings,
): Generator<number, StitchList> {
  const writer = new StitchWriter();
  let thread = -1;
  for (let k = 0; k < order.length; k++) {
    const index = order[k];
    const piece = pieces[index];
    const next = pieces[order[k + 1]] as Piece | undefined;
    const runs = stitchPiece(
      piece,
      { ...settings.stitches, angle: settings.stitches.angle + settings.angleStep * piece.thread },
      {
        entry: writer.count > 0 ? { x: writer.lastX, y: writer.lastY } : undefined,
        exit: next && next.thread === piece.thread ? next.anchor : undefined,
      },
    );
    runs.forEach((run) => {
      begin(writer, run, piece.thread, index, thread, settings.trimOverMm);
      thread = piece.thread;
    });
    yield k + 1;
  }
  if (writer.count > 0) {
    tieOff(writer, thread);
    writer.add(writer.lastX, writer.lastY, TRIM, thread, NO_PIECE);
  }
  writer.add(0, 0, END, Math.max(0, thread), NO_PIECE);
  return writer.finish();
}

/** Goes to the start of a run, with the thread cut and tied where the way is long, and sews it. */
function begin(
  writer: StitchWriter,
  run: Points,
  thread: number,
  piece: number,
  before: number,
  trimOver: number,
): void {
  const [x, y] = run;
  const gap = before < 0 ? Infinity : distance(writer.lastX, writer.lastY, x, y);
  if (before === thread && gap <= trimOver) {
    stitchRun(writer, run, thread, piece, gap < LEAST_MM ? 2 : 0);
    return;
  }
  if (before >= 0) {
    tieOff(writer, before);
    writer.add(writer.lastX, writer.lastY, TRIM, before, NO_PIECE);
    if (before !== thread) writer.add(writer.lastX, writer.lastY, CHANGE, thread, NO_PIECE);
  }
  writer.add(x, y, JUMP, thread, piece);
  writer.add(x, y, STITCH, thread, piece);
  const tied = tieIn(writer, run, thread, piece);
  stitchRun(writer, run, thread, piece, tied);
}

/** Three short stitches forth and back along the run's beginning; returns where in the run to go on. */
function tieIn(writer: StitchWriter, run: Points, thread: number, piece: number): number {
  const far = along(run, TIE_STITCH);
  for (let i = 0; i < TIE_STITCHES; i++) {
    const [x, y] = i % 2 === 0 ? far : [run[0], run[1]];
    writer.add(x, y, STITCH, thread, piece);
  }
  let at = 2;
  while (at < run.length - 2 && distance(far[0], far[1], run[at], run[at + 1]) < SHORTEST) at += 2;
  return at;
}

/** Three short stitches back and forth over the way the needle came. */
function tieOff(writer: StitchWriter, thread: number): void {
  const back = writer.latest(12);
  if (back.length < 4) return;
  const far = along(back, TIE_STITCH);
  const { lastPiece } = writer;
  for (let i = 0; i < TIE_STITCHES; i++) {
    const [x, y] = i % 2 === 0 ? far : [back[0], back[1]];
    writer.add(x, y, STITCH, thread, lastPiece);
  }
}

/** The place a given way along a run, on a straight line towards it where the run folds back. */
function along(run: Points, wanted: number): [number, number] {
  for (let i = 2; i < run.length; i += 2) {
    const gap = distance(run[0], run[1], run[i], run[i + 1]);
    if (gap >= wanted) {
      const share = wanted / gap;
      return [run[0] + (run[i] - run[0]) * share, run[1] + (run[i + 1] - run[1]) * share];
    }
  }
  // The whole run stays nearer than that: a straight line in its first direction.
  const gap = distance(run[0], run[1], run[2], run[3]);
  if (gap === 0) return [run[0] + wanted, run[1]];
  return [run[0] + ((run[2] - run[0]) / gap) * wanted, run[1] + ((run[3] - run[1]) / gap) * wanted];
}

function stitchRun(writer: StitchWriter, run: Points, thread: number, piece: number, from: number): void {
  for (let i = from; i < run.length; i += 2) {
    const gap = distance(writer.lastX, writer.lastY, run[i], run[i + 1]);
    const parts = Math.ceil(gap / LONGEST_MM);
    const [x0, y0] = [writer.lastX, writer.lastY];
    for (let k = 1; k < parts; k++) {
      writer.add(x0 + ((run[i] - x0) * k) / parts, y0 + ((run[i + 1] - y0) * k) / parts, STITCH, thread, piece);
    }
    writer.add(run[i], run[i + 1], STITCH, thread, piece);
  }
}
