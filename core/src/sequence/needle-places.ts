import { END, JUMP, NO_PIECE, STITCH, stitchBounds, StitchWriter, type StitchList } from './stitch-list.js';

/** A place the needle can begin or end at. */
export interface NeedlePlace {
  readonly id: string;
  readonly name: string;
  /** Where it is in mm around the hoop's middle; undefined where there are no stitches. */
  readonly at: (list: StitchList) => readonly [x: number, y: number] | undefined;
}

const MIDDLE: NeedlePlace = { id: 'middle', name: 'In the middle of the hoop', at: () => [0, 0] };

const CORNER: NeedlePlace = {
  id: 'corner',
  name: 'At the upper left corner of the design',
  at: (list) => {
    const box = stitchBounds(list);
    return box && [box.left, box.top];
  },
};

const FIRST: NeedlePlace = {
  id: 'first',
  name: 'At the first stitch',
  at: (list) => placeAt(list, list.command.indexOf(STITCH)),
};

const LAST: NeedlePlace = {
  id: 'last',
  name: 'At the last stitch',
  at: (list) => placeAt(list, list.command.lastIndexOf(STITCH)),
};

const placeAt = ({ x, y }: StitchList, row: number): readonly [number, number] | undefined =>
  row < 0 ? undefined : [x[row], y[row]];

/** Where the needle can begin; the first is the usual one. */
export const BEGIN_PLACES: readonly NeedlePlace[] = [FIRST, MIDDLE, CORNER];
/** Where the needle can end; the first is the usual one. */
export const END_PLACES: readonly NeedlePlace[] = [MIDDLE, CORNER, FIRST, LAST];

/**
 * Lets the needle begin and end where somebody wants it: it goes from there to the first stitch without a thread, and the
 * last row of the list lies where it ends. A list is given back as it is where nothing is said.
 */
export function withNeedlePlaces(list: StitchList, begin: string | undefined, end: string | undefined): StitchList {
  const from =
    begin === undefined
      ? undefined
      : BEGIN_PLACES.slice(1)
          .find(({ id }) => id === begin)
          ?.at(list);
  const to = end === undefined ? undefined : END_PLACES.find(({ id }) => id === end)?.at(list);
  if (list.count === 0 || (!from && !to)) return list;
  const writer = new StitchWriter();
  if (from) writer.add(from[0], from[1], JUMP, list.thread[0], NO_PIECE);
  for (let i = 0; i < list.count; i++) {
    const [x, y] = to && list.command[i] === END ? to : [list.x[i], list.y[i]];
    writer.add(x, y, list.command[i], list.thread[i], list.piece[i]);
  }
  return writer.finish();
}
