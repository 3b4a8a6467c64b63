import { seededRandom } from '../../geometry/chance.js';
import type { Points } from '../../geometry/vector.js';
import type { Plate } from '../plate.js';
import { joinStretches } from '../join-stretches.js';
import { flatCover } from './flat-cover.js';
import { rowLines, stretchesOf } from './row-lines.js';
import { halfFor, sewRows } from './sew-rows.js';
import { bareRow } from './wide-row.js';
import { halved, softPlane } from './soft-plane.js';

const plateOf = (width: number, height: number, scale = 5): Plate => ({
  width,
  height,
  scale,
  left: -width / scale / 2,
  top: -height / scale / 2,
  data: new Float32Array(width * height * 4).fill(1),
});
const sum = (list: ArrayLike<number>): number => Array.from(list).reduce((a, b) => a + b, 0);

describe('blurred planes', () => {
  it('keep an even plane even, and the sum of what lies well inside', () => {
    const even = softPlane(new Float32Array(30 * 20).fill(0.4), 30, 20, 2.5);
    for (const v of even) expect(v).toBeCloseTo(0.4, 5);
    const spot = new Float32Array(41 * 41);
    spot[20 * 41 + 20] = 1;
    const soft = softPlane(spot, 41, 41, 2);
    expect(sum(soft)).toBeCloseTo(1, 4);
    expect(soft[20 * 41 + 20]).toBeCloseTo(1 / (2 * Math.PI * 4), 3);
    // The same both ways, and on either side.
    expect(soft[20 * 41 + 17]).toBeCloseTo(soft[17 * 41 + 20], 7);
    expect(soft[20 * 41 + 17]).toBeCloseTo(soft[20 * 41 + 23], 7);
  });

  it('are as wide as asked for along a single row too', () => {
    const line = new Float32Array(101);
    line[50] = 1;
    const soft = softPlane(line, 101, 1, 3);
    let variance = 0;
    soft.forEach((v, i) => (variance += v * (i - 50) ** 2));
    expect(Math.sqrt(variance)).toBeCloseTo(3, 1);
  });

  it('are halved to means of four, an odd last row left out', () => {
    const plane = Float32Array.from([1, 3, 5, 7, 9, 11, 13, 15, 17, 19, 21, 23, 25, 27, 29]);
    expect([...halved(plane, 5, 3)]).toEqual([(1 + 3 + 11 + 13) / 4, (5 + 7 + 15 + 17) / 4]);
  });
});

describe('flat cover', () => {
  it('has the area of the thread that was laid, in any direction', () => {
    const plate = plateOf(100, 100);
    for (let k = 0; k < 12; k++) {
      const angle = (Math.PI * k) / 12;
      const [x, y] = [Math.cos(angle) * 6, Math.sin(angle) * 6];
      // Lines that lie just along the points are covered by more or fewer of them: what counts is the mean of many.
      let covered = 0;
      for (let n = 0; n < 10; n++) {
        const [dx, dy] = [n * 0.017, n * 0.029];
        covered += sum(flatCover(plate, [[dx - x, dy - y, dx + x, dy + y]])) / 250;
      }
      // 12 mm of 0.4 mm, and a round end on either side.
      expect(covered / (12 * 0.4 + Math.PI * 0.04))
        .withContext(String(k))
        .toBeCloseTo(1, 1);
    }
  });

  it('counts a place once, however often thread lies there, and nothing beyond the plate', () => {
    const plate = plateOf(50, 50);
    const line: Points = [-20, 0, 20, 0];
    const once = flatCover(plate, [line]);
    expect([...flatCover(plate, [line, line, [20, 0, -20, 0]])]).toEqual([...once]);
    expect(Math.max(...once)).toBe(1);
    expect(sum(flatCover(plate, [[100, 100, 120, 100]]))).toBe(0);
    expect(sum(flatCover(plate, [[0, 0, 0, 0]]))).toBeGreaterThan(0);
  });
});

describe('stretches', () => {
  it('are where something holds, to the last place', () => {
    const marks = '..###.#..##';
    expect(stretchesOf(marks.length, (i) => marks[i] === '#')).toEqual([
      [2, 4],
      [6, 6],
      [9, 10],
    ]);
    expect(stretchesOf(0, () => true)).toEqual([]);
  });

  it('are joined to and fro while the next end is near, none lost and none twice', () => {
    const rows: Points[] = Array.from({ length: 9 }, (_, r) => [-10, r * 1.2, 0, r * 1.2, 10, r * 1.2]);
    const [run, ...others] = joinStretches(rows, 3);
    expect(others).toEqual([]);
    expect(run.length).toBe(9 * 6);
    for (let i = 2; i < run.length; i += 2) {
      expect(Math.hypot(run[i] - run[i - 2], run[i + 1] - run[i - 1])).toBeLessThan(10.1);
    }
    expect(joinStretches(rows, 1).length).toBe(9);
    const random = seededRandom(12);
    const scattered: Points[] = Array.from({ length: 60 }, () => {
      const [x, y] = [random() * 80, random() * 80];
      return [x, y, x + random() * 8, y];
    });
    const ends = (list: readonly Points[]): string[] =>
      list.flatMap((points) =>
        Array.from({ length: points.length / 2 }, (_, i) => `${points[i * 2]} ${points[i * 2 + 1]}`),
      );
    expect(ends(joinStretches(scattered, 5)).sort()).toEqual(ends(scattered).sort());
  });
});

describe('sewing of wide rows', () => {
  const [line] = rowLines(plateOf(200, 10), 'straight', { spacingMm: 2, angle: 0 });
  const sewn = (up: number, down: number, slant = 0): Points => {
    const row = bareRow(line);
    row.sewn.fill(1);
    row.up.fill(up);
    row.down.fill(down);
    return sewRows([row], { pitchMm: 0.45, slant, trimOverMm: 4 })[0];
  };

  it('goes above and below in turn, as far as each side is wide', () => {
    const points = sewn(0.6, 0.2);
    const heights = new Set(points.filter((_, i) => i % 2 === 1).map((y) => Math.round(Math.abs(y) * 10) / 10));
    expect([...heights].sort()).toEqual([0.2, 0.6]);
    for (let i = 3; i < points.length; i += 2) expect(Math.sign(points[i])).toBe(-Math.sign(points[i - 2]));
    expect(points[0]).toBeCloseTo(-points[points.length - 2], 1);
  });

  it('is a running line of three millimetres where it is hardly wider than thread', () => {
    const points = sewn(0.05, 0.05);
    for (let i = 2; i < points.length; i += 2) {
      expect(points[i] - points[i - 2]).toBeGreaterThan(0.5);
      expect(points[i] - points[i - 2]).toBeLessThan(4.6);
      expect(points[i + 1]).toBeCloseTo(0, 6);
    }
    expect(points.length / 2).toBeLessThan(16);
  });

  it('leans by the angle that was asked for', () => {
    const points = sewn(0.6, 0.6, 30);
    const straight = sewn(0.6, 0.6);
    expect(points.length).toBe(straight.length);
    const lean = Math.tan(Math.PI / 6) * 0.6;
    for (let i = 4; i < 40; i += 2) {
      expect(Math.abs(points[i] - straight[i])).toBeCloseTo(lean, 3);
      expect(points[i + 1]).toBeCloseTo(straight[i + 1], 6);
    }
  });

  it('begins with widths that a share asks for, within what rows may be', () => {
    expect(halfFor(0, 1.2, 0.57)).toBe(0);
    expect(halfFor(0.5, 1.2, 0.57)).toBeCloseTo(0.225, 6);
    expect(halfFor(2, 1.2, 0.57)).toBeCloseTo(0.684, 6);
  });
});
