import { pieceOf } from '../test/pieces.js';
import { rectangle } from '../test/regions.js';
import { angleBetween, planAngles, straightEdges } from './angles.js';

const touching = (...others: number[]) => ({ neighbours: others.map((piece) => ({ piece, borderMm: 10 })) });

describe('planAngles', () => {
  const pieces = [
    pieceOf([rectangle(0, 0, 20, 20)], { thread: 0, ...touching(1, 2) }),
    pieceOf([rectangle(20, 0, 15, 20)], { thread: 1, ...touching(0, 2) }),
    pieceOf([rectangle(0, 20, 30, 9)], { thread: 2, ...touching(0, 1) }),
    pieceOf([rectangle(60, 0, 8, 8)], { thread: 1 }),
  ];

  it('turns the rows of neighbours apart, and those of one thread alike', () => {
    const angles = planAngles(pieces, 20, 35);
    for (const [a, b] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ]) {
      expect(angleBetween(angles[a], angles[b])).toBeGreaterThanOrEqual(35);
    }
    expect(angles[3]).toBe(angles[1]);
  });

  it('lets rows cross long straight edges steeply, where the outline has any', () => {
    const bar = pieceOf([rectangle(0, 0, 30, 9)]);
    const disc = pieceOf([
      Array.from({ length: 80 }, (_, i) => 9 * (i % 2 ? Math.sin : Math.cos)(((i >> 1) / 40) * 2 * Math.PI)),
    ]);
    expect(straightEdges(bar).length).toBe(4);
    expect(straightEdges(disc).length).toBe(0);
    for (const base of [0, 5, 20, 80, 90]) {
      const [angle] = planAngles([bar], base, 35);
      expect(angleBetween(angle, 0)).withContext(`${base}`).toBeGreaterThanOrEqual(30);
      expect(planAngles([disc], base, 35)).toEqual([base]);
    }
  });

  it('leaves an angle that was chosen, and one angle for all where that is wanted', () => {
    const choices = { values: { angle: 77 }, guides: [] };
    expect(planAngles([pieces[0], { ...pieces[1], choices }], 20, 35)[1]).toBe(77);
    expect(planAngles(pieces, 12, 0)).toEqual([12, 12, 12, 12]);
    expect(planAngles([pieces[0], { ...pieces[1], choices }], 12, 0)).toEqual([12, 77]);
  });

  it('counts angles over half a turn', () => {
    expect(angleBetween(170, -5)).toBe(5);
    expect(angleBetween(0, 90)).toBe(90);
  });
});
