import type { Artwork } from '../artwork/artwork.js';
import type { Chart } from '../colour/charts.js';
import { toHex } from '../colour/srgb.js';
import { threadColour } from '../colour/thread-colour.js';
import type { PictureObject } from '../objects/design-object.js';
import { groundBelow } from '../objects/fill-below.js';
import type { ThreadChoice } from '../pieces/piece-ref.js';
import { PIECES_METHOD } from '../photo/methods/index.js';
import type { Raster } from '../picture/raster.js';
import type { Recipe } from '../recipe/recipe.js';
import { viewOf, type PictureView } from '../recipe/view.js';
import type { Sewing } from '../sequence/sewing.js';
import { named, type StepCache } from './step.js';

/** Steps of a conversion, in order. */
export const STEPS = ['prepare', 'colours', 'trace', 'pieces', 'order', 'stitches'] as const;
export type StepName = (typeof STEPS)[number];

/** One of the pictures a design is made from. */
export interface SourcePicture {
  /** Names its content: the same pixels, the same key. */
  readonly key: string;
  /** Decoded picture. */
  readonly raster: Raster;
  /** The picture's shapes, where it is vector artwork: they become pieces as they are. */
  readonly artwork?: Artwork;
  /** What is sewn, where it is a stitch list; the picture only shows it then. */
  readonly sewing?: Sewing;
}

/** What goes into a conversion. */
export interface ConvertInput {
  /** The pictures the recipe's objects show, by their sources. */
  readonly pictures: Readonly<Record<string, SourcePicture>>;
  readonly recipe: Recipe;
  /** Charts the recipe may name. */
  readonly charts: readonly Chart[];
  /** Threads in the drawer, by `threadKey`; a recipe that asks for them needs it. */
  readonly stash?: ReadonlySet<string>;
}

export interface ConvertOptions {
  /** `rough` works on a small copy of the picture and answers quickly; `full` is the result. */
  readonly quality?: 'rough' | 'full';
  readonly cache?: StepCache;
  /** Hears which step runs and how much of the whole is done, 0 to 1. */
  readonly progress?: (step: StepName, share: number) => void;
  /**
   * Called between pieces of work; may give other work a turn, and stops the conversion by throwing.
   * Core has no clock and no timers of its own.
   */
  readonly checkpoint?: () => void | Promise<void>;
}

/** One picture of a design with everything its conversion may look at. */
export interface PictureInput {
  readonly source: SourcePicture;
  readonly view: PictureView;
  readonly charts: readonly Chart[];
  /** Threads in the drawer, in order. */
  readonly stash: readonly string[];
}

/**
 * A picture of a design as its conversion sees it.
 * @throws RangeError where its source was not given
 */
export function pictureInput(input: ConvertInput, object: PictureObject): PictureInput {
  const source = Object.hasOwn(input.pictures, object.source) ? input.pictures[object.source] : undefined;
  if (!source) {
    const known = Object.keys(input.pictures).join(', ') || 'none';
    throw new RangeError(`picture: the source "${object.source}" is not there; known are ${known}`);
  }
  named(source.raster, `pixels ${source.key}`);
  if (source.artwork) named(source.artwork, `artwork ${source.key}`);
  return { source, view: viewOnGround(input, object), charts: input.charts, stash: [...(input.stash ?? [])].sort() };
}

/** What a rendering sees of a recipe: the cloth is to it whatever it is sewn on, be it a fill of a colour of its own. */
function viewOnGround({ recipe, charts }: ConvertInput, object: PictureObject): PictureView {
  const view = viewOf(recipe, object);
  const ground = view.method === PIECES_METHOD ? undefined : groundBelow(recipe.objects, object);
  return ground ? { ...view, cloth: { ...view.cloth, hex: hexOf(ground.paint, charts) } } : view;
}

const hexOf = (paint: ThreadChoice, charts: readonly Chart[]): string =>
  'hex' in paint ? paint.hex : 'like' in paint ? paint.like.hex : toHex(threadColour(charts, paint.chart, paint.code));

/** Charts and drawer as far as a picture's recipe may look at them: others change nothing. */
export function threadSources({ view, charts, stash }: PictureInput): {
  readonly charts: readonly Chart[];
  readonly stash: readonly string[] | null;
} {
  // Decisions may name threads of any chart.
  return { charts, stash: view.colours.stashOnly ? stash : null };
}
