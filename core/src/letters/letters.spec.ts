import { convert } from '../convert.js';
import type { Design } from '../design/design.js';
import { boundsOf, distanceToRings } from '../geometry/polyline.js';
import { IDENTITY, mapRun } from '../artwork/matrix.js';
import type { DesignObject, LettersObject } from '../objects/design-object.js';
import { newLetters } from '../objects/new-letters.js';
import { newShape } from '../objects/shape-of-piece.js';
import { placeChosen } from '../objects/place-chosen.js';
import { emptyRecipe, parseRecipe } from '../recipe/recipe.js';
import { TRIM } from '../sequence/stitch-list.js';
import { ALPHABETS, alphabetOf } from './alphabets/index.js';
import { partsOf, strokeWidth, type FontOutlines } from './glyph.js';
import { layText, missingCharacters, type LaidLetter, type TextChoices } from './layout.js';
import { FIRST_TEXT } from './new-letters.js';

const HEX = { hex: '#204060' };
const setText = (text: string, more: Partial<TextChoices> = {}): readonly LaidLetter[] =>
  layText({ ...FIRST_TEXT, text, ...more }).letters;
const ringsAt = ({ glyph, at }: LaidLetter): number[][] => glyph.rings.map((ring) => mapRun(at, ring));
const sewn = (letters: LettersObject): Promise<Design> =>
  convert({ pictures: {}, recipe: parseRecipe({ ...emptyRecipe(), objects: [letters] }), charts: [] });

/** Least distance between two letters. */
function gap(a: LaidLetter, b: LaidLetter): number {
  let least = Infinity;
  for (const ring of ringsAt(a)) {
    for (let i = 0; i < ring.length; i += 2) {
      least = Math.min(least, distanceToRings(ringsAt(b), ring[i], ring[i + 1]));
    }
  }
  return least;
}

/** A font of two square letters, one of which stands under the other's arm. */
const SQUARES: FontOutlines = {
  glyphs: {
    T: { d: 'M0 100L80 100L80 80L50 80L50 0L30 0L30 80L0 80Z', advance: 84 },
    o: { d: 'M0 0L50 0L50 60L0 60ZM15 15L15 45L35 45L35 15Z', advance: 56 },
    ' ': { d: '', advance: 30 },
  },
  kerning: { To: -20 },
  leastMm: 8,
};

describe('stroke alphabets', () => {
  it('have letters of the languages around the bay, by marks where they are no glyph of their own', () => {
    const asked = 'ABCXYZabcxyz0189ÄÖÜäöüßÀÉÈÊËÎÏÔÛÇàéèêëîïôûçÑñÅåØøÆ'.replace('Æ', 'æ');
    for (const alphabet of ALPHABETS) {
      expect(missingCharacters(alphabet.id, asked, null)).toEqual([]);
      expect(missingCharacters(alphabet.id, 'a漢 b', null)).toEqual(['漢']);
      expect(partsOf(alphabet, 'é')).toEqual({ base: 'e', marks: ['0301'] });
      expect(partsOf(alphabet, 'ï')?.base).toBe('ı');
    }
  });

  it('keep their strokes a millimetre wide, and capitals as high as asked', () => {
    for (const alphabet of ALPHABETS) {
      expect(strokeWidth(alphabet, 6, null)).toBeGreaterThanOrEqual(1);
      for (const heightMm of [6, 12, 30]) {
        const [letter] = setText('H', { font: alphabet.id, heightMm });
        const { top, bottom } = boundsOf(ringsAt(letter));
        expect(bottom - top).toBeCloseTo(heightMm, 1);
      }
    }
  });
});

describe('a text', () => {
  it('keeps its letters apart, and even in looks', () => {
    for (const heightMm of [5, 12, 40]) {
      const letters = setText('LANTERNVAYbgj', { heightMm });
      for (let i = 1; i < letters.length; i++) expect(gap(letters[i - 1], letters[i])).toBeGreaterThan(0.6);
      const [first, second] = setText('HH', { heightMm });
      const [open, nook] = setText('LV', { heightMm });
      const between = (a: LaidLetter, b: LaidLetter): number => boundsOf(ringsAt(b)).left - boundsOf(ringsAt(a)).right;
      // Letters that leave room stand nearer.
      expect(between(open, nook)).toBeLessThan(between(first, second));
    }
  });

  it('stands left, right or in the middle of its origin', () => {
    const box = (align: TextChoices['align']) => boundsOf(setText('Kite', { align }).flatMap(ringsAt));
    expect(box('left').left).toBeCloseTo(0, 3);
    expect(box('right').right).toBeCloseTo(0, 3);
    expect(box('middle').left).toBeCloseTo(-box('middle').right, 3);
  });

  it('counts words and places over its lines, and drops lines below each other', () => {
    const letters = setText('ab c\nd');
    expect(letters.map(({ word, place }) => [word, place])).toEqual([
      [0, 0],
      [0, 1],
      [1, 3],
      [2, 5],
    ]);
    expect(letters[3].at.f).toBeGreaterThan(12);
  });

  it('gets room between letters, words and single pairs', () => {
    const width = (more: Partial<TextChoices>): number => {
      const { left, right } = boundsOf(setText('ab cd', more).flatMap(ringsAt));
      return right - left;
    };
    expect(width({ letterSpacingMm: 2 })).toBeCloseTo(width({}) + 4, 3);
    expect(width({ pairs: { '1': 3 } })).toBeCloseTo(width({}) + 3, 3);
    expect(width({ wordSpacing: 2 })).toBeGreaterThan(width({}) + 2);
    expect(width({ kerning: false })).not.toBeCloseTo(width({}), 1);
  });

  it('says what its font has not got, and sets the rest', () => {
    const { letters, missing } = layText({ ...FIRST_TEXT, text: 'a漢b' });
    expect(missing).toEqual(['漢']);
    expect(letters.map(({ character }) => character).join('')).toBe('ab');
  });
});

describe('lines a text stands on', () => {
  const RADIUS = 30;

  it('are arcs with tops outwards or inwards, on which no letters collide', () => {
    for (const line of ['arc-up', 'arc-down', 'circle'] as const) {
      const letters = setText('LANTERN BAY', { line, radiusMm: RADIUS, heightMm: 10 });
      for (let i = 1; i < letters.length; i++) expect(gap(letters[i - 1], letters[i])).toBeGreaterThan(0.6);
      const middle = line === 'arc-down' ? -RADIUS : RADIUS;
      for (const { at } of letters) {
        // The origin of the glyph is beside the place that lies on the circle, along its tangent.
        const away = Math.sqrt(at.e ** 2 + (at.f - middle) ** 2);
        expect(away).toBeGreaterThan(RADIUS - 0.1);
        expect(away).toBeLessThan(RADIUS + 3);
      }
    }
  });

  it('go all around a circle, with the same room between the last and the first', () => {
    const letters = setText('OOOOOO', { line: 'circle', radiusMm: RADIUS, heightMm: 8 });
    const angles = letters.map(({ at }) => (Math.atan2(at.b, at.a) * 180) / Math.PI);
    const steps = angles.map((angle, i) => (((angles[(i + 1) % angles.length] - angle) % 360) + 360) % 360);
    for (const step of steps) expect(step).toBeCloseTo(60, 0);
  });

  it('are drawn lines, whose direction letters take', () => {
    const { letters } = layText({ ...FIRST_TEXT, text: 'Ki', line: 'path', align: 'left' }, [0, 0, 0, 100]);
    for (const { at } of letters) {
      expect(at.a).toBeCloseTo(0, 3);
      expect(at.b).toBeCloseTo(1, 3);
    }
    expect(letters[1].at.f).toBeGreaterThan(letters[0].at.f + 5);
  });
});

describe('letters as an object', () => {
  it('are one satin piece each, sewn as they are read and never cut inside a word', async () => {
    const design = await sewn(newLetters('l', { text: 'Wave kite' }, HEX));
    expect(new Set(design.pieces.map(({ kind }) => kind))).toEqual(new Set(['satin']));
    const read = design.order.map((i) => design.pieces[i].reading ?? -1);
    expect(read).toEqual([...read].sort((a, b) => a - b));
    // One cut at the space between the words, and one at the end.
    expect(design.stitches.command.filter((command) => command === TRIM).length).toBeLessThanOrEqual(2);
  });

  it('become bean stitches where they are small, and fills where their strokes are wide', async () => {
    const kinds = async (heightMm: number): Promise<string[]> =>
      (await sewn(newLetters('l', { text: 'HE', heightMm }, HEX))).pieces.map(({ kind }) => kind);
    expect(await kinds(3)).toEqual(['running', 'running']);
    expect(await kinds(60)).toEqual(['tatami', 'tatami']);
  });

  it('keep the outlines of their font, with its kerning, and one technique', async () => {
    const text = { text: 'To To', font: 'squares', outlines: SQUARES, heightMm: 12 };
    const design = await sewn(newLetters('l', text, HEX));
    expect(design.pieces.length).toBe(4);
    expect(new Set(design.pieces.map(({ kind }) => kind)).size).toBe(1);
    const [t, o] = setText('To', { font: 'squares', outlines: SQUARES });
    const [, far] = setText('To', { font: 'squares', outlines: { ...SQUARES, kerning: {} } });
    expect(o.at.e - t.at.e).toBeLessThan(far.at.e - t.at.e);
  });

  it('take a size of their own when they are scaled', () => {
    const letters = newLetters('l', { text: 'Kite', radiusMm: 30 }, HEX);
    const by = { a: 2, b: 0, c: 0, d: 2, e: 5, f: 0 };
    const [made] = (placeChosen({ objects: [letters], decisions: [] }, { objects: ['l'], pieces: [] }, by)?.objects ??
      []) as readonly LettersObject[];
    expect([made.heightMm, made.radiusMm, made.place.a, made.place.e]).toEqual([24, 60, 1, 5]);
    const tiny = { ...by, a: 0.01, d: 0.01 };
    expect(placeChosen({ objects: [letters], decisions: [] }, { objects: ['l'], pieces: [] }, tiny)).toBeUndefined();
  });

  it('are refused with a font there is none of, and with damaged outlines', () => {
    const read = (letters: object): unknown => parseRecipe({ ...emptyRecipe(), objects: [letters] });
    const letters = newLetters('l', { text: 'Kite' }, HEX);
    expect(() => read({ ...letters, font: 'nobody-knows' })).toThrowError(/there is no font "nobody-knows"/);
    const damaged = { ...SQUARES, glyphs: { T: { d: '<script>', advance: 3 } } };
    expect(() => read({ ...letters, font: 'own', outlines: damaged })).toThrowError(/glyphs/);
    expect(() => read({ ...letters, text: 'x'.repeat(500) })).toThrowError(/at most 400 characters/);
    expect(() => read({ ...letters, line: 'path' })).toThrowError(/path/);
    expect(alphabetOf('nobody-knows')).toBeUndefined();
  });

  it('follows the line it stands on: moved, or pulled elsewhere by a point', async () => {
    const line = newShape(
      'wave',
      null,
      [
        {
          closed: false,
          nodes: [
            [-30, 0, 0, 0, 0, 0],
            [30, 0, 0, 0, 0, 0],
          ],
        },
      ],
      HEX,
    );
    const letters: LettersObject = {
      ...newLetters('t', { text: 'KITE', line: 'path', align: 'middle' }, HEX),
      path: line.paths,
      along: 'wave',
    };
    const middle = async (objects: readonly DesignObject[]): Promise<{ x: number; y: number }> => {
      const recipe = parseRecipe({ ...emptyRecipe(), objects });
      const { pieces } = await convert({ pictures: {}, recipe, charts: [] });
      const box = boundsOf(
        pieces.filter(({ object }) => object === 't').map(({ bounds: b }) => [b.left, b.top, b.right, b.bottom]),
      );
      return { x: (box.left + box.right) / 2, y: (box.top + box.bottom) / 2 };
    };
    const first = await middle([line, letters]);
    const moved = placeChosen(
      { objects: [line, letters], decisions: [] },
      { objects: ['wave', 't'], pieces: [] },
      { ...IDENTITY, f: 15 },
    );
    const second = await middle(moved?.objects ?? []);
    expect(second.y - first.y).toBeCloseTo(15, 3);
    const bent = {
      ...line,
      paths: [
        {
          closed: false,
          nodes: [
            [-30, -20, 0, 0, 0, 0],
            [30, -20, 0, 0, 0, 0],
          ] as never,
        },
      ],
    };
    expect((await middle([bent, letters])).y - first.y).toBeCloseTo(-20, 3);
    // Where the line is gone the text stays where it was last.
    expect((await middle([letters])).y).toBeCloseTo(first.y, 6);
    expect(() => parseRecipe({ ...emptyRecipe(), objects: [{ ...letters, along: 7 }] })).toThrowError(RangeError);
  });
});
