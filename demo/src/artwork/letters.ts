/** Capital letters of the fair's own sign lettering, as strokes on a 4 x 6 grid. */
const STROKES: Readonly<Record<string, string>> = {
  A: 'M0 6L2 0L4 6M0.8 3.8L3.2 3.8',
  B: 'M0 6L0 0L2.2 0C4 0 4 2.8 2.2 2.8L0 2.8M2.2 2.8C4.6 2.8 4.6 6 2.2 6L0 6',
  E: 'M4 0L0 0L0 6L4 6M0 3L3.2 3',
  I: 'M2 0L2 6',
  K: 'M0 0L0 6M4 0L0 3.4M1.4 2.4L4 6',
  L: 'M0 0L0 6L3.6 6',
  N: 'M0 6L0 0L4 6L4 0',
  R: 'M0 6L0 0L2.2 0C4.2 0 4.2 3.2 2.2 3.2L0 3.2M2 3.2L4 6',
  T: 'M0 0L4 0M2 0L2 6',
  Y: 'M0 0L2 3L4 0M2 3L2 6',
};

/** A word as SVG path data: strokes to be drawn with a round pen. */
export function wordStrokes(word: string, x: number, y: number, size: number, gap = 1.6): string {
  const scale = size / 6;
  let at = 0;
  let out = '';
  for (const letter of word) {
    const strokes = STROKES[letter];
    if (strokes === undefined) {
      at += 3;
      continue;
    }
    const numbers = strokes.replace(/(-?[\d.]+) (-?[\d.]+)/g, (_, a: string, b: string) => {
      return `${(x + (at + Number(a)) * scale).toFixed(2)} ${(y + Number(b) * scale).toFixed(2)}`;
    });
    out += numbers;
    at += 4 + gap;
  }
  return out;
}

/** Width of a word at a size, for centring it. */
export function wordWidth(word: string, size: number, gap = 1.6): number {
  return (size / 6) * (word.length * 4 + (word.length - 1) * gap);
}
