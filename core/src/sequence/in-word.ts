import type { Point } from '../geometry/vector.js';
import type { Piece } from '../pieces/piece.js';

/** From letter to letter of a word the thread stays whole over so much of their height, and so many mm at most. */
const OF_HEIGHT = 0.6;
const MOST_MM = 8;
/** Letters that were found stand in one row over a space of so much of their height: between the words of a line. */
const SPACE = 0.4;

/** Whether two pieces are letters of one word. */
export const areOfWord = (a: Piece | undefined, b: Piece): boolean =>
  a !== undefined && b.word !== undefined && a.word === b.word;

/** How far the thread goes from one piece to the next before it is cut: between letters as hands do it, elsewhere as set. */
export function joinedUpTo(a: Piece | undefined, b: Piece, trimOverMm: number): number {
  if (!a || !areOfWord(a, b)) return trimOverMm;
  const height = Math.max(...[a, b].map(({ bounds }) => bounds.bottom - bounds.top));
  const between = Math.max(a.bounds.left, b.bounds.left) - Math.min(a.bounds.right, b.bounds.right);
  // Of what was typed it is known where a word ends.
  if (b.reading === undefined && between > SPACE * height) return trimOverMm;
  return Math.max(trimOverMm, Math.min(MOST_MM, OF_HEIGHT * height));
}

/** A way at the height of the letters' tops counts so many times more than one along the line they stand on. */
const AT_TOP = 3;

/** What a way from letter to letter is multiplied by: along the foot of a word it is seen least. */
export function aboveLine(a: Piece | undefined, b: Piece, from: Point, to: Point): number {
  if (!a || !areOfWord(a, b)) return 1;
  const foot = Math.max(a.bounds.bottom, b.bounds.bottom);
  const height = Math.max(1e-6, foot - Math.min(a.bounds.top, b.bounds.top));
  const share = (foot - Math.min(from.y, to.y)) / height;
  return 1 + (AT_TOP - 1) * Math.min(1, Math.max(0, share));
}
