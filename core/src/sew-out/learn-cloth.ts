import { median } from '../geometry/median.js';
import type { MeasuredCloth, MeasuredPull } from '../stitches/measured-cloth.js';
import { solve } from './lay-over.js';
import type { Measurement } from './measure.js';

/** Rows this much alike in length are one length. */
const ALIKE_MM = 0.45;
const ALIKE_SHARE = 0.06;
/** Below this a part of the direction was not measured. */
const HARDLY = 0.05;

type Part = 'acrossMm' | 'downMm' | 'slantMm';
const PARTS: readonly Part[] = ['acrossMm', 'downMm', 'slantMm'];

/** Pull at either end of a row that was measured. */
interface Row {
  readonly lengthMm: number;
  readonly ux: number;
  readonly uy: number;
  readonly pullMm: number;
}

/** What measurements say of a cloth; undefined where no width was among them. */
export function learnCloth(name: string, measured: readonly Measurement[]): MeasuredCloth | undefined {
  const rows = measured.flatMap(({ kind, rowMm, ux, uy, asDrawnMm, asSewnMm }): Row[] =>
    kind === 'width' ? [{ lengthMm: rowMm, ux, uy, pullMm: (asDrawnMm - asSewnMm) / 2 }] : [],
  );
  if (rows.length === 0) return undefined;
  const grown = measured.flatMap(({ kind, asDrawnMm, asSewnMm }) =>
    kind === 'length' ? [(asSewnMm - asDrawnMm) / 2] : [],
  );
  const gaps = measured.flatMap(({ kind, asDrawnMm, asSewnMm }) => (kind === 'gap' ? [asSewnMm - asDrawnMm] : []));
  return {
    name,
    pull: pullOfRows(rows),
    pushMm: grown.length > 0 ? rounded(upperQuartile(grown)) : 0,
    gapMm: gaps.length > 0 ? rounded(Math.max(0, median(gaps))) : null,
  };
}

/** Ends at which the thread leads on are held back by it: free ends are in the upper half. */
const upperQuartile = (values: readonly number[]): number =>
  values.toSorted((a, b) => a - b)[Math.floor(0.75 * (values.length - 1))];

const rounded = (mm: number): number => Math.round(mm * 1000) / 1000;

/** Pull by length; where a direction was not measured at one length it is in the proportion it has at the others. */
function pullOfRows(rows: readonly Row[]): MeasuredPull[] {
  const groups = byLength(rows);
  const known = groups.map(({ lengthMm, rows: own }) => ({ lengthMm, ...partsOf(own) }));
  // Each part of a direction against the mean of what was measured with it.
  const share = (part: Part): number => {
    let [own, others] = [0, 0];
    for (const group of known) {
      const value = group[part];
      if (value === undefined) continue;
      const beside = PARTS.flatMap((p) => (group[p] === undefined ? [] : [group[p]]));
      if (beside.length < 2) continue;
      own += value;
      others += meanOf(beside);
    }
    return others > 0 ? own / others : 1;
  };
  const shares: Record<Part, number> = {
    acrossMm: share('acrossMm'),
    downMm: share('downMm'),
    slantMm: share('slantMm'),
  };
  return known.map((group) => {
    const level = meanOf(PARTS.flatMap((p) => (group[p] === undefined ? [] : [group[p] / shares[p]])));
    const at = (part: Part): number => rounded(group[part] ?? level * shares[part]);
    return {
      lengthMm: rounded(group.lengthMm),
      acrossMm: at('acrossMm'),
      downMm: at('downMm'),
      slantMm: at('slantMm'),
    };
  });
}

const meanOf = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length;

/** Rows of one length together, the shortest first. */
function byLength(rows: readonly Row[]): { lengthMm: number; rows: Row[] }[] {
  const groups: Row[][] = [];
  for (const row of rows.toSorted((a, b) => a.lengthMm - b.lengthMm)) {
    const group = groups.at(-1);
    const first = group?.[0].lengthMm ?? 0;
    if (group && row.lengthMm - first <= Math.max(ALIKE_MM, first * ALIKE_SHARE)) group.push(row);
    else groups.push([row]);
  }
  return groups.map((group) => ({ lengthMm: median(group.map(({ lengthMm }) => lengthMm)), rows: group }));
}

/** One row a direction: the middle of those that were measured in it, so that a thread across one place changes nothing. */
function byDirection(rows: readonly Row[]): Row[] {
  const groups = new Map<string, Row[]>();
  for (const row of rows) {
    const way = `${Math.round(row.ux * row.ux * 20)} ${Math.round(row.ux * row.uy * 20)}`;
    groups.set(way, [...(groups.get(way) ?? []), row]);
  }
  return [...groups.values()].map((group) => ({ ...group[0], pullMm: median(group.map(({ pullMm }) => pullMm)) }));
}

/**
 * The pull across, down and on the slant that explains rows best. Each row has some of each in its direction; what none of them has much
 * of stays unknown.
 */
function partsOf(all: readonly Row[]): Partial<Record<Part, number>> {
  const rows = byDirection(all);
  const weights = rows.map(({ ux, uy }) => {
    const [xx, yy] = [ux * ux, uy * uy];
    const slant = 4 * xx * yy;
    return [xx - slant / 2, yy - slant / 2, slant];
  });
  const parts = PARTS.map((_, p) => p).filter((p) => weights.some((w) => Math.abs(w[p]) > 0.5 + HARDLY));
  const settled = parts.length > 0 ? parts : [0];
  // What is not settled goes with what is: the parts of a direction are one together.
  const shared = weights.map((w) => {
    const whole = settled.reduce((sum, p) => sum + w[p], 0);
    return w.map((v) => v / (Math.abs(whole) > HARDLY ? whole : 1));
  });
  const equations = settled.map((p) => [
    ...settled.map((q) => shared.reduce((sum, w) => sum + w[p] * w[q], 0)),
    shared.reduce((sum, w, k) => sum + w[p] * rows[k].pullMm, 0),
  ]);
  const found = solve(equations);
  return Object.fromEntries(settled.map((p, k) => [PARTS[p], found[k]]));
}
