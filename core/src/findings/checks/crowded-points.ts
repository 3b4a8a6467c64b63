import { STITCH } from '../../sequence/stitch-list.js';
import type { Check } from '../check.js';

/** Needle points this near to each other cut one hole; so many in one cut the cloth. */
const NEAR_MM = 0.2;
const MOST = 7;
const MOST_FOUND = 40;

/** Needle points that crowd in one place. */
export const CROWDED_POINTS: Check = {
  id: 'crowded-points',
  name: 'Needle points crowd',
  why: 'Needle points that crowd cut a hole into the cloth.',
  find: ({ sewing: { stitches: list, pieceIds } }) => {
    const cells = new Map<number, number[]>();
    const key = (cx: number, cy: number): number => (cx + 40000) * 100000 + (cy + 40000);
    const cellOf = (v: number): number => Math.floor(v / NEAR_MM);
    for (let i = 0; i < list.count; i++) {
      if (list.command[i] !== STITCH) continue;
      const k = key(cellOf(list.x[i]), cellOf(list.y[i]));
      const cell = cells.get(k);
      if (cell) cell.push(i);
      else cells.set(k, [i]);
    }
    const found: { i: number; count: number }[] = [];
    for (const [, cell] of cells) {
      const [i] = cell;
      let count = 0;
      for (let dy = -1; dy <= 1; dy++) {
        for (let dx = -1; dx <= 1; dx++) {
          for (const j of cells.get(key(cellOf(list.x[i]) + dx, cellOf(list.y[i]) + dy)) ?? []) {
            if ((list.x[j] - list.x[i]) ** 2 + (list.y[j] - list.y[i]) ** 2 <= NEAR_MM * NEAR_MM) count++;
          }
        }
      }
      if (count > MOST) found.push({ i, count });
    }
    found.sort((a, b) => b.count - a.count || a.i - b.i);
    const kept: typeof found = [];
    for (const f of found) {
      const isNew = kept.every((k) => (list.x[k.i] - list.x[f.i]) ** 2 + (list.y[k.i] - list.y[f.i]) ** 2 > 1);
      if (isNew && kept.push(f) >= MOST_FOUND) break;
    }
    return kept.map(({ i, count }) => ({
      level: count > MOST * 2 ? 'problem' : 'advice',
      text: `The needle goes in ${count} times within ${NEAR_MM} mm.`,
      at: { x: list.x[i], y: list.y[i] },
      pieces: pieceIds[list.piece[i]] ? [pieceIds[list.piece[i]]] : [],
      harm: count / MOST,
      repairs: [],
    }));
  },
};
