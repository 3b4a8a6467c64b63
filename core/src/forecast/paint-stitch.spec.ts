import { seededRandom } from '../geometry/chance.js';
import { paintStitch } from './paint-stitch.js';

const GRID = { width: 40, height: 30 };

/** The cells whose middles lie within `r` of a stitch, one by one. */
function under(r: number, ax: number, ay: number, bx: number, by: number): Uint8Array {
  const out = new Uint8Array(GRID.width * GRID.height);
  const [dx, dy] = [bx - ax, by - ay];
  const square = dx * dx + dy * dy;
  for (let cell = 0; cell < out.length; cell++) {
    const [u, v] = [(cell % GRID.width) + 0.5 - ax, Math.floor(cell / GRID.width) + 0.5 - ay];
    const t = square === 0 ? 0 : Math.min(1, Math.max(0, (u * dx + v * dy) / square));
    if (Math.hypot(u - dx * t, v - dy * t) <= r) out[cell] = 1;
  }
  return out;
}

describe('paintStitch', () => {
  it('paints the cells below a stitch and no other, wherever it lies', () => {
    const random = seededRandom(31);
    const place = (size: number): number => random() * (size + 16) - 8;
    for (let k = 0; k < 400; k++) {
      const [ax, ay] = [place(GRID.width), place(GRID.height)];
      const [bx, by] = [place(GRID.width), place(GRID.height)];
      const r = 0.3 + random() * 3;
      const made = new Uint8Array(GRID.width * GRID.height);
      paintStitch(made, 1, GRID, r, ax, ay, bx, by);
      expect(made)
        .withContext(`${r}: ${ax}, ${ay} to ${bx}, ${by}`)
        .toEqual(under(r, ax, ay, bx, by));
    }
  });

  it('knows stitches straight along a row or a column, and such as go nowhere', () => {
    for (const [dx, dy] of [
      [9, 0],
      [-9, 0],
      [0, 7],
      [0, -7],
      [0, 0],
    ]) {
      const made = new Uint8Array(GRID.width * GRID.height);
      paintStitch(made, 1, GRID, 2.1, 15.2, 12.4, 15.2 + dx, 12.4 + dy);
      expect(made)
        .withContext(`${dx}, ${dy}`)
        .toEqual(under(2.1, 15.2, 12.4, 15.2 + dx, 12.4 + dy));
    }
  });
});
