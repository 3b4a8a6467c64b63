import { withNeedlePlaces } from '../sequence/needle-places.js';
import { firstOfSeveral, layOut, type Several } from '../sequence/several.js';
import type { StitchList } from '../sequence/stitch-list.js';
import type { Design } from './design.js';

/** What is said of how a design lies in the hoop. */
export interface InHoop {
  readonly several?: Several;
  /** Where the needle begins and ends, by the names of their places. */
  readonly begin?: string;
  readonly end?: string;
}

/**
 * A design as it lies in the hoop: several times where that was said, with the needle beginning and ending where it should.
 * Its pieces stay those of the first one.
 * @throws RangeError where it has too many stitches for so many
 */
export function laidInHoop(design: Design, { several, begin, end }: InHoop): Design {
  if (!several || several.across * several.down === 1) {
    return { ...design, stitches: withNeedlePlaces(design.stitches, begin, end) };
  }
  const { stitches, placesOf } = layOut(design.stitches, several);
  const patches = (design.patches ?? [])
    .flatMap((patch) =>
      placesOf(patch.row).map(({ row, x, y }) => ({
        ...patch,
        row,
        rings: patch.rings.map((ring) => ring.map((v, i) => v + (i % 2 === 0 ? x : y))),
      })),
    )
    .sort((a, b) => a.row - b.row);
  const placed = withNeedlePlaces(stitches, begin, end);
  // A row before all others moves them by one.
  const moved = placed.count - stitches.count;
  return {
    ...design,
    several,
    stitches: placed,
    patches: patches.map((patch) => ({ ...patch, row: patch.row + moved })),
  };
}

const known = new WeakMap<StitchList, Design>();

/** The first one of a design that lies several times in the hoop; the design itself where it lies there once. */
export function oneOf(design: Design): Design {
  const { several, stitches } = design;
  if (!several) return design;
  let one = known.get(stitches);
  if (!one) {
    one = { ...design, several: undefined, stitches: firstOfSeveral(stitches, several) };
    known.set(stitches, one);
  }
  return one;
}
