import { CellHeap } from './cell-heap.js';
import { seededRandom } from './chance.js';

describe('CellHeap', () => {
  it('gives cells by their cost, whatever the order they came in', () => {
    const random = seededRandom(9);
    const heap = new CellHeap(500);
    for (let round = 0; round < 20; round++) {
      heap.clear();
      const costs = Array.from({ length: 200 }, () => Math.floor(random() * 90));
      costs.forEach((cost, cell) => heap.push(cell, cost));
      const out: number[] = [];
      while (heap.size > 0) {
        const { least } = heap;
        const cell = heap.pop();
        expect(costs[cell]).toBe(least);
        out.push(cell);
      }
      expect(out.map((cell) => costs[cell])).toEqual([...costs].sort((a, b) => a - b));
      expect(new Set(out).size).toBe(200);
    }
  });

  it('takes no more than it has room for', () => {
    const heap = new CellHeap(2);
    for (const cost of [5, 3, 1]) heap.push(cost, cost);
    expect(heap.size).toBe(2);
    expect(heap.pop()).toBe(3);
  });
});
