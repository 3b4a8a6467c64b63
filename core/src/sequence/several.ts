import type { Bounds } from '../geometry/polyline.js';
import type { HoopField } from '../picture/hoops.js';
import { LIMITS } from '../settings/limits.js';
import { CHANGE, END, JUMP, stitchBounds, STOP, StitchWriter, TRIM, type StitchList } from './stitch-list.js';

/** How often a design lies in the hoop: beside and below itself, with cloth between. */
export interface Several {
  readonly across: number;
  readonly down: number;
  readonly gapMm: number;
}

/** Rows of a design that is sewn several times: more than any machine takes. */
const MOST_ROWS = 2_000_000;

/** Of a list without a stitch. */
const NOWHERE: Bounds = { left: 0, top: 0, right: 0, bottom: 0 };

/** From one copy to the next, across and down, in mm. */
export const stepOf = ({ left, top, right, bottom }: Bounds, gapMm: number): readonly [number, number] => [
  right - left + gapMm,
  bottom - top + gapMm,
];

/** The most of a design that fit into a hoop with a gap between them: at least one. */
export function fillOf(hoop: HoopField, box: Bounds, gapMm: number): Several {
  const [width, height] = stepOf(box, 0);
  const most = (field: number, size: number, limit: number): number =>
    Math.max(1, Math.min(limit, Math.floor((field + gapMm) / Math.max(size + gapMm, 0.1) + 1e-9)));
  const across = most(hoop.widthMm, width, LIMITS.severalAcross[1]);
  if (!hoop.round) return { across, down: most(hoop.heightMm, height, LIMITS.severalDown[1]), gapMm };
  let best = { across: 1, down: 1, gapMm };
  for (let n = across; n >= 1; n--) {
    const wide = n * (width + gapMm) - gapMm;
    const high = Math.sqrt(Math.max(0, hoop.widthMm * hoop.widthMm - wide * wide));
    if (high < height) continue;
    const down = most(high, height, LIMITS.severalDown[1]);
    if (n * down > best.across * best.down) best = { across: n, down, gapMm };
  }
  return best;
}

/** A stretch of a stitch list that is sewn without the operator, and the rows that end it. */
interface Part {
  readonly from: number;
  readonly to: number;
  /** First row after what ends it. */
  readonly next: number;
}

/** How a part is written for each copy: the needle goes there without a thread, and the thread is cut after it. */
interface Joints {
  readonly jump: boolean;
  readonly trim: boolean;
}

/** A design laid out several times. */
export interface LaidOut {
  readonly stitches: StitchList;
  /** Where a row of the one lies in the list now, a row for each copy, with how far the copy was moved in mm. */
  readonly placesOf: (row: number) => { readonly row: number; readonly x: number; readonly y: number }[];
}

/**
 * Lays a design several times into the hoop, the first where it is and the others to its right and below. It is sewn thread
 * by thread, and from stop to stop: each thread is put in once for all.
 * @throws RangeError where that are more stitches than a machine takes
 */
export function layOut(list: StitchList, several: Several): LaidOut {
  const copies = several.across * several.down;
  if (list.count * copies > MOST_ROWS) {
    throw new RangeError(`the design has too many stitches to lie ${copies} times in a hoop`);
  }
  const [stepX, stepY] = stepOf(stitchBounds(list) ?? NOWHERE, several.gapMm);
  const cuts = list.command.indexOf(TRIM) >= 0;
  const parts = partsOf(list);
  const writer = new StitchWriter();
  const begins: { readonly at: number; readonly rows: number; readonly joints: Joints }[] = [];
  parts.forEach((part, k) => {
    const joints = jointsOf(list, part, cuts);
    begins.push({ at: writer.count, rows: part.to - part.from + Number(joints.jump) + Number(joints.trim), joints });
    let last = { x: 0, y: 0 };
    for (let turn = 0; turn < copies; turn++) {
      const { column, row } = placeOf(copyAt(turn, k, copies), several.across);
      last = { x: column * stepX, y: row * stepY };
      writePart(writer, list, part, joints, last);
    }
    for (let i = part.to; i < part.next; i++)
      writeRow(writer, list, i, list.command[i] === END ? { x: 0, y: 0 } : last);
  });
  return {
    stitches: writer.finish(),
    placesOf: (row) => {
      const k = parts.findIndex(({ next }) => row < next);
      if (k < 0) return [];
      const { at, rows, joints } = begins[k];
      const within = Math.min(row, parts[k].to) - parts[k].from + Number(joints.jump);
      return Array.from({ length: copies }, (_, turn) => {
        const { column, row: line } = placeOf(copyAt(turn, k, copies), several.across);
        return { row: at + turn * rows + within, x: column * stepX, y: line * stepY };
      });
    },
  };
}

/** The first of the copies that `layOut` laid, as a stitch list of its own. */
export function firstOfSeveral(list: StitchList, { across, down }: Several): StitchList {
  const copies = across * down;
  const writer = new StitchWriter();
  partsOf(list).forEach((part, k) => {
    const rows = Math.floor((part.to - part.from) / copies);
    // The place where the needle begins is no row of a copy.
    const begun = (part.to - part.from) % copies;
    // Every second part begins with the copy that was sewn last.
    const from = part.from + begun + (k % 2 === 0 ? 0 : (copies - 1) * rows);
    const still = { x: 0, y: 0 };
    for (let i = from; i < from + rows; i++) writeRow(writer, list, i, still);
    for (let i = part.to; i < part.next; i++) {
      const ends = list.command[i] === END || writer.count === 0;
      const [x, y] = ends ? [list.x[i], list.y[i]] : [writer.lastX, writer.lastY];
      writer.add(x, y, list.command[i], list.thread[i], list.piece[i]);
    }
  });
  return writer.finish();
}

const ENDS: readonly number[] = [CHANGE, STOP, END];

function partsOf({ command, count }: StitchList): Part[] {
  const parts: Part[] = [];
  let from = 0;
  while (from < count) {
    let to = from;
    while (to < count && !ENDS.includes(command[to])) to++;
    let next = to;
    while (next < count && ENDS.includes(command[next])) next++;
    parts.push({ from, to, next });
    from = next;
  }
  return parts;
}

const jointsOf = ({ command }: StitchList, { from, to }: Part, cuts: boolean): Joints => ({
  jump: to > from && command[from] !== JUMP,
  trim: to > from && cuts && command[to - 1] !== TRIM,
});

/** Which copy is sewn at a turn of a part: forwards, then backwards, so that the needle never goes all the way back. */
const copyAt = (turn: number, part: number, copies: number): number => (part % 2 === 0 ? turn : copies - 1 - turn);

/** Where a copy lies: lines one below the other, sewn there and back. */
function placeOf(copy: number, across: number): { column: number; row: number } {
  const row = Math.floor(copy / across);
  const along = copy % across;
  return { column: row % 2 === 0 ? along : across - 1 - along, row };
}

function writePart(
  writer: StitchWriter,
  list: StitchList,
  { from, to }: Part,
  { jump, trim }: Joints,
  by: { readonly x: number; readonly y: number },
): void {
  if (jump) writer.add(list.x[from] + by.x, list.y[from] + by.y, JUMP, list.thread[from], list.piece[from]);
  for (let i = from; i < to; i++) writeRow(writer, list, i, by);
  if (trim) writer.add(writer.lastX, writer.lastY, TRIM, list.thread[to - 1], list.piece[to - 1]);
}

function writeRow(
  writer: StitchWriter,
  { x, y, command, thread, piece }: StitchList,
  i: number,
  by: { readonly x: number; readonly y: number },
): void {
  writer.add(x[i] + by.x, y[i] + by.y, command[i], thread[i], piece[i]);
}
