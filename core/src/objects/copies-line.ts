import { flatten } from '../geometry/curve.js';
import type { Points } from '../geometry/vector.js';
import { pathCurve } from '../pieces/drawn.js';
import { FLATNESS_MM } from '../pieces/piece.js';
import type { CopiesObject, DesignObject } from './design-object.js';
import { objectFrame } from './frames.js';

/** The line copies stand along, on the cloth; undefined where they stand otherwise, or where the shape has none. */
export function lineOfCopies(objects: readonly DesignObject[], { layout }: CopiesObject): Points | undefined {
  if (layout.kind !== 'path') return undefined;
  const along = objects.find(({ id }) => id === layout.along);
  if (along?.kind !== 'shape') return undefined;
  const path = along.paths.find(({ nodes }) => nodes.length >= 2);
  return path && flatten(pathCurve(path, objectFrame(objects, along.id).toHoop), FLATNESS_MM);
}
