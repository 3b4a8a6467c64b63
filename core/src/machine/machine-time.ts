import { CHANGE, JUMP, STITCH, STOP, TRIM, type StitchList } from '../sequence/stitch-list.js';
import { stitchLength } from '../sequence/figures.js';

/** A machine as far as its time goes. */
export interface MachinePace {
  /** Stitches a minute of short stitches. */
  readonly speed: number;
  /** A machine of several needles changes threads by itself; one of one needle waits. */
  readonly needles: number;
}

/** Up to this length a stitch takes as long as any; a longer one longer, as the frame moves farther. */
const QUICK_MM = 4;
const SLOWER_PER_MM = 0.12;
/** The frame moves so many mm a second on its own. */
const FRAME_MM_A_SECOND = 180;
const TRIM_SECONDS = 6;
const CHANGE_SECONDS = 8;

/** Seconds the machine itself takes for a row; what it waits for the operator is no part of it. */
export function secondsOfRow(list: StitchList, row: number, { speed, needles }: MachinePace): number {
  switch (list.command[row]) {
    case STITCH:
      return (60 / speed) * (1 + Math.max(0, stitchLength(list, row) - QUICK_MM) * SLOWER_PER_MM);
    case JUMP:
      return jumpLength(list, row) / FRAME_MM_A_SECOND;
    case TRIM:
      return TRIM_SECONDS;
    case CHANGE:
      return needles > 1 ? CHANGE_SECONDS : 0;
    default:
      return 0;
  }
}

function jumpLength({ x, y }: StitchList, row: number): number {
  if (row === 0) return 0;
  return Math.sqrt((x[row] - x[row - 1]) ** 2 + (y[row] - y[row - 1]) ** 2);
}

/** Seconds the machine takes from a row to the end of the list. */
export function secondsLeft(list: StitchList, from: number, pace: MachinePace): number {
  let seconds = 0;
  for (let row = from; row < list.count; row++) seconds += secondsOfRow(list, row, pace);
  return seconds;
}

/** What the operator is waited for at a row: a new thread, or whatever a stop is for. */
export function waitsAt({ command }: StitchList, row: number, { needles }: MachinePace): 'thread' | 'stop' | null {
  if (command[row] === STOP) return 'stop';
  return command[row] === CHANGE && needles === 1 ? 'thread' : null;
}
