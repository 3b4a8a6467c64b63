import { seededRandom } from '../../geometry/chance.js';
import { cleanMask } from './clean-mask.js';

const maskOf = (...rows: string[]): Uint8Array => Uint8Array.from(rows.join(''), (c) => (c === '#' ? 1 : 0));
const shown = (mask: Uint8Array, cols: number): string[] =>
  Array.from({ length: mask.length / cols }, (_, r) =>
    [...mask.subarray(r * cols, (r + 1) * cols)].map((v) => (v ? '#' : '.')).join(''),
  );

describe('cleaning of masks', () => {
  it('takes small islands out and fills small holes, and leaves large ones', () => {
    const mask = maskOf('########..#', '#.####.#...', '######..#..', '########.##', '########.##');
    cleanMask(mask, 11, 3, 2, () => false);
    expect(shown(mask, 11)).toEqual(['########...', '######.#...', '######.....', '########.##', '########.##']);
  });

  it('does not fill what must stay bare', () => {
    const mask = maskOf('#####', '##.##', '#####');
    cleanMask(mask, 5, 3, 3, (cell) => cell === 7);
    expect(shown(mask, 5)).toEqual(['#####', '##.##', '#####']);
  });

  it('leaves nothing that is smaller than was asked for, whatever was there', () => {
    for (let seed = 1; seed <= 20; seed++) {
      const random = seededRandom(seed);
      const cols = 17;
      const mask = Uint8Array.from({ length: cols * 13 }, () => (random() < 0.55 ? 1 : 0));
      cleanMask(mask, cols, 6, 4, () => false);
      // Islands are judged last: none is left.
      const seen = new Uint8Array(mask.length);
      for (let start = 0; start < mask.length; start++) {
        if (!mask[start] || seen[start]) continue;
        const stack = [start];
        seen[start] = 1;
        let size = 0;
        while (stack.length > 0) {
          const cell = stack.pop() ?? 0;
          size++;
          for (const next of [
            cell % cols > 0 ? cell - 1 : -1,
            cell % cols < cols - 1 ? cell + 1 : -1,
            cell - cols,
            cell + cols,
          ]) {
            if (next < 0 || next >= mask.length || seen[next] || !mask[next]) continue;
            seen[next] = 1;
            stack.push(next);
          }
        }
        expect(size).withContext(`seed ${seed}`).toBeGreaterThanOrEqual(6);
      }
    }
  });
});
