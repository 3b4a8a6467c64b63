/** How needle points move along from row to row, in stitch lengths: what the eye sees as the grain of a fill. */
export interface OffsetPattern {
  readonly id: string;
  readonly name: string;
  /** Shift of a row, from 0 to 1. */
  readonly offset: (row: number) => number;
}

const cycle =
  (...steps: readonly number[]) =>
  (row: number): number =>
    steps[((row % steps.length) + steps.length) % steps.length];

const share = (value: number): number => value - Math.floor(value);

/** The fractional part of multiples of the golden section: spread evenly, and never the same twice. */
const GOLDEN = 0.6180339887498949;

/** Grains of a tatami fill. Neighbouring rows differ by at least a tenth of a stitch, but for furrows, which are meant. */
export const OFFSET_PATTERNS: readonly OffsetPattern[] = [
  { id: 'brick', name: 'Brick, quarters', offset: cycle(0, 0.5, 0.25, 0.75) },
  { id: 'half', name: 'Brick, halves', offset: cycle(0, 0.5) },
  { id: 'third', name: 'Brick, thirds', offset: cycle(0, 1 / 3, 2 / 3) },
  { id: 'stairs', name: 'Stairs', offset: (row) => share(row * 0.2) },
  { id: 'slope', name: 'Slope', offset: (row) => share(row * 0.875) },
  { id: 'ripple', name: 'Ripple', offset: cycle(0, 0.12, 0.26, 0.42, 0.58, 0.42, 0.26, 0.12) },
  { id: 'chevron', name: 'Chevron', offset: cycle(0, 0.17, 0.33, 0.5, 0.67, 0.83, 0.67, 0.5, 0.33, 0.17) },
  { id: 'weave', name: 'Basket weave', offset: cycle(0, 0.12, 0, 0.12, 0.5, 0.62, 0.5, 0.62) },
  { id: 'twill', name: 'Twill', offset: cycle(0, 0.375, 0.75, 0.125, 0.5, 0.875, 0.25, 0.625) },
  { id: 'sand', name: 'Sand, no grain', offset: (row) => share(row * GOLDEN) },
  { id: 'furrow', name: 'Furrows', offset: () => 0 },
];

/** Looks a pattern up; the first where there is none of that name. */
export const offsetPattern = (id: string): OffsetPattern =>
  OFFSET_PATTERNS.find((pattern) => pattern.id === id) ?? OFFSET_PATTERNS[0];
