import {
  figuresOf,
  secondsLeft,
  secondsOfRow,
  STITCH,
  TRIM,
  waitsAt,
  type MachinePace,
  type Sewing,
} from '@open-kite/core';
import type { MachineAction, MachineJob, MachineReport, MachineState } from '@open-kite/contract';
import { UserError } from '../user-error.js';

/** How far a job is. */
export interface Progress {
  readonly state: MachineState;
  /** Rows of the list that are done. */
  readonly row: number;
  /** Seconds the machine itself has run. */
  readonly seconds: number;
  readonly stops: number;
  readonly breaks: number;
  readonly waitsFor: MachineJob['waitsFor'];
  /** Ended before its last stitch. */
  readonly ended: boolean;
}

export const NEW_PROGRESS: Progress = {
  state: 'ready',
  row: 0,
  seconds: 0,
  stops: 0,
  breaks: 0,
  waitsFor: null,
  ended: false,
};

/** After a break it goes back so many needle points, so that the new thread laps over the old one. */
const BACK = 8;

/** What each action may be done from. */
const FROM: Readonly<Record<MachineAction, readonly MachineState[]>> = {
  start: ['ready'],
  pause: ['sewing'],
  resume: ['paused'],
  threaded: ['waiting'],
  continue: ['waiting'],
  break: ['sewing'],
  mended: ['broken'],
  stop: ['ready', 'sewing', 'waiting', 'paused', 'broken'],
};

/** One job under the needle; knows no clock. */
export class SewingJob {
  private at: Progress;
  /** Machine time that is not yet a whole row. */
  private rest = 0;
  /** Needle points before each row. */
  private readonly points: Uint32Array;

  constructor(
    readonly id: string,
    readonly name: string,
    readonly sewing: Sewing,
    progress: Progress,
  ) {
    this.at = progress;
    const { command, count } = sewing.stitches;
    this.points = new Uint32Array(count + 1);
    for (let i = 0; i < count; i++) this.points[i + 1] = (this.points[i] ?? 0) + (command[i] === STITCH ? 1 : 0);
  }

  get progress(): Progress {
    return this.at;
  }

  /** Sews for some seconds of the machine's own time: row after row, up to where it has to wait. */
  advance(seconds: number, pace: MachinePace): void {
    if (this.at.state !== 'sewing') return;
    const { stitches: list } = this.sewing;
    let { row, seconds: run, stops } = this.at;
    this.rest += seconds;
    while (row < list.count) {
      const takes = secondsOfRow(list, row, pace);
      if (takes > this.rest) break;
      this.rest -= takes;
      run += takes;
      const waitsFor = waitsAt(list, row, pace);
      row++;
      if (waitsFor) {
        stops++;
        this.rest = 0;
        this.at = { ...this.at, row, seconds: run, stops, state: 'waiting', waitsFor };
        return;
      }
    }
    const done = row >= list.count;
    this.at = { ...this.at, row, seconds: run, stops, state: done ? 'done' : 'sewing' };
  }

  /** @throws UserError 409 where the machine cannot do that now */
  act(action: MachineAction): void {
    const { state, waitsFor } = this.at;
    const right =
      FROM[action].includes(state) &&
      (action !== 'threaded' || waitsFor === 'thread') &&
      (action !== 'continue' || waitsFor === 'stop');
    if (!right) {
      const why = waitsFor ? `${state} for the ${waitsFor}` : state;
      throw new UserError(409, `"${action}" cannot be done now: the job is ${why}`);
    }
    this.rest = 0;
    switch (action) {
      case 'pause':
        this.at = { ...this.at, state: 'paused' };
        return;
      case 'break':
        this.at = { ...this.at, state: 'broken', waitsFor: 'mend', breaks: this.at.breaks + 1 };
        return;
      case 'mended':
        this.at = { ...this.at, state: 'sewing', waitsFor: null, row: this.back() };
        return;
      case 'stop':
        this.at = { ...this.at, state: 'done', waitsFor: null, ended: true };
        return;
      default:
        this.at = { ...this.at, state: 'sewing', waitsFor: null };
    }
  }

  /** A job that was under way when the machine was cut off stands still at its stitch. */
  interrupted(): void {
    if (this.at.state === 'sewing') this.at = { ...this.at, state: 'paused' };
  }

  /** Row some needle points back, no farther than the last cut. */
  private back(): number {
    const { command } = this.sewing.stitches;
    let { row } = this.at;
    for (let left = BACK; row > 0 && left > 0; row--) {
      if (command[row - 1] !== STITCH) break;
      left--;
    }
    return row;
  }

  describe(pace: MachinePace): MachineJob {
    const { state, row, waitsFor } = this.at;
    const { stitches: list } = this.sewing;
    const next = Math.min(list.count - 1, row);
    return {
      id: this.id,
      name: this.name,
      state,
      stitch: this.points[row] ?? 0,
      stitches: this.points[list.count] ?? 0,
      row,
      thread: list.thread[Math.max(0, next)] ?? 0,
      waitsFor,
      minutesLeft: state === 'done' ? 0 : Math.round(secondsLeft(list, row, pace) / 6) / 10,
      report: state === 'done' ? this.report() : null,
    };
  }

  /** What was sewn, counted on the rows that are done. */
  private report(): MachineReport {
    const { row, seconds, stops, breaks, ended } = this.at;
    const { stitches, threads } = this.sewing;
    const sewn = { ...stitches, count: row };
    const figures = figuresOf(sewn, threads.length);
    let trims = 0;
    for (let i = 0; i < row; i++) if (stitches.command[i] === TRIM) trims++;
    return {
      minutes: Math.round(seconds / 6) / 10,
      stops,
      breaks,
      trims,
      threads: threads.map(({ code, name, hex }, i) => ({
        code,
        name,
        hex,
        stitches: figures.threads[i]?.stitches ?? 0,
        lengthM: figures.threads[i]?.lengthM ?? 0,
      })),
      ended,
    };
  }
}
