/** How far a cloth gives at either end of a row of some length, in mm, by the direction the row runs in. */
export interface MeasuredPull {
  readonly lengthMm: number;
  /** Rows across the cloth, and rows down it. */
  readonly acrossMm: number;
  readonly downMm: number;
  /** Rows on the slant between both. */
  readonly slantMm: number;
}

/** What was measured on a sewn card: from then on it stands in for what is assumed of the fabric. */
export interface MeasuredCloth {
  readonly name: string;
  /** By length of row, the shortest first. */
  readonly pull: readonly MeasuredPull[];
  /** So much longer satin became at each of its ends, in mm. */
  readonly pushMm: number;
  /** Width of the gap between two fields that were sewn edge to edge; null where none was measured. */
  readonly gapMm: number | null;
}

/** Pull at either end of a row of some length that runs in a direction, in mm. */
export type PullAt = (lengthMm: number, ux: number, uy: number) => number;

/** Most lengths of row a cloth is measured at. */
export const MOST_PULLS = 24;

/**
 * Pull at either end of a row, in mm: between two lengths that were measured it changes evenly, beyond them it stays.
 * @param ux direction of the row, a unit vector with uy; x runs across the cloth
 */
export function measuredPull(pull: readonly MeasuredPull[], lengthMm: number, ux: number, uy: number): number {
  const last = pull.length - 1;
  const next = pull.findIndex((row) => row.lengthMm >= lengthMm);
  if (next === 0) return inDirection(pull[0], ux, uy);
  if (next < 0) return inDirection(pull[last], ux, uy);
  const [a, b] = [pull[next - 1], pull[next]];
  const t = (lengthMm - a.lengthMm) / (b.lengthMm - a.lengthMm);
  const [from, to] = [inDirection(a, ux, uy), inDirection(b, ux, uy)];
  return from + (to - from) * t;
}

/** From both straight directions by the squares of the direction's parts; the slant is what it was measured to be at 45 degrees. */
function inDirection({ acrossMm, downMm, slantMm }: MeasuredPull, ux: number, uy: number): number {
  const [xx, yy] = [ux * ux, uy * uy];
  return acrossMm * xx + downMm * yy + (slantMm - (acrossMm + downMm) / 2) * 4 * xx * yy;
}

/** Mean pull over all directions. */
export function meanPull(pull: readonly MeasuredPull[], lengthMm: number): number {
  const at = (ux: number, uy: number): number => measuredPull(pull, lengthMm, ux, uy);
  return (at(1, 0) + at(0, 1) + 2 * at(Math.SQRT1_2, Math.SQRT1_2)) / 4;
}
