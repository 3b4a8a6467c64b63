import { ciede2000, linearToLab } from '../colour/ciede2000.js';
import type { Chart } from '../colour/charts.js';
import { linearOf, toHex } from '../colour/srgb.js';
import { seededRandom } from '../geometry/chance.js';
import { toEnd } from '../geometry/pauses.js';
import { chartPalette } from './chart-palette.js';
import type { SmallPicture } from './dither.js';
import type { PaletteThread } from './palette-thread.js';
import { WovenJudge } from './woven-judge.js';

const CLOTH = '#f4f1ea';
const SIDE = 24;

/** Bands of colours that fade into each other from left to right. */
function bands(hexes: readonly string[]): SmallPicture {
  const colours = hexes.map((hex) => linearOf(hex));
  const data = new Float32Array(SIDE * SIDE * 3);
  for (let i = 0; i < SIDE * SIDE; i++) {
    const at = ((i % SIDE) / (SIDE - 1)) * (hexes.length - 1);
    const k = Math.min(hexes.length - 2, Math.floor(at));
    for (let c = 0; c < 3; c++) data[i * 3 + c] = colours[k][c] + (colours[k + 1][c] - colours[k][c]) * (at - k);
  }
  return { width: SIDE, height: SIDE, data };
}

const WANTED = ['#203040', '#7a5a40', '#c8a070', '#e8dcc0'];

/** The colours that are wanted, each turned a little, among many others. */
function chartOf(seed: number): Chart {
  const random = seededRandom(seed);
  const others = Array.from({ length: 80 }, () => toHex({ r: random() * 255, g: random() * 255, b: random() * 255 }));
  const threads = others.map((hex, i) => ({ code: `T${i}`, name: `Thread ${i}`, hex, weight: 40, finish: 'matt' }));
  return { id: 'made-up', name: 'Made up', threads };
}

describe('the woven judge', () => {
  const judge = new WovenJudge(bands(WANTED), CLOTH);
  const error = (hexes: readonly string[]): number => judge.try(hexes.map((hex) => linearOf(hex))).error;

  it('tells threads of the picture from others', () => {
    const own = error(WANTED);
    expect(own).toBeLessThan(error(WANTED.slice(0, 3)));
    expect(own).toBeLessThan(error(['#c82020', '#20c820', '#2020c8', '#c8c820']) / 3);
  });

  it('comes to much the same from cells that are settled already', () => {
    const start = judge.try(WANTED.map((hex) => linearOf(hex)));
    const next = WANTED.with(1, '#806048').map((hex) => linearOf(hex));
    expect(judge.try(next, start).error).toBeCloseTo(judge.try(next).error, 0);
    expect(start.cells.length).toBe(SIDE * SIDE);
  });

  it('knows how far a thread is from each cell', () => {
    const picture = bands(WANTED);
    const near = linearOf('#223243');
    const far = judge.distances(near);
    const first = linearToLab(picture.data[0], picture.data[1], picture.data[2]);
    expect(far[0]).toBeCloseTo(ciede2000(first, linearToLab(...near)), 0);
    expect(far[SIDE - 1]).toBeGreaterThan(far[0] * 5);
  });
});

describe('a palette of charts', () => {
  const picture = bands(WANTED);
  const sewn = (hex: string): readonly [number, number, number] => linearOf(hex);
  const chosenFrom = (...given: Parameters<typeof chartPalette>): PaletteThread[] => toEnd(chartPalette(...given));
  const errorOf = (list: readonly PaletteThread[]): number =>
    new WovenJudge(picture, CLOTH).try(list.map(({ hex }) => sewn(hex))).error;

  it('comes nearer to the picture than the nearest threads do, without one twice', () => {
    for (const seed of [1, 2, 3]) {
      const choice = { charts: [chartOf(seed)], fixed: [], sewn };
      const nearest = chosenFrom(undefined, WANTED, choice);
      const chosen = chosenFrom(new WovenJudge(picture, CLOTH), WANTED, choice);
      expect(chosen.length).toBe(WANTED.length);
      expect(new Set(chosen.map(({ code }) => code)).size).toBe(WANTED.length);
      expect(errorOf(chosen)).toBeLessThan(errorOf(nearest));
      expect(chosen.every(({ chart }) => chart === 'made-up')).toBeTrue();
    }
  });

  it('takes the very colours where a chart has them, and keeps what is in it in any case', () => {
    const base = chartOf(4);
    const exact = WANTED.map((hex, i) => ({ code: `W${i}`, name: `Wanted ${i}`, hex, weight: 40, finish: 'matt' }));
    const charts = [{ ...base, threads: [...base.threads, ...exact] }];
    const chosen = chosenFrom(new WovenJudge(picture, CLOTH), WANTED, { charts, fixed: [], sewn });
    expect(errorOf(chosen)).toBeLessThanOrEqual(errorOf(exact.map((thread) => ({ ...thread, chart: base.id }))) * 1.02);
    const fixed = [{ hex: '#ff00ff', chart: 'other', code: 'X', name: 'Kept' }];
    const kept = chosenFrom(new WovenJudge(picture, CLOTH), WANTED.slice(1), { charts, fixed, sewn });
    expect(kept[0]).toEqual(fixed[0]);
    expect(kept.length).toBe(4);
  });

  it('is as many as a small chart has', () => {
    const small = { ...chartOf(5), threads: chartOf(5).threads.slice(0, 2) };
    const chosen = chosenFrom(new WovenJudge(picture, CLOTH), WANTED, { charts: [small], fixed: [], sewn });
    expect(chosen.length).toBe(2);
  });
});
