import { seededRandom } from '../geometry/chance.js';
import { createRaster } from '../picture/raster.js';
import { parseChartFile, writeChart, writePalette } from './chart-files.js';
import { cellsOf, csvLine } from './csv.js';
import { parseChartContent, parseSpools, threadFault } from './chart-schema.js';
import type { Chart } from './charts.js';
import { histogram } from './histogram.js';
import { matchThreads, stashOf, threadKey } from './match.js';
import { fromHex } from './srgb.js';
import { isLow, parseStash, stashKeys, writeStash } from './stash.js';
import { threadCurve } from './thread-curve.js';

const chart = (id: string, hexes: string[]): Chart => ({
  id,
  name: id,
  threads: hexes.map((hex, i) => ({ code: `T${i + 1}`, name: `Thread ${i + 1}`, hex, weight: 40, finish: 'plain' })),
});
const reds = chart('reds', ['#c81414', '#c81e1e', '#800000', '#ffffff']);
const wanted = ['#c81414', '#c91515', '#7f0202'].map((hex) => ({ colour: fromHex(hex) }));
const codes = (matches: readonly { thread: { code: string } }[]): string[] => matches.map((m) => m.thread.code);

describe('matchThreads', () => {
  it('gives distinct colours distinct threads, the closest pairs first', () => {
    expect(codes(matchThreads(wanted, [reds], true))).toEqual(['T1', 'T2', 'T3']);
    expect(codes(matchThreads(wanted, [reds], false))).toEqual(['T1', 'T1', 'T3']);
    expect(codes(matchThreads([...wanted].reverse(), [reds], true))).toEqual(['T3', 'T2', 'T1']);
  });

  it('takes a chart without threads for none', () => {
    expect(matchThreads(wanted, [chart('empty', [])], true).every((m) => m.chart === 'own')).toBeTrue();
  });

  it('shares threads where there are too few', () => {
    expect(codes(matchThreads(wanted, [chart('two', ['#c81414', '#800000'])], true)).length).toBe(3);
  });

  it("keeps the picture's colours without a chart", () => {
    expect(matchThreads(wanted, [], true).map((m) => [m.chart, m.thread.hex, m.deltaE])).toEqual([
      ['own', '#c81414', 0],
      ['own', '#c91515', 0],
      ['own', '#7f0202', 0],
    ]);
  });

  it('uses the thread somebody chose, whatever its chart, and nobody else gets it', () => {
    const blue = chart('blue', ['#0000ff']);
    const chosen = [{ ...wanted[0], chosen: { chart: 'reds', code: 'T3' } }, wanted[1], wanted[2]];
    expect(codes(matchThreads(chosen, [reds], true))[0]).toBe('T3');
    expect(codes(matchThreads(chosen, [reds], true))[2]).not.toBe('T3');
    const [first] = matchThreads([{ ...wanted[0], chosen: { chart: 'blue', code: 'T1' } }], [reds], true, [reds, blue]);
    expect([first.chart, first.deltaE > 30]).toEqual(['blue', true]);
    const [own] = matchThreads([{ ...wanted[0], chosen: { chart: 'own', code: '' } }], [reds], true);
    expect([own.chart, own.thread.hex]).toEqual(['own', '#c81414']);
    const [gone] = matchThreads([{ ...wanted[0], chosen: { chart: 'reds', code: 'none' } }], [reds], true);
    expect(gone.thread.code).toBe('T1');
  });

  it('knows what is in the drawer', () => {
    const drawer = stashOf([reds, chart('x', ['#000000'])], new Set([threadKey('reds', 'T3')]));
    expect(drawer.map((c) => [c.id, c.threads.length])).toEqual([['reds', 1]]);
  });
});

describe('thread files', () => {
  it('come back as they went out', () => {
    const odd: Chart = {
      ...reds,
      threads: [
        { code: 'A,1', name: 'Say "kelp", twice', hex: '#2f5d50', weight: 60, finish: 'matt' },
        ...reds.threads,
      ],
    };
    expect(parseChartFile(writeChart(odd))).toEqual({ threads: [...odd.threads], bad: [] });
    const palette = parseChartFile(writePalette(reds));
    expect(palette.name).toBe('reds');
    expect(palette.threads).toEqual([...reds.threads]);
  });

  it('report every bad line of a palette by number and keep the good ones', () => {
    const text = [
      'GIMP Palette',
      'Name: Bay',
      'Columns: 4',
      '#',
      '47 93 80\tSL-1\tKelp',
      '300 0 0 x',
      'green',
      '1 2 3 Night',
    ];
    const { name, threads, bad } = parseChartFile(text.join('\r\n'));
    expect(name).toBe('Bay');
    expect(threads.map((t) => [t.code, t.name, t.hex])).toEqual([
      ['SL-1', 'Kelp', '#2f5d50'],
      ['P-002', 'Night', '#010203'],
    ]);
    expect(bad.map((b) => b.line)).toEqual([6, 7]);
  });

  it('refuse a code that was used before', () => {
    const { threads, bad } = parseChartFile('A,One,#000000\nA,Two,#ffffff');
    expect([threads.length, bad[0].line, bad[0].message]).toEqual([1, 2, 'the code "A" was used in line 1 already']);
  });

  it('split cells with quotes, and come back from what is written', () => {
    expect(cellsOf('a ,"b,""c""", ,d')).toEqual(['a', 'b,"c"', '', 'd']);
    expect(cellsOf('')).toEqual([]);
    const cells = ['a', 'b, "c"', '"', "d'e", '', 'é #'];
    expect(cellsOf(csvLine(cells))).toEqual(cells);
    expect(csvLine(['a\r\nb', 2])).toBe('a b,2');
  });

  it('survive whatever a file holds', () => {
    const random = seededRandom(5);
    const signs = '",#\t\n0aé \uFEFF-';
    for (let i = 0; i < 300; i++) {
      const text = Array.from({ length: 60 }, () => signs[Math.floor(random() * signs.length)]).join('');
      const { threads, bad } = parseChartFile((i % 2 ? 'GIMP Palette\n' : '') + text);
      expect(threads.length + bad.length).toBeLessThan(80);
    }
  });

  it('check charts and spools that come from outside', () => {
    expect(parseChartContent({ name: 'Mine', threads: reds.threads }).threads.length).toBe(4);
    expect(() => parseChartContent({ name: ' ', threads: [] })).toThrowError(RangeError, 'a chart needs a name');
    expect(() => parseChartContent({ name: 'a', threads: [reds.threads[0], reds.threads[0]] })).toThrowError(
      /"T1" is used twice/,
    );
    expect(threadFault({ ...reds.threads[0], hex: 'red' })).toBe('"red" is not a colour like #1f2d2c');
    expect(threadFault({ ...reds.threads[0], weight: 3 })).toContain('not a thread weight');
    expect(threadFault(reds.threads[0])).toBeUndefined();
    expect(() => parseSpools({ spools: -1, lowAt: 0 })).toThrowError(/whole number/);
    expect(() => parseSpools({ spools: 1.5, lowAt: 0 })).toThrowError(/whole number/);
  });
});

describe('the drawer', () => {
  it('comes back from its file, bad lines listed', () => {
    const entries = [{ chart: 'reds', code: 'T1', spools: 2, lowAt: 1 }];
    expect(parseStash(writeStash(entries))).toEqual({ entries, bad: [] });
    const { entries: good, bad } = parseStash('reds,T2\nreds\nreds,T3,many');
    expect(good).toEqual([{ chart: 'reds', code: 'T2', spools: 1, lowAt: 0 }]);
    expect(bad.map((b) => b.line)).toEqual([2, 3]);
    expect([...stashKeys([...entries, { chart: 'x', code: 'y', spools: 0, lowAt: 3 }])]).toEqual(['reds T1']);
    expect(isLow({ spools: 1, lowAt: 1 })).toBeTrue();
    expect(isLow({ spools: 2, lowAt: 1 })).toBeFalse();
  });
});

describe('threadCurve', () => {
  it('falls with every thread and ends where each shade has its own', () => {
    const raster = createRaster(40, 40);
    const shades = ['#c81414', '#2c6e80', '#e0b040', '#203040', '#f0f0f0'].map(fromHex);
    for (let i = 0; i < 1600; i++) {
      const { r, g, b } = shades[Math.floor(i / 320)];
      raster.data.set([r, g, b, 255], i * 4);
    }
    const points = [...threadCurve(histogram(raster), 20, [])];
    expect(points.map((p) => p.count)).toEqual([1, 2, 3, 4, 5]);
    for (let i = 1; i < 5; i++) expect(points[i].deltaE).toBeLessThan(points[i - 1].deltaE);
    expect(points[4].deltaE).toBeLessThan(0.1);
    const matched = [...threadCurve(histogram(raster), 20, [reds])];
    expect(matched[4].deltaE).toBeGreaterThan(5);
  });
});
