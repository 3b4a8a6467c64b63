import { linearOf } from './srgb.js';
import { placeOf } from './histogram.js';

/** Words that people have for colours, each with one it is said of. */
const WORDS: readonly (readonly [word: string, hex: string])[] = [
  ['black', '#0f1011'],
  ['charcoal', '#35383a'],
  ['grey', '#7d8082'],
  ['silver', '#bcbfc0'],
  ['white', '#fbfbfa'],
  ['cream', '#f3ead2'],
  ['beige', '#d9c7a8'],
  ['sand', '#c4a877'],
  ['tan', '#a9804f'],
  ['brown', '#6f4627'],
  ['dark brown', '#3b2617'],
  ['rust', '#a4441d'],
  ['orange', '#e67a22'],
  ['amber', '#e8a72d'],
  ['yellow', '#f3d63b'],
  ['pale yellow', '#f7eeb2'],
  ['olive', '#6d6a2f'],
  ['lime', '#a6c93b'],
  ['green', '#2f8f40'],
  ['dark green', '#1d4a2a'],
  ['sage', '#9cb299'],
  ['mint', '#aaddc4'],
  ['teal', '#217a79'],
  ['dark teal', '#12474b'],
  ['turquoise', '#3ab7b1'],
  ['sky blue', '#8ec5e8'],
  ['blue', '#2b63b6'],
  ['navy', '#1b2a4c'],
  ['slate', '#556472'],
  ['lavender', '#b9aedc'],
  ['violet', '#6a499d'],
  ['plum', '#56235b'],
  ['magenta', '#c12a85'],
  ['pink', '#eba4ba'],
  ['rose', '#ce5e77'],
  ['red', '#c21f26'],
  ['dark red', '#7a1a1e'],
  ['salmon', '#ee9a80'],
  ['peach', '#f6d0af'],
];

const place = (hex: string): Float32Array => {
  const out = new Float32Array(3);
  placeOf(...linearOf(hex), out, 0);
  return out;
};
const PLACES = WORDS.map(([, hex]) => place(hex));

/** The word for a colour: that of the nearest in OKLab, a and b doubled as everywhere here. */
export function colourWord(hex: string): string {
  const [l, a, b] = place(hex);
  let best = 0;
  let least = Infinity;
  PLACES.forEach((p, i) => {
    const d = (p[0] - l) ** 2 + (p[1] - a) ** 2 + (p[2] - b) ** 2;
    if (d < least) [least, best] = [d, i];
  });
  return WORDS[best][0];
}

/** Name of a thread that no chart has: its colour in a word, and its hex. */
export function ownName(hex: string): string {
  const word = colourWord(hex);
  return `${word[0].toUpperCase()}${word.slice(1)} ${hex.toLowerCase()}`;
}
