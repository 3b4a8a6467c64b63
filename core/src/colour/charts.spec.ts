import { nearestThreads, ownThread } from './charts.js';
import { parseChart } from './chart-files.js';
import { fromHex, LINEAR, toByte, toHex } from './srgb.js';

describe('parseChart', () => {
  it('keeps good lines and lists bad ones by number', () => {
    const { threads, bad } = parseChart(
      [
        'code,name,hex,weight,finish',
        'A-1,Kelp,#2f5d50,40,matt',
        ',Nameless,#000000',
        'A-2,Chalk,white',
        'A-3,Rope,#c0a070,thick',
        'A-4,,#ABCDEF',
      ].join('\n'),
    );
    expect(threads).toEqual([
      { code: 'A-1', name: 'Kelp', hex: '#2f5d50', weight: 40, finish: 'matt' },
      { code: 'A-4', name: 'A-4', hex: '#abcdef', weight: 40, finish: 'plain' },
    ]);
    expect(bad.map((b) => b.line)).toEqual([3, 4, 5]);
    expect(bad[1].message).toContain('white');
  });
});

describe('nearestThreads', () => {
  const chart = parseChart('A,Teal,#2c6e80\nB,Ember,#d8602a\nC,Chalk,#ece2cb').threads;

  it('puts the nearest first and says how far it is', () => {
    const [best, second] = nearestThreads(fromHex('#2c6e82'), [{ id: 'x', name: 'X', threads: chart }], 2);
    expect(best.thread.code).toBe('A');
    expect(best.chart).toBe('x');
    expect(best.deltaE).toBeLessThan(1);
    expect(second.deltaE).toBeGreaterThan(10);
  });

  it('makes a thread of the picture its own', () => {
    expect(ownThread({ r: 1, g: 2, b: 255 }, 4)).toEqual({
      code: 'OWN-05',
      name: 'Blue #0102ff',
      hex: '#0102ff',
      weight: 40,
      finish: 'plain',
    });
  });
});

describe('srgb', () => {
  it('goes to linear light and back within a level', () => {
    for (let v = 0; v < 256; v++) expect(Math.abs(toByte(LINEAR[v]) - v)).toBeLessThanOrEqual(v < 40 ? 3 : 1);
  });

  it('reads and writes hex and refuses anything else', () => {
    expect(toHex(fromHex('#0A0b0C'))).toBe('#0a0b0c');
    expect(() => fromHex('red')).toThrowError(RangeError, /"red"/);
  });
});
