import type { DesignObject, PictureBody, PictureObject } from '../objects/design-object.js';
import { FIRST_PICTURE, firstPicture, type Recipe } from './recipe.js';

/** A recipe as one of its pictures sees it: what is said of that picture, and what holds for the whole design. */
export interface PictureView extends PictureBody, Omit<Recipe, 'version'> {
  /** The picture. */
  readonly id: string;
}

/** Names of the pictures and lists a recipe shows. */
export const sourcesOf = ({ objects }: Pick<Recipe, 'objects'>): string[] => objects.flatMap(sourcesOfObject);

/** Sources one object shows: what it sews, or what its cloth is printed with. */
export function sourcesOfObject(object: DesignObject): string[] {
  if ('source' in object) return [object.source];
  const print = object.kind === 'outline' ? object.applique?.cloth.print : undefined;
  return print ? [print.source] : [];
}

/** The object with its sources under other names. */
export function withSources(object: DesignObject, named: (source: string) => string): DesignObject {
  if ('source' in object) return { ...object, source: named(object.source) };
  const print = object.kind === 'outline' ? object.applique?.cloth.print : undefined;
  if (object.kind !== 'outline' || !object.applique || !print) return object;
  const cloth = { ...object.applique.cloth, print: { ...print, source: named(print.source) } };
  return { ...object, applique: { ...object.applique, cloth } };
}

/** The picture of an id, or the lowest where there is none of it; undefined in a design without pictures. */
export function pictureOf(recipe: Recipe, id?: string): PictureObject | undefined {
  const pictures = recipe.objects.filter((object): object is PictureObject => object.kind === 'picture');
  return pictures.find((picture) => picture.id === id) ?? pictures.at(0);
}

/** What stands for a picture in a design that has none. */
const NO_PICTURE: PictureObject = { ...firstPicture('', 100, 100), source: FIRST_PICTURE };

/** The recipe as a picture sees it; as one that is not there would, where there is none. */
export const viewOfDesign = (recipe: Recipe, id?: string): PictureView =>
  viewOf(recipe, pictureOf(recipe, id) ?? NO_PICTURE);

/** The recipe as a picture sees it. */
export function viewOf(recipe: Recipe, picture: PictureObject): PictureView {
  const { method, picture: place, light, colours, pieces, rendering, id } = picture;
  const { cloth, objects, decisions, stitches, order, budget } = recipe;
  return {
    id,
    method,
    picture: place,
    light,
    colours,
    pieces,
    rendering,
    cloth,
    objects,
    decisions,
    stitches,
    order,
    budget,
  };
}

/** The recipe with what a changed view says: of its picture, and of the whole design. */
export function withView(recipe: Recipe, view: PictureView): Recipe {
  const { id, method, picture, light, colours, pieces, rendering, objects, ...whole } = view;
  return {
    ...recipe,
    ...whole,
    objects: objects.map((object) =>
      object.id === id && object.kind === 'picture'
        ? { ...object, method, picture, light, colours, pieces, rendering }
        : object,
    ),
  };
}
