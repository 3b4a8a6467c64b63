import { curvePath, type DrawnPath } from '../pieces/drawn.js';
import { lineOfShape } from './copies-line.js';
import type { DesignObject, LettersObject } from './design-object.js';
import { rounded } from './shape-of-piece.js';

/** The line of a shape as it lies on the cloth, for a text to stand on; undefined where it has none. */
export function lineForText(objects: readonly DesignObject[], id: string): DrawnPath | undefined {
  const line = lineOfShape(objects, id);
  return line && rounded(curvePath(line.curve, line.path.closed, (u, v) => ({ u, v })));
}

/** A text on the line it follows, as that is now; where the line is gone, as it was last. */
export function onItsLine(objects: readonly DesignObject[], letters: LettersObject): LettersObject {
  if (letters.line !== 'path' || letters.along === undefined) return letters;
  const line = lineForText(objects, letters.along);
  return line ? { ...letters, path: [line] } : letters;
}
