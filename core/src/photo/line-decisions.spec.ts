import type { DesignThread } from '../colour/design-thread.js';
import type { Points } from '../geometry/vector.js';
import { changeLines } from './line-decisions.js';
import type { Layer } from './methods/render-method.js';

const thread = (hex: string): DesignThread => ({ code: hex, name: hex, hex, chart: 'own', deltaE: 0 });
const THREADS = [thread('#111111'), thread('#eeeeee')];

/** Ten rows to and fro, 20 mm long, half a millimetre apart. */
const rows = (): Points => {
  const out: Points = [];
  for (let r = 0; r < 10; r++) {
    const ends = r % 2 === 0 ? [0, 10, 20] : [20, 10, 0];
    for (const x of ends) out.push(x, r / 2);
  }
  return out;
};
const layers: Layer[] = [
  { thread: 0, runs: [rows()], openMm: 0 },
  { thread: 1, runs: [rows()], openMm: 0 },
];
const lengthOf = (list: readonly Layer[], of: number): number =>
  list
    .filter((layer) => layer.thread === of)
    .flatMap(({ runs }) => runs)
    .reduce((sum, run) => {
      for (let i = 2; i < run.length; i += 2) sum += Math.abs(run[i] - run[i - 2]);
      return sum;
    }, 0);
const HALF = [-1, -1, 10, -1, 10, 6, -1, 6];

describe('changes of lines', () => {
  it('delete those of a thread, everywhere or in an area', () => {
    const all = changeLines(layers, THREADS, [{ kind: 'delete', threads: ['#111111'], area: [] }]);
    expect(all.layers.map((layer) => layer.thread)).toEqual([1]);
    const half = changeLines(layers, THREADS, [{ kind: 'delete', threads: ['#111111'], area: HALF }]);
    expect(lengthOf(half.layers, 0)).toBe(100);
    expect(lengthOf(half.layers, 1)).toBe(200);
    for (const run of half.layers[0].runs) for (let i = 0; i < run.length; i += 2) expect(run[i]).toBeGreaterThan(9.9);
  });

  it('thin them to about half, without long ways between what is left', () => {
    const { layers: thin } = changeLines(layers, THREADS, [{ kind: 'thin', threads: [], area: [] }]);
    for (const of of [0, 1]) {
      expect(lengthOf(thin, of)).toBeGreaterThan(80);
      expect(lengthOf(thin, of)).toBeLessThan(120);
    }
  });

  it('give them another thread, sewn right after their own', () => {
    const to = thread('#aa0000');
    const { layers: made, threads } = changeLines(layers, THREADS, [
      { kind: 'recolour', threads: ['#111111'], area: HALF, to },
    ]);
    expect(threads.map(({ hex }) => hex)).toEqual(['#111111', '#eeeeee', '#aa0000']);
    expect(made.map((layer) => layer.thread)).toEqual([0, 2, 1]);
    expect(lengthOf(made, 2)).toBe(100);
  });

  it('follow each other, and leave all as it is where there are none', () => {
    expect(changeLines(layers, THREADS, []).layers).toEqual(layers);
    const { layers: both } = changeLines(layers, THREADS, [
      { kind: 'delete', threads: ['#111111'], area: HALF },
      { kind: 'delete', threads: ['#111111'], area: [9, -1, 30, -1, 30, 6, 9, 6] },
    ]);
    expect(both.map((layer) => layer.thread)).toEqual([1]);
  });
});
