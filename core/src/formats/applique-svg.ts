import { appliquesOf } from '../design/cloth-patches.js';
import type { Design } from '../design/design.js';
import { offset } from '../geometry/polygons.js';
import { boundsOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';

/** Cloth that stands over the line it is sewn down by, in mm. */
const ALLOWANCE_MM = 4;
const MARGIN_MM = 5;

/** Cloth shapes of a design at true size: the line they are sewn down by, and the line to cut along. */
export function writeAppliqueSvg({ pieces }: Pick<Design, 'pieces'>): string {
  const lines = appliquesOf(pieces).map(({ cloth }) => cloth.rings);
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

const dataOf = (ring: Points): string => {
  let out = `M${ring[0].toFixed(3)} ${ring[1].toFixed(3)}`;
  for (let i = 2; i < ring.length; i += 2) out += `L${ring[i].toFixed(3)} ${ring[i + 1].toFixed(3)}`;
  return `${out}Z`;
};
