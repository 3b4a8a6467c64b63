import { ciede2000, colourWord, fromHex, rgbToLab, type ChartThread } from '@open-kite/core';

export type ThreadOrder = 'chart' | 'hue' | 'code';

/** A thread as the cupboard lists it. */
export interface ListedThread extends ChartThread {
  readonly chart: string;
  readonly chartName: string;
  /** Difference from the colour that is looked for. */
  readonly deltaE?: number;
}

/** Reads a typed colour: `#2f5d50`, `2f5d50` or `#fff`. */
export function readColour(text: string): string | undefined {
  const match = /^\s*#?([0-9a-f]{3}|[0-9a-f]{6})\s*$/i.exec(text);
  if (!match) return undefined;
  const digits = match[1].toLowerCase();
  return digits.length === 6 ? `#${digits}` : `#${[...digits].map((d) => d + d).join('')}`;
}

/** Place of a colour in a rainbow: greys first, from dark to light, then around the circle of hues. */
function huePlace(hex: string): number {
  const { l, a, b } = rgbToLab(fromHex(hex));
  const chroma = Math.sqrt(a * a + b * b);
  if (chroma < 8) return l / 1000;
  const hue = (Math.atan2(b, a) * 180) / Math.PI;
  // A dozen hues, and within each from dark to light, make an even strip of swatches.
  return 1 + Math.floor(((hue - 15 + 720) % 360) / 30) + l / 1000;
}

/** Threads that fit the words typed, by number, name or colour word, nearest to a colour first if there is one, else in the order asked for. */
export function findThreads(
  threads: readonly ListedThread[],
  words: string,
  near: string | undefined,
  order: ThreadOrder,
): ListedThread[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  const found = threads.filter((thread) => {
    // Whoever does not know its name knows what it looks like.
    const text = `${thread.code} ${thread.name} ${colourWord(thread.hex)}`.toLowerCase();
    return wanted.every((word) => text.includes(word));
  });
  if (near) {
    const lab = rgbToLab(fromHex(near));
    return found
      .map((thread) => ({ ...thread, deltaE: ciede2000(lab, rgbToLab(fromHex(thread.hex))) }))
      .sort((a, b) => a.deltaE - b.deltaE);
  }
  if (order === 'hue') {
    const places = new Map(found.map((thread) => [thread, huePlace(thread.hex)]));
    return found.sort((a, b) => (places.get(a) as number) - (places.get(b) as number));
  }
  if (order === 'code') return found.sort((a, b) => a.code.localeCompare(b.code, 'en', { numeric: true }));
  return found;
}
