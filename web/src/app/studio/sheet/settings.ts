import { LIMITS, PLAIN_LIGHT, type LimitName, type PictureView } from '@open-kite/core';
import type { Draft } from '../../project/history';

/** A number of the recipe that is set by a slider. */
export interface Setting {
  readonly label: string;
  /** Name of the change, as undo calls it. */
  readonly name: string;
  readonly limit: LimitName;
  /** Where the slider ends, if that is before the limit: typed values may go on. */
  readonly slidesTo?: number;
  readonly step?: number;
  readonly digits?: number;
  /** `length` unless said: follows the unit chosen. */
  readonly unit?: string;
  readonly read: (recipe: PictureView) => number;
  readonly write: (recipe: Draft<PictureView>, value: number) => void;
  /** Value a double click goes back to. */
  readonly resting?: number;
  /** Figures shown below it. */
  readonly cost?: 'outline' | 'trims';
}

/** Ends of a slider. */
export const endsOf = ({ limit, slidesTo }: Setting): { min: number; max: number } => ({
  min: LIMITS[limit][0],
  max: slidesTo ?? LIMITS[limit][1],
});

const light = (
  label: string,
  key: Exclude<keyof PictureView['light'], 'tone'>,
  more: Partial<Setting> = {},
): Setting => ({
  label,
  name: label.toLowerCase(),
  limit: key,
  step: 1,
  digits: 0,
  unit: '',
  resting: PLAIN_LIGHT[key],
  read: (r) => r.light[key],
  write: (r, v) => (r.light[key] = v),
  ...more,
});

/** Controls of the light, in the order they work. */
export const LIGHT: readonly Setting[] = [
  light('Noise removal', 'noise'),
  light('Gamma', 'gamma', { step: 0.05, digits: 2, slidesTo: 3 }),
  light('Brightness', 'brightness'),
  light('Contrast', 'contrast'),
  light('Warmth', 'warmth'),
  light('Saturation', 'saturation'),
  light('Sharpness', 'sharpness'),
];

export const POINTS: readonly Setting[] = [
  light('Black point', 'black', { write: (r, v) => (r.light.black = Math.min(v, r.light.white - 1)) }),
  light('White point', 'white', { write: (r, v) => (r.light.white = Math.max(v, r.light.black + 1)) }),
];

export const THRESHOLD: Setting = light('Ink below', 'threshold');

export const GROUND_TOLERANCE: Setting = {
  label: 'Also colours this near',
  name: 'ground tolerance',
  limit: 'groundTolerance',
  slidesTo: 25,
  step: 0.5,
  unit: ' ΔE',
  resting: 3,
  read: (r) => r.picture.groundTolerance,
  write: (r, v) => (r.picture.groundTolerance = v),
};

export const SPOT: Setting = {
  label: 'Smallest spot',
  name: 'smallest spot',
  limit: 'smallestSpotMm2',
  slidesTo: 10,
  step: 0.1,
  unit: ' mm²',
  read: (r) => r.colours.smallestSpotMm2,
  write: (r, v) => (r.colours.smallestSpotMm2 = v),
};

export const OUTLINE: readonly Setting[] = [
  {
    label: 'Outline may leave the edge by',
    name: 'strictness',
    limit: 'strictnessMm',
    digits: 2,
    read: (r) => r.pieces.strictnessMm,
    write: (r, v) => (r.pieces.strictnessMm = v),
    cost: 'outline',
  },
  {
    label: 'Corner sharpness',
    name: 'corner sharpness',
    limit: 'cornerSharpness',
    step: 0.05,
    digits: 2,
    unit: '×',
    read: (r) => r.pieces.cornerSharpness,
    write: (r, v) => (r.pieces.cornerSharpness = v),
  },
];

export const SMALLEST: Setting = {
  label: 'Smallest piece',
  name: 'smallest piece',
  limit: 'smallestMm2',
  slidesTo: 20,
  step: 0.1,
  unit: ' mm²',
  read: (r) => r.pieces.smallestMm2,
  write: (r, v) => (r.pieces.smallestMm2 = v),
};

export const HIDDEN: Setting = {
  label: 'Sew through below what is up to',
  name: 'sewn through below',
  limit: 'keepBelowMm',
  slidesTo: 20,
  step: 0.5,
  read: (r) => r.pieces.keepBelowMm,
  write: (r, v) => (r.pieces.keepBelowMm = v),
};

export const STITCHES: readonly Setting[] = [
  {
    label: 'Row spacing',
    name: 'row spacing',
    limit: 'spacingMm',
    slidesTo: 1.5,
    digits: 2,
    read: (r) => r.stitches.spacingMm,
    write: (r, v) => (r.stitches.spacingMm = v),
  },
  {
    label: 'Satin spacing',
    name: 'satin spacing',
    limit: 'satinSpacingMm',
    slidesTo: 1,
    digits: 2,
    read: (r) => r.stitches.satinSpacingMm,
    write: (r, v) => (r.stitches.satinSpacingMm = v),
  },
  {
    label: 'Row angle',
    name: 'row angle',
    limit: 'angle',
    step: 1,
    digits: 0,
    unit: '°',
    read: (r) => r.stitches.angle,
    write: (r, v) => (r.stitches.angle = v),
  },
  {
    label: 'Neighbours differ by at least',
    name: 'turn',
    limit: 'angleStep',
    step: 1,
    digits: 0,
    unit: '°',
    read: (r) => r.stitches.angleStep,
    write: (r, v) => (r.stitches.angleStep = v),
  },
  {
    label: 'Stitch in fills',
    name: 'fill stitch',
    limit: 'fillStitchMm',
    step: 0.1,
    read: (r) => r.stitches.fillStitchMm,
    write: (r, v) => (r.stitches.fillStitchMm = v),
  },
  {
    label: 'Stitch in lines',
    name: 'line stitch',
    limit: 'runStitchMm',
    step: 0.1,
    read: (r) => r.stitches.runStitchMm,
    write: (r, v) => (r.stitches.runStitchMm = v),
  },
];

export const TRAVEL: readonly Setting[] = [
  {
    label: 'Trim beyond',
    name: 'trim distance',
    limit: 'trimOverMm',
    step: 0.5,
    read: (r) => r.order.trimOverMm,
    write: (r, v) => (r.order.trimOverMm = v),
    cost: 'trims',
  },
];
