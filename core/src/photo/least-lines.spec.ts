import { leastLines } from './least-lines.js';
import type { Lattice } from './lattice.js';

describe('shortest lines', () => {
  const [cols, rows] = [60, 40];
  const lattice = { cols, rows } as Lattice;
  const soft = (light: (c: number, r: number) => number): Float32Array =>
    Float32Array.from({ length: cols * rows * 3 }, (_, i) => {
      const cell = Math.floor(i / 3);
      return light(cell % cols, Math.floor(cell / cols));
    });

  it('are long where the picture is even, and short at an edge', () => {
    const least = leastLines(
      lattice,
      soft((c) => (c < 30 ? 0.1 : 0.6)),
      3,
      20,
    );
    expect(least[20 * cols + 5]).toBe(20);
    expect(least[20 * cols + 55]).toBe(20);
    for (const c of [21, 26, 29, 30, 33, 38]) expect(least[20 * cols + c]).toBe(3);
    expect(new Set(least)).toEqual(new Set([3, 20]));
  });

  it('heed what changes along the rows, and not what changes from row to row', () => {
    const waves = soft((c, r) => (c < 30 ? 0.2 + 0.1 * (r % 4) : 0.2 + 0.1 * (c % 4)));
    const least = leastLines(lattice, waves, 3, 20);
    expect(least[20 * cols + 10]).toBe(20);
    expect(least[20 * cols + 45]).toBe(3);
  });

  it('change gradually with how much the light does', () => {
    const at = (slope: number): number =>
      leastLines(
        lattice,
        soft((c) => ((50 + (c - 30) * slope) / 116) ** 3),
        3,
        20,
      )[20 * cols + 30];
    const lengths = [0, 0.05, 0.1, 0.15, 1].map(at);
    expect(lengths[0]).toBe(20);
    expect(lengths[4]).toBe(3);
    for (let i = 1; i < lengths.length; i++) expect(lengths[i]).toBeLessThan(lengths[i - 1]);
  });

  it('are all as short as asked where no others are wanted', () => {
    expect(
      new Set(
        leastLines(
          lattice,
          soft(() => 0.3),
          6,
          6,
        ),
      ),
    ).toEqual(new Set([6]));
  });
});
