import { distance } from '../geometry/vector.js';
import type { Sewing } from '../sequence/sewing.js';
import { STITCH, type StitchList } from '../sequence/stitch-list.js';
import type { Fabric } from '../stitches/fabrics.js';
import { measuredPull } from '../stitches/measured-cloth.js';
import { dragAlong } from './drag.js';
import { pushEnds } from './push.js';

/** Stitches turn by less than this inside a row: the cosine of 10 degrees. */
const STRAIGHT = 0.985;
/** Shorter rows pull at nothing. */
const LEAST_ROW_MM = 0.9;

/** Cloth of two per cent stretch on a tear-away gives by once the usual pull; more with the root of its stretch. */
const STILL = 0.6;
const BY_STRETCH = 0.28;
/** Pile gives way under the thread as well. */
const PILE = 0.25;
/** What is cut away stays below the stitches and holds them. */
const HELD: readonly (readonly [RegExp, number])[] = [
  [/^cut-away, heavy/, 0.88],
  [/^cut-away/, 0.94],
  [/^tear-away, heavy/, 0.92],
];

/**
 * How lively a fabric is on its stabiliser: 1 for quilting cotton. It depends on stretch, pile and stabiliser, and not on the
 * compensation, which it is to judge.
 */
export function livelinessOf({ stretchPercent, spacing, stabiliser }: Fabric): number {
  const held = HELD.find(([name]) => name.test(stabiliser))?.[1] ?? 1;
  return (STILL + BY_STRETCH * Math.sqrt(stretchPercent) + (spacing < 0.95 ? PILE : 0)) * held;
}

/** How far the cloth gives at either end of a row of some length, in mm: as it was measured, or an assumption by the fabric. */
export function pullOf(fabric: Fabric, rowMm: number, ux = 1, uy = 0): number {
  if (fabric.pull) return measuredPull(fabric.pull, rowMm, ux, uy);
  return Math.min(0.4, 0.15 + 0.01 * rowMm) * livelinessOf(fabric);
}

/** On cloth that gives once, satin grows so much at each of its ends, in mm. */
const PUSH_MM = 0.2;

/** How far satin grows at each of its ends, in mm: as it was measured, or an assumption by the fabric. */
export const pushOf = (fabric: Fabric): number => (fabric.pull ? fabric.pushMm : PUSH_MM * livelinessOf(fabric));

/** A design as it lies when the cloth has been drawn together: what leaves the hoop. */
export function pulledDesign<T extends Sewing>(sewing: T, fabricUnder: (piece: number) => Fabric): T {
  const { x, y } = pulledTogether(sewing.stitches, fabricUnder);
  return { ...sewing, stitches: { ...sewing.stitches, x, y } };
}

/**
 * Needle points as they lie when the thread has drawn the cloth together: every straight row is shorter at both ends, and satin longer
 * at its own.
 * @param fabricUnder the fabric a piece of the list lies on
 * @returns x and y of every row of the list
 */
export function pulledTogether(
  list: StitchList,
  fabricUnder: (piece: number) => Fabric,
): { readonly x: Float32Array; readonly y: Float32Array } {
  const { count } = list;
  const dx = new Float64Array(count);
  const dy = new Float64Array(count);
  const ends = new Uint8Array(count);
  const pull = (from: number, to: number): void => {
    const length = distance(list.x[from], list.y[from], list.x[to], list.y[to]);
    if (length < LEAST_ROW_MM) return;
    const [cos, sin] = [(list.x[to] - list.x[from]) / length, (list.y[to] - list.y[from]) / length];
    const by = Math.min(pullOf(fabricUnder(list.piece[to]), length, cos, sin), length * 0.45);
    const [ux, uy] = [cos * by, sin * by];
    dx[from] += ux;
    dy[from] += uy;
    dx[to] -= ux;
    dy[to] -= uy;
    ends[from]++;
    ends[to]++;
  };
  let start = 0;
  for (let i = 1; i <= count; i++) {
    const sews = i < count && list.command[i] === STITCH;
    const goesOn = sews && i - 1 > start && isStraight(list, start, i - 1, i);
    if (goesOn) continue;
    if (i - 1 > start) pull(start, i - 1);
    start = sews ? i - 1 : i;
  }
  const x = new Float32Array(count);
  const y = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const share = ends[i] > 0 ? 1 / ends[i] : 0;
    x[i] = list.x[i] + dx[i] * share;
    y[i] = list.y[i] + dy[i] * share;
  }
  dragAlong(list, ends, x, y);
  pushEnds(list, (piece) => pushOf(fabricUnder(piece)), x, y);
  return { x, y };
}

/** Whether the stitch to a point goes on in the direction of the row so far. */
function isStraight(list: StitchList, start: number, middle: number, end: number): boolean {
  const ax = list.x[middle] - list.x[start];
  const ay = list.y[middle] - list.y[start];
  const bx = list.x[end] - list.x[middle];
  const by = list.y[end] - list.y[middle];
  const lengths = Math.sqrt((ax * ax + ay * ay) * (bx * bx + by * by));
  return lengths > 0 && (ax * bx + ay * by) / lengths > STRAIGHT;
}
