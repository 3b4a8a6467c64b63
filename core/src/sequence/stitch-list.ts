import type { Bounds } from '../geometry/polyline.js';
import { toMicrometre } from '../geometry/vector.js';

/** What the machine does at a row of the stitch list. */
export const COMMANDS = ['stitch', 'jump', 'trim', 'change', 'stop', 'end'] as const;
export type Command = (typeof COMMANDS)[number];

/** Numbers of the commands in `StitchList.command`. */
export const STITCH = 0;
export const JUMP = 1;
export const TRIM = 2;
export const CHANGE = 3;
export const STOP = 4;
export const END = 5;

/** Row that belongs to no piece. */
export const NO_PIECE = 0xffff;

/** Machine actions in sewing order, as parallel arrays; places in mm, rounded to micrometres. */
export interface StitchList {
  readonly count: number;
  readonly x: Float32Array;
  readonly y: Float32Array;
  readonly command: Uint8Array;
  readonly thread: Uint8Array;
  /** Index of the piece sewn, or NO_PIECE. */
  readonly piece: Uint16Array;
}

/** Smallest upright box around all needle points, in mm; undefined where there are none. */
export function stitchBounds({ x, y, command, count }: StitchList): Bounds | undefined {
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (let i = 0; i < count; i++) {
    if (command[i] !== STITCH) continue;
    if (x[i] < box.left) box.left = x[i];
    if (x[i] > box.right) box.right = x[i];
    if (y[i] < box.top) box.top = y[i];
    if (y[i] > box.bottom) box.bottom = y[i];
  }
  return box.left <= box.right ? box : undefined;
}

/** Collects machine actions; grows by doubling. */
export class StitchWriter {
  private x = new Float32Array(1024);
  private y = new Float32Array(1024);
  private command = new Uint8Array(1024);
  private thread = new Uint8Array(1024);
  private piece = new Uint16Array(1024);
  count = 0;

  add(x: number, y: number, command: number, thread: number, piece: number): void {
    const i = this.count;
    if (i === this.x.length) this.grow();
    // + 0 turns a negative zero into a plain one.
    this.x[i] = toMicrometre(x) + 0;
    this.y[i] = toMicrometre(y) + 0;
    this.command[i] = command;
    this.thread[i] = thread;
    this.piece[i] = piece;
    this.count++;
  }

  get lastX(): number {
    return this.x[this.count - 1];
  }

  get lastY(): number {
    return this.y[this.count - 1];
  }

  get lastPiece(): number {
    return this.piece[this.count - 1];
  }

  /** Needle points of the stitches just made, newest first: x, y, x, y … */
  latest(most: number): number[] {
    const out: number[] = [];
    for (let i = this.count - 1; i >= 0 && this.command[i] === STITCH && out.length < most * 2; i--) {
      out.push(this.x[i], this.y[i]);
    }
    return out;
  }

  finish(): StitchList {
    const n = this.count;
    return {
      count: n,
      x: this.x.slice(0, n),
      y: this.y.slice(0, n),
      command: this.command.slice(0, n),
      thread: this.thread.slice(0, n),
      piece: this.piece.slice(0, n),
    };
  }

  private grow(): void {
    const bigger = <T extends Float32Array | Uint8Array | Uint16Array>(old: T, made: T): T => {
      made.set(old);
      return made;
    };
    const size = this.x.length * 2;
    this.x = bigger(this.x, new Float32Array(size));
    this.y = bigger(this.y, new Float32Array(size));
    this.command = bigger(this.command, new Uint8Array(size));
    this.thread = bigger(this.thread, new Uint8Array(size));
    this.piece = bigger(this.piece, new Uint16Array(size));
  }
}
