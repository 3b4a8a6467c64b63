import type { Piece } from '../pieces/piece.js';
import type { Points } from '../geometry/vector.js';
import { overlapOn } from '../stitches/fabrics.js';
import { clothOf, compensationOf, type Cloth } from '../stitches/generate.js';
import { areOfWord, joinedUpTo } from './in-word.js';
import { inPlace, movedBack } from './sewn-in-place.js';
import { PieceStitches, shapeKey } from './piece-stitches.js';
import { planSewing } from './plan-sewing.js';
import { hiddenWaysOf } from './sewn-ground.js';
import { laterNeighbours, reachUnder } from './under-neighbours.js';
import { Seam } from './seam.js';
import type { StitchList } from './stitch-list.js';
import type { SewSettings } from './sew-settings.js';

/**
 * Sews one piece after the other and joins them by ties, trims, jumps and thread changes.
 * @param known stitches made before, so that only what changed is made again
 */
export function* sewPieces(
  pieces: readonly Piece[],
  order: readonly number[],
  settings: SewSettings,
  known = new PieceStitches(),
  { angles, ways } = planSewing(pieces, order, settings),
  between: readonly (RunsBetween | ListBetween)[] = [],
): Generator<number, StitchList> {
  known.begin();
  const { stitches } = settings;
  const place = new Int32Array(pieces.length);
  order.forEach((index, k) => (place[index] = k));
  const seam = new Seam(settings, settings.hideTravel ? hiddenWaysOf(pieces, order) : undefined);
  const sewRuns = (place: number): void => {
    for (const each of between) {
      if (each.at !== place) continue;
      if ('list' in each) seam.sewList(each.list);
      else for (const run of each.runs) seam.sew(run, each.thread, each.index, place);
    }
  };
  for (let k = 0; k < order.length; k++) {
    sewRuns(k);
    const index = order[k];
    const piece = pieces[index];
    const overlap = overlapUnder(piece, settings);
    const later = settings.edgeToEdge ? [] : laterNeighbours(pieces, place, index).map((i) => pieces[i]);
    const reachKey = `${overlap} ${later.map(shapeKey).join()}`;
    const { rows, connect, values } = piece.choices;
    if (piece.stopBefore) seam.stop(piece.thread);
    const before = k > 0 ? pieces[order[k - 1]] : undefined;
    const joinedMm = areOfWord(before, piece) ? joinedUpTo(before, piece, settings.trimOverMm) : 0;
    const tie = typeof values['tie'] === 'string' ? values['tie'] : undefined;
    const how = { joinedMm, way: connect, tie };
    if (rows && rows.length > 0) {
      seam.sewRows(rows, piece.thread, index, k, how);
      yield k + 1;
      continue;
    }
    const still = inPlace(piece, ways[k], later.length > 0);
    const runs = still
      ? movedBack(
          known.get(still.piece, stitches, angles[index], still.way, '', () => ({})),
          still,
        )
      : known.get(piece, stitches, angles[index], ways[k], reachKey, () =>
          reachUnder(piece, later, overlap, compensationOf(piece, stitches)),
        );
    runs.forEach((run, i) => seam.sew(run, piece.thread, index, k, i === 0 ? how : { joinedMm, tie }));
    yield k + 1;
  }
  sewRuns(order.length);
  return seam.finish();
}

/** How far a piece reaches under neighbours sewn later, in mm: as it was said of it, else as the design and its cloth have it. */
export function overlapUnder(
  piece: Piece,
  { stitches, overlapMm }: { readonly stitches: Cloth; readonly overlapMm: number | null },
): number {
  const own = piece.choices.values['overlapMm'];
  if (typeof own === 'number') return own;
  const cloth = clothOf(piece, stitches);
  const set = cloth === stitches ? overlapMm : null;
  return set ?? overlapOn(cloth.fabric, cloth.compensationMm);
}

/** Runs that are no piece: a thread of a rendering. */
export interface RunsBetween {
  /** How many pieces are sewn before them. */
  readonly at: number;
  readonly runs: readonly Points[];
  readonly thread: number;
  /** Their number among the names of the stitch list. */
  readonly index: number;
}

/** A stitch list that is sewn as it is. */
export interface ListBetween {
  /** How many pieces are sewn before it. */
  readonly at: number;
  readonly list: StitchList;
}
