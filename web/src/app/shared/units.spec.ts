import { formatCount, formatLength, parseLength, parseSum } from './units';

describe('parseLength', () => {
  const cases: [string, 'mm' | 'in', number | undefined][] = [
    ['4 in', 'mm', 101.6],
    ['4in', 'mm', 101.6],
    ['4"', 'mm', 101.6],
    ['102mm', 'in', 102],
    ['10 cm', 'in', 100],
    ['3,5', 'mm', 3.5],
    [' 2 ', 'in', 50.8],
    ['-1', 'mm', -1],
    ['', 'mm', undefined],
    ['wide', 'mm', undefined],
    ['4 ft', 'mm', undefined],
    ['1e5', 'mm', undefined],
    ['4in - 6mm', 'mm', 95.6],
    ['10 + 2 + 1cm', 'mm', 22],
    ['4 5', 'mm', undefined],
    ['4 +', 'mm', undefined],
  ];
  for (const [text, unit, expected] of cases) {
    it(`reads "${text}" where bare numbers are ${unit}`, () => {
      const value = parseLength(text, unit);
      if (expected === undefined) expect(value).toBeUndefined();
      else expect(value).toBeCloseTo(expected, 9);
    });
  }
});

describe('parseSum', () => {
  it('reads numbers and sums without units', () => {
    expect(parseSum('12 - 2.5')).toBe(9.5);
    expect(parseSum('-30')).toBe(-30);
    expect(parseSum('3 mm')).toBeUndefined();
  });
});

describe('formats', () => {
  it('show lengths in either unit', () => {
    expect(formatLength(101.6, 'mm', 1)).toBe('101.6 mm');
    expect(formatLength(101.6, 'in', 1)).toBe('4.00 in');
  });

  it('part thousands', () => {
    expect(formatCount(12480).replace(/\s/g, '_')).toBe('12_480');
    expect(formatCount(999)).toBe('999');
    expect(formatCount(1234567).replace(/\s/g, '_')).toBe('1_234_567');
  });
});
