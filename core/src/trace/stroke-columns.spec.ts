import { curveThrough } from '../geometry/curve.js';
import { subtract, thicken, type LineStyle } from '../geometry/polygons.js';
import { areaWithin, distanceToRings, isInside, lengthOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { crossingRungs } from '../test/crossing-rungs.js';
import { rectangle } from '../test/regions.js';
import { coveredBy, shareOf } from './column-cover.js';
import { maskOfRings } from './area-mask.js';
import type { Columns } from './columns.js';
import type { Corners } from './spine-stretches.js';
import { strokeColumns } from './stroke-columns.js';

const STYLE: LineStyle = { cap: 'round', join: 'miter', miterLimit: 8 };

const star: Points = Array.from({ length: 22 }, (_, i) => {
  const k = (i >> 1) % 10;
  const r = k % 2 === 0 ? 14 : 7;
  return i % 2 === 0 ? r * Math.sin((k * Math.PI) / 5) : -r * Math.cos((k * Math.PI) / 5);
});
const circle: Points = Array.from(
  { length: 146 },
  (_, i) => 8 * (i % 2 ? Math.sin : Math.cos)(((i >> 1) / 72) * 2 * Math.PI),
);
const square: Points = [0, 0, 20, 0, 20, 20, 0, 20, 0, 0];

const LINES: Readonly<Record<string, { run: Points; closed: boolean; columns: number }>> = {
  straight: { run: [0, 0, 20, 0], closed: false, columns: 1 },
  'gentle bend': { run: [0, 0, 8, 0, 14, 4], closed: false, columns: 1 },
  corner: { run: [0, 0, 14, 0, 14, 12], closed: false, columns: 2 },
  'letter M': { run: [0, 20, 5, 0, 10, 14, 15, 0, 20, 20], closed: false, columns: 4 },
  square: { run: square, closed: true, columns: 4 },
  star: { run: star, closed: true, columns: 5 },
  circle: { run: circle, closed: true, columns: 1 },
};

function sewn(run: Points, width: number, closed: boolean, corners: Corners = 'mitre') {
  const rings = thicken([closed ? run.slice(0, -2) : run], width, closed, STYLE);
  return { rings, made: strokeColumns({ paths: [curveThrough(run)], widthMm: width }, rings, corners) };
}

const coverOf = (rings: Points[], { columns }: Columns): number => {
  const mask = maskOfRings(rings, 12);
  return shareOf(mask, coveredBy(mask, columns));
};

describe('strokeColumns', () => {
  for (const [name, { run, closed, columns }] of Object.entries(LINES)) {
    for (const width of [1.2, 2.4, 4]) {
      it(`covers a ${name} of ${width} mm once, along its own middle`, () => {
        const { rings, made } = sewn(run, width, closed);
        expect(made.columns.length).toBe(columns);
        expect(coverOf(rings, made)).toBeGreaterThan(0.97);
        expect(made.bulk).toBeLessThan(1.25);
        expect(made.columns.reduce((n, { rungs }) => n + crossingRungs(rungs), 0)).toBe(0);
        for (const { rungs } of made.columns) {
          for (let i = 0; i < rungs.length; i += 2) {
            const [x, y] = [rungs[i], rungs[i + 1]];
            if (!isInside(rings, x, y)) expect(distanceToRings(rings, x, y)).toBeLessThan(0.06);
          }
        }
      });
    }
  }

  for (const width of [1.2, 2.4, 4]) {
    it(`turns around the corners of a square of ${width} mm in one column without an end`, () => {
      const rings = thicken([square.slice(0, -2)], width, true, { ...STYLE, join: 'round' });
      const made = strokeColumns({ paths: [curveThrough(square)], widthMm: width }, rings, 'round');
      expect(made.columns.map(({ closed }) => closed)).toEqual([true]);
      expect(coverOf(rings, made)).toBeGreaterThan(0.97);
      const [{ rungs }] = made.columns;
      expect(crossingRungs(rungs)).toBe(0);
      // Rungs stand close on the outer side of the corner as well: no chord cuts it off.
      const outer = (i: number): [number, number] => [rungs[i * 4], rungs[i * 4 + 1]];
      for (let i = 1; i < rungs.length / 4; i++) {
        const [[ax, ay], [bx, by]] = [outer(i - 1), outer(i)];
        expect(Math.hypot(bx - ax, by - ay)).toBeLessThan(0.7);
      }
    });
  }

  it('lets the two sides of a tip meet that is too sharp to be turned around', () => {
    const rings = thicken([star.slice(0, -2)], 4, true, { ...STYLE, join: 'round' });
    const made = strokeColumns({ paths: [curveThrough(star)], widthMm: 4 }, rings, 'round');
    expect(made.columns.length).toBe(5);
    expect(made.columns.reduce((n, { rungs }) => n + crossingRungs(rungs), 0)).toBe(0);
  });

  for (const corners of ['mitre', 'round', 'point'] as const) {
    it(`fans around the ends of a bar that is narrower than its ${corners} border, and meets itself in its middle`, () => {
      // A bar of 4 mm with round ends, and a border of 4.6 mm on its edge.
      const bar: Points = thicken([[0, 0, 16, 0]], 4, false, STYLE)[0];
      const edge: Points = [...bar, bar[0], bar[1]];
      const rings = thicken([bar], 4.6, true, STYLE);
      const { columns } = strokeColumns({ paths: [curveThrough(edge)], widthMm: 4.6 }, rings, corners);
      let [least, most] = [0, 0];
      for (const { rungs } of columns) {
        expect(crossingRungs(rungs)).toBe(0);
        for (let i = 0; i < rungs.length; i += 2) {
          [least, most] = [Math.min(least, rungs[i]), Math.max(most, rungs[i])];
          // Each side goes to the middle and no farther; what lies beyond the ends belongs to both.
          const j = i % 4 === 0 ? i + 2 : i - 2;
          if (rungs[i] > 0 && rungs[i] < 16 && rungs[j] > 0 && rungs[j] < 16)
            expect(rungs[i + 1] * rungs[j + 1]).toBeGreaterThan(-0.2);
        }
      }
      // Rungs reach the tip of each end, and there is thread all around.
      expect([least, most].map((x) => Math.round(x * 10) / 10)).toEqual([-4.3, 20.3]);
      expect(coverOf(rings, { columns } as unknown as Columns)).toBeGreaterThan(0.96);
    });
  }

  it('closes a ring, and begins a ring that was cut behind the cut', () => {
    const { rings, made } = sewn(circle, 2, true);
    expect(made.columns[0].closed).toBeTrue();
    const cut = subtract(rings, [rectangle(-3, -12, 6, 8)]);
    const [column, ...others] = strokeColumns({ paths: [curveThrough(circle)], widthMm: 2 }, cut, 'mitre').columns;
    expect(others.length).toBe(0);
    expect(column.closed).toBeFalse();
    const n = column.spine.length;
    for (const y of [column.spine[1], column.spine[n - 1]]) expect(y).toBeLessThan(-6);
  });

  it('leaves out what was cut away, and sews the parts one by one', () => {
    const { rings } = sewn([0, 0, 20, 0], 2, false);
    const rest = subtract(rings, [rectangle(8, -3, 5, 6)]);
    const { columns } = strokeColumns({ paths: [curveThrough([0, 0, 20, 0])], widthMm: 2 }, rest, 'mitre');
    expect(columns.length).toBe(2);
    for (const { spine } of columns) {
      expect(spine.every((x, i) => i % 2 === 1 || x < 8.2 || x > 12.8)).toBeTrue();
    }
  });

  it('goes round a corner, or to its tip, where that is wanted', () => {
    const run: Points = [0, 0, 14, 0, 14, 12];
    expect(sewn(run, 2, false, 'round').made.columns.length).toBe(1);
    const { rings, made } = sewn(run, 2, false, 'point');
    expect(made.columns.length).toBe(2);
    expect(coverOf(rings, made)).toBeGreaterThan(0.97);
    // The first goes on to the far side of the second, which ends below its edge.
    expect(Math.max(...made.columns[0].spine.filter((_, i) => i % 2 === 0))).toBeGreaterThan(14.5);
    expect(Math.min(...made.columns[1].spine.filter((_, i) => i % 2 === 1))).toBeGreaterThan(0.5);
  });

  it('keeps the middle line of a long tip below its thread', () => {
    // An acute corner, drawn out: its last rungs are cut away on the far side of the tip.
    const { made } = sewn([0, 0, 0, 18, 12, 2], 2.4, false, 'point');
    for (const { rungs, spine } of made.columns) {
      for (let i = 0; i < spine.length; i += 2) {
        const [ax, ay, bx, by] = rungs.slice(i * 2, i * 2 + 4);
        const [length, from, to] = [
          Math.hypot(bx - ax, by - ay),
          Math.hypot(spine[i] - ax, spine[i + 1] - ay),
          Math.hypot(spine[i] - bx, spine[i + 1] - by),
        ];
        expect(from + to).toBeLessThan(length + 0.01);
      }
    }
  });

  it('lets a line end at the side of another that it meets, as the bars of an E do', () => {
    const runs: Points[] = [
      [0, 0, 0, 20],
      [0, 0, 10, 0],
      [0, 10, 8, 10],
      [10, 20, 0, 20],
    ];
    const rings = thicken(runs, 2.4, false, STYLE);
    const made = strokeColumns({ paths: runs.map(curveThrough), widthMm: 2.4 }, rings, 'mitre');
    expect(made.columns.length).toBe(4);
    expect(made.bulk).toBeLessThan(1.06);
    expect(coverOf(rings, made)).toBeGreaterThan(0.98);
    const [stem, , middle] = made.columns;
    expect(Math.max(...stem.spine)).toBeGreaterThan(20.5);
    expect(Math.min(...middle.spine.filter((_, i) => i % 2 === 0))).toBeGreaterThan(0.8);
  });

  it('lets the leg of an R end at both lines it meets, and a line along another be', () => {
    const runs: Points[] = [
      [0, 0, 0, 20],
      [0, 1, 9, 1, 9, 10, 0, 10],
      [2.5, 10, 10, 20],
    ];
    const rings = thicken(runs, 2.4, false, STYLE);
    const made = strokeColumns({ paths: runs.map(curveThrough), widthMm: 2.4 }, rings, 'mitre');
    expect(made.bulk).toBeLessThan(1.08);
    expect(coverOf(rings, made)).toBeGreaterThan(0.97);
    const twins: Points[] = [
      [0, 0, 20, 0],
      [1, 0.3, 21, 0.3],
    ];
    const both = strokeColumns(
      { paths: twins.map(curveThrough), widthMm: 2.4 },
      thicken(twins, 2.4, false, STYLE),
      'mitre',
    );
    // Neither is cut away because the other one runs beside it.
    const [longest, second] = both.columns.map(({ spine }) => lengthOf(spine)).sort((a, b) => b - a);
    expect(longest).toBeGreaterThan(19);
    expect(second).toBeGreaterThan(17);
  });

  it('says how much a line lies over itself', () => {
    const scribble: Points = [];
    for (let i = 0; i < 20; i++) scribble.push(i % 2 === 0 ? 0 : 12, i * 0.5);
    const { rings, made } = sewn(scribble, 2, false, 'round');
    expect(made.bulk).toBeGreaterThan(1.5);
    expect(areaWithin(rings)).toBeLessThan(200);
    expect(strokeColumns({ paths: [curveThrough([1, 1, 1, 1])], widthMm: 2 }, rings, 'mitre').columns).toEqual([]);
  });
});
