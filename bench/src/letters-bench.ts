import {
  ALPHABETS,
  alphabetOf,
  convert,
  emptyRecipe,
  newLetters,
  ringsOf,
  segmentsOf,
  STITCH,
  stitchLength,
  TRIM,
  type Design,
  type FontOutlines,
  type Points,
} from '@open-kite/core';
import { ringCoverage } from '@open-kite/core/testing';
import { allFonts, fontOutlines } from '@open-kite/server/fonts';
import { handFigures, painted } from './hand/measure.js';

const CAPITALS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789';
const SMALL = 'abcdefghijklmnopqrstuvwxyzäöüßéåøñ';
const WORDS = ['LANTERNS', 'Boxkites', 'Saltmere', 'Windfair'];
const PER_MM = 12;

/** Sews a text of a font at a height of capitals. */
function sewText(text: string, font: string, heightMm: number): Promise<Design> {
  const outlines: FontOutlines | null = alphabetOf(font) ? null : fontOutlines(font, text);
  const letters = newLetters('letters-1', { text, font, outlines, heightMm }, { hex: '#204060' });
  return convert({ pictures: {}, recipe: { ...emptyRecipe(), objects: [letters] }, charts: [] });
}

interface Letter {
  readonly character: string;
  readonly covered: number;
  readonly hole: number;
  readonly beyondMm: number;
  readonly over5: number;
  readonly short: number;
  readonly columns: number;
  readonly kind: string;
}

/** What one letter's stitches are worth. */
async function letterFigures(character: string, font: string, heightMm: number): Promise<Letter | undefined> {
  const design = await sewText(character, font, heightMm);
  if (design.pieces.length === 0) return undefined;
  const hand = handFigures(design);
  const rings = design.pieces.flatMap((piece) => ringsOf(piece));
  const xs = rings.flatMap((ring) => ring.filter((_, i) => i % 2 === 0));
  const ys = rings.flatMap((ring) => ring.filter((_, i) => i % 2 === 1));
  const [left, top] = [Math.min(...xs) - 2, Math.min(...ys) - 2];
  const width = Math.ceil((Math.max(...xs) + 2 - left) * PER_MM);
  const height = Math.ceil((Math.max(...ys) + 2 - top) * PER_MM);
  const done = painted(segmentsOf(design.stitches), left, top, width, height);
  const inside = new Uint8Array(width * height);
  for (const piece of design.pieces) {
    const own = ringsOf(piece).map((ring): Points => ring.map((v, i) => (v - (i % 2 === 0 ? left : top)) * PER_MM));
    ringCoverage(own, width, height).forEach((c, i) => (inside[i] = Math.max(inside[i] ?? 0, c)));
  }
  let [all, sewn] = [0, 0];
  inside.forEach((c, i) => {
    if (c < 128) return;
    all++;
    sewn += done[i] ?? 0;
  });
  const { stitches: list } = design;
  let [count, short, beyond] = [0, 0, 0];
  for (let i = 1; i < list.count; i++) {
    if (list.command[i] !== STITCH) continue;
    count++;
    const length = stitchLength(list, i);
    if (length > 0 && length < 0.3) short++;
    const [x, y] = [list.x[i] ?? 0, list.y[i] ?? 0];
    // What two pieces both cover is inside.
    beyond = Math.max(beyond, Math.min(...design.pieces.map((piece) => beyondBy(ringsOf(piece), x, y))));
  }
  return {
    character,
    covered: sewn / all,
    hole: hand.hole.value,
    beyondMm: beyond,
    over5: hand.over5,
    short: short / count,
    columns: design.pieces.reduce((sum, piece) => sum + piece.columns.length, 0),
    kind: design.pieces.map(({ kind }) => kind).join(),
  };
}

/** How far a place lies outside rings, in mm. */
function beyondBy(rings: readonly Points[], x: number, y: number): number {
  let inside = false;
  let least = Infinity;
  for (const ring of rings) {
    const n = ring.length;
    for (let i = 0; i < n; i += 2) {
      const [ax, ay, bx, by] = [ring[i] ?? 0, ring[i + 1] ?? 0, ring[(i + 2) % n] ?? 0, ring[(i + 3) % n] ?? 0];
      if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
      const square = (bx - ax) ** 2 + (by - ay) ** 2 || 1;
      const t = Math.min(1, Math.max(0, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / square));
      least = Math.min(least, Math.hypot(ax + (bx - ax) * t - x, ay + (by - ay) * t - y));
    }
  }
  return inside ? 0 : least;
}

const mean = (list: readonly number[]): number => list.reduce((sum, v) => sum + v, 0) / Math.max(1, list.length);
const most = (list: readonly Letter[], of: (letter: Letter) => number): Letter =>
  list.reduce((worst, letter) => (of(letter) > of(worst) ? letter : worst), list[0]);

/** Prints what letters of every font are worth at some heights. */
export async function lettersBench(only = ''): Promise<void> {
  console.log(
    '\nletters: covered (least) | largest hole mm2 | beyond mm | over five covers mm2 a letter | under 0.3 mm | columns',
  );
  for (const { id, leastMm } of allFonts()) {
    if (only !== '' && id !== only) continue;
    const isOwn = ALPHABETS.some((own) => own.id === id);
    for (const heightMm of isOwn
      ? [5, 8, 12, 20].filter((h) => h >= leastMm)
      : [leastMm, 12, 20].filter((h) => h >= leastMm)) {
      const small = id === 'graduate' ? '' : SMALL;
      const letters: Letter[] = [];
      for (const character of heightMm < 7 && isOwn ? CAPITALS : CAPITALS + small) {
        const own = await letterFigures(character, id, heightMm);
        if (own) letters.push(own);
      }
      const hole = most(letters, ({ hole: mm2 }) => mm2);
      const least = most(letters, ({ covered }) => -covered);
      const beyond = most(letters, ({ beyondMm }) => beyondMm);
      const heavy = most(letters, ({ over5 }) => over5);
      const satin = letters.filter(({ kind }) => kind.split(',').every((each) => each === 'satin')).length;
      console.log(
        [
          `${id} ${heightMm} mm`.padEnd(24),
          `${(mean(letters.map(({ covered }) => covered)) * 100).toFixed(1)} % (${least.character} ${(least.covered * 100).toFixed(1)})`,
          `${hole.hole.toFixed(2)} (${hole.character})`,
          `${beyond.beyondMm.toFixed(2)} (${beyond.character})`,
          `${mean(letters.map(({ over5 }) => over5)).toFixed(2)} (${heavy.character} ${heavy.over5.toFixed(1)})`,
          `${(mean(letters.map(({ short }) => short)) * 100).toFixed(1)} %`,
          mean(letters.map(({ columns }) => columns)).toFixed(1),
          `satin ${satin} of ${letters.length}`,
        ].join(' | '),
      );
    }
    const heightMm = Math.max(12, leastMm);
    const words: string[] = [];
    for (const word of WORDS) {
      const design = await sewText(id === 'graduate' ? word.toUpperCase() : word, id, heightMm);
      const trims = design.stitches.command.filter((command) => command === TRIM).length - 1;
      words.push(`${new Set(design.pieces.map(({ kind }) => kind)).size}/${trims}`);
    }
    console.log(`${id}: words of eight letters, techniques/trims inside: ${words.join(' ')}`);
  }
}
