import { flatten, nodeCount } from '../geometry/curve.js';
import { boundsOf } from '../geometry/polyline.js';
import { wildSvg } from '../test/wild-svg.js';
import type { ArtShape, Artwork } from './artwork.js';
import { readSvg } from './read-svg.js';

const svg = (inside: string, attributes = 'viewBox="0 0 100 50" width="100mm" height="50mm"'): Artwork =>
  readSvg(
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${inside}</svg>`,
  );

const boxOf = (shape: ArtShape): number[] => {
  const { left, top, right, bottom } = boundsOf(shape.curves.map((curve) => flatten(curve, 0.01)));
  return [left, top, right, bottom].map((v) => Number(v.toFixed(2)));
};

describe('readSvg', () => {
  it('takes sizes from the units of the file', () => {
    for (const [attributes, width, height] of [
      ['width="40mm" height="20mm"', 40, 20],
      ['width="2in" height="1in"', 50.8, 25.4],
      ['width="96" height="48px"', 25.4, 12.7],
      ['width="3cm" viewBox="0 0 60 20"', 30, 10],
      ['viewBox="0 0 192 96"', 50.8, 25.4],
      ['', 300 * (25.4 / 96), 150 * (25.4 / 96)],
    ] as const) {
      const art = svg('<rect width="5" height="5"/>', attributes);
      expect(art.widthMm).withContext(attributes).toBeCloseTo(width, 3);
      expect(art.heightMm).withContext(attributes).toBeCloseTo(height, 3);
    }
    expect(svg('').sized).toBeTrue();
    expect(svg('', 'viewBox="0 0 9 9"').sized).toBeFalse();
  });

  it('reads every basic shape where it is', () => {
    const { shapes } = svg(`<rect x="10" y="5" width="20" height="10" rx="2"/><circle cx="50" cy="25" r="10"/>
      <ellipse cx="80" cy="20" rx="5" ry="8"/><polygon points="0,0 4,0 4,4"/><path d="M60 40h10v5h-10z"/>`);
    expect(shapes.map(boxOf)).toEqual([
      [10, 5, 30, 15],
      [40, 15, 60, 35],
      [75, 12, 85, 28],
      [0, 0, 4, 4],
      [60, 40, 70, 45],
    ]);
    expect(shapes[1].curves[0].kinds).toEqual(['C', 'C', 'C', 'C']);
    expect(nodeCount(shapes[3].curves[0])).toBe(4);
  });

  it('chains nested transforms, view boxes and use', () => {
    const { shapes } =
      svg(`<g transform="translate(10 5)"><g transform="scale(2)"><rect id="r" x="1" y="1" width="3" height="2"/></g></g>
      <use xlink:href="#r" x="40" y="20"/>
      <svg x="50" y="0" width="20" height="20" viewBox="0 0 10 10"><rect width="10" height="10"/></svg>
      <defs><symbol id="s" viewBox="0 0 4 4"><rect width="4" height="2"/></symbol></defs><use href="#s" x="80" y="10" width="8" height="8"/>`);
    expect(shapes.map(boxOf)).toEqual([
      [12, 7, 18, 11],
      [41, 21, 44, 23],
      [50, 0, 70, 20],
      [80, 10, 88, 14],
    ]);
  });

  it('weighs attributes, style sheets and style', () => {
    const { shapes } =
      svg(`<style>.a { fill: #ff0000 } #b { fill: teal } g > .c { fill: rgb(1,2,3) !important } @media print { rect { fill: pink } }</style>
      <rect class="a" fill="#000" width="5" height="5"/><rect class="a" id="b" width="5" height="5"/>
      <g fill="#0000ff" color="#123456"><rect width="5" height="5"/><rect class="c" style="fill: gold" width="5" height="5"/>
      <rect fill="currentColor" width="5" height="5"/><rect style="fill:#abc" width="5" height="5"/></g>`);
    expect(shapes.map((s) => s.hex)).toEqual(['#ff0000', '#008080', '#0000ff', '#010203', '#123456', '#aabbcc']);
  });

  it('keeps lines as lines with their width, scaled', () => {
    const { shapes } = svg(
      '<path d="M0 0L10 10" fill="none" stroke="red" stroke-width="2" transform="scale(3)" stroke-linecap="round"/>',
    );
    expect(shapes.length).toBe(1);
    expect(shapes[0].stroke?.width).toBeCloseTo(6, 6);
    expect(shapes[0].stroke?.cap).toBe('round');
    expect(shapes[0].closed).toEqual([false]);
  });

  it('multiplies opacity and leaves out what is not seen', () => {
    const { shapes } = svg(`<g opacity="0.5"><rect fill-opacity="50%" width="5" height="5"/></g>
      <rect opacity="0" width="5" height="5"/><rect display="none" width="5" height="5"/>
      <g visibility="hidden"><rect width="5" height="5"/><rect visibility="visible" width="5" height="5"/></g>
      <rect fill="rgba(10,20,30,0.4)" width="5" height="5"/>`);
    expect(shapes.map((s) => Number(s.opacity.toFixed(3)))).toEqual([0.25, 1, 0.4]);
  });

  it('keeps gradients, with what they take over from others', () => {
    const { shapes } =
      svg(`<defs><linearGradient id="base"><stop offset="0" stop-color="#000"/><stop offset="100%" stop-color="#fff"/></linearGradient>
      <linearGradient id="lie" href="#base" x1="0" y1="0" x2="1" y2="0"/><radialGradient id="sun" xlink:href="#base" gradientUnits="userSpaceOnUse" cx="80" cy="20" r="10"/></defs>
      <rect x="10" y="10" width="40" height="20" fill="url(#lie)"/><circle cx="80" cy="20" r="10" fill="url(#sun)"/>`);
    const places = shapes.map(({ gradient: g }) => g && [g.kind, ...[g.x1, g.y1, g.x2, g.y2].map(Math.round)]);
    expect(places).toEqual([
      ['linear', 10, 10, 50, 10],
      ['radial', 80, 20, 90, 20],
    ]);
    expect(shapes[0].gradient?.stops.map((s) => [s.at, s.hex])).toEqual([
      [0, '#000000'],
      [1, '#ffffff'],
    ]);
    // Half black and half white, mixed as light.
    expect(shapes[0].hex).toBe('#bcbcbc');
  });

  it('passes clip paths on', () => {
    const { shapes } = svg(`<clipPath id="c" transform="translate(5 0)"><rect width="10" height="10"/></clipPath>
      <g clip-path="url(#c)" transform="translate(1 1)"><rect width="50" height="50"/></g>`);
    expect(shapes[0].clips.length).toBe(1);
    const { left, top, right, bottom } = boundsOf(shapes[0].clips[0].curves.map((c) => flatten(c, 0.1)));
    expect([left, top, right, bottom].map((v) => Number(v.toFixed(6)))).toEqual([6, 1, 16, 11]);
  });

  it('says what it leaves out, and where', () => {
    const { shapes, problems } =
      svg(`<text x="20" y="30" font-family="Salt Serif">Fair 26</text><image href="#" x="3" y="4"/>
      <use href="#gone"/><use href="other.svg#x"/><rect fill="url(#none)" width="5" height="5"/><path d="M1 1L5 5L!"/>
      <rect fill="blurple" width="5" height="5"/><blob/><path d="M0 0L9 9" stroke="red" stroke-dasharray="2 1"/>
      <rect filter="url(#f)" width="4" height="4"/>`);
    const texts = problems.map((p) => p.text).join('\n');
    for (const part of [
      'Fair 26',
      'Salt Serif',
      'made of pixels',
      '“gone”',
      'outside the file',
      '“none”',
      'damaged',
      'blurple',
      '<blob>',
      'dashes',
      'filter',
    ]) {
      expect(texts).toContain(part);
    }
    expect(problems[0].x).toBeCloseTo(20, 6);
    expect(problems[0].y).toBeCloseTo(30, 6);
    expect(shapes.length).toBeGreaterThan(2);
  });

  it('refuses what is no drawing, or draws without end', () => {
    expect(() => readSvg('<html/>')).toThrowError(RangeError, /outermost/);
    expect(() => readSvg('<svg xmlns="http://www.w3.org/2000/svg"><g>')).toThrowError(RangeError, /well formed/);
    expect(() => svg('<rect width="1" height="1"/>', 'width="0"')).toThrowError(RangeError, /no size/);
    expect(() => svg('<g>'.repeat(300) + '</g>'.repeat(300))).toThrowError(RangeError, /levels/);
    const bomb = Array.from({ length: 11 }, (_, i) => `<g id="a${i}">${`<use href="#a${i + 1}"/>`.repeat(8)}</g>`).join(
      '',
    );
    expect(() => svg(`${bomb}<rect id="a11" width="1" height="1"/>`)).toThrowError(RangeError, /draws more than/);
    expect(svg('<g id="me"><use href="#me"/></g>').problems[0].text).toContain('refers to itself');
  });

  it('never fails otherwise, whatever it is given', () => {
    for (let seed = 1; seed <= 60; seed++) {
      if (seed % 25 === 0) continue;
      try {
        const art = readSvg(wildSvg(seed));
        for (const shape of art.shapes) {
          expect(shape.curves.every((c) => c.points.every(Number.isFinite))).toBeTrue();
        }
      } catch (error) {
        expect(error).withContext(`seed ${seed}`).toBeInstanceOf(RangeError);
      }
    }
  });
});
