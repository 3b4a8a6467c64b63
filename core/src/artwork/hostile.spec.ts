import { findScribble } from './scribbles.js';
import { lengthIn, numbersIn } from './lengths.js';
import { readSvg } from './read-svg.js';
import { parsePaint, referenceIn, shareOf } from './style.js';
import { entitiesOf, readSvgTree } from './svg-tree.js';

const svg = (inside: string, more = ''): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100"${more}>${inside}</svg>`;
/** Milliseconds a call takes: far more than these ones need on any machine, far less than without a limit. */
const MOST_MS = 20_000;

function quickly<T>(call: () => T): T {
  const from = Date.now();
  const made = call();
  expect(Date.now() - from).toBeLessThan(MOST_MS);
  return made;
}

describe('artwork meant to keep a reader busy', () => {
  it('has selectors of many steps over many nested groups', () => {
    const style = `<style>.n ${'g '.repeat(30)}rect { fill: red } .n > ${'g > g '.repeat(15)}rect { fill: blue }</style>`;
    const nested = `${'<g>'.repeat(100)}<rect width="5" height="5"/>${'</g>'.repeat(100)}`;
    const { shapes } = quickly(() => readSvg(svg(style + nested)));
    expect(shapes[0].hex).toBe('#000000');
    const met = quickly(() => readSvg(svg(style + nested, ' class="n"')));
    expect(met.shapes[0].hex).toBe('#0000ff');
  });

  it('has more rules and shapes than can be compared, which is said', () => {
    const rules = Array.from({ length: 5000 }, (_, i) => `g .a${i} .b { fill: red }`).join('');
    const shapes = '<g><rect class="b" width="1" height="1"/></g>'.repeat(15_000);
    expect(() => quickly(() => readSvg(svg(`<style>${rules}</style>${shapes}`)))).toThrowError(RangeError, /too many/);
  });

  it('has many rules that each mean another shape: those are read', () => {
    const rules = Array.from(
      { length: 5000 },
      (_, i) => `.a${i} { fill: #00${(i % 256).toString(16).padStart(2, '0')}00 }`,
    );
    const shapes = Array.from({ length: 5000 }, (_, i) => `<rect class="a${i}" width="1" height="1"/>`).join('');
    const read = quickly(() => readSvg(svg(`<style>${rules.join('')}</style>${shapes}`)));
    expect(read.shapes[255].hex).toBe('#00ff00');
  });

  it('has lengths, shares, paints and numbers without an end', () => {
    const digits = '1'.repeat(200_000);
    expect(quickly(() => lengthIn(digits, 1))).toBeUndefined();
    expect(quickly(() => lengthIn(`1${' '.repeat(200_000)}!`, 1))).toBeUndefined();
    expect(quickly(() => shareOf(`${digits}!`))).toBe(1);
    expect(quickly(() => numbersIn(`${digits}.`.repeat(4)))).toEqual([]);
    expect(quickly(() => parsePaint(`url(#${' '.repeat(200_000)}`, {}))?.kind).toBe('unknown');
  });

  it('has lines wider than anything', () => {
    const { shapes } = readSvg(svg('<path d="M0 0L10 10" stroke="red" stroke-width="1e9"/>'));
    expect(shapes[0].stroke?.width).toBeLessThan(300);
    expect(shapes[0].stroke?.width).toBeGreaterThan(200);
  });

  it('has outlines that cross themselves, each a little and all together too often', () => {
    const scribble = (seed: number): string => {
      let x = seed * 7919;
      const next = (): number => (x = (x * 48271 + 11) % 2147483647) % 100;
      return `<path d="M${Array.from({ length: 190 }, () => `${next()} ${next()}`).join('L')}Z"/>`;
    };
    expect(findScribble(readSvg(svg(scribble(1))))).toBeUndefined();
    const many = Array.from({ length: 100 }, (_, i) => scribble(i + 1)).join('');
    expect(findScribble(readSvg(svg(many)))).toBeDefined();
  });
});

describe('artwork as drawing programs write it', () => {
  it('refers within quotes and spaces', () => {
    for (const value of ['url(#a)', "url('#a')", 'url( "#a" )', 'URL(#a) none', "url( '#a')"]) {
      expect(referenceIn(value)?.id).withContext(value).toBe('a');
    }
    for (const value of ['url(a.svg#b)', '#a', 'url()', 'url(#)']) expect(referenceIn(value)).toBeUndefined();
    expect(parsePaint("url('#a') red", {})).toEqual({
      kind: 'reference',
      id: 'a',
      fallback: { kind: 'colour', hex: '#ff0000', opacity: 1 },
    });
  });

  it('names its namespaces by entities', () => {
    const text = `<!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "x.dtd" [
      <!ENTITY ns_svg "http://www.w3.org/2000/svg"> <!ENTITY red '#c00000'>
    ]><svg xmlns="&ns_svg;" width="10" height="10"><rect width="5" height="5" fill="&red;"/></svg>`;
    expect(readSvg(text).shapes[0].hex).toBe('#c00000');
  });

  it('may not define entities of entities, or some that lie elsewhere', () => {
    expect(() => entitiesOf('svg [<!ENTITY a "b"><!ENTITY c "&a;&a;">]')).toThrowError(RangeError, /short plain/);
    expect(() => entitiesOf('svg [<!ENTITY a SYSTEM "file:///etc/passwd">]')).toThrowError(RangeError);
    expect(() => entitiesOf('svg [<!ENTITY % a "b">]')).toThrowError(RangeError);
    expect(() => entitiesOf(`svg [<!ENTITY a "${'b'.repeat(400)}">]`)).toThrowError(RangeError);
    expect(() => entitiesOf('<!ENTITY a "b">'.repeat(101))).toThrowError(RangeError, /more than 100/);
    expect(entitiesOf('svg [<!ENTITY lt "x">]')).toEqual({});
    expect(readSvgTree('<!DOCTYPE svg><svg/>').name).toBe('svg');
  });

  it('paints a line below its fill where that is asked for, and says what becomes of markers', () => {
    const order = (more: string): (string | undefined)[] =>
      readSvg(svg(`<path d="M0 0H9V9Z" fill="red" stroke="blue" ${more}/>`)).shapes.map(({ hex }) => hex);
    expect(order('')).toEqual(['#ff0000', '#0000ff']);
    expect(order('paint-order="stroke"')).toEqual(['#0000ff', '#ff0000']);
    expect(order('paint-order="markers stroke fill"')).toEqual(['#0000ff', '#ff0000']);
    expect(order('paint-order="normal"')).toEqual(['#ff0000', '#0000ff']);
    const { problems } = readSvg(svg('<line x2="9" y2="9" stroke="red" marker-end="url(#m)"/>'));
    expect(problems.map(({ text }) => text).join()).toContain('markers');
  });
});
