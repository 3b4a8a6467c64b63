import { thicken } from '../geometry/polygons.js';
import type { Points } from '../geometry/vector.js';
import { rectangle } from '../test/regions.js';
import { fromRings, type Area } from './area.js';
import { techniqueOf, wordsOf } from './words.js';

const STYLE = { cap: 'butt', join: 'miter', miterLimit: 4 } as const;

/** A letter of strokes in a box 70 wide and 100 high, so high in mm. */
const letter = (runs: readonly Points[], x: number, heightMm: number, more: Partial<Area> = {}): Area => {
  const k = heightMm / 100;
  const placed = runs.map((run) => run.map((v, i) => v * k + (i % 2 === 0 ? x : 0)));
  return {
    origin: 'traced',
    object: 'picture-1',
    ...fromRings(thicken(placed, heightMm * 0.12, false, STYLE)),
    paint: { label: 1 },
    hex: '#204060',
    layer: 0,
    decisions: [],
    ...more,
  };
};
const L: Points[] = [[6, 0, 6, 94, 60, 94]];
const T: Points[] = [
  [0, 6, 70, 6],
  [35, 6, 35, 100],
];
const N: Points[] = [[6, 100, 6, 0, 60, 100, 60, 0]];

describe('wordsOf', () => {
  const word = (heightMm: number): Area[] => [L, T, N, T].map((runs, i) => letter(runs, i * heightMm * 0.9, heightMm));

  it('finds letters beside each other, however high', () => {
    for (const height of [4, 8, 20])
      expect(wordsOf(word(height)))
        .withContext(`${height}`)
        .toEqual([[0, 1, 2, 3]]);
  });

  it('tells words apart by colour, distance, height, stroke and line', () => {
    const four = word(8);
    const change = (i: number, more: Partial<Area>): Area[] =>
      four.map((area, k) => (k === i ? { ...area, ...more } : area));
    expect(wordsOf(change(1, { paint: { label: 2 } }))).toEqual([]);
    expect(wordsOf(change(3, { object: 'picture-2' }))).toEqual([[0, 1, 2]]);
    const far = [...four, ...[L, T, N].map((runs, i) => letter(runs, 60 + i * 7, 8))];
    expect(wordsOf(far)).toEqual([
      [0, 1, 2, 3],
      [4, 5, 6],
    ]);
    const lower = four.map((area, i) =>
      i < 2 ? area : { ...area, ...fromRings(area.rings.map((ring) => ring.map((v, k) => (k % 2 === 1 ? v + 9 : v)))) },
    );
    expect(wordsOf(lower)).toEqual([]);
    expect(wordsOf(four.map((area, i) => (i === 1 ? letter(T, 7.2, 30) : area)))).toEqual([]);
  });

  it('takes no plain shapes, no dots and nothing that somebody decided on', () => {
    const squares = [0, 1, 2, 3].map((i) => ({ ...word(8)[0], ...fromRings([rectangle(i * 7, 0, 6, 8)]) }));
    expect(wordsOf(squares)).toEqual([]);
    const dots = [0, 1, 2, 3].map((i) => ({ ...word(8)[0], ...fromRings([rectangle(i * 2, 0, 1, 1)]) }));
    expect(wordsOf(dots)).toEqual([]);
    expect(wordsOf(word(8).map((area) => ({ ...area, as: 'tatami' })))).toEqual([]);
    expect(wordsOf(Array.from({ length: 4000 }, () => word(8)[0]))).toEqual([]);
  });
});

describe('techniqueOf', () => {
  it('is that of most of the word, satin before others, and none where all agree', () => {
    const of = (...kinds: string[]) => kinds.map((kind) => ({ areaMm2: 10, kind }));
    expect(techniqueOf(of('satin', 'satin', 'tatami'))).toBe('satin');
    expect(techniqueOf(of('tatami', 'tatami', 'tatami', 'satin'))).toBe('tatami');
    expect(techniqueOf(of('tatami', 'satin'))).toBe('satin');
    expect(techniqueOf(of('running', 'running', 'satin'))).toBe('running');
    expect(techniqueOf(of('satin', 'satin'))).toBeUndefined();
  });
});
