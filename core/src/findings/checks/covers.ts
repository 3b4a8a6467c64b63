import type { Piece } from '../../pieces/piece.js';
import { STITCH } from '../../sequence/stitch-list.js';
import type { Check } from '../check.js';
import { clustersOver } from '../../forecast/clusters.js';
import type { Examined } from '../examined.js';
import type { Repair } from '../finding.js';

/** Layers of thread (a satin column counts as two): above, needles are deflected; far above, they break. */
const LIMIT = 6;
const BREAKS = 9;
/** Smaller heaps are what corners of satin make. */
const LEAST_MM2 = 1;
const MOST_FOUND = 60;

/** Too much thread in one place. */
export const COVERS: Check = {
  id: 'covers',
  name: 'Thread layers',
  why: 'Thread on thread deflects the needle, and the place gets hard.',
  find: (examined) => {
    const { covers, columns, left, top, cellMm } = examined.density();
    const clusters = clustersOver(covers, columns, LIMIT)
      .map(({ cells, worst }) => ({ mm2: cells.length * cellMm * cellMm, worst, most: covers[worst] }))
      .filter(({ mm2, most }) => mm2 >= LEAST_MM2 || most > BREAKS)
      .sort((a, b) => b.most - a.most)
      .slice(0, MOST_FOUND);
    return clusters.map(({ mm2, worst, most }) => {
      const at = {
        x: left + ((worst % columns) + 0.5) * cellMm,
        y: top + (Math.floor(worst / columns) + 0.5) * cellMm,
      };
      const there = piecesAt(examined, at);
      const below = there[0];
      return {
        level: most > BREAKS ? 'problem' : 'advice',
        text: `${most.toFixed(1)} layers of thread on ${mm2.toFixed(1)} mm².`,
        at,
        pieces: there.map(({ id }) => id),
        harm: most / LIMIT,
        cost: { mm2 },
        // What lies below is cut where something lies over it.
        repairs: there.some(({ layer }) => layer > below.layer) ? cutBelow(examined, below) : [],
      };
    });
  },
};

/** Cuts what lies over a piece out of it, and out of all other parts of its shape. */
function cutBelow(examined: Examined, piece: Piece): Repair[] {
  const at = examined.refOf(piece);
  const decisions = at && [{ kind: 'hidden' as const, at, cut: true }];
  return decisions ? [{ id: 'cut', label: 'Cut what lies below', safe: true, decisions }] : [];
}

/** Pieces with needle points near a place, in sewing order. */
function piecesAt({ sewing: { stitches: list }, design }: Examined, { x, y }: { x: number; y: number }): Piece[] {
  if (!design) return [];
  const found = new Set<number>();
  for (let i = 0; i < list.count; i++) {
    if (list.command[i] !== STITCH || Math.abs(list.x[i] - x) > 1 || Math.abs(list.y[i] - y) > 1) continue;
    if (list.piece[i] < design.pieces.length) found.add(list.piece[i]);
  }
  return [...found].map((index) => design.pieces[index]);
}
