import type { Artwork } from '../artwork/artwork.js';
import type { Chart } from '../colour/charts.js';
import type { PictureBody, PicturePlace } from '../objects/design-object.js';
import type { Raster } from '../picture/raster.js';
import type { DrawnPath } from '../pieces/drawn.js';
import type { PieceAnchor, ThreadChoice } from '../pieces/piece-ref.js';
import type { ConvertInput } from '../pipeline/input.js';
import { defaultRecipe, FIRST_PICTURE, parseRecipe, type Recipe } from '../recipe/recipe.js';
import { pictureOf } from '../recipe/view.js';

/**
 * A recipe of one picture laid flat, as version 6 had it: shorter to write, and every spec that does is one of reading old
 * recipes too.
 */
export interface FlatRecipe extends Omit<PictureBody, 'picture' | 'pieces' | 'rendering'> {
  readonly version: number;
  readonly picture: Omit<PicturePlace, 'xMm' | 'yMm' | 'beyondHex'>;
  readonly pieces: PictureBody['pieces'] & {
    readonly decisions: readonly unknown[];
    readonly drawn: readonly unknown[];
  };
  readonly stitches: Recipe['stitches'] & { readonly fabric: string };
  readonly order: Recipe['order'];
  readonly rendering: PictureBody['rendering'] & {
    readonly border: { readonly kind: string; readonly widthMm: number; readonly hex: string };
  };
  readonly budget: number | null;
  readonly clothHex: string;
}

/** A drawn piece as flat recipes have it, in shares of the picture's sides. */
export interface FlatShape {
  readonly id: string;
  readonly role: 'piece' | 'hole';
  readonly paths: readonly DrawnPath[];
  readonly widthMm: number;
  readonly as: string;
  readonly passes: number;
  readonly paint: ThreadChoice;
  readonly copies: { readonly count: number; readonly radiusMm: number };
  readonly replaces: PieceAnchor | null;
}

/** A new drawn piece around some paths. */
export const flatShape = (id: string, paths: readonly DrawnPath[], paint: ThreadChoice): FlatShape => ({
  id,
  role: 'piece',
  paths,
  widthMm: 0.8,
  as: 'auto',
  passes: 0,
  paint,
  copies: { count: 1, radiusMm: 15 },
  replaces: null,
});

/** The flat recipe of a first conversion. */
export function flatRecipe(...size: Parameters<typeof defaultRecipe>): FlatRecipe {
  const recipe = defaultRecipe(...size);
  const object = pictureOf(recipe);
  if (!object) throw new RangeError('no picture');
  const { method, light, colours } = object;
  const picture: Record<string, unknown> = { ...object.picture };
  for (const later of ['xMm', 'yMm', 'beyondHex']) delete picture[later];
  return {
    version: 6,
    method,
    picture: picture as unknown as FlatRecipe['picture'],
    light,
    colours,
    pieces: { ...object.pieces, decisions: [], drawn: [] },
    stitches: { ...recipe.stitches, fabric: recipe.cloth.fabric },
    order: recipe.order,
    rendering: { ...object.rendering, border: { kind: 'none', widthMm: 3, hex: '#22304a' } },
    budget: recipe.budget,
    clothHex: recipe.cloth.hex,
  };
}

/** What a conversion of one picture takes. */
export function onePicture(given: {
  readonly raster: Raster;
  readonly artwork?: Artwork;
  readonly pictureKey: string;
  readonly recipe: FlatRecipe | Recipe;
  readonly charts: readonly Chart[];
  readonly stash?: ReadonlySet<string>;
}): ConvertInput {
  const { raster, artwork, pictureKey: key, recipe, charts, stash } = given;
  return { pictures: { [FIRST_PICTURE]: { key, raster, artwork } }, recipe: parseRecipe(recipe), charts, stash };
}
