import type { StrokeAlphabet, StrokeGlyph } from '../alphabet.js';
import { ROUND_SANS } from './round-sans.js';

/** Room behind what does not run on to the next letter. */
const BEHIND = 16;

const small = (right: number, top: number, ...strokes: StrokeGlyph['strokes'][number][]): StrokeGlyph => ({
  strokes,
  left: 0,
  right,
  top: [top, 60],
});

/** Bowl of a, d, g and q, and the upright stroke on its right that runs on. */
const BOWL = 'M42 44C37 55 31 60 23 60C10 60 2 46 2 29C2 12 9 0 21 0C31 0 38 8 42 22';
const RUNS_ON = 'L42 15C42 5 46 0 52 0C58 0 63 6 66 16';
/** Arch of h and n. */
const ARCH = 'M2 34C8 50 16 60 26 60C37 60 42 52 42 40L42 15C42 5 46 0 52 0C58 0 63 6 66 16';
/** From a round letter to the next one. */
const LINK = 'M40 12C47 6 55 8 62 16';
/** From a stroke that goes below the line to the next letter. */
const HIGH_LINK = 'M42 2C50 2 58 8 62 16';
const LOOP = 'L42 -18C42 -32 34 -40 22 -40C12 -40 5 -36 0 -28';
const CUP = 'M2 60L2 22C2 8 8 0 19 0C30 0 38 8 42 22';
const FOOT = 'L2 15C2 5 6 0 12 0C18 0 23 6 26 16';

/** Small letters that run on to the next one: each ends where that begins. */
const SMALL: Readonly<Record<string, StrokeGlyph>> = {
  a: small(70, 24, BOWL, `M42 60${RUNS_ON}`),
  b: small(67, 24, 'M2 100L2 0', 'M2 22C6 8 13 0 22 0C36 0 44 14 44 30C44 46 36 60 22 60C13 60 6 52 2 38', LINK),
  c: small(60, 26, 'M42 46C38 55 32 60 23 60C10 60 2 46 2 30C2 12 11 0 25 0C38 0 48 7 56 16'),
  d: small(70, 24, `M42 100${RUNS_ON}`, BOWL),
  e: small(55, 22, 'M7 27.6C23 27 40 32 40 46C40 55 33 60 24 60C10 60 2 46 2 30C2 12 11 0 25 0C38 0 47 7 55 16'),
  f: small(38, 20, 'M40 86C38 95 33 100 27 100C18 100 14 92 14 80L14 -20C14 -32 8 -40 -2 -40', 'M0 60L34 60'),
  g: small(67, 24, `M42 60${LOOP}`, BOWL, HIGH_LINK),
  h: small(70, 24, 'M2 100L2 0', ARCH),
  i: small(31, 2, `M2 60${FOOT}`, ['M2 87L2 88', 1.25]),
  j: small(30, 14, 'M14 60L14 -20C14 -32 8 -40 -2 -40', 'M14 0C20 2 26 8 30 16', ['M14 87L14 88', 1.25]),
  k: small(60, 22, 'M2 100L2 0', 'M40 60L2 26', 'M14 37L32 8C36 2 40 0 45 0C51 0 56 6 60 16'),
  l: small(31, 4, `M2 100${FOOT}`),
  m: small(
    92,
    36,
    'M2 60L2 0',
    'M2 34C7 50 13 60 22 60C31 60 35 52 35 40L35 0',
    'M35 34C40 50 46 60 55 60C64 60 68 52 68 40L68 15C68 5 72 0 78 0C84 0 89 6 92 16',
  ),
  n: small(70, 24, 'M2 60L2 0', ARCH),
  o: small(67, 23, 'M23 60C10 60 2 46 2 30C2 14 10 0 23 0C36 0 44 14 44 30C44 46 36 60 23 60Z', LINK),
  p: small(67, 24, 'M2 60L2 -40', 'M2 38C6 52 13 60 23 60C36 60 44 46 44 30C44 14 36 0 23 0C13 0 6 8 2 22', LINK),
  q: small(67, 24, 'M42 60L42 -40', BOWL, HIGH_LINK),
  r: small(46, 22, 'M2 60L2 0', 'M2 34C8 50 16 60 26 60C33 60 38 57 41 50'),
  s: small(
    58,
    22,
    'M38 50C34 57 28 60 21 60C11 60 5 54 5 46C5 28 40 34 40 15C40 5 32 0 22 0C13 0 6 4 2 12',
    'M38 8C44 4 52 8 58 16',
  ),
  t: small(41, 12, 'M12 90L12 15C12 5 16 0 22 0C28 0 33 6 36 16', 'M0 60L28 60'),
  u: small(70, 24, CUP, `M42 60${RUNS_ON}`),
  v: small(48, 20, 'M0 60L20 0', 'M20 0L40 60'),
  w: small(72, 32, 'M0 60L16 0', 'M16 0L32 56', 'M32 56L48 0', 'M48 0L64 60'),
  x: small(52, 22, 'M2 60L42 0', 'M42 60L2 0'),
  y: small(67, 24, `M42 60${LOOP}`, CUP, HIGH_LINK),
  z: small(58, 22, 'M4 60L40 60', 'M40 60L2 0', 'M2 0L36 0C46 0 52 6 58 16'),
  ı: small(31, 2, `M2 60${FOOT}`),
};

/** Capitals, figures and signs stand by themselves. */
const ALONE = Object.fromEntries(
  Object.entries(ROUND_SANS.glyphs).map(([name, glyph]) => [
    name,
    { ...glyph, left: glyph.left - 4, right: glyph.right + BEHIND },
  ]),
);

/** A joined script of one line. */
export const LINE_SCRIPT: StrokeAlphabet = {
  ...ROUND_SANS,
  id: 'line-script',
  name: 'Line script',
  hint: 'joined and leaning, as written with a thick pen: names from 10 mm',
  weight: { usual: 0.12, least: 0.09, most: 0.16, leastMm: 1 },
  space: 40,
  leastMm: 10,
  smallLettersFromMm: 10,
  joined: true,
  slant: 10,
  glyphs: { ...ALONE, ...SMALL },
};
