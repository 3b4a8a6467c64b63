import type { PullAt } from './measured-cloth.js';
import type { Point, Points } from '../geometry/vector.js';
import type { KindFamily } from '../pieces/sewn-as.js';
import type { Column } from '../trace/column.js';
import { OFFSET_PATTERNS } from './offset-patterns.js';
import type { Fabric } from './fabrics.js';
import type { Ramp } from '../geometry/ramp.js';
import type { PieceUnderlay } from './underlay.js';

/** An option changes something only while another one is set to a value. */
export type OptionWhen = readonly [option: string, value: string];

/** A number that can be set for a stitch kind. */
export interface NumberOption {
  readonly type: 'number';
  readonly label: string;
  readonly least: number;
  readonly most: number;
  readonly step: number;
  readonly unit: 'mm' | '°' | '';
  readonly usual: number;
  readonly when?: OptionWhen;
  /** What it does, where its name does not say it all. */
  readonly note?: string;
  /** Setting of the whole design that it follows until it is set for a piece. */
  readonly follows?: SharedSetting;
}

/** One of several named ways. */
export interface ChoiceOption {
  readonly type: 'choice';
  readonly label: string;
  readonly choices: readonly { readonly id: string; readonly name: string }[];
  readonly usual: string;
  readonly when?: OptionWhen;
  readonly note?: string;
  readonly follows?: SharedSetting;
}

export type StitchOption = NumberOption | ChoiceOption;

/** Settings of the whole design that options may follow. */
export interface SharedSettings {
  readonly spacingMm: number;
  readonly satinSpacingMm: number;
  readonly fillStitchMm: number;
  readonly runStitchMm: number;
  readonly angle: number;
  readonly pattern: string;
  readonly corners: string;
}
export type SharedSetting = keyof SharedSettings;

type Options = Readonly<Record<string, StitchOption>>;
/** What options are set to. */
export type ValuesOf<O extends Options> = {
  readonly [K in keyof O]: O[K] extends NumberOption ? number : string;
};
export type OptionValues = Readonly<Record<string, number | string>>;

/** A piece as a stitch kind sees it; all in mm. */
export interface SewnShape {
  /** What is to be covered, reach under its neighbours included; closed rings, even-odd. */
  readonly rings: readonly Points[];
  /** Centre lines; only lines have them. */
  readonly runs: readonly Points[];
  /** Ladders of rungs; only columns have them. */
  readonly columns: readonly Column[];
  /** Lines that rows follow, where somebody drew some. */
  readonly guides: readonly Points[];
  readonly widthMm: number;
  readonly passes: number;
  /** A place well inside. */
  readonly middle: Point;
  /** How much of its rows is sewn from place to place, where a gradient is laid over it. */
  readonly ramp?: Ramp;
  /** How far a rung that ends at a place goes on in a direction, under a neighbour sewn later. */
  readonly reachAt?: (x: number, y: number, ux: number, uy: number) => number;
}

/** What lies below and around: it is the same for every kind. */
export interface Ground {
  readonly fabric: Fabric;
  /** Against the pull, on each side along the stitches, for this piece. */
  readonly compensationMm: number;
  /** The same row by row, where the cloth was measured and nobody set another. */
  readonly pullAt?: PullAt;
  readonly underlay: PieceUnderlay;
  readonly runStitchMm: number;
}

/** Where the needle comes from and where it goes on to, if that is known. */
export interface Way {
  readonly entry?: Point;
  readonly exit?: Point;
  /** Where the next piece of the same thread is entered, close by. */
  readonly next?: Point;
}

/** One way of sewing a piece. */
export interface StitchKind {
  readonly id: string;
  readonly name: string;
  /** One line for somebody who does not know it. */
  readonly hint: string;
  readonly family: KindFamily;
  /** Hides what is sewn below it: travel may lead under it. */
  readonly covers: boolean;
  /** Rows can follow lines drawn by hand. */
  readonly guided: boolean;
  /** Its runs are sewn one by one: ways between them along the outline would show. */
  readonly parted: boolean;
  readonly options: Options;
  /** Runs of needle points; more than one only where the piece cannot be sewn in one go. */
  readonly sew: (shape: SewnShape, values: OptionValues, ground: Ground, way: Way) => Points[];
}

/** Describes a stitch kind; `sew` gets the values of its own options, by name. */
export function stitchKind<O extends Options>(
  kind: Omit<StitchKind, 'options' | 'sew' | 'guided' | 'covers' | 'parted'> & {
    readonly parted?: boolean;
    readonly covers?: boolean;
    readonly guided?: boolean;
    readonly options: O;
    readonly sew: (shape: SewnShape, values: ValuesOf<O>, ground: Ground, way: Way) => Points[];
  },
): StitchKind {
  return { covers: false, guided: false, parted: false, ...kind, sew: kind.sew as unknown as StitchKind['sew'] };
}

/** What a piece's options are set to: by the user, else as the whole design has it, else as usual. */
export function valuesOf(kind: StitchKind, chosen: OptionValues, shared: SharedSettings): OptionValues {
  const values: Record<string, number | string> = {};
  for (const [name, option] of Object.entries(kind.options)) {
    const own = chosen[name];
    values[name] = isAllowed(option, own) ? own : option.follows ? shared[option.follows] : option.usual;
  }
  return values;
}

/** What options are set to that follow no setting of the design. */
export function valuesOfOptions(options: Options, chosen: OptionValues): OptionValues {
  return Object.fromEntries(
    Object.entries(options).map(([name, option]) => {
      const own = chosen[name];
      return [name, isAllowed(option, own) ? own : option.usual];
    }),
  );
}

/** Whether an option can be set to a value. */
export function isAllowed(option: StitchOption, value: unknown): value is number | string {
  if (option.type === 'number') return typeof value === 'number' && value >= option.least && value <= option.most;
  return option.choices.some(({ id }) => id === value);
}

const mm = (label: string, least: number, most: number, usual: number, follows?: SharedSetting): NumberOption => ({
  type: 'number',
  label,
  least,
  most,
  step: most > 5 ? 0.1 : 0.05,
  unit: 'mm',
  usual,
  follows,
});

/** Options that several kinds share. */
export const OPTION = {
  mm,
  spacing: mm('Row spacing', 0.25, 3, 0.4, 'spacingMm'),
  fillStitch: mm('Stitch in rows', 1.5, 7, 3.6, 'fillStitchMm'),
  runStitch: mm('Stitch length', 1, 5, 2.5, 'runStitchMm'),
  grain: {
    type: 'choice',
    label: 'Stitch pattern',
    choices: OFFSET_PATTERNS,
    usual: 'brick',
    follows: 'pattern',
  },
  angle: {
    type: 'number',
    label: 'Row angle',
    least: -180,
    most: 180,
    step: 1,
    unit: '°',
    usual: 0,
    follows: 'angle',
  },
} as const satisfies Record<string, StitchOption | typeof mm>;
