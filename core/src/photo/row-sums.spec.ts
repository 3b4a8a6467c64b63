import { METRIC, writeMetric } from '../colour/colour-metric.js';
import { seededRandom } from '../geometry/chance.js';
import type { Lattice } from './lattice.js';
import { RowSums, SUMS } from './row-sums.js';
import { REACH } from './soft-colours.js';
import { VainTries } from './vain-tries.js';

const COLS = 61;
const ROWS = 23;

function sourcesOf(seed: number) {
  const random = seededRandom(seed);
  const count = COLS * ROWS;
  const some = (n: number): Float32Array => Float32Array.from({ length: n }, random);
  const lattice: Lattice = {
    cols: COLS,
    rows: ROWS,
    x: new Float32Array(count),
    y: new Float32Array(count),
    pitch: 0.4,
    inside: Uint8Array.from({ length: count }, () => (random() < 0.9 ? 1 : 0)),
    wanted: some(count * 3),
  };
  const metric = new Float32Array(count * METRIC);
  for (let i = 0; i < count; i++) writeMetric(random(), random(), random(), metric, i * METRIC);
  return { lattice, pull: some(count * 3), shown: some(count * 3), metric, sharp: some(count) };
}

describe('sums along a row', () => {
  it('are the same whether they are asked for at once or bit by bit, and after changes', () => {
    for (let seed = 1; seed <= 6; seed++) {
      const random = seededRandom(seed + 400);
      const sources = sourcesOf(seed);
      const lazy = new RowSums(sources);
      const row = Math.floor(random() * ROWS);
      lazy.begin(row);
      for (let step = 0; step < 40; step++) {
        const from = Math.floor(random() * COLS);
        const to = Math.min(COLS - 1, from + Math.floor(random() * 9));
        if (random() < 0.5) {
          // What is shown changes within a window, the pull around it in all rows that are mixed.
          for (let c = from; c <= to; c++) sources.shown[(row * COLS + c) * 3] = random();
          for (let c = Math.max(0, from - REACH); c <= Math.min(COLS - 1, to + REACH); c++) {
            for (let r = Math.max(0, row - REACH); r <= Math.min(ROWS - 1, row + REACH); r++) {
              sources.pull[(r * COLS + c) * 3 + 1] = random();
            }
          }
          lazy.changed(Math.max(0, from - REACH), Math.min(COLS - 1, to + REACH));
        }
        lazy.upTo(to + 1);
        const fresh = new RowSums(sources);
        fresh.begin(row);
        fresh.upTo(COLS);
        expect([...lazy.sums.subarray(0, (to + 2) * SUMS)]).toEqual([...fresh.sums.subarray(0, (to + 2) * SUMS)]);
      }
    }
  });

  it('begin anew with another row', () => {
    const sources = sourcesOf(9);
    const sums = new RowSums(sources);
    sums.begin(2);
    sums.upTo(COLS);
    const second = [...sums.sums];
    sums.begin(3);
    sums.upTo(COLS);
    expect([...sums.sums]).not.toEqual(second);
    sums.begin(2);
    sums.upTo(COLS);
    expect([...sums.sums]).toEqual(second);
  });
});

describe('tries in vain', () => {
  const lattice = sourcesOf(1).lattice;

  it('are remembered until something near them changes', () => {
    const vain = new VainTries(lattice, 8, 3);
    expect(vain.isVain(10, 20, 30)).toBeFalse();
    vain.note(10, 20);
    expect(vain.isVain(10, 20, 30)).toBeTrue();
    vain.changed(20, 20, 30);
    expect(vain.isVain(10, 20, 30)).toBeTrue();
    vain.changed(18, 20, 30);
    expect(vain.isVain(10, 20, 30)).toBeFalse();
  });

  it('are forgotten by a change at every distance that is felt, along the row as across it', () => {
    for (let row = 2; row <= 18; row++) {
      for (let from = 9; from <= 41; from++) {
        const vain = new VainTries(lattice, 8, 3);
        vain.note(10, 20);
        vain.changed(row, from, from);
        // Within eight rows, and eight columns of what a try looks at.
        const isFelt = from >= 20 - 3 - 8 && from <= 29 + 3 + 8;
        if (isFelt)
          expect(vain.isVain(10, 20, 30))
            .withContext(`${row} ${from}`)
            .toBeFalse();
      }
    }
  });

  it('are all forgotten when anything may have changed', () => {
    const vain = new VainTries(lattice, 8, 3);
    vain.note(4, 0);
    vain.note(5, 12);
    vain.forget();
    expect(vain.isVain(4, 0, 8)).toBeFalse();
    expect(vain.isVain(5, 12, 20)).toBeFalse();
  });
});
