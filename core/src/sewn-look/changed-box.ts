import type { Sewing } from '../sequence/sewing.js';
import type { StitchList } from '../sequence/stitch-list.js';

/** A box in mm. */
export interface ChangedBox {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** Threads reach beyond their needle points, and the density map is smoothed over its cells. */
const MARGIN_MM = 1.5;

const EVERYWHERE = { left: -Infinity, top: -Infinity, right: Infinity, bottom: Infinity };

/**
 * Where two designs can look different: outside of the box every look draws them the same, to the bit. Stitches that
 * both begin and end with are left out; what lies between makes the box. An empty box has its left beyond its right.
 */
export function changedBox(before: Sewing, after: Sewing): ChangedBox {
  const hexes = (design: Sewing): string => [design.fabric.hex, ...design.threads.map((thread) => thread.hex)].join();
  const cloths = ({ patches = [] }: Sewing): string =>
    JSON.stringify(
      patches.map(({ look, hex, print, tile, rings }) => [
        look,
        hex,
        print,
        tile,
        rings.map((ring) => Array.from(ring)),
      ]),
    );
  if (hexes(before) !== hexes(after) || cloths(before) !== cloths(after)) return EVERYWHERE;
  const [a, b] = [before.stitches, after.stitches];
  const shorter = Math.min(a.count, b.count);
  let first = 0;
  while (first < shorter && same(a, first, b, first)) first++;
  let last = 0;
  while (last < shorter - first && same(a, a.count - 1 - last, b, b.count - 1 - last)) last++;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  if (first + last < Math.max(a.count, b.count)) {
    for (const list of [a, b]) {
      // The stitch into the first row that is the same again starts from one that is not.
      const to = Math.min(list.count - 1, list.count - last);
      for (let i = Math.max(0, first - 1); i <= to; i++) {
        // The end is no place of the design.
        if (i === list.count - 1) break;
        left = Math.min(left, list.x[i]);
        right = Math.max(right, list.x[i]);
        top = Math.min(top, list.y[i]);
        bottom = Math.max(bottom, list.y[i]);
      }
    }
  }
  return { left: left - MARGIN_MM, top: top - MARGIN_MM, right: right + MARGIN_MM, bottom: bottom + MARGIN_MM };
}

function same(a: StitchList, i: number, b: StitchList, j: number): boolean {
  return a.x[i] === b.x[j] && a.y[i] === b.y[j] && a.command[i] === b.command[j] && a.thread[i] === b.thread[j];
}
