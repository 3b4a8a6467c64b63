import { distance } from '../../geometry/vector.js';
import { areOfWord } from '../../sequence/in-word.js';
import { STITCH } from '../../sequence/stitch-list.js';
import { hiddenWaysOf } from '../../sequence/sewn-ground.js';
import { mm, sayOf, type Check } from '../check.js';

/** So much of a way may lie open on cloth or on another thread. */
const MOST_OPEN_MM = 3;
const MOST_FOUND = 40;

/** Ways from piece to piece that are seen. */
export const VISIBLE_WAY: Check = {
  id: 'visible-way',
  name: 'Visible ways',
  why: 'Loose thread on top is seen, and snags.',
  find: (examined) => {
    const { design, sewing } = examined;
    if (!design || design.pieces.length === 0) return [];
    const { x, y, command, piece, count } = sewing.stitches;
    const hidden = hiddenWaysOf(design.pieces, design.order);
    const place = new Map(design.order.map((index, k) => [index, k]));
    const found = [];
    for (let i = 1; i < count && found.length < MOST_FOUND; i++) {
      if (command[i] !== STITCH || command[i - 1] !== STITCH || piece[i] === piece[i - 1]) continue;
      const next = place.get(piece[i]);
      if (next === undefined || !place.has(piece[i - 1])) continue;
      const [from, to] = [
        { x: x[i - 1], y: y[i - 1] },
        { x: x[i], y: y[i] },
      ];
      if (distance(from.x, from.y, to.x, to.y) <= MOST_OPEN_MM) continue;
      const each = design.pieces[piece[i]];
      // From letter to letter of a word the thread stays whole farther than elsewhere.
      if (areOfWord(design.pieces[piece[i - 1]], each)) continue;
      const open = hidden.openAlong(from, to, next, each.thread);
      if (open <= MOST_OPEN_MM) continue;
      found.push({
        level: 'advice' as const,
        text: `${mm(open)} of thread lie open between two pieces.`,
        at: { x: (from.x + to.x) / 2, y: (from.y + to.y) / 2 },
        pieces: [each.id, design.pieces[piece[i - 1]].id],
        harm: open / MOST_OPEN_MM,
        repairs: sayOf(examined, each, { id: 'cut', label: 'Cut the thread there', safe: true }, (at) => ({
          kind: 'connect',
          at,
          how: 'cut',
          line: [],
        })),
      });
    }
    return found;
  },
};
