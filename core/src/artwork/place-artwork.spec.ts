import { boundsOf } from '../geometry/polyline.js';
import { areaOf } from '../geometry/polygons.js';
import type { Placement } from '../picture/frame.js';
import { labelArtwork, shapeHex } from './label-artwork.js';
import { placeArtwork, type PlacedArtwork } from './place-artwork.js';
import { readSvg } from './read-svg.js';
import { findScribble } from './scribbles.js';

const PLACE: Placement = { widthMm: 100, heightMm: 50, turn: 0, mirror: false, mask: null };
const place = (inside: string, change: Partial<Placement> = {}): PlacedArtwork =>
  placeArtwork(
    readSvg(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 50" width="100mm" height="50mm">${inside}</svg>`),
    { ...PLACE, ...change },
  );

describe('placeArtwork', () => {
  it('puts shapes around the middle of the hoop, turned, mirrored and scaled', () => {
    const rect = '<rect x="10" y="5" width="20" height="10"/>';
    const box = (change: Partial<Placement>): number[] =>
      Object.values(boundsOf(place(rect, change).shapes[0].rings)).map((v) => Number(v.toFixed(2)));
    expect(box({})).toEqual([-40, -20, -20, -10]);
    expect(box({ mirror: true })).toEqual([20, -20, 40, -10]);
    expect(box({ turn: 90 })).toEqual([10, -40, 20, -20]);
    expect(box({ widthMm: 200, heightMm: 100 })).toEqual([-80, -40, -40, -20]);
  });

  it('keeps the curves of what needs no repair', () => {
    const { shapes, problems } = place(
      '<path fill-rule="evenodd" d="M10 10h40v30h-40z M20 20v10h10v-10z"/><circle cx="80" cy="25" r="9"/>',
    );
    expect(shapes[0].outline.map((c) => c.kinds.length)).toEqual([4, 4]);
    expect(areaOf(shapes[0].rings)).toBeCloseTo(1100, 3);
    expect(shapes[1].outline[0].kinds).toEqual(['C', 'C', 'C', 'C']);
    expect(problems.length).toBe(0);
  });

  it('fills by the rule of the file', () => {
    const twice = 'M10 10h20v20h-20z M15 15h10v10h-10z';
    expect(areaOf(place(`<path d="${twice}"/>`).shapes[0].rings)).toBeCloseTo(400, 3);
    expect(areaOf(place(`<path fill-rule="evenodd" d="${twice}"/>`).shapes[0].rings)).toBeCloseTo(300, 3);
  });

  it('repairs an outline that crosses itself and says where', () => {
    const { shapes, problems } = place('<path id="bow" d="M10 10L30 30L30 10L10 30Z"/>');
    expect(areaOf(shapes[0].rings)).toBeCloseTo(200, 1);
    expect(problems.length).toBe(1);
    expect(problems[0].text).toContain('bow');
    expect(problems[0].x).toBeCloseTo(-30, 1);
    expect(problems[0].y).toBeCloseTo(-5, 1);
  });

  it('makes outlines of lines and keeps their middles', () => {
    const { shapes } = place(
      '<path d="M10 25H60" fill="none" stroke="red" stroke-width="4"/><circle cx="80" cy="25" r="10" fill="none" stroke="red" stroke-width="2"/>',
    );
    expect(areaOf(shapes[0].rings)).toBeCloseTo(200, 1);
    expect(shapes[0].line?.widthMm).toBeCloseTo(4, 6);
    expect(areaOf(shapes[1].rings)).toBeCloseTo(Math.PI * (121 - 81), 0);
    expect(shapes[1].rings.length).toBe(2);
  });

  it('cuts by clip paths and by the mask', () => {
    const clip = '<clipPath id="c"><rect x="0" y="0" width="20" height="50"/></clipPath>';
    expect(
      areaOf(place(`${clip}<rect x="10" y="10" width="40" height="10" clip-path="url(#c)"/>`).shapes[0].rings),
    ).toBeCloseTo(100, 2);
    const mask = { shape: 'rectangle', x: 25, y: 0, widthMm: 50, heightMm: 50, turn: 0 } as const;
    const { shapes } = place('<rect x="40" y="10" width="20" height="10"/><rect width="10" height="10"/>', { mask });
    expect(shapes.length).toBe(1);
    expect(areaOf(shapes[0].rings)).toBeCloseTo(100, 2);
  });

  it('knows a scribble that nobody could fill', () => {
    let d = 'M0 0';
    for (let i = 1; i < 3000; i++) d += `L${(i * 37) % 100} ${(i * 61) % 50}`;
    const art = (path: string) =>
      readSvg(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 50"><path id="s" d="${path}Z"/></svg>`);
    expect(findScribble(art(d))?.name).toContain('“s”');
    expect(findScribble(art('M0 0L50 50L50 0L0 50'))).toBeUndefined();
  });
});

describe('labelArtwork', () => {
  it('keeps every colour, however small or thin, and mixes what is not solid with the cloth', () => {
    const { shapes } =
      place(`<rect width="100" height="50" fill="#204060"/><path d="M0 25H100" stroke="#ff8800" stroke-width="0.05"/>
      <circle cx="50" cy="10" r="0.01" fill="#00ff00"/><rect x="70" y="30" width="10" height="10" fill="#000000" opacity="0.5"/>`);
    const grid = { width: 200, height: 100, left: -50, top: -25, widthMm: 100, heightMm: 50 };
    const { palette, labels, colourOf, shapeAt } = labelArtwork(shapes, grid, '#ffffff', (c) => c);
    expect(palette.length).toBe(4);
    expect(colourOf).toEqual([1, 2, 3, 4]);
    expect(new Set(labels)).toEqual(new Set([1, 2, 3, 4]));
    expect(shapeAt[0]).toBe(1);
    expect(shapeHex(shapes[3].shape, '#ffffff')).toBe('#808080');
  });
});
