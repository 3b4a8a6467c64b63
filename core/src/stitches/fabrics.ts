import { meanPull, type MeasuredCloth, type MeasuredPull } from './measured-cloth.js';

/** How much is laid below the top stitches: on still cloth little, on lively or deep cloth more. */
export type Underlay = 'light' | 'usual' | 'firm';

/** A fabric and what it asks of the stitches. */
export interface Fabric {
  readonly id: string;
  readonly name: string;
  readonly hex: string;
  /** Pull compensation on each side of a row, in mm. */
  readonly compensationMm: number;
  /** Rows lie this many times the set spacing apart: deep cloth swallows thread. */
  readonly spacing: number;
  readonly underlay: Underlay;
  /** So much longer satin becomes at each of its ends, in mm: columns are sewn that much shorter. */
  readonly pushMm: number;
  readonly stretchPercent: number;
  readonly stabiliser: string;
  readonly topping: string;
  readonly needle: string;
  /** Pull that was measured on this very cloth, in place of what is assumed. */
  readonly pull?: readonly MeasuredPull[];
  /** Width of the gap that was measured between fields sewn edge to edge. */
  readonly gapMm?: number;
}

/** The cloth of a design: a fabric that is known, and what was measured on it, if anything was. */
export interface FabricChoice {
  readonly fabric: string;
  readonly measured?: MeasuredCloth;
}

type Row = readonly [
  id: string,
  name: string,
  hex: string,
  compensationMm: number,
  spacing: number,
  underlay: Underlay,
  pushMm: number,
  stretchPercent: number,
  stabiliser: string,
  topping: string,
  needle: string,
];

const ROWS: readonly Row[] = [
  ['felt', 'Wool felt', '#e4dccb', 0.1, 1, 'light', 0.2, 1, 'tear-away, light', 'none', '80/12 sharp'],
  ['poplin', 'Poplin', '#f3f1ec', 0.15, 1.05, 'usual', 0.2, 2, 'tear-away, medium', 'none', '75/11 sharp'],
  [
    'quilting-cotton',
    'Quilting cotton',
    '#f4f1ea',
    0.2,
    1,
    'usual',
    0.2,
    2,
    'tear-away, medium',
    'none',
    '75/11 sharp',
  ],
  ['linen', 'Linen', '#e6dcc6', 0.2, 1, 'usual', 0.2, 2, 'tear-away, medium', 'none', '80/12 sharp'],
  ['twill', 'Cotton twill', '#d9d2c3', 0.2, 1, 'usual', 0.2, 2, 'tear-away, medium', 'none', '80/12 sharp'],
  ['denim', 'Denim', '#4a5c74', 0.2, 1, 'usual', 0.2, 3, 'tear-away, medium', 'none', '90/14 sharp'],
  ['canvas', 'Sail canvas', '#e9e1cf', 0.15, 1, 'light', 0.2, 1, 'tear-away, heavy', 'none', '90/14 sharp'],
  ['satin-cloth', 'Satin cloth', '#ece4e6', 0.2, 1.05, 'usual', 0.25, 3, 'cut-away, light', 'none', '70/10 sharp'],
  ['softshell', 'Softshell', '#3c4650', 0.25, 1, 'usual', 0.3, 8, 'cut-away, medium', 'none', '80/12 sharp'],
  ['jersey', 'Jersey', '#e8e6e1', 0.35, 1, 'firm', 0.4, 25, 'cut-away, medium', 'film', '75/11 ball point'],
  ['pique', 'Pique', '#f0efea', 0.35, 0.95, 'firm', 0.4, 20, 'cut-away, medium', 'film', '75/11 ball point'],
  ['towelling', 'Towelling', '#f1ece2', 0.35, 0.9, 'firm', 0.4, 10, 'cut-away, medium', 'film', '80/12 ball point'],
  ['fleece', 'Fleece', '#c9ced1', 0.45, 0.9, 'firm', 0.5, 20, 'cut-away, heavy', 'film', '80/12 ball point'],
  ['stretch', 'Stretch knit', '#dcdde2', 0.45, 1, 'firm', 0.5, 60, 'cut-away, heavy', 'film', '70/10 ball point'],
];

/** Fabrics the application knows, from still to lively. */
export const FABRICS: readonly Fabric[] = ROWS.map(
  ([id, name, hex, compensationMm, spacing, underlay, pushMm, stretchPercent, stabiliser, topping, needle]) => ({
    id,
    name,
    hex,
    compensationMm,
    spacing,
    underlay,
    pushMm,
    stretchPercent,
    stabiliser,
    topping,
    needle,
  }),
);

/** How far a piece reaches under a neighbour sewn later: the pull opens at most that much between them. */
export const overlapOf = (compensationMm: number): number => 2 * compensationMm + 0.2;

/** Seen over the gap that was measured, so that it closes wherever it is a little wider. */
const OVER_GAP_MM = 0.2;

/**
 * Overlap a fabric asks for.
 * @param set pull compensation that was set for the whole design; null is the fabric's own
 */
export const overlapOn = ({ compensationMm, gapMm }: Fabric, set: number | null): number =>
  set === null && gapMm !== undefined ? gapMm + OVER_GAP_MM : overlapOf(set ?? compensationMm);

/** Long stitches are pulled in more than short ones: a fabric's compensation, and a little more, by their length. */
export function compensationFor(fabricMm: number, stitchMm: number): number {
  return fabricMm * Math.min(1.1, Math.max(1, 0.5 + 0.12 * stitchMm));
}

/** On pile and on knits satin stands closer, as the rows of fills do; on firm cloth it stays as it is set. */
export const satinSpacingOn = ({ spacing }: Fabric): number => Math.min(1, spacing);

/** On pile and knits thin lines sink: so much wider they are laid there, in mm. */
const SINKING_LINE_MM = 0.25;
export const lineWiderOn = ({ spacing }: Fabric): number => (spacing < 1 ? SINKING_LINE_MM : 0);

/** A fabric by what may be its name. */
export const fabricNamed = (id: unknown): Fabric | undefined => FABRICS.find((fabric) => fabric.id === id);

/**
 * Looks a fabric up.
 * @throws RangeError if there is none of that name; the message lists those there are.
 */
export function fabricOf(id: string): Fabric {
  const found = fabricNamed(id);
  if (!found) throw new RangeError(`fabric: there is no "${id}"; known are ${FABRICS.map((f) => f.id).join(', ')}`);
  return found;
}

/** Rows this long stand for all where one figure is asked for. */
const USUAL_ROW_MM = 4.2;

/**
 * The fabric of a design, as it was measured where it was.
 * @throws RangeError if there is no fabric of that name
 */
export function fabricOn({ fabric: id, measured }: FabricChoice): Fabric {
  const fabric = fabricOf(id);
  if (!measured) return fabric;
  const { name, pull, pushMm, gapMm } = measured;
  const compensationMm = Number(Math.max(0, meanPull(pull, USUAL_ROW_MM)).toFixed(3));
  return { ...fabric, name, compensationMm, pushMm, pull, gapMm: gapMm ?? undefined };
}
