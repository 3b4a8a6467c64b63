import { lengthIn, numbersIn } from './lengths.js';
import { chain, IDENTITY, mapCurve, mapPoint, parseTransform, scaleOf, viewBoxMap } from './matrix.js';
import { outlineOf } from './outlines.js';
import { meanOfGradient } from './gradients.js';
import { StyleRules } from './style-rules.js';
import { readDeclarations, readStyleSheet } from './style-sheet.js';
import { parseColour, parsePaint, shareOf, styleOf } from './style.js';
import { elementsById, readSvgTree, type SvgElement } from './svg-tree.js';

const tree = (inside: string): SvgElement => readSvgTree(`<svg xmlns="http://www.w3.org/2000/svg">${inside}</svg>`);
const first = (inside: string): SvgElement => tree(inside).children[0];

describe('lengths of SVG', () => {
  it('are read in every unit', () => {
    for (const [text, units] of [
      ['12', 12],
      ['12px', 12],
      ['1in', 96],
      ['2.54cm', 96],
      ['25.4 mm', 96],
      ['72pt', 96],
      ['6pc', 96],
      ['50%', 100],
      ['1e1', 10],
      ['.5in', 48],
      ['-3', -3],
    ] as const) {
      expect(lengthIn(text, 200)).withContext(text).toBeCloseTo(units, 9);
    }
    for (const text of ['', 'wide', '3 bananas', '1e999', undefined]) expect(lengthIn(text, 200)).toBeUndefined();
  });

  it('come in lists with spaces, commas or signs between', () => {
    expect(numbersIn('1,2 3-4.5.5')).toEqual([1, 2, 3, -4.5, 0.5]);
    expect(numbersIn('1e999 2')).toEqual([]);
    expect(numbersIn(undefined)).toEqual([]);
  });
});

describe('maps', () => {
  it('are chained from the inside out', () => {
    const map = chain({ ...IDENTITY, e: 10 }, { ...IDENTITY, a: 2, d: 3 });
    expect(mapPoint(map, 1, 1)).toEqual([12, 3]);
    expect(scaleOf(map)).toBeCloseTo(Math.sqrt(6), 9);
  });

  it('are read from the attribute', () => {
    const turn = parseTransform('translate(5, 6) rotate(90)');
    const [x, y] = mapPoint(turn ?? IDENTITY, 1, 0);
    expect([Number(x.toFixed(6)), Number(y.toFixed(6))]).toEqual([5, 7]);
    expect(parseTransform(undefined)).toEqual(IDENTITY);
    expect(parseTransform('turn(3')).toBeUndefined();
  });

  it('place a view box as it asks', () => {
    const at = (aspect: string): number[] => {
      const map = viewBoxMap([0, 0, 10, 10], 40, 20, aspect);
      return [...mapPoint(map, 0, 0), ...mapPoint(map, 10, 10)];
    };
    expect(at('')).toEqual([10, 0, 30, 20]);
    expect(at('xMinYMin')).toEqual([0, 0, 20, 20]);
    expect(at('xMaxYMax slice')).toEqual([0, -20, 40, 20]);
    expect(at('none')).toEqual([0, 0, 40, 20]);
  });
});

describe('outlines', () => {
  const of = (inside: string) => outlineOf(first(inside), 100, 100);

  it('know which of their curves are closed', () => {
    expect(of('<path d="M0 0L5 0L5 5Z M10 10L20 20"/>').closed).toEqual([true, false]);
    expect(of('<polyline points="0 0 5 5 9 9"/>').closed).toEqual([false]);
    expect(of('<polygon points="0 0 5 5 9 0"/>').closed).toEqual([true]);
  });

  it('turn arcs and quadratics into cubics, and relative steps into places', () => {
    const arc = of('<path d="m10 10 a5 5 0 0 1 10 0 q5 5 10 0 t10 0 h5 v5"/>').curves[0];
    expect(arc.kinds.filter((kind) => kind === 'C').length).toBeGreaterThanOrEqual(4);
    expect(arc.points.slice(-2)).toEqual([45, 15]);
  });

  it('keep what comes before a fault', () => {
    const { curves, fault } = of('<path d="M0 0L5 0L5 5 %"/>');
    expect(curves.length).toBe(1);
    expect(fault).toContain('damaged');
    expect(of('<path d="L5 5"/>').fault).toBeDefined();
    expect(of('<path d=""/>')).toEqual({ curves: [], closed: [], fault: undefined });
  });

  it('are empty for shapes without size', () => {
    for (const shape of [
      '<rect width="0" height="5"/>',
      '<circle r="-1"/>',
      '<ellipse rx="5"/>',
      '<polygon points="1 1"/>',
    ]) {
      expect(of(shape).curves).withContext(shape).toEqual([]);
    }
  });

  it('are moved point by point', () => {
    const moved = mapCurve(of('<line x1="1" y1="2" x2="3" y2="4"/>').curves[0], { ...IDENTITY, a: -1, f: 1 });
    expect(moved).toEqual({ points: [-1, 3, -3, 5], kinds: ['L'] });
  });
});

describe('style', () => {
  it('matches types, classes, ids and descent, and nothing else', () => {
    const rules = readStyleSheet('g .a, #b > rect, circle:hover, path[d] { fill: red } .a.c { stroke: blue }');
    expect(rules.length).toBe(3);
    const group = first('<g id="b"><g><rect class="a c"/></g><rect/></g>');
    const [inner, direct] = [group.children[0].children[0], group.children[1]];
    const meant = (element: SvgElement): boolean[] =>
      rules.map((rule) => new StyleRules([rule]).declarationsFor(element).length > 0);
    expect(meant(inner)).toEqual([true, false, true]);
    expect(meant(direct)).toEqual([false, true, false]);
  });

  it('reads declarations in spite of what is broken', () => {
    expect(readDeclarations('fill: red; ;; stroke : blue !important; nonsense')).toEqual([
      { property: 'fill', value: 'red', important: false },
      { property: 'stroke', value: 'blue', important: true },
    ]);
  });

  it('passes down what is inherited, and only that', () => {
    const style = styleOf(
      first('<g stroke="inherit"/>'),
      { fill: 'red', opacity: '0.5', stroke: 'blue' },
      new StyleRules([]),
    );
    expect(style['fill']).toBe('red');
    expect(style['opacity']).toBeUndefined();
    expect(style['stroke']).toBe('blue');
  });

  it('reads colours of every form', () => {
    expect(parseColour('rebeccapurple')?.hex).toBe('#663399');
    expect(parseColour('rgb(10% 20% 30%)')?.hex).toBe('#1a334d');
    expect(parseColour('hsl(120, 100%, 25%)')?.hex).toBe('#008000');
    expect(parseColour('hwb(0 20% 40%)')?.hex).toBe('#993333');
    expect(parseColour('#1234')?.hex).toBe('#112233');
    expect(parseColour('#1234')?.opacity).toBeCloseTo(0.27, 2);
    expect(parseColour('blurple')).toBeUndefined();
  });

  it('reads paints with what is used in their place', () => {
    expect(parsePaint('none', {})).toEqual({ kind: 'none' });
    expect(parsePaint('url("#a") #ff0000', {})).toEqual({
      kind: 'reference',
      id: 'a',
      fallback: { kind: 'colour', hex: '#ff0000', opacity: 1 },
    });
    expect(parsePaint('currentColor', { color: 'teal' })).toEqual({ kind: 'colour', hex: '#008080', opacity: 1 });
    expect(parsePaint(undefined, {})).toBeUndefined();
  });

  it('keeps shares between nothing and all', () => {
    expect(['0.5', '50%', '7', '-1', 'x', undefined].map(shareOf)).toEqual([0.5, 0.5, 1, 0, 1, 1]);
  });
});

describe('gradients', () => {
  it('have a mean that counts how far each colour reaches', () => {
    const stops = [
      { at: 0, hex: '#000000', opacity: 1 },
      { at: 0.5, hex: '#ffffff', opacity: 0 },
    ];
    const mean = meanOfGradient({ kind: 'linear', x1: 0, y1: 0, x2: 1, y2: 0, stops });
    expect(mean.hex).toBe('#e1e1e1');
    expect(mean.opacity).toBeCloseTo(0.25, 9);
  });
});

describe('the tree of an SVG file', () => {
  it('drops prefixes, keeps text, and finds elements by the first of their ids', () => {
    const root = tree('<x:g xmlns:x="urn:x" id="a"><text>Fair <![CDATA[26]]></text></x:g><g id="a"/>');
    expect(root.children.map((child) => child.name)).toEqual(['g', 'g']);
    expect(root.children[0].children[0].text).toBe('Fair 26');
    expect(elementsById(root).get('a')).toBe(root.children[0]);
  });
});
