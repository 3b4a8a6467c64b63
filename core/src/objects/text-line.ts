import { curvePath, pathCurve, type DrawnPath } from '../pieces/drawn.js';
import type { DesignObject, LettersObject } from './design-object.js';
import { objectFrame } from './frames.js';

/** Nodes to a hundredth of a micrometre: what is kept of a line is the same however often it is read. */
const ROUND = 1e5;

/** The line of a shape as it lies on the cloth, for a text to stand on; undefined where it has none. */
export function lineForText(objects: readonly DesignObject[], id: string): DrawnPath | undefined {
  const shape = objects.find((object) => object.id === id);
  const path = shape?.kind === 'shape' ? shape.paths.find(({ nodes }) => nodes.length >= 2) : undefined;
  if (!path) return undefined;
  const { closed, nodes } = curvePath(pathCurve(path, objectFrame(objects, id).toHoop), path.closed, (u, v) => ({
    u,
    v,
  }));
  return {
    closed,
    nodes: nodes.map((node) => node.map((v) => Math.round(v * ROUND) / ROUND)) as unknown as DrawnPath['nodes'],
  };
}

/** A text on the line it follows, as that is now; where the line is gone, as it was last. */
export function onItsLine(objects: readonly DesignObject[], letters: LettersObject): LettersObject {
  if (letters.line !== 'path' || letters.along === undefined) return letters;
  const line = lineForText(objects, letters.along);
  return line ? { ...letters, path: [line] } : letters;
}
