import type { Points } from '../../geometry/vector.js';
import { joinStretches } from '../join-stretches.js';
import { linkRows, type Stretch } from './link-rows.js';
import type { WideRow } from './wide-row.js';
import { ROW_STEP_MM, stretchesOf } from './row-lines.js';

/** How the eye mixes rows: a Gaussian of 0.5 mm. */
export const SIGMA_MM = 0.5;
/** What a line of thread covers by itself, before it is any wider. */
const OWN_MM = 0.15;

/**
 * Half of the width of a row that covers a share, before it was drawn and measured.
 * @param widest the most it may be, in shares of the distance of rows
 */
export const halfFor = (share: number, gapMm: number, widest: number): number =>
  Math.min(widest * gapMm, Math.max(0, (share * gapMm - OWN_MM) / 2));

export interface SewingOfRows {
  /** Way along the row from one needle point to the next at the same side. */
  readonly pitchMm: number;
  /** How far upper needle points run ahead of the lower ones, as an angle. */
  readonly slant: number;
  /** Ways up to this are sewn, over more the thread is cut. */
  readonly trimOverMm: number;
}

/** No zigzag stitch is shorter. */
const LEAST_STITCH_MM = 0.515;
/** Narrower rows are a running line. */
const LINE_MM = 0.16;
const LINE_STITCH_MM = 3;
/** Stretches shorter than this are not sewn. */
const SHORTEST_MM = 1.6;

/** Sews rows, to and fro where they end near each other. */
export function sewRows(rows: readonly WideRow[], settings: SewingOfRows): Points[] {
  const stretches: Points[] = [];
  const parts: Stretch[] = [];
  for (const row of rows) {
    for (const [from, to] of stretchesOf(row.sewn.length, (i) => row.sewn[i] === 1)) {
      if ((to - from) * ROW_STEP_MM < SHORTEST_MM) continue;
      stretches.push(sewStretch(row, from, to, settings));
      parts.push({ row, from, to });
    }
  }
  return joinStretches(stretches, settings.trimOverMm, (a, endA, b, endB) => linkRows(parts[a], endA, parts[b], endB));
}

/** Needle points of a row from one place to another, above and below it in turn. */
function sewStretch({ line, up, down }: WideRow, from: number, to: number, settings: SewingOfRows): Points {
  const lean = Math.tan((settings.slant * Math.PI) / 180);
  const points: Points = [];
  const put = (at: number, side: number): void => {
    const i = Math.min(to, Math.max(from, at));
    const k = Math.min(to - 1, Math.floor(i));
    const t = i - k;
    const between = (list: Float32Array): number => list[k] + (list[k + 1] - list[k]) * t;
    const ax = between(line.acrossX);
    const ay = between(line.acrossY);
    const aside = side > 0 ? between(up) : side < 0 ? -between(down) : 0;
    // Along the row is what is across turned back by a quarter.
    const ahead = aside * lean;
    points.push(between(line.x) + ax * aside - ay * ahead, between(line.y) + ay * aside + ax * ahead);
  };
  const widthAt = (i: number): number => {
    const k = Math.min(to, Math.round(i));
    return up[k] + down[k];
  };
  let at = from;
  let side = 1;
  for (;;) {
    const wide = widthAt(at);
    const isLine = wide < LINE_MM;
    put(at, isLine ? 0 : side);
    side = -side;
    if (at >= to) break;
    let stepMm: number;
    if (isLine) {
      // A running line ends where the row widens.
      let next = Math.floor(at) + 1;
      const far = Math.min(to, at + LINE_STITCH_MM / ROW_STEP_MM);
      while (next < far && widthAt(next) < LINE_MM) next++;
      stepMm = Math.max(LEAST_STITCH_MM, (next - at) * ROW_STEP_MM);
    } else {
      stepMm = settings.pitchMm / 2;
      if (wide < LEAST_STITCH_MM) {
        // Of a slanted zigzag every other stitch goes back along the row.
        stepMm = Math.max(stepMm, Math.sqrt(LEAST_STITCH_MM ** 2 - wide * wide) - side * wide * lean);
      }
    }
    const rest = (to - at) * ROW_STEP_MM - stepMm;
    at = rest < stepMm / 2 ? to : at + stepMm / ROW_STEP_MM;
  }
  return points;
}
