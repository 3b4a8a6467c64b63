import { boundsOf, lengthOf, type Bounds } from '../geometry/polyline.js';
import type { Area } from './area.js';
import { isSamePaint } from './paint.js';

/** Letters are so high, in mm; larger ones are shapes of their own. */
const LEAST_MM = 2;
const MOST_MM = 45;
/** Their strokes leave at least this much of the box around them open. */
const MOST_FILLED = 0.82;
/** Two letters of a word differ by no more in height (capitals and small letters) and in the width of their strokes. */
const HEIGHTS = 2.4;
const STROKES = 1.7;
/** They stand beside each other, no farther apart than this share of the higher one, and on one line. */
const APART = 0.55;
const ON_ONE_LINE = 0.5;
/** Fewer are no word. */
const LEAST_LETTERS = 3;
/** Of more areas than this nobody looks for words: it is a mosaic. */
const MOST_AREAS = 3000;

interface Letter {
  readonly index: number;
  readonly box: Bounds;
  readonly height: number;
  readonly stroke: number;
}

/**
 * Words among areas: alike in colour, height and stroke, beside each other in a row. What is said of one letter only by its
 * own width makes a word of two techniques; so they are told together.
 * @returns for each word the indices of its letters, from left to right
 */
export function wordsOf(areas: readonly Area[]): number[][] {
  if (areas.length > MOST_AREAS) return [];
  const letters = areas.flatMap((area, index) => letterOf(area, index) ?? []).sort((a, b) => a.box.left - b.box.left);
  const word = letters.map((_, i) => i);
  const root = (i: number): number => {
    while (word[i] !== i) i = word[i] = word[word[i]];
    return i;
  };
  letters.forEach((a, i) => {
    for (let j = i + 1; j < letters.length; j++) {
      const b = letters[j];
      if (b.box.left - a.box.right > APART * MOST_MM) break;
      if (isBeside(a, b, areas)) word[root(j)] = root(i);
    }
  });
  const groups = new Map<number, number[]>();
  letters.forEach(({ index }, i) => groups.set(root(i), [...(groups.get(root(i)) ?? []), index]));
  return [...groups.values()].filter((group) => group.length >= LEAST_LETTERS);
}

function letterOf(area: Area, index: number): Letter | undefined {
  if (area.as !== undefined || area.fill || area.role) return undefined;
  const box = boundsOf(area.rings);
  const [width, height] = [box.right - box.left, box.bottom - box.top];
  if (height < LEAST_MM || height > MOST_MM || width > height * 1.6) return undefined;
  // A stroke of letters is narrow in its box: an I is its own box.
  if (area.areaMm2 > MOST_FILLED * width * height && width > height * 0.4) return undefined;
  const around = area.rings.reduce((sum, ring) => sum + lengthOf([...ring, ring[0], ring[1]]), 0);
  return { index, box, height, stroke: (2 * area.areaMm2) / around };
}

function isBeside(a: Letter, b: Letter, areas: readonly Area[]): boolean {
  const ratio = (p: number, q: number): number => Math.max(p, q) / Math.min(p, q);
  if (ratio(a.height, b.height) > HEIGHTS || ratio(a.stroke, b.stroke) > STROKES) return false;
  const gap = b.box.left - a.box.right;
  const higher = Math.max(a.height, b.height);
  if (gap > APART * higher || gap < -0.5 * higher) return false;
  const common = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top);
  if (common < ON_ONE_LINE * Math.min(a.height, b.height)) return false;
  const [p, q] = [areas[a.index], areas[b.index]];
  return p.object === q.object && p.layer === q.layer && isSamePaint(p.paint, q.paint);
}

/** Letters of texts, by their words and by their whole texts, in the order they are read. */
export function textsOf(areas: readonly Area[]): { words: number[][]; texts: number[][] } {
  const words = new Map<string, number[]>();
  const texts = new Map<string, number[]>();
  areas.forEach(({ inText, object, as }, i) => {
    if (!inText) return;
    const word = `${object} ${inText.word}`;
    words.set(word, [...(words.get(word) ?? []), i]);
    // What is said of the whole text holds for it: only what is left open is decided together.
    if (as === undefined) texts.set(object, [...(texts.get(object) ?? []), i]);
  });
  return { words: [...words.values()], texts: [...texts.values()] };
}

/** What a technique weighs more than its share of a word: satin holds letters together best, as long as its columns are wide enough. */
const WEIGHTS: Readonly<Record<string, number>> = { satin: 1.5 };

/** One technique for all letters of a word, by what each would be alone; none where they agree. */
export function techniqueOf(
  letters: readonly { readonly areaMm2: number; readonly kind: string }[],
): string | undefined {
  const shares = new Map<string, number>();
  for (const { areaMm2, kind } of letters) {
    shares.set(kind, (shares.get(kind) ?? 0) + areaMm2 * (WEIGHTS[kind] ?? 1));
  }
  if (shares.size < 2) return undefined;
  return [...shares].reduce((a, b) => (b[1] > a[1] ? b : a))[0];
}
