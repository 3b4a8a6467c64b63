import { layText } from './layout.js';
import { FIRST_TEXT } from './new-letters.js';
import { kernable, pairsAfter } from './pairs.js';

describe('Kerning by hand', () => {
  it('stays with its letters when others are typed before, between or after them', () => {
    const pairs = { '1': 0.5, '3': -0.2 };
    expect(pairsAfter('KITE', 'AKITE', pairs)).toEqual({ '2': 0.5, '4': -0.2 });
    expect(pairsAfter('KITE', 'KITES', pairs)).toEqual(pairs);
    expect(pairsAfter('KITE', 'KIXTE', pairs)).toEqual({ '1': 0.5, '4': -0.2 });
    // What was said of a letter that is gone goes with it.
    expect(pairsAfter('KITE', 'KIT', pairs)).toEqual({ '1': 0.5 });
    expect(pairsAfter('KITE', '', pairs)).toEqual({});
    expect(pairsAfter('A\u0308B', '\u00c4B', { '1': 1 })).toEqual({ '1': 1 });
  });

  it('is between letters of a line, and after a space', () => {
    expect(kernable('AB C\nD').map(({ place, before, letter }) => `${place}${before}${letter}`)).toEqual([
      '1AB',
      '3 C',
    ]);
    expect(kernable('')).toEqual([]);
  });

  it('moves a letter and all that follow it by so much', () => {
    const places = (pairs: Record<string, number>): number[] =>
      layText({ ...FIRST_TEXT, text: 'KITE', align: 'left', pairs }).letters.map(({ at }) => at.e);
    const [plain, kerned] = [places({}), places({ '2': 1.5 })];
    expect(kerned.map((x, i) => Number((x - plain[i]).toFixed(6)))).toEqual([0, 0, 1.5, 1.5]);
  });
});
