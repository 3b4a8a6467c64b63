import { leaveBare, type Check } from '../check.js';
import type { Repair } from '../finding.js';

/** Edge shades: many narrow pieces of a thread that sews little else. */
const NARROW_MM = 1.1;
const LEAST_PIECES = 4;
const NARROW_SHARE = 0.8;
const MOST_OF_ALL = 0.06;

/** A colour that only lies along the edges of others. */
export const FRINGE: Check = {
  id: 'fringe',
  name: 'Fringe of edge shades',
  why: 'It is a shade of their edges, and no colour of the picture.',
  find: (examined) => {
    const { design } = examined;
    if (!design) return [];
    const all = design.pieces.reduce((sum, { areaMm2 }) => sum + areaMm2, 0);
    return design.threads.flatMap((thread, t) => {
      const own = design.pieces.filter(
        (p) => p.thread === t && p.role === 'plain' && p.origin === 'traced' && p.word === undefined,
      );
      const area = own.reduce((sum, { areaMm2 }) => sum + areaMm2, 0);
      const narrow = own.filter(({ widthMm, neighbours }) => widthMm < NARROW_MM && neighbours.length >= 2);
      if (own.length < LEAST_PIECES || narrow.length < own.length * NARROW_SHARE || area > all * MOST_OF_ALL) return [];
      return [
        {
          level: 'waste' as const,
          text: `${thread.name || thread.hex}, in ${own.length} narrow strips between other colours.`,
          at: own[0].anchor,
          pieces: own.map(({ id }) => id),
          harm: own.length / LEAST_PIECES,
          cost: {
            changes: 1,
            stitches: own.reduce((sum, p) => sum + examined.pieceStitches()[design.pieces.indexOf(p)], 0),
          },
          repairs: together(own.flatMap((piece) => leaveBare(examined, piece))),
        },
      ];
    });
  },
};

/** The same said of several pieces, as one repair. */
function together(repairs: readonly Repair[]): Repair[] {
  const [first] = repairs;
  const decisions = repairs.flatMap((repair) => repair.decisions ?? []);
  return repairs.length > 0 ? [{ ...first, label: 'Leave them bare', decisions }] : [];
}
