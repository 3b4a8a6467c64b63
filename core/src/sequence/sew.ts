import type { Piece } from '../pieces/piece.js';
import { direction, distance, type Points } from '../geometry/vector.js';
import { overlapOf } from '../stitches/fabrics.js';
import { clothOf } from '../stitches/generate.js';
import { runAlong } from '../stitches/running.js';
import { PieceStitches, shapeKey } from './piece-stitches.js';
import { planSewing } from './plan-sewing.js';
import { hiddenWaysOf, type HiddenWays } from './sewn-ground.js';
import { laterNeighbours, reachUnder } from './under-neighbours.js';
import { CHANGE, END, JUMP, NO_PIECE, STITCH, STOP, StitchWriter, TRIM, type StitchList } from './stitch-list.js';
import type { SewSettings } from './sew-settings.js';

const TIE_STITCH = 0.7;
const SHORTEST = 0.5;
/** Needle points nearer than this are one. */
const LEAST_MM = 0.3;
const LONGEST_MM = 12;

/** Ways shorter than this are sewn straight; up to the trim distance longer ones are hidden where that is easy. */
const STRAIGHT_MM = 1.2;
const MOST_DETOUR = 3;
/** Ways that lie open on cloth or another thread are cut from this share of the trim distance on. */
const SEEN_SHARE = 0.5;
const LONGEST_WAY_MM = 70;
const TRAVEL_STITCH = 2.5;

/**
 * Sews one piece after the other and joins them by ties, trims, jumps and thread changes.
 * @param known stitches made before, so that only what changed is made again
 */
export function* sewPieces(
  pieces: readonly Piece[],
  order: readonly number[],
  settings: SewSettings,
  known = new PieceStitches(),
  { angles, ways } = planSewing(pieces, order, settings),
  between: readonly RunsBetween[] = [],
): Generator<number, StitchList> {
  known.begin();
  const { stitches } = settings;
  const place = new Int32Array(pieces.length);
  order.forEach((index, k) => (place[index] = k));
  const seam = new Seam(settings, settings.hideTravel ? hiddenWaysOf(pieces, order) : undefined);
  const sewRuns = (place: number): void => {
    for (const { at, runs, thread, index } of between) {
      if (at === place) for (const run of runs) seam.sew(run, thread, index, place);
    }
  };
  for (let k = 0; k < order.length; k++) {
    sewRuns(k);
    const index = order[k];
    const piece = pieces[index];
    const overlap = overlapUnder(piece, settings);
    const later = laterNeighbours(pieces, place, index).map((i) => pieces[i]);
    const reachKey = `${overlap} ${later.map(shapeKey).join()}`;
    const runs = known.get(piece, { ...stitches, angle: angles[index] }, ways[k], reachKey, () =>
      reachUnder(piece, later, overlap),
    );
    if (piece.stopBefore) seam.stop(piece.thread);
    const before = k > 0 ? pieces[order[k - 1]].word : undefined;
    const inWord = piece.word !== undefined && piece.word === before;
    for (const run of runs) seam.sew(run, piece.thread, index, k, inWord);
    yield k + 1;
  }
  sewRuns(order.length);
  return seam.finish();
}

/** How far a piece reaches under neighbours sewn later, in mm. */
function overlapUnder(piece: Piece, { stitches, overlapMm }: SewSettings): number {
  const cloth = clothOf(piece, stitches);
  const set = cloth === stitches ? overlapMm : null;
  return set ?? overlapOf(cloth.compensationMm ?? cloth.fabric.compensationMm);
}

/** Runs that are no piece: a thread of a rendering. */
export interface RunsBetween {
  /** How many pieces are sewn before them. */
  readonly at: number;
  readonly runs: readonly Points[];
  readonly thread: number;
  /** Their number among the names of the stitch list. */
  readonly index: number;
}

/** The one seam all runs are joined to. */
export class Seam {
  private readonly writer = new StitchWriter();
  private thread = -1;

  constructor(
    private readonly settings: SewSettings,
    private readonly hidden: HiddenWays | undefined,
  ) {}

  /**
   * Goes to the start of a run and sews it; where the way there is long and cannot be hidden, the thread is cut and tied.
   * @param place how many pieces are sewn before this one
   * @param inWord from letter to letter of a word: the short way between them is cut by hand sooner than by a machine
   */
  sew(run: Points, thread: number, piece: number, place: number, inWord = false): void {
    const { writer, thread: before } = this;
    const [x, y] = run;
    this.thread = thread;
    if (before === thread) {
      const gap = distance(writer.lastX, writer.lastY, x, y);
      const way = this.hiddenWay(x, y, gap, place);
      if (way) {
        const stitched = runAlong(way, TRAVEL_STITCH);
        stitchRun(writer, stitched, thread, piece, 2);
        stitchRun(writer, run, thread, piece, 2);
        return;
      }
      if (gap <= this.settings.trimOverMm && (inWord || !this.isSeen(x, y, gap, place))) {
        stitchRun(writer, run, thread, piece, gap < LEAST_MM ? 2 : 0);
        return;
      }
    }
    if (before >= 0) {
      tieOff(writer, before);
      writer.add(writer.lastX, writer.lastY, TRIM, before, NO_PIECE);
      if (before !== thread) writer.add(writer.lastX, writer.lastY, CHANGE, thread, NO_PIECE);
    }
    writer.add(x, y, JUMP, thread, piece);
    writer.add(x, y, STITCH, thread, piece);
    stitchRun(writer, run, thread, piece, tieIn(writer, run, thread, piece));
  }

  /** Ends the thread and waits for the operator. */
  stop(thread: number): void {
    const { writer } = this;
    if (this.thread < 0) return;
    tieOff(writer, this.thread);
    writer.add(writer.lastX, writer.lastY, TRIM, this.thread, NO_PIECE);
    if (this.thread !== thread) writer.add(writer.lastX, writer.lastY, CHANGE, thread, NO_PIECE);
    writer.add(writer.lastX, writer.lastY, STOP, thread, NO_PIECE);
    this.thread = -1;
  }

  finish(): StitchList {
    const { writer, thread } = this;
    if (writer.count > 0 && thread >= 0) {
      tieOff(writer, thread);
      writer.add(writer.lastX, writer.lastY, TRIM, thread, NO_PIECE);
    }
    writer.add(0, 0, END, Math.max(0, thread), NO_PIECE);
    return writer.finish();
  }

  /** Whether a straight way to a place would be seen so much that the thread is rather cut. */
  private isSeen(x: number, y: number, gap: number, place: number): boolean {
    const most = this.settings.trimOverMm * SEEN_SHARE;
    if (!this.hidden || gap <= most) return false;
    const { lastX, lastY } = this.writer;
    return this.hidden.openAlong({ x: lastX, y: lastY }, { x, y }, place, this.thread) > most;
  }

  private hiddenWay(x: number, y: number, gap: number, place: number): Points | undefined {
    if (!this.hidden || gap < STRAIGHT_MM) return undefined;
    const from = { x: this.writer.lastX, y: this.writer.lastY };
    const most = gap <= this.settings.trimOverMm ? gap * MOST_DETOUR : Math.min(LONGEST_WAY_MM, gap * 1.6 + 10);
    return this.hidden.find(from, { x, y }, place, most);
  }
}

/** Three short stitches forth and back along the run's beginning; returns where in the run to go on. */
function tieIn(writer: StitchWriter, run: Points, thread: number, piece: number): number {
  const tie = tieAlong(run);
  for (const [x, y] of tie) writer.add(x, y, STITCH, thread, piece);
  const [lastX, lastY] = tie[tie.length - 1];
  let at = 2;
  while (at < run.length - 2 && distance(lastX, lastY, run[at], run[at + 1]) < SHORTEST) at += 2;
  return at;
}

/** Three short stitches back and forth over the way the needle came. */
function tieOff(writer: StitchWriter, thread: number): void {
  const back = writer.latest(12);
  if (back.length < 4) return;
  const { lastPiece } = writer;
  for (const [x, y] of tieAlong(back)) writer.add(x, y, STITCH, thread, lastPiece);
}

/** A tie goes back beside the way it came: no needle point in the hole of another. */
const TIE_TURN = direction(17.4);

/** Needle points of a tie from the start of a run on: along it, back beside that, and along it again. */
function tieAlong(run: Points): [number, number][] {
  const [x, y] = run;
  const [fx, fy] = along(run, TIE_STITCH);
  const length = distance(x, y, fx, fy) || 1;
  const [ux, uy] = [(fx - x) / length, (fy - y) / length];
  // It lies on the side to which the run goes on.
  const n = run.length;
  const on = Math.min(n - 2, 6);
  const side = ux * (run[on + 1] - y) - uy * (run[on] - x) >= 0 ? 1 : -1;
  const [cos, sin] = [TIE_TURN.x, TIE_TURN.y * side];
  const bx = fx - length * (ux * cos + uy * sin);
  const by = fy - length * (uy * cos - ux * sin);
  return [
    [fx, fy],
    [bx, by],
    [bx + ux * length, by + uy * length],
  ];
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
