import type { PictureView, Recipe } from '@open-kite/core';
import type { Draft } from './history';

/** What of a view belongs to its picture; the rest is said of the whole design. */
const OF_PICTURE = ['method', 'picture', 'light', 'colours', 'pieces', 'rendering'] as const;
const OF_DESIGN = ['cloth', 'objects', 'decisions', 'stitches', 'order', 'budget'] as const;

/**
 * A recipe under change, as one of its pictures sees it: what is read and set here is read and set in the recipe.
 * @param id the picture; the lowest where there is none of it
 */
export function draftView(recipe: Draft<Recipe>, id: string | undefined): Draft<PictureView> {
  const pictures = recipe.objects.filter((object) => object.kind === 'picture');
  const picture = pictures.find((object) => object.id === id) ?? pictures[0];
  const view = { id: picture?.id ?? '' };
  const from = (source: object | undefined, keys: readonly string[]): void => {
    for (const key of keys) {
      Object.defineProperty(view, key, {
        enumerable: true,
        get: (): unknown => source && Reflect.get(source, key),
        set: (value: unknown) => void (source && Reflect.set(source, key, value)),
      });
    }
  };
  from(picture, OF_PICTURE);
  from(recipe, OF_DESIGN);
  return view as Draft<PictureView>;
}
