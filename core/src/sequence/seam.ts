import type { ConnectChoice, HandRow } from '../pieces/sewn-as.js';
import { distance, type Points } from '../geometry/vector.js';
import { runAlong } from '../stitches/running.js';
import type { HiddenWays } from './sewn-ground.js';
import { CHANGE, END, JUMP, NO_PIECE, STITCH, STOP, StitchWriter, TRIM, type StitchList } from './stitch-list.js';
import type { SewSettings } from './sew-settings.js';
import { TIES, tieOf } from './ties.js';

const SHORTEST = 0.5;
/** Needle points nearer than this are one. */
const LEAST_MM = 0.3;
const LONGEST_MM = 12;

/** Ways shorter than this are sewn straight; up to the trim distance longer ones are hidden where that is easy. */
const STRAIGHT_MM = 1.2;
const MOST_DETOUR = 3;
/** Ways that lie open on cloth or another thread are cut from this share of the trim distance on. */
const SEEN_SHARE = 0.8;
const LONGEST_WAY_MM = 70;
const TRAVEL_STITCH = 2.5;
/** Open cloth up to so wide is stepped over in one stitch: needle points in it would be seen, and hold what a hand cuts. */
const STEP_OVER_MM = 3;

/** What is said of the way to a run. */
export interface Approach {
  /** From letter to letter of a word the thread stays whole up to so many mm: a hand cuts sooner there than a machine. */
  readonly joinedMm?: number;
  /** What somebody said of the way. */
  readonly way?: ConnectChoice;
  /** How its thread is held, where that is not as in the whole design. */
  readonly tie?: string;
}

/** The one seam all runs are joined to. */
export class Seam {
  private readonly writer = new StitchWriter();
  private thread = -1;
  /** Thread of a list that was cut at its end; -1 where none was. */
  private lastThread = -1;
  /** How the thread that is sewn with is held. */
  private tie = TIES[0];

  constructor(
    private readonly settings: SewSettings,
    private readonly hidden: HiddenWays | undefined,
  ) {}

  /**
   * Goes to the start of a run and sews it; where the way there is long and cannot be hidden, the thread is cut and tied.
   * @param place how many pieces are sewn before this one
   */
  sew(run: Points, thread: number, piece: number, place: number, how: Approach = {}): void {
    const { writer, thread: before } = this;
    const [x, y] = run;
    if (before === thread) {
      const way = this.wayTo(x, y, place, how);
      if (way) {
        this.tie = tieOf(how.tie ?? this.settings.tie);
        const gap = distance(writer.lastX, writer.lastY, x, y);
        if (way.length > 0) {
          const walked = runAlong(way, TRAVEL_STITCH);
          stitchRun(writer, how.way ? walked : this.overOpen(walked, thread, place), thread, piece, 2);
        }
        stitchRun(writer, run, thread, piece, way.length > 0 || gap < LEAST_MM ? 2 : 0);
        return;
      }
    }
    this.begin(run, thread, piece, how.tie);
  }

  /** Sews needle points set by hand, with the cuts and waits between them. */
  sewRows(rows: readonly HandRow[], thread: number, piece: number, place: number, how: Approach = {}): void {
    const { writer } = this;
    const stretches = stretchesOf(rows);
    stretches.forEach(({ points, after }, i) => {
      if (i === 0) this.sew(points, thread, piece, place, how);
      else if (stretches[i - 1].after === JUMP) {
        writer.add(points[0], points[1], JUMP, thread, piece);
        stitchRun(writer, points, thread, piece, 0);
      } else this.begin(points, thread, piece, how.tie);
      if (after === STOP) this.stop(thread);
    });
  }

  /** Sews rows of a stitch list exactly as they are; what ends the thread before them is ours. */
  sewList({ count, x, y, command, thread, piece }: StitchList): void {
    const { writer, thread: before } = this;
    if (count === 0) return;
    if (before >= 0) this.endThread(thread[0]);
    for (let i = 0; i < count; i++) writer.add(x[i], y[i], command[i], thread[i], piece[i]);
    // A list that cuts its last thread leaves none to be held.
    this.thread = command[count - 1] === TRIM || command[count - 1] === STOP ? -1 : thread[count - 1];
    this.lastThread = thread[count - 1];
  }

  private endThread(next: number): void {
    const { writer, thread } = this;
    this.tieOff();
    // A machine that cuts no threads leaves that to the operator, who changes them too.
    if (this.settings.trims !== 'never') writer.add(writer.lastX, writer.lastY, TRIM, thread, NO_PIECE);
    if (thread !== next) writer.add(writer.lastX, writer.lastY, CHANGE, next, NO_PIECE);
  }

  /** Ends the thread before, and begins at the start of a run with a tie. */
  private begin(run: Points, thread: number, piece: number, tie: string | undefined): void {
    const { writer, thread: before } = this;
    const [x, y] = run;
    if (before >= 0) this.endThread(thread);
    else if (this.lastThread >= 0 && this.lastThread !== thread)
      writer.add(writer.lastX, writer.lastY, CHANGE, thread, NO_PIECE);
    this.lastThread = -1;
    this.thread = thread;
    this.tie = tieOf(tie ?? this.settings.tie);
    writer.add(x, y, JUMP, thread, piece);
    writer.add(x, y, STITCH, thread, piece);
    stitchRun(writer, run, thread, piece, this.tieIn(run, piece));
  }

  /**
   * The way to the start of a run for a thread that is not cut: places to be led along, none for a straight way; undefined
   * where it is cut.
   */
  private wayTo(x: number, y: number, place: number, { way, joinedMm = 0 }: Approach): Points | undefined {
    const { writer, settings } = this;
    const gap = distance(writer.lastX, writer.lastY, x, y);
    if (way?.how === 'cut') return undefined;
    if (way?.how === 'lead') return [writer.lastX, writer.lastY, ...way.line, x, y];
    const kept = way?.how === 'keep';
    if (settings.trims === 'always' && !kept) return gap < STRAIGHT_MM ? [] : undefined;
    const hidden = this.hiddenWay(x, y, gap, place);
    if (hidden) return hidden;
    if (kept) return gap > TRAVEL_STITCH ? [writer.lastX, writer.lastY, x, y] : [];
    if (gap <= joinedMm) return [];
    return gap <= settings.trimOverMm && !this.isSeen(x, y, gap, place) ? [] : undefined;
  }

  /** Ends the thread and waits for the operator. */
  stop(thread: number): void {
    const { writer } = this;
    if (this.thread < 0) return;
    this.tieOff();
    writer.add(writer.lastX, writer.lastY, TRIM, this.thread, NO_PIECE);
    if (this.thread !== thread) writer.add(writer.lastX, writer.lastY, CHANGE, thread, NO_PIECE);
    writer.add(writer.lastX, writer.lastY, STOP, thread, NO_PIECE);
    this.thread = -1;
  }

  finish(): StitchList {
    const { writer, thread } = this;
    if (writer.count > 0 && thread >= 0) {
      this.tieOff();
      writer.add(writer.lastX, writer.lastY, TRIM, thread, NO_PIECE);
    }
    writer.add(0, 0, END, Math.max(0, thread, this.lastThread), NO_PIECE);
    return writer.finish();
  }

  /** Whether a straight way to a place would be seen so much that the thread is rather cut. */
  private isSeen(x: number, y: number, gap: number, place: number): boolean {
    const most = this.settings.trimOverMm * SEEN_SHARE;
    if (!this.hidden || gap <= most) return false;
    const { lastX, lastY } = this.writer;
    return this.hidden.openAlong({ x: lastX, y: lastY }, { x, y }, place, this.thread) > most;
  }

  /** Needle points of a way without those that would stand in open cloth, where one stitch reaches over it. */
  private overOpen(way: Points, thread: number, place: number): Points {
    const { hidden } = this;
    if (!hidden) return way;
    const out: Points = [way[0], way[1]];
    for (let i = 2; i < way.length; i += 2) {
      const [x, y] = [way[i], way[i + 1]];
      const isLast = i === way.length - 2;
      const reach = isLast ? 0 : distance(out[out.length - 2], out[out.length - 1], way[i + 2], way[i + 3]);
      if (isLast || reach > STEP_OVER_MM || !hidden.isOpen({ x, y }, place, thread)) out.push(x, y);
    }
    return out;
  }

  /** Holds the thread at the start of a run; returns where in the run to go on. */
  private tieIn(run: Points, piece: number): number {
    const { writer, thread } = this;
    const tie = this.tie.points(run);
    if (tie.length === 0) return 2;
    for (const [x, y] of tie) writer.add(x, y, STITCH, thread, piece);
    const [lastX, lastY] = tie[tie.length - 1];
    let at = 2;
    while (at < run.length - 2 && distance(lastX, lastY, run[at], run[at + 1]) < SHORTEST) at += 2;
    return at;
  }

  /** Holds the thread over the way the needle came. */
  private tieOff(): void {
    const { writer } = this;
    const back = writer.latest(12);
    if (back.length < 4) return;
    const { lastPiece } = writer;
    for (const [x, y] of this.tie.points(back)) writer.add(x, y, STITCH, this.thread, lastPiece);
  }

  private hiddenWay(x: number, y: number, gap: number, place: number): Points | undefined {
    if (!this.hidden || gap < STRAIGHT_MM) return undefined;
    const from = { x: this.writer.lastX, y: this.writer.lastY };
    const most = gap <= this.settings.trimOverMm ? gap * MOST_DETOUR : Math.min(LONGEST_WAY_MM, gap * 1.6 + 10);
    return this.hidden.find(from, { x, y }, place, most);
  }
}

/** Needle points by hand as stretches that are sewn in one go, each with what the machine does after it. */
function stretchesOf(rows: readonly HandRow[]): { points: Points; after: number }[] {
  const out: { points: Points; after: number }[] = [];
  let points: Points = [];
  for (const [x, y, command] of rows) {
    if (command === STITCH) points.push(x, y);
    else if (points.length > 0) {
      out.push({ points, after: command });
      points = [];
    }
  }
  if (points.length > 0) out.push({ points, after: STITCH });
  return out;
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
