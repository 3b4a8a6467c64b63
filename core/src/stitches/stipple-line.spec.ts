import type { Points } from '../geometry/vector.js';
import { ellipse } from '../test/regions.js';
import { isInside } from '../geometry/polyline.js';
import { stippleLoops } from './stipple-line.js';

/** Pairs of stretches of a closed line that cross. */
function crossings(line: Points): number {
  const n = line.length / 2 - 1;
  const side = (a: number, x: number, y: number): number =>
    (line[a + 2] - line[a]) * (y - line[a + 1]) - (line[a + 3] - line[a + 1]) * (x - line[a]);
  let count = 0;
  for (let i = 0; i < n; i++) {
    for (let j = i + 2; j < n; j++) {
      if (i === 0 && j === n - 1) continue;
      const [a, b] = [i * 2, j * 2];
      const p = side(a, line[b], line[b + 1]) * side(a, line[b + 2], line[b + 3]);
      const q = side(b, line[a], line[a + 1]) * side(b, line[a + 2], line[a + 3]);
      if (p < 0 && q < 0) count++;
    }
  }
  return count;
}

describe('stippleLoops', () => {
  const rings = [ellipse(0, 0, 20, 16), ellipse(4, 2, 4, 4)];

  it('wander over the whole shape without crossing themselves or leaving it', () => {
    const [loop] = stippleLoops(rings, 2);
    expect(crossings(loop)).toBe(0);
    for (let i = 0; i < loop.length; i += 2) expect(isInside(rings, loop[i], loop[i + 1])).toBeTrue();
    const quarters = new Set<string>();
    for (let i = 0; i < loop.length; i += 2) quarters.add(`${loop[i] > 0} ${loop[i + 1] > 0}`);
    expect(quarters.size).toBe(4);
  });

  it('give nothing where there is no room', () => {
    expect(stippleLoops([ellipse(0, 0, 1, 1)], 3)).toEqual([]);
  });
});
