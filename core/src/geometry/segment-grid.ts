import type { Points } from './vector.js';

/** Finds where lines cross the edges of rings without looking at all of them. */
export interface SegmentGrid {
  /**
   * Ways along a line at which it crosses an edge, in no order.
   * @param x start; the direction is a unit vector
   * @param reach how far to look, both ways
   */
  crossings(x: number, y: number, dx: number, dy: number, reach: number): number[];
}

/** Sorts the edges of closed rings into square cells. */
export function createSegmentGrid(rings: readonly Points[], cell: number): SegmentGrid {
  const cells = new Map<number, number[]>();
  const edges: number[] = [];
  const keyOf = (cx: number, cy: number): number => (cx + 32768) * 65536 + (cy + 32768);
  for (const ring of rings) {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const [ax, ay, bx, by] = [ring[j], ring[j + 1], ring[i], ring[i + 1]];
      const at = edges.length;
      edges.push(ax, ay, bx, by);
      const left = Math.floor(Math.min(ax, bx) / cell);
      const right = Math.floor(Math.max(ax, bx) / cell);
      const top = Math.floor(Math.min(ay, by) / cell);
      const bottom = Math.floor(Math.max(ay, by) / cell);
      for (let cy = top; cy <= bottom; cy++) {
        for (let cx = left; cx <= right; cx++) {
          const key = keyOf(cx, cy);
          const list = cells.get(key);
          if (list) list.push(at);
          else cells.set(key, [at]);
        }
      }
    }
  }
  const seen = new Int32Array(edges.length / 4).fill(-1);
  let query = 0;
  return {
    crossings(x, y, dx, dy, reach) {
      query++;
      const out: number[] = [];
      const left = Math.floor((x - Math.abs(dx) * reach) / cell);
      const right = Math.floor((x + Math.abs(dx) * reach) / cell);
      const top = Math.floor((y - Math.abs(dy) * reach) / cell);
      const bottom = Math.floor((y + Math.abs(dy) * reach) / cell);
      for (let cy = top; cy <= bottom; cy++) {
        for (let cx = left; cx <= right; cx++) {
          for (const at of cells.get(keyOf(cx, cy)) ?? []) {
            if (seen[at >> 2] === query) continue;
            seen[at >> 2] = query;
            // Sides of the line the edge's ends lie on.
            const a = (edges[at] - x) * dy - (edges[at + 1] - y) * dx;
            const b = (edges[at + 2] - x) * dy - (edges[at + 3] - y) * dx;
            if (a < 0 === b < 0) continue;
            const k = a / (a - b);
            const px = edges[at] + k * (edges[at + 2] - edges[at]) - x;
            const py = edges[at + 1] + k * (edges[at + 3] - edges[at + 1]) - y;
            const t = px * dx + py * dy;
            if (Math.abs(t) <= reach) out.push(t);
          }
        }
      }
      return out;
    },
  };
}
