import type { ThreadPixels } from './cells.js';

/** Letters are read in crosses from so many cells of height on. */
const CELLS_TALL = 7;
/** What is smaller than this, in mm, is dust, and what is larger, in cells, can be read anyway. */
const LEAST_MM = 1.2;
/** Share of its box that a letter fills. */
const FILLS: readonly [number, number] = [0.12, 0.8];
/** Letters of one word differ in height by this factor at most and stand no farther apart than this many heights. */
const HEIGHTS = 1.7;
const APART = 1.3;
const LEAST_LETTERS = 3;

/** A row of letters too small for its cells. */
export interface SmallLetters {
  /** Where they are, in mm. */
  readonly x: number;
  readonly y: number;
  readonly heightMm: number;
  readonly letters: number;
  /** Largest cell they could be read in. */
  readonly cellMm: number;
}

interface Mark {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/**
 * Finds rows of letters that crosses of a size cannot show: three or more patches of one thread, of like height, that stand
 * beside each other and fill their boxes as letters do.
 */
export function smallLetters(pixels: ThreadPixels, cellMm: number): SmallLetters[] {
  const { pixelMm } = pixels;
  const tall = (CELLS_TALL * cellMm) / pixelMm;
  const found: SmallLetters[] = [];
  for (const marks of letterLike(pixels, LEAST_MM / pixelMm, tall).values()) {
    marks.sort((a, b) => a.left - b.left || a.top - b.top);
    const used = new Set<Mark>();
    for (const first of marks) {
      if (used.has(first)) continue;
      const word = [first];
      // The word grows while its last letter is looked at.
      for (const last of word) {
        const next = marks.find((mark) => !used.has(mark) && !word.includes(mark) && follows(last, mark));
        if (next) word.push(next);
      }
      if (word.length < LEAST_LETTERS) continue;
      for (const mark of word) used.add(mark);
      const heights = word.map(({ top, bottom }) => bottom - top + 1).sort((a, b) => a - b);
      const heightMm = heights[Math.floor(heights.length / 2)] * pixelMm;
      found.push({
        x: pixels.left + ((word[0].left + word[word.length - 1].right) / 2) * pixelMm,
        y: pixels.top + ((word[0].top + word[0].bottom) / 2) * pixelMm,
        heightMm,
        letters: word.length,
        cellMm: Math.floor((heightMm / CELLS_TALL) * 10) / 10,
      });
    }
  }
  return found;
}

function follows(last: Mark, mark: Mark): boolean {
  const [h, n] = [last.bottom - last.top + 1, mark.bottom - mark.top + 1];
  const gap = mark.left - last.right;
  const beside = Math.min(last.bottom, mark.bottom) - Math.max(last.top, mark.top) + 1;
  return (
    mark.left > last.left &&
    gap > -0.2 * h &&
    gap <= APART * Math.max(h, n) &&
    Math.max(h / n, n / h) <= HEIGHTS &&
    beside >= 0.6 * Math.min(h, n)
  );
}

/** Patches of each thread that could be letters, by thread. */
function letterLike({ thread, width, height }: ThreadPixels, least: number, most: number): Map<number, Mark[]> {
  const seen = new Uint8Array(thread.length);
  const out = new Map<number, Mark[]>();
  for (let start = 0; start < thread.length; start++) {
    if (seen[start]) continue;
    const own = thread[start];
    const stack = [start];
    seen[start] = 1;
    let count = 0;
    let [left, right, top, bottom] = [width, 0, height, 0];
    for (let i = stack.pop(); i !== undefined; i = stack.pop()) {
      const x = i % width;
      const y = (i - x) / width;
      count++;
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < top) top = y;
      if (y > bottom) bottom = y;
      for (const next of [x > 0 ? i - 1 : i, x < width - 1 ? i + 1 : i, i - width, i + width]) {
        if (next < 0 || next >= thread.length || seen[next] || thread[next] !== own) continue;
        seen[next] = 1;
        stack.push(next);
      }
    }
    const [w, h] = [right - left + 1, bottom - top + 1];
    const fills = count / (w * h);
    // A letter is seldom wider than tall, and stands inside the picture.
    const inside = left > 0 && top > 0 && right < width - 1 && bottom < height - 1;
    if (own < 0 || !inside || h < least || h >= most || w > 1.8 * h || fills < FILLS[0] || fills > FILLS[1]) continue;
    const marks = out.get(own);
    if (marks) marks.push({ left, top, right, bottom });
    else out.set(own, [{ left, top, right, bottom }]);
  }
  return out;
}
