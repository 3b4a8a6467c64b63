/** A mark that stands for a thread on a chart: an SVG path in a square of side 1, and whether it is filled. */
export interface ChartSymbol {
  readonly path: string;
  readonly filled: boolean;
}

const round = (v: number): string => String(Number(v.toFixed(3)));

/** A closed ring of corners around the middle, the first straight up; every second one nearer where `inner` is given. */
function ringOf(corners: number, radius: number, inner?: number, turn = 0): string {
  const n = inner === undefined ? corners : corners * 2;
  const points = Array.from({ length: n }, (_, k) => {
    const angle = (2 * Math.PI * k) / n - Math.PI / 2 + turn;
    const r = inner !== undefined && k % 2 === 1 ? inner : radius;
    return `${round(0.5 + r * Math.cos(angle))} ${round(0.5 + r * Math.sin(angle))}`;
  });
  return `M${points.join('L')}Z`;
}

const disc = (radius: number): string =>
  `M${round(0.5 - radius)} 0.5A${radius} ${radius} 0 1 1 ${round(0.5 + radius)} 0.5A${radius} ${radius} 0 1 1 ${round(0.5 - radius)} 0.5Z`;

/** Shapes with an inside, each told from the others at a glance. */
const SHAPES: readonly string[] = [
  disc(0.32),
  'M0.2 0.2L0.8 0.2L0.8 0.8L0.2 0.8Z',
  ringOf(4, 0.4),
  ringOf(3, 0.4),
  ringOf(3, 0.4, undefined, Math.PI),
  ringOf(3, 0.4, undefined, Math.PI / 2),
  ringOf(3, 0.4, undefined, -Math.PI / 2),
  ringOf(5, 0.42, 0.17),
  ringOf(4, 0.43, 0.14),
  ringOf(6, 0.38),
  'M0.15 0.5A0.35 0.35 0 0 1 0.85 0.5Z',
  'M0.15 0.5A0.35 0.35 0 0 0 0.85 0.5Z',
  'M0.5 0.15A0.35 0.35 0 0 0 0.5 0.85Z',
  'M0.5 0.15A0.35 0.35 0 0 1 0.5 0.85Z',
  'M0.5 0.12C0.5 0.3 0.78 0.45 0.78 0.62A0.28 0.26 0 1 1 0.22 0.62C0.22 0.45 0.5 0.3 0.5 0.12Z',
  'M0.12 0.36L0.88 0.36L0.88 0.64L0.12 0.64Z',
  'M0.36 0.12L0.64 0.12L0.64 0.88L0.36 0.88Z',
];

const DOT = disc(0.08);

/** Marks of lines only. */
const LINES: readonly string[] = [
  'M0.5 0.15L0.5 0.85M0.15 0.5L0.85 0.5',
  'M0.2 0.2L0.8 0.8M0.8 0.2L0.2 0.8',
  'M0.2 0.2L0.8 0.8',
  'M0.8 0.2L0.2 0.8',
  'M0.15 0.5L0.85 0.5',
  'M0.5 0.15L0.5 0.85',
  'M0.2 0.7L0.5 0.25L0.8 0.7',
  'M0.2 0.3L0.5 0.75L0.8 0.3',
  'M0.7 0.2L0.25 0.5L0.7 0.8',
  'M0.3 0.2L0.75 0.5L0.3 0.8',
  'M0.15 0.36L0.85 0.36M0.15 0.64L0.85 0.64',
  'M0.36 0.15L0.36 0.85M0.64 0.15L0.64 0.85',
  'M0.2 0.2L0.8 0.2L0.2 0.8L0.8 0.8',
  'M0.2 0.2L0.2 0.8L0.8 0.8',
  'M0.2 0.2L0.8 0.2L0.8 0.8',
];

/**
 * Marks for the threads of a chart, in the order they are given out; more than a chart may have threads. The first thread is
 * mostly the one with the most cells: it gets the mark with the least ink.
 */
export const CHART_SYMBOLS: readonly ChartSymbol[] = [
  { path: disc(0.11), filled: true },
  ...SHAPES.map((path) => ({ path, filled: true })),
  ...LINES.map((path) => ({ path, filled: false })),
  ...SHAPES.map((path) => ({ path, filled: false })),
  ...SHAPES.map((path) => ({ path: path + DOT, filled: false })),
];

export const symbolOf = (thread: number): ChartSymbol => CHART_SYMBOLS[thread % CHART_SYMBOLS.length];
