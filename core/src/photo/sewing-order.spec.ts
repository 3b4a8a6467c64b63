import { seededRandom } from '../geometry/chance.js';
import { gainsAmong, orderByLight, orderByShare, withPlaces } from './sewing-order.js';

describe('the order of threads of a painting', () => {
  it('goes by light, the darkest first or last', () => {
    const colours = Float32Array.from([0, 0, 0, 0.5, 0.5, 0.5, 0.1, 0, 0, 0.9, 0.9, 0.8]);
    expect(orderByLight(colours, 3, false)).toEqual([2, 1, 3]);
    expect(orderByLight(colours, 3, true)).toEqual([3, 1, 2]);
  });

  it('has the scarcer thread first wherever two are mixed, whatever there is of them in all', () => {
    // Left a field of thread 1 with some of 2 in it, right much more of 2 by itself.
    const [cols, rows] = [64, 16];
    const label = Uint8Array.from({ length: cols * rows }, (_, i) => {
      const [c, r] = [i % cols, Math.floor(i / cols)];
      return c >= 16 ? 2 : r % 4 === 1 && c % 8 < 3 ? 2 : 1;
    });
    expect(orderByShare(label, { cols, rows }, [1, 2])).toEqual([2, 1]);
    expect(orderByShare(label, { cols, rows }, [2, 1])).toEqual([2, 1]);
  });

  it('is left by no move of one thread that would hide more', () => {
    const random = seededRandom(7);
    const [cols, rows] = [96, 80];
    const label = Uint8Array.from({ length: cols * rows }, (_, i) => {
      const patch = Math.floor((i % cols) / 16) * 3 + Math.floor(i / cols / 16) * 5;
      return 1 + ((patch + (random() < 0.3 ? Math.floor(random() * 6) : 0)) % 6);
    });
    // What an order hides, counted the long way.
    const hidden = (order: readonly number[]): number => {
      let sum = 0;
      for (let top = 0; top < rows; top += 8) {
        for (let left = 0; left < cols; left += 8) {
          const here = new Array<number>(7).fill(0);
          for (let k = 0; k < 64; k++) here[label[(top + (k >> 3)) * cols + left + (k & 7)]]++;
          order.forEach((a, i) =>
            order.slice(i + 1).forEach((b) => (sum += Math.max(0, here[a] * (here[b] - here[a])))),
          );
        }
      }
      return sum;
    };
    const order = orderByShare(label, { cols, rows }, [1, 2, 3, 4, 5, 6]);
    expect([...order].sort()).toEqual([1, 2, 3, 4, 5, 6]);
    const most = hidden(order);
    expect(most).toBeGreaterThan(hidden([1, 2, 3, 4, 5, 6]));
    for (let i = 0; i < 6; i++) {
      for (let j = 0; j < 6; j++) {
        const moved = [...order];
        moved.splice(j, 0, ...moved.splice(i, 1));
        expect(hidden(moved)).toBeLessThanOrEqual(most);
      }
    }
  });

  it('puts threads first and last that somebody wants there', () => {
    expect(withPlaces([3, 1, 2, 4], [])).toEqual([3, 1, 2, 4]);
    expect(withPlaces([3, 1, 2, 4], [0, -1, 1, 2])).toEqual([2, 1, 3, 4]);
  });
});

describe('how bright threads look among others', () => {
  it('falls with the rows beside them that are sewn later', () => {
    // Rows of 1, 2, 3 in turn: each lies between the two others.
    const [cols, rows] = [10, 30];
    const label = Uint8Array.from({ length: cols * rows }, (_, i) => 1 + (Math.floor(i / cols) % 3));
    const gains = gainsAmong(label, cols, Uint8Array.from([0, 1, 2, 3]));
    expect(gains[1]).toBeLessThan(gains[2]);
    expect(gains[2]).toBeLessThan(gains[3]);
    expect(gains[3]).toBeCloseTo(1.095, 6);
    expect(gains[1]).toBeCloseTo(1.095 - 2 * 0.058, 6);
    // One that is nowhere is taken to lie among its own.
    expect(gainsAmong(label, cols, Uint8Array.from([0, 1, 2, 3, 4]))[4]).toBeCloseTo(1.095 - 0.058, 6);
  });
});
