import { colourWord, ownName } from './colour-word.js';

describe('words for colours', () => {
  const said: readonly [string, string][] = [
    ['#000000', 'black'],
    ['#ffffff', 'white'],
    ['#f4f1ea', 'white'],
    ['#204060', 'navy'],
    ['#d8602a', 'orange'],
    ['#2f5d50', 'dark teal'],
    ['#e0b040', 'amber'],
    ['#7f7f80', 'grey'],
    ['#c41e3a', 'red'],
  ];
  for (const [hex, word] of said) it(`calls ${hex} ${word}`, () => expect(colourWord(hex)).toBe(word));

  it('name threads of no chart, so that two of one word still differ', () => {
    expect(ownName('#C41E3A')).toBe('Red #c41e3a');
    expect(ownName('#c21f26')).not.toBe(ownName('#c41e3a'));
  });
});
