import { curveThrough } from '../geometry/curve.js';
import { areaOf, groupRings, thicken } from '../geometry/polygons.js';
import { areaWithin, reversed } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { rectangle } from '../test/regions.js';
import { placeArtwork } from '../artwork/place-artwork.js';
import { readSvg } from '../artwork/read-svg.js';
import { fromRings, type Area } from './area.js';
import { artworkAreas } from './artwork-areas.js';
import { cutHidden } from './cut-hidden.js';
import { curvePath, pathCurve, type DrawnPath } from './drawn.js';
import { neighboursByPainting } from './neighbours.js';
import { candidateOf, findAgain, type Candidate } from './find-again.js';

const area = (left: number, top: number, side: number, layer = 0, more: Partial<Area> = {}): Area => ({
  origin: 'artwork',
  object: 'picture-1',
  ...fromRings([rectangle(left, top, side, side)]),
  paint: { label: 1 },
  hex: '#204060',
  layer,
  decisions: [],
  ...more,
});
/** Whether a square is wider than so many mm. */
const over =
  (mm: number) =>
  ({ areaMm2 }: Area): boolean =>
    Math.sqrt(areaMm2) > mm;

describe('areas', () => {
  it('measure rings with holes', () => {
    const hole = rectangle(2, 2, 4, 4);
    const turned = [hole[0], hole[1], hole[6], hole[7], hole[4], hole[5], hole[2], hole[3]];
    expect(areaWithin([rectangle(0, 0, 10, 10), turned])).toBe(84);
    expect(fromRings([[0, 0, 1, 1], rectangle(0, 0, 2, 2)]).rings.length).toBe(1);
  });

  it('fall into shapes, each with its own holes', () => {
    const shapes = groupRings([
      rectangle(0, 0, 10, 10),
      rectangle(20, 0, 10, 10),
      rectangle(22, 2, 4, 4),
      rectangle(23, 3, 1, 1),
    ]);
    expect(shapes.map((rings) => rings.length).sort()).toEqual([1, 1, 2]);
    expect(shapes.reduce((sum, rings) => sum + areaOf(rings), 0)).toBeCloseTo(100 + 84 + 1, 6);
  });
});

describe('artworkAreas', () => {
  const placed = (svg: string) =>
    placeArtwork(
      readSvg(`<svg xmlns="http://www.w3.org/2000/svg" width="40mm" height="40mm" viewBox="0 0 40 40">${svg}</svg>`),
      {
        widthMm: 40,
        heightMm: 40,
        turn: 0,
        mirror: false,
        mask: null,
      },
    ).shapes;
  const areas = (svg: string): Area[] => {
    const shapes = placed(svg);
    const hexes = [...new Set(shapes.map(({ shape }) => shape.hex))];
    const labels = shapes.map(({ shape }) => hexes.indexOf(shape.hex) + 1);
    return artworkAreas(
      'p',
      shapes,
      labels,
      shapes.map(() => undefined),
      (label) => hexes[label - 1],
      new Set(),
    );
  };
  const D = 'M10 10H30V30H10Z';

  it('makes one shape of a fill and a stroke of its own colour', () => {
    for (const svg of [
      `<path d="${D}" fill="#c03020" stroke="#c03020" stroke-width="2"/>`,
      `<path d="${D}" fill="#c03020"/><path d="${D}" fill="none" stroke="#c03020" stroke-width="2"/>`,
      `<path d="${D}" fill="#c03020"/><path d="M0 0H4V4Z" fill="#204060"/><path d="${D}" fill="none" stroke="#c03020" stroke-width="2"/>`,
    ]) {
      const [shape, ...others] = areas(svg);
      expect(others.filter(({ hex }) => hex === '#c03020').length).toBe(0);
      expect(shape.areaMm2).toBeCloseTo(22 * 22, 0);
      expect(shape.line).toBeUndefined();
    }
  });

  it('leaves a stroke alone that is of another colour, on another path, or above something else', () => {
    for (const svg of [
      `<path d="${D}" fill="#c03020" stroke="#204060" stroke-width="2"/>`,
      `<path d="${D}" fill="#c03020"/><path d="M10 10H30V29H10Z" fill="none" stroke="#c03020" stroke-width="2"/>`,
      `<path d="${D}" fill="#c03020"/><path d="M9 9H14V14Z" fill="#204060"/><path d="${D}" fill="none" stroke="#c03020" stroke-width="2"/>`,
    ]) {
      expect(areas(svg).filter(({ line }) => line).length)
        .withContext(svg)
        .toBe(1);
    }
  });
});

describe('cutHidden', () => {
  it('cuts away what lies under wide pieces and sews through under narrow ones', () => {
    const [low, wide, narrow] = [area(0, 0, 10), area(5, 5, 10, 1), area(1, 1, 2, 2)];
    const [cut] = cutHidden([low, wide, narrow], over(4));
    expect(cut.areaMm2).toBeCloseTo(75, 6);
    const [both] = cutHidden([low, wide, narrow], over(0));
    expect(both.areaMm2).toBeCloseTo(71, 6);
    const [none] = cutHidden([low, wide, narrow], over(50));
    expect(none).toBe(low);
  });

  it('does what was said of a piece, and drops what is wholly hidden', () => {
    const above = area(-1, -1, 30, 1);
    expect(cutHidden([area(0, 0, 10), above], over(4)).length).toBe(1);
    expect(cutHidden([area(0, 0, 10, 0, { cut: false }), above], over(4)).length).toBe(2);
    expect(cutHidden([area(0, 0, 10, 0, { cut: true }), area(8, 8, 1, 1)], over(50))[0].areaMm2).toBeCloseTo(99, 6);
  });

  it('keeps what shows as parts, each with the size of the shape it was', () => {
    const bar = area(4, -1, 2, 1);
    const crossed = cutHidden([area(0, 0, 10), { ...bar, ...fromRings([rectangle(4, -1, 2, 12)]) }], over(0));
    expect(crossed.map(({ areaMm2 }) => Math.round(areaMm2))).toEqual([40, 40, 24]);
    expect(crossed.map(({ shapeMm2 }) => shapeMm2)).toEqual([100, 100, undefined]);
  });

  it('sews through under one that is narrow, not under two over each other', () => {
    const across = { ...area(0, 0, 1, 1), ...fromRings([rectangle(4, -1, 2, 12)]) };
    const along = { ...area(0, 0, 1, 2), ...fromRings([rectangle(-1, 4, 12, 2)]) };
    const [low, first, last] = cutHidden([area(0, 0, 10), across, along], over(50));
    // All of the place but its corners.
    expect(low.areaMm2).toBeCloseTo(96.15, 2);
    expect([first, last].map(({ areaMm2 }) => areaMm2)).toEqual([24, 24]);
    // A place of a quarter of a square millimetre is not worth a hole, nor is a narrow one between lines side by side.
    for (const small of [rectangle(-1, 4, 12, 0.1), rectangle(5.4, -1, 2, 12)]) {
      const other = { ...along, ...fromRings([small]) };
      expect(cutHidden([area(0, 0, 10), across, other], over(50))[0].areaMm2).toBeCloseTo(100, 6);
    }
  });

  it('drops specks, slivers and rims that nobody would sew, unless they are to be kept', () => {
    const low = area(0, 0, 10);
    const cover = (x: number, y: number, w: number, h: number, layer = 1): Area => ({
      ...area(0, 0, 1, layer),
      ...fromRings([rectangle(x, y, w, h)]),
    });
    // A rim of 0.2 mm all round, one of 0.5 mm, and one that is wide enough to be seen.
    expect(cutHidden([low, cover(0.2, 0.2, 9.6, 9.6)], over(0)).length).toBe(1);
    expect(cutHidden([low, cover(0.25, 0.25, 9.5, 9.5)], over(0)).length).toBe(1);
    expect(cutHidden([low, cover(1, 1, 8, 8)], over(0)).length).toBe(2);
    // A corner of half a millimetre is no part of its own.
    expect(cutHidden([low, cover(0, 0.5, 10, 9.5), cover(0.5, 0, 9.5, 1)], over(0)).length).toBe(2);
    expect(cutHidden([{ ...low, keep: true }, cover(0.2, 0.2, 9.6, 9.6)], over(0)).length).toBe(2);
    // Of what is kept a rim stays, its corner of 0.2 mm is as little missed; of something small that would be much.
    const kept = cutHidden([{ ...low, keep: true }, cover(0.2, 0, 9.8, 9.8), cover(0, 0.2, 1, 9.8)], over(0));
    expect(kept.map(({ areaMm2 }) => areaMm2.toFixed(2))).toEqual(['1.80', '96.04', '9.80']);
    const small = { ...area(0, 0, 0.5), keep: true };
    expect(cutHidden([small, cover(0.25, 0, 9.8, 9.8)], over(0)).length).toBe(2);
  });

  it('sews a detail on top of the one piece it lies on, and cuts where there are more', () => {
    const low = area(0, 0, 20);
    const letter = area(4, 4, 2, 3);
    const isDetail = ({ areaMm2 }: Area): boolean => areaMm2 < 9;
    expect(cutHidden([low, letter], over(0), isDetail)[0]).toBe(low);
    expect(cutHidden([low, letter], over(0))[0].areaMm2).toBeCloseTo(396, 6);
    // Half on another piece, or beyond the edge.
    const two = cutHidden([low, area(0, 0, 5, 1), letter], over(0), isDetail);
    expect(two[0].areaMm2).toBeCloseTo(400 - 25 - 3, 6);
    expect(cutHidden([low, area(19, 4, 2, 3)], over(0), isDetail)[0].areaMm2).toBeCloseTo(398, 6);
  });

  it('takes for no detail what hides a good part of its piece, as an outline does', () => {
    const low = area(0, 0, 20);
    const frame = { ...area(0, 0, 1, 2), ...fromRings([rectangle(0, 0, 20, 20), reversed(rectangle(2, 2, 16, 16))]) };
    const small = area(4, 4, 5, 2);
    const isDetail = (each: Area): boolean => each !== low;
    expect(cutHidden([low, frame], over(0), isDetail)[0].areaMm2).toBeCloseTo(256, 6);
    expect(cutHidden([low, small], over(0), isDetail)[0]).toBe(low);
  });

  it('loses nothing where outlines lie exactly on each other', () => {
    // A ring below another ring and a wheel of spokes whose edges are its own.
    const round = (r: number, from = 0, to = 64): Points =>
      Array.from({ length: to - from + 1 }, (_, i) => {
        const turn = ((from + i) / 64) * 2 * Math.PI;
        return [20 + r * Math.cos(turn), 20 + r * Math.sin(turn)];
      }).flat();
    const ring = { ...area(0, 0, 1), ...fromRings([round(18).slice(0, -2), reversed(round(9).slice(0, -2))]) };
    const sectors = Array.from({ length: 8 }, (_, k) => ({
      ...area(0, 0, 1, k + 1),
      ...fromRings([[...round(18, k * 8, k * 8 + 2), 20, 20]]),
    }));
    const rim = { ...area(0, 0, 1, 20), ...fromRings([round(18).slice(0, -2), reversed(round(16).slice(0, -2))]) };
    const shown = cutHidden([ring, ...sectors, rim], over(0)).filter(({ layer }) => layer === 0);
    // Three of four parts of what lies inside the rim.
    expect(shown.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)).toBeCloseTo(0.75 * Math.PI * (256 - 81), -1);
  });

  it('lets lines cross, and cuts the lower one where they run along each other', () => {
    const line = (layer: number, run: Points): Area => ({
      ...area(0, 0, 1, layer),
      ...fromRings(thicken([run], 2, false, { cap: 'butt', join: 'miter', miterLimit: 4 })),
      line: { paths: [curveThrough(run)], widthMm: 2 },
    });
    const level = line(0, [0, 0, 20, 0]);
    expect(cutHidden([level, line(1, [10, -9, 10, 9])], over(0))[0]).toBe(level);
    const along = cutHidden([level, line(1, [0, 1, 20, 1])], over(0));
    expect(along[0].areaMm2).toBeCloseTo(20, 0);
  });

  it('leaves pieces of one layer alone', () => {
    const two = [area(0, 0, 10), area(5, 5, 10)];
    expect(cutHidden(two, over(0))).toEqual(two);
  });
});

describe('neighboursByPainting', () => {
  it('finds what touches and what lies over each other', () => {
    const lists = neighboursByPainting([area(0, 0, 10), area(10, 0, 10), area(40, 40, 5), area(3, 3, 2, 1)]);
    const near = lists.map((list) => list.map(({ piece }) => piece));
    expect(near[0]).toEqual([1, 3]);
    expect(near[1]).toEqual([0]);
    expect(near[2]).toEqual([]);
    expect(near[3]).toEqual([0]);
    expect(lists[0][0].borderMm).toBeCloseTo(10, 0);
  });

  it('counts what a later piece covers wholly', () => {
    const lists = neighboursByPainting([area(2, 2, 3), area(0, 0, 10, 1)]);
    expect(lists[0].map(({ piece }) => piece)).toEqual([1]);
  });
});

describe('findAgain', () => {
  const candidate = (object: string, part: string | undefined, ring: Points, hex: string, share: number): Candidate =>
    candidateOf({ ...area(0, 0, 1), ...fromRings([ring]), object, part, hex, areaMm2: share }, 1);
  const toHoop = (u: number, v: number): { x: number; y: number } => ({ x: u * 100, y: v * 100 });
  const at = (u: number, v: number, hex: string, share: number): number =>
    findAgain(
      [
        candidate('p', undefined, rectangle(0, 0, 40, 40), '#204060', 0.16),
        candidate('p', undefined, rectangle(10, 10, 8, 8), '#c04020', 0.0064),
        candidate('d1', undefined, rectangle(60, 60, 8, 8), '#204060', 0.0064),
      ],
      { object: 'p', anchor: { u, v, hex, share } },
      toHoop,
    );

  it('tells what lies over each other by colour and by size', () => {
    expect(at(0.14, 0.14, '#204060', 0.16)).toBe(0);
    expect(at(0.14, 0.14, '#c04020', 0.0064)).toBe(1);
    expect(at(0.14, 0.14, '#c04020', 0.001)).toBe(-1);
  });

  it('forgives another colour only where the size is the same', () => {
    expect(at(0.3, 0.3, '#e0e0e0', 0.16)).toBe(0);
    expect(at(0.3, 0.3, '#e0e0e0', 0.1)).toBe(-1);
  });

  it('looks a little beside the place, for pieces of the same size', () => {
    expect(at(0.409, 0.2, '#204060', 0.16)).toBe(0);
    expect(at(0.43, 0.2, '#204060', 0.16)).toBe(-1);
    expect(at(0.409, 0.2, '#204060', 0.06)).toBe(-1);
  });

  it('finds drawn pieces by name and never by place', () => {
    expect(at(0.64, 0.64, '#204060', 0.0064)).toBe(-1);
    const copies = [undefined, '2'].map((part) => candidate('d1', part, rectangle(0, 0, 1, 1), '#000000', 1));
    expect(findAgain(copies, { object: 'd1' }, toHoop)).toBe(0);
    expect(findAgain(copies, { object: 'd1', part: '2' }, toHoop)).toBe(1);
    expect(findAgain(copies, { object: 'd2' }, toHoop)).toBe(-1);
  });
});

describe('drawn paths', () => {
  const same = (x: number, y: number): { x: number; y: number; u: number; v: number } => ({ x, y, u: x, v: y });

  it('become curves and points again', () => {
    const path: DrawnPath = {
      closed: true,
      nodes: [
        [0, 0, 0, 0, 0, 0],
        [1, 0, 0, 0, 0.25, 0.5],
        [1, 1, 0.25, -0.25, 0, 0],
      ],
    };
    const curve = pathCurve(path, same);
    expect(curve.kinds).toEqual(['L', 'C', 'L']);
    expect(curve.points.slice(-2)).toEqual([0, 0]);
    expect(curvePath(curve, true, same)).toEqual(path);
    const open = { ...path, closed: false };
    expect(curvePath(pathCurve(open, same), false, same)).toEqual(open);
  });

  it('take the points of any outline', () => {
    const square = curveThrough([0, 0, 2, 0, 2, 2, 0, 2, 0, 0]);
    expect(curvePath(square, true, same).nodes.length).toBe(4);
    expect(curvePath(square, false, same).nodes.length).toBe(5);
  });
});
