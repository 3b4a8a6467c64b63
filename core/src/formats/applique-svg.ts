import type { Design } from '../design/design.js';
import { offset } from '../geometry/polygons.js';
import { boundsOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { ringsOf, runsOf, type Piece } from '../pieces/piece.js';

/** Cloth that stands over the line it is sewn down by, in mm. */
const ALLOWANCE_MM = 4;
const MARGIN_MM = 5;

/** Cloth shapes of a design at true size: the line they are sewn down by, and the line to cut along. */
export function writeAppliqueSvg({ pieces }: Pick<Design, 'pieces'>): string {
  const lines = shapesOf(pieces);
  const cuts = lines.map((rings) => offset(rings, ALLOWANCE_MM));
  const all = cuts.flat();
  const { left, top, right, bottom } = all.length > 0 ? boundsOf(all) : { left: 0, top: 0, right: 10, bottom: 10 };
  const box = [left - MARGIN_MM, top - MARGIN_MM, right - left + 2 * MARGIN_MM, bottom - top + 2 * MARGIN_MM];
  const [x, y, width, height] = box.map((v) => v.toFixed(2));
  const path = (rings: readonly Points[], style: string): string =>
    `  <path d="${rings.map(dataOf).join('')}" fill="none" ${style}/>`;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="${x} ${y} ${width} ${height}">`,
    ...cuts.map((rings) => path(rings, 'stroke="#c8481f" stroke-width="0.25"')),
    ...lines.map((rings) => path(rings, 'stroke="#1f2d2c" stroke-width="0.2" stroke-dasharray="1.5 1"')),
    '</svg>',
    '',
  ].join('\n');
}

/** The shape of each applique, by the first of its steps that is sewn. */
function shapesOf(pieces: readonly Piece[]): Points[][] {
  const byObject = new Map<string, Piece>();
  for (const piece of pieces) {
    if (piece.role === 'plain') continue;
    const known = byObject.get(piece.object);
    if (!known || RANK[piece.role] < RANK[known.role]) byObject.set(piece.object, piece);
  }
  return [...byObject.values()].map((piece) => {
    const runs = runsOf(piece).filter((run) => run.length >= 6);
    // Of a wide step the middle of its band is the cloth's edge; where it has no middle, its own outline.
    return runs.length > 0 ? runs : ringsOf(piece);
  });
}

const RANK = { placement: 0, 'tack-down': 1, cover: 2, plain: 3 } as const;

const dataOf = (ring: Points): string => {
  let out = `M${ring[0].toFixed(3)} ${ring[1].toFixed(3)}`;
  for (let i = 2; i < ring.length; i += 2) out += `L${ring[i].toFixed(3)} ${ring[i + 1].toFixed(3)}`;
  return `${out}Z`;
};
