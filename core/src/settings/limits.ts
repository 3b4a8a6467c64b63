import { LARGEST_SIDE_MM } from '../picture/frame.js';

/** Least and most of every number a user can set; the interface and the command line read them from here. */
export const LIMITS = {
  widthMm: [5, LARGEST_SIDE_MM],
  heightMm: [5, LARGEST_SIDE_MM],
  placeMm: [-LARGEST_SIDE_MM, LARGEST_SIDE_MM],
  turn: [-180, 180],
  groundTolerance: [0, 40],
  noise: [0, 100],
  black: [0, 254],
  white: [1, 255],
  gamma: [0.2, 4],
  brightness: [-100, 100],
  contrast: [-100, 100],
  warmth: [-100, 100],
  saturation: [-100, 100],
  sharpness: [0, 100],
  threshold: [0, 255],
  count: [1, 60],
  smallestSpotMm2: [0, 25],
  strictnessMm: [0.03, 1],
  cornerSharpness: [0.3, 2],
  smallestMm2: [0, 50],
  lineBelowMm: [0, 3],
  satinBelowMm: [0, 10],
  keepBelowMm: [0, 100],
  spacingMm: [0.25, 3],
  angle: [-180, 180],
  angleStep: [0, 90],
  fillStitchMm: [1.5, 7],
  runStitchMm: [1, 5],
  severalAcross: [1, 20],
  severalDown: [1, 20],
  severalGapMm: [0, 100],
  needles: [1, 24],
  trimOverMm: [1, 20],
  satinSpacingMm: [0.25, 1.5],
  compensationMm: [0, 1],
  overlapMm: [0, 3],
  lineWidthMm: [0.1, 20],
  outlineMm: [0.2, 12],
  offsetMm: [-30, 30],
  lettersMm: [2, 200],
  textRadiusMm: [3, 400],
  letterSpacingMm: [-10, 40],
  wordSpacing: [0, 5],
  lineSpacing: [0.3, 4],
  slant: [-30, 30],
  ringMm: [0, 200],
  budget: [1, 400_000],
} as const satisfies Record<string, readonly [number, number]>;

export type LimitName = keyof typeof LIMITS;

/** Points a path may have, and paths a shape. */
export const MOST_NODES = 4000;
export const MOST_PATHS = 200;
