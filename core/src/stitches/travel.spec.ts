import { isInside, lengthOf } from '../geometry/polyline.js';
import { rectangle } from '../test/regions.js';
import { neighboursOf } from './cells.js';
import { scanRows, type Rows } from './scan-rows.js';
import { travel } from './travel.js';

/** Shortest chain of parts between two, by row count. */
function chain(rows: Rows, from: number, to: number): number[] {
  const before = new Map<number, number>([[from, -1]]);
  const queue = [from];
  for (const at of queue) {
    for (const next of neighboursOf(rows.parts[at])) {
      if (before.has(next)) continue;
      before.set(next, at);
      queue.push(next);
    }
  }
  const way: number[] = [];
  for (let at = to; at >= 0; at = before.get(at) as number) way.unshift(at);
  return way;
}

describe('travel', () => {
  it('goes straight where nothing is in the way', () => {
    const rows = scanRows([rectangle(0, 0, 10, 20)], 0.4);
    const last = rows.parts.length - 1;
    const points = travel(rows, chain(rows, 0, last), { x: 2, y: rows.y[0] }, { x: 8, y: rows.y[last] });
    expect(points).toEqual([2, rows.y[0], 8, rows.y[last]]);
  });

  it('keeps inside round the bend of a U', () => {
    const ring = [0, 0, 4, 0, 4, 14, 10, 14, 10, 0, 14, 0, 14, 18, 0, 18];
    const rows = scanRows([ring], 0.4);
    const left = rows.parts.findIndex((p) => p.row === 1 && p.left < 1);
    const right = rows.parts.findIndex((p) => p.row === 1 && p.left > 9);
    const y = rows.y[1];
    const points = travel(rows, chain(rows, left, right), { x: 1, y }, { x: 13, y });
    expect(points.slice(-2)).toEqual([13, y]);
    for (let i = 2; i < points.length; i += 2) {
      for (let k = 0; k <= 10; k++) {
        const x = points[i - 2] + ((points[i] - points[i - 2]) * k) / 10;
        const yy = points[i - 1] + ((points[i + 1] - points[i - 1]) * k) / 10;
        expect(isInside([ring], x, yy))
          .withContext(`${x} ${yy}`)
          .toBeTrue();
      }
    }
    expect(lengthOf(points)).toBeLessThan(14 * 2 + 18);
  });

  it('leaves the row the needle ended in at once, so that it does not lie on what is sewn', () => {
    const rows = scanRows([rectangle(0, 0, 40, 4)], 0.4);
    const back = travel(rows, [0, 1], { x: 40.2, y: rows.y[0] }, { x: 0, y: rows.y[1] });
    const below = back.findIndex((v, i) => i % 2 === 1 && v === rows.y[1]);
    expect(back[below - 1]).toBeGreaterThan(39);
    for (let i = below; i < back.length; i += 2) expect(back[i]).toBe(rows.y[1]);
    // Where the next row ends sooner it follows its own till there.
    const stepped = scanRows([[0, 0, 40, 0, 40, 2, 20, 2, 20, 4, 0, 4]], 0.4);
    const at = stepped.parts.findIndex((part) => part.right < 30) - 1;
    const y = stepped.y[stepped.parts[at].row];
    const points = travel(stepped, [at, at + 1], { x: 40.2, y }, { x: 0, y: stepped.y[stepped.parts[at + 1].row] });
    const onOwnRow = points.filter((_, i) => i % 2 === 0 && points[i + 1] === y);
    expect(Math.min(...onOwnRow)).toBeLessThan(21);
    expect(points.slice(-1)).toEqual([stepped.y[stepped.parts[at + 1].row]]);
  });

  it('keeps off the edges where there is room', () => {
    const rows = scanRows([rectangle(0, 0, 6, 10)], 0.4);
    const last = rows.parts.length - 1;
    const points = travel(rows, chain(rows, 0, last), undefined, { x: 6, y: rows.y[last] });
    expect(points[0]).toBeCloseTo(5.5, 9);
  });
});
