import { alongRings } from './along-rings.js';
import { seededRandom } from './chance.js';
import {
  curveThrough,
  flatten,
  flattenRing,
  joinCurves,
  placeCurve,
  reverseCurve,
  svgPath,
  type Curve,
} from './curve.js';
import { areaOf, common, offset, subtract, tidyRings, unite } from './polygons.js';
import {
  boundsOf,
  distanceToRings,
  isInside,
  lengthOf,
  ontoRings,
  reversed,
  signedArea,
  simplify,
} from './polyline.js';
import { direction, toMicrometre } from './vector.js';
import { ellipse, rectangle } from '../test/regions.js';

const square = rectangle(0, 0, 10, 10);

describe('direction', () => {
  it('is exact at right angles and of length one everywhere', () => {
    expect(direction(90)).toEqual({ x: 0, y: 1 });
    expect(direction(180).x).toBe(-1);
    for (let a = -180; a <= 180; a += 7) {
      const { x, y } = direction(a);
      expect(x * x + y * y).toBeCloseTo(1, 10);
    }
  });

  it('rounds to micrometres', () => expect(toMicrometre(1.23456)).toBe(1.235));
});

describe('a place moved onto a shape', () => {
  const rings = [rectangle(0, 0, 10, 10), rectangle(4, 4, 2, 2)];

  it('stays where it lies inside, and is taken to the nearest edge from outside or out of a hole', () => {
    const { left, top, right, bottom } = boundsOf([rings[0]]);
    const hole = boundsOf([rings[1]]);
    const inside = { x: left + 0.5, y: top + 0.5 };
    expect(ontoRings(rings, inside.x, inside.y)).toEqual(inside);
    expect(ontoRings(rings, right + 3, top + 5)).toEqual({ x: right, y: top + 5 });
    expect(ontoRings(rings, right + 3, bottom + 4)).toEqual({ x: right, y: bottom });
    const middle = (hole.top + hole.bottom) / 2;
    expect(ontoRings(rings, hole.left + 0.2, middle).x).toBeCloseTo(hole.left, 9);
  });
});

describe('polylines', () => {
  it('measure length, area and bounds', () => {
    expect(lengthOf([0, 0, 3, 4, 3, 10])).toBe(11);
    expect(signedArea(square)).toBe(100);
    expect(signedArea(reversed(square))).toBe(-100);
    expect(boundsOf([square, [-2, 5]])).toEqual({ left: -2, top: 0, right: 10, bottom: 10 });
    expect(boundsOf([])).toEqual({ left: 0, top: 0, right: 0, bottom: 0 });
  });

  it('tell inside from outside, holes included', () => {
    const rings = [square, rectangle(4, 4, 2, 2)];
    expect(isInside(rings, 2, 2)).toBeTrue();
    expect(isInside(rings, 5, 5)).toBeFalse();
    expect(isInside(rings, 11, 5)).toBeFalse();
    expect(distanceToRings(rings, 5, 5)).toBe(1);
  });

  it('simplify within the tolerance and keep both ends', () => {
    const wave: number[] = [];
    for (let i = 0; i <= 100; i++) wave.push(i / 10, Math.sin(i / 10));
    const simple = simplify(wave, 0.05);
    expect(simple.length).toBeLessThan(wave.length / 3);
    expect(simple.slice(0, 2)).toEqual(wave.slice(0, 2));
    expect(simple.slice(-2)).toEqual(wave.slice(-2));
  });
});

describe('alongRings', () => {
  const far = rectangle(50, 0, 4, 4);

  it('takes the shorter way round the ring that serves both points', () => {
    const way = alongRings([far, square], { x: 0.5, y: -0.5 }, { x: 10.5, y: 9 });
    expect(way).toEqual([0.5, -0.5, 0, 0, 10, 0, 10, 10, 10.5, 9]);
    expect(alongRings([square], { x: 0, y: 11 }, { x: 0, y: -1 })).toEqual([0, 11, 0, 10, 0, 0, 0, -1]);
  });

  it('goes straight where there is no ring', () => {
    expect(alongRings([], { x: 0, y: 0 }, { x: 1, y: 1 })).toEqual([0, 0, 1, 1]);
  });
});

describe('curves', () => {
  const arch: Curve = { points: [0, 0, 0, 10, 10, 10, 10, 0, 20, 0], kinds: ['C', 'L'] };

  it('flatten within the tolerance', () => {
    const coarse = flatten(arch, 0.5);
    const fine = flatten(arch, 0.001);
    expect(fine.length).toBeGreaterThan(coarse.length);
    expect(Math.max(...fine.filter((_, i) => i % 2 === 1))).toBeCloseTo(7.5, 2);
    expect(lengthOf(fine)).toBeCloseTo(30, 1);
  });

  it('turn round without changing shape', () => {
    const back = reversed(flatten(arch, 0.01));
    flatten(reverseCurve(arch), 0.01).forEach((v, i) => expect(v).toBeCloseTo(back[i], 9));
    expect(reverseCurve(reverseCurve(arch))).toEqual(arch);
  });

  it('join, move and become path data', () => {
    const joined = joinCurves([curveThrough([0, 0, 1, 0]), curveThrough([1, 0, 1, 1])]);
    expect(joined).toEqual({ points: [0, 0, 1, 0, 1, 1], kinds: ['L', 'L'] });
    expect(placeCurve(joined, 1, 2, 10).points).toEqual([10, 20, 20, 20, 20, 30]);
    expect(svgPath(arch, 1, true)).toBe('M0 0C0 10 10 10 10 0L20 0Z');
    const random = seededRandom(5);
    const odd = [-0.04, 1.005, 2.675, -1.25, 0.15, 1e-9, -123456.785].concat(
      Array.from({ length: 300 }, () => random() * 80 - 40),
    );
    for (const digits of [0, 1, 2, 3]) {
      for (const v of odd) {
        const [x, y] = [v, -v].map((each) => Number(each.toFixed(digits)));
        expect(svgPath(curveThrough([0, 0, v, -v]), digits, false)).toBe(`M0 0L${x} ${y}`);
      }
    }
    expect(flattenRing(curveThrough([0, 0, 1, 0, 1, 1, 0, 0]), 0.1)).toEqual([0, 0, 1, 0, 1, 1]);
  });
});

describe('polygons', () => {
  const other = rectangle(5, 0, 10, 10);

  it('unite, cut and subtract', () => {
    expect(areaOf(unite([square], [other]))).toBeCloseTo(150, 3);
    expect(areaOf(common([square], [other]))).toBeCloseTo(50, 3);
    expect(areaOf(subtract([square], [other]))).toBeCloseTo(50, 3);
  });

  it('grow and shrink, and vanish when shrunk too far', () => {
    expect(areaOf(offset([square], 1))).toBeCloseTo(100 + 40 + Math.PI, 1);
    expect(areaOf(offset([square], -1))).toBeCloseTo(64, 2);
    expect(offset([square], -6)).toEqual([]);
  });

  it('untie a ring that crosses itself, and take holes off', () => {
    const bow = tidyRings([[0, 0, 10, 10, 10, 0, 0, 10]]);
    expect(bow.length).toBe(2);
    expect(areaOf(bow)).toBeCloseTo(50, 2);
    expect(areaOf([ellipse(0, 0, 5, 5, 400), ellipse(0, 0, 3, 3, 400)])).toBeCloseTo(Math.PI * 16, 1);
  });
});
