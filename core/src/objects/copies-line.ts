import { flatten, type Curve } from '../geometry/curve.js';
import type { Points } from '../geometry/vector.js';
import { pathCurve, type DrawnPath } from '../pieces/drawn.js';
import { FLATNESS_MM } from '../pieces/piece.js';
import type { CopiesObject, DesignObject } from './design-object.js';
import { objectFrame } from './frames.js';

/** The line of a shape that others stand on, and its curve on the cloth; undefined where it has none. */
export function lineOfShape(
  objects: readonly DesignObject[],
  id: string,
): { readonly path: DrawnPath; readonly curve: Curve } | undefined {
  const shape = objects.find((object) => object.id === id);
  const path = shape?.kind === 'shape' ? shape.paths.find(({ nodes }) => nodes.length >= 2) : undefined;
  return path && { path, curve: pathCurve(path, objectFrame(objects, id).toHoop) };
}

/** The line copies stand along, on the cloth; undefined where they stand otherwise, or where the shape has none. */
export function lineOfCopies(objects: readonly DesignObject[], { layout }: CopiesObject): Points | undefined {
  const line = layout.kind === 'path' ? lineOfShape(objects, layout.along) : undefined;
  return line && flatten(line.curve, FLATNESS_MM);
}
