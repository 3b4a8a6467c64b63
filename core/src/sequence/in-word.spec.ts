import type { Piece } from '../pieces/piece.js';
import { pieceOf } from '../test/pieces.js';
import { rectangle } from '../test/regions.js';
import { aboveLine, joinedUpTo } from './in-word.js';

/** Letters of 6 mm and more, as wide as they are high by half, with so much room before each. */
const letter = (left: number, more: Partial<Piece> = {}): Piece => ({
  ...pieceOf([rectangle(left, 0, 3, 6)]),
  word: 1,
  ...more,
});

describe('joinedUpTo', () => {
  it('keeps the thread from letter to letter over more than from piece to piece', () => {
    expect(joinedUpTo(letter(0), letter(4), 3)).toBeCloseTo(3.6, 6);
    expect(joinedUpTo(letter(0), letter(4, { word: 2 }), 3)).toBe(3);
    expect(joinedUpTo(undefined, letter(4), 3)).toBe(3);
  });

  it('cuts it between the words of a line that was found, in either direction', () => {
    // Just under a space between words, and just over.
    expect(joinedUpTo(letter(0), letter(3 + 2.3), 3)).toBeCloseTo(3.6, 6);
    expect(joinedUpTo(letter(0), letter(3 + 2.5), 3)).toBe(3);
    expect(joinedUpTo(letter(3 + 2.5), letter(0), 3)).toBe(3);
  });

  it('goes by the words of what was typed, however far apart its letters stand', () => {
    expect(joinedUpTo(letter(0, { reading: 0 }), letter(6, { reading: 1 }), 3)).toBeCloseTo(3.6, 6);
  });
});

describe('aboveLine', () => {
  it('counts a way at the tops of letters more than one along their foot', () => {
    const [a, b] = [letter(0), letter(4)];
    expect(aboveLine(a, b, { x: 3, y: 6 }, { x: 4, y: 6 })).toBe(1);
    expect(aboveLine(a, b, { x: 3, y: 0 }, { x: 4, y: 6 })).toBe(3);
    expect(aboveLine(a, letter(4, { word: undefined }), { x: 3, y: 0 }, { x: 4, y: 0 })).toBe(1);
  });
});
