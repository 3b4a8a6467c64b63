import type { Chart } from '../colour/charts.js';
import type { DesignThread } from '../colour/design-thread.js';
import { fromHex, toHex } from '../colour/srgb.js';
import { ciede2000, rgbToLab } from '../colour/ciede2000.js';
import { colourWord } from '../colour/colour-word.js';
import { mapPoint, type Matrix } from '../artwork/matrix.js';
import type { NamedThread, StitchesObject } from '../objects/design-object.js';
import { objectFrame } from '../objects/frames.js';
import { frameMatrix } from '../pieces/find-again.js';
import type { Recipe } from '../recipe/recipe.js';
import type { Sewing } from '../sequence/sewing.js';
import { END, NO_PIECE, type StitchList } from '../sequence/stitch-list.js';
import { threadColour } from '../colour/thread-colour.js';
import { keyOf, named } from './step.js';

/** A stitch list of a design, where it lies: its rows without the end. */
export interface ReadyList {
  readonly object: StitchesObject;
  readonly sewing: Sewing;
  /** Threads it is sewn with. */
  readonly threads: readonly DesignThread[];
  readonly onCloth: Matrix;
  /** Names its content. */
  readonly key: string;
}

/** Lists of a design with their threads. @throws RangeError where a source is missing or no list */
export function readyList(
  object: StitchesObject,
  recipe: Recipe,
  source: { readonly key: string; readonly sewing?: Sewing } | undefined,
  charts: readonly Chart[],
): ReadyList {
  if (!source?.sewing) throw new RangeError(`the recipe shows ${object.source}, which is no stitch list`);
  const { sewing, key } = source;
  const threads = sewing.threads.map((thread, i): DesignThread => {
    const chosen = object.threads[i];
    return chosen ? chosenThread(chosen, thread, charts) : thread;
  });
  return { object, sewing, threads, onCloth: frameMatrix(objectFrame(recipe.objects, object.id).toHoop), key };
}

function chosenThread(chosen: NamedThread, before: DesignThread, charts: readonly Chart[]): DesignThread {
  const rgb = 'hex' in chosen ? fromHex(chosen.hex) : threadColour(charts, chosen.chart, chosen.code);
  const deltaE = ciede2000(rgbToLab(fromHex(before.hex)), rgbToLab(rgb));
  const hex = toHex(rgb);
  if ('hex' in chosen) return { code: before.code, name: colourWord(hex), hex, chart: 'own', deltaE };
  const known = charts.find(({ id }) => id === chosen.chart)?.threads.find(({ code }) => code === chosen.code);
  return { code: chosen.code, name: known?.name ?? '', hex, chart: chosen.chart, deltaE };
}

/**
 * Rows of a list on the cloth, with the threads and the pieces of the whole design.
 * @param threadAt thread of the design for each of the list's
 * @param firstPiece number of its first piece among the names of the design
 */
export function rowsOnCloth(list: ReadyList, threadAt: readonly number[], firstPiece: number): StitchList {
  const { stitches } = list.sewing;
  const count =
    stitches.count > 0 && stitches.command[stitches.count - 1] === END ? stitches.count - 1 : stitches.count;
  const x = new Float32Array(count);
  const y = new Float32Array(count);
  const thread = new Uint8Array(count);
  const piece = new Uint16Array(count);
  for (let i = 0; i < count; i++) {
    const [px, py] = mapPoint(list.onCloth, stitches.x[i], stitches.y[i]);
    x[i] = px;
    y[i] = py;
    thread[i] = threadAt[stitches.thread[i]] ?? 0;
    piece[i] = stitches.piece[i] === NO_PIECE ? NO_PIECE : stitches.piece[i] + firstPiece;
  }
  const rows: StitchList = { count, x, y, command: stitches.command.slice(0, count), thread, piece };
  return named(rows, keyOf('rows', { list: list.key, onCloth: list.onCloth, threadAt, firstPiece }));
}

/** Names of a list's pieces; where the design has one of a name already they are said with their object. */
export function listPieceIds({ object, sewing }: ReadyList, taken: ReadonlySet<string>): string[] {
  return sewing.pieceIds.map((id) => (taken.has(id) ? `${object.id}:${id}` : id));
}
