import { isInside } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { seededRandom } from '../geometry/chance.js';
import { innerRows } from './inner-rows.js';

const GRID = { width: 50, height: 40, left: -3, top: 2, scale: 4 };

function cellsOf(rings: readonly Points[]): Uint8Array {
  const out = new Uint8Array(GRID.width * GRID.height);
  innerRows(rings, GRID, (from, to) => {
    expect(to).toBeGreaterThan(from);
    for (let cell = from; cell < to; cell++) out[cell]++;
  });
  return out;
}

describe('innerRows', () => {
  it('visits the cells whose middles lie inside, once each, holes and what leaves the grid left out', () => {
    const random = seededRandom(8);
    for (let k = 0; k < 40; k++) {
      const rings = [5, 3].map((points) =>
        Array.from({ length: points * 2 }, (_, i) => (i % 2 === 0 ? -5 : 0) + random() * (i % 2 === 0 ? 18 : 14)),
      );
      const made = cellsOf(rings);
      const asked = made.map((_, cell) => {
        const x = GRID.left + ((cell % GRID.width) + 0.5) / GRID.scale;
        const y = GRID.top + (Math.floor(cell / GRID.width) + 0.5) / GRID.scale;
        return isInside(rings, x, y) ? 1 : 0;
      });
      expect(made).toEqual(asked);
    }
  });

  it('visits nothing of rings that have no area or lie elsewhere', () => {
    expect(cellsOf([[0, 5, 4, 5, 0, 5]]).some(Boolean)).toBeFalse();
    expect(cellsOf([[90, 90, 95, 90, 95, 95]]).some(Boolean)).toBeFalse();
    expect(cellsOf([]).some(Boolean)).toBeFalse();
  });
});
