import { areaOf, subtract, thicken, unite } from '../geometry/polygons.js';
import { distanceToRings, isInside } from '../geometry/polyline.js';
import { distance, type Points } from '../geometry/vector.js';
import { crossingRungs } from '../test/crossing-rungs.js';
import { ellipse, rectangle } from '../test/regions.js';
import { satin } from '../stitches/satin.js';
import { maskOfRings } from './area-mask.js';
import type { Column } from './column.js';
import { bareRests, patchOver } from './bare-rests.js';
import { coveredBy, ladderArea } from './column-cover.js';
import { columnsOf, type Columns } from './columns.js';

const SETTINGS = { spacingMm: 0.4, compensationMm: 0, runStitchMm: 2.5, underlay: 'edge' } as const;
const STYLE = { cap: 'butt', join: 'miter', miterLimit: 4 } as const;

const columns = (rings: Points[]): Columns => columnsOf(maskOfRings(rings, 12), rings);

const SHAPES: Readonly<Record<string, { rings: Points[]; columns: number }>> = {
  bar: { rings: [rectangle(0, 0, 20, 2)], columns: 1 },
  bend: { rings: thicken([[0, 0, 4, 5, 9, 7, 15, 7]], 1.6, false, STYLE), columns: 1 },
  corner: { rings: thicken([[0, 0, 0, 12, 9, 12]], 2, false, STYLE), columns: 2 },
  ring: {
    rings: thicken(
      [Array.from({ length: 120 }, (_, i) => 6 * (i % 2 ? Math.sin : Math.cos)(((i >> 1) / 60) * 2 * Math.PI))],
      1.5,
      true,
      { ...STYLE, join: 'round' },
    ),
    columns: 1,
  },
  T: {
    rings: thicken(
      [
        [0, 0, 14, 0],
        [7, 0, 7, 12],
      ],
      2,
      false,
      STYLE,
    ),
    columns: 2,
  },
  X: {
    rings: thicken(
      [
        [0, 0, 12, 12],
        [0, 12, 12, 0],
      ],
      1.6,
      false,
      STYLE,
    ),
    columns: 3,
  },
  drop: { rings: [[0, 0, 2, 0.4, 4, 1.4, 5, 2.6, 4, 3.8, 2, 4.4, 1, 4.2, 0.4, 3, 0.1, 1.5]], columns: 1 },
  dot: { rings: [rectangle(0, 0, 1.6, 1.6)], columns: 1 },
};

describe('columnsOf', () => {
  for (const [name, shape] of Object.entries(SHAPES)) {
    it(`fills a ${name} without crossing rungs or leaving it`, () => {
      const made = columns(shape.rings);
      expect(made.columns.length).toBe(shape.columns);
      expect(made.covered).toBeGreaterThan(0.965);
      expect(made.columns.reduce((n, { rungs }) => n + crossingRungs(rungs), 0)).toBe(0);
      for (const { rungs } of made.columns) {
        for (let i = 0; i < rungs.length; i += 2) {
          const out = isInside(shape.rings, rungs[i], rungs[i + 1])
            ? 0
            : distanceToRings(shape.rings, rungs[i], rungs[i + 1]);
          expect(out)
            .withContext(`${rungs[i]} ${rungs[i + 1]}`)
            .toBeLessThan(0.12);
        }
      }
    });
  }

  it('closes a ring', () => {
    expect(columns(SHAPES['ring'].rings).columns[0].closed).toBeTrue();
  });

  it('lays no column over another where they meet', () => {
    const plus = thicken(
      [
        [0, 10, 20, 10],
        [10, 0, 10, 20],
      ],
      3,
      false,
      STYLE,
    );
    for (const rings of [plus, SHAPES['T'].rings, SHAPES['X'].rings]) expect(columns(rings).bulk).toBeLessThan(1.12);
  });

  it('keeps the whole width up to a square end, and goes straight to a slanted one', () => {
    const [bar] = columns([rectangle(0, 0, 24, 4)]).columns;
    for (let i = 0; i < bar.rungs.length; i += 4) {
      expect(Math.abs(bar.rungs[i + 1] - bar.rungs[i + 3])).toBeGreaterThan(3.95);
    }
    const slanted = columns([[0, 0, 20, 0, 17, 3, -3, 3]]);
    expect(slanted.covered).toBeGreaterThan(0.98);
    for (const { rungs } of slanted.columns) {
      for (let i = 0; i < rungs.length; i += 4) {
        expect(Math.abs(rungs[i] - rungs[i + 2]))
          .withContext(`rung ${i / 4}`)
          .toBeLessThan(1.2);
      }
    }
  });

  it('lets the stem go on to its foot where a bowl comes in above it, and mitres a plain corner', () => {
    const bowl = subtract([ellipse(8, 12.4, 7, 6.2)], [ellipse(8, 12.4, 4, 3.4)]);
    const letter = unite([rectangle(1, 0, 3.6, 20)], bowl);
    for (const way of [1, -1]) {
      const turned = letter.map((ring) => ring.map((v, i) => (i % 2 === 1 ? v * way : v)));
      const atFoot = columns(turned).columns.flatMap(({ rungs }) =>
        rungs.flatMap((x, i) =>
          i % 4 === 0 && Math.min(x, rungs[i + 2]) < 2 && rungs[i + 1] * way > 17 ? [rungs[i + 1] - rungs[i + 3]] : [],
        ),
      );
      expect(atFoot.length).toBeGreaterThan(5);
      expect(Math.max(...atFoot.map(Math.abs))).toBeLessThan(0.5);
    }
    // Both halves of a plain corner reach its tip.
    for (const { rungs } of columns(SHAPES['corner'].rings).columns)
      expect(rungs.some((x, i) => i % 2 === 0 && Math.hypot(x + 1, rungs[i + 1] - 13) < 0.5)).toBeTrue();
  });

  it('leads the serifs at the foot of a thick stem straight on, and lets the stem end at them', () => {
    const foot = [[0, 0, 3, 0, 3, 11, 4.5, 11, 4.5, 12, -1.5, 12, -1.5, 11, 0, 11]];
    const made = columns(foot);
    expect(made.columns.length).toBe(2);
    expect(made.covered).toBeGreaterThan(0.99);
    expect(made.hole).toBe(0);
    const [stem, serifs] = made.columns;
    // Stem: level rungs; serifs: upright ones from end to end, hardly higher than they are.
    for (let i = 0; i < stem.rungs.length; i += 4) {
      expect(Math.abs(stem.rungs[i + 1] - stem.rungs[i + 3])).toBeLessThan(0.15);
      expect(Math.max(stem.rungs[i + 1], stem.rungs[i + 3])).toBeLessThan(11.2);
    }
    const heights = Array.from({ length: serifs.rungs.length / 4 }, (_, k) =>
      Math.abs(serifs.rungs[k * 4 + 1] - serifs.rungs[k * 4 + 3]),
    );
    expect(Math.min(...heights)).toBeGreaterThan(0.9);
    expect(Math.max(...heights)).toBeLessThan(1.5);
  });

  it('does not reach into another part of the shape across an opening', () => {
    // A hook whose two ends look at each other, half a millimetre apart.
    const hook = thicken([[0, 0, 0, 8, 6, 8, 6, 0.75, 0.75, 0.75]], 1.5, false, { ...STYLE, join: 'round' });
    for (const { rungs } of columns(hook).columns) {
      for (let i = 4; i < rungs.length; i += 4) {
        const [x, y] = [(rungs[i] + rungs[i + 2]) / 2, (rungs[i + 1] + rungs[i + 3]) / 2];
        expect(distance((rungs[i - 4] + rungs[i - 2]) / 2, (rungs[i - 3] + rungs[i - 1]) / 2, x, y))
          .withContext(`rung ${i / 4}`)
          .toBeLessThan(0.6);
      }
    }
  });

  it('patches nothing that only hangs together by a hair', () => {
    const mask = maskOfRings([rectangle(0, 0, 10, 1)], 12);
    const at = (x: number, y: number): number =>
      Math.floor((y - mask.top) * mask.scale) * mask.width + Math.floor((x - mask.left) * mask.scale);
    const ends = [0.1, 9.9].flatMap((x) => [0.2, 0.3, 0.4].map((y) => at(x, y)));
    expect(patchOver({ pixels: ends, area: 0.1 }, mask)?.rungs.length ?? 0).toBeLessThan(8 * 4);
  });

  it('patches what its columns leave bare in a corner', () => {
    // A flag on a pole: the corner between both lies in no column of its own.
    const flag = columns([[0, 0, 1.5, 0, 7.5, 2.4, 1.5, 4.8, 1.5, 20, 0, 20]]);
    expect(flag.hole).toBe(0);
    expect(flag.covered).toBeGreaterThan(0.98);
    const mask = maskOfRings([rectangle(0, 0, 10, 3)], 12);
    const half = { rungs: [0, 0, 0, 3, 5, 0, 5, 3], spine: [0, 1.5, 5, 1.5], closed: false };
    const [rest, ...others] = bareRests(mask, coveredBy(mask, [half]));
    expect(others.length).toBe(0);
    expect(rest.area).toBeCloseTo(14.5, 0);
    const patch = patchOver(rest, mask);
    expect(patch && ladderArea(patch)).toBeGreaterThan(14);
  });
});

describe('satin', () => {
  it('sews whatever hangs together in one go, and everything it travels over is covered', () => {
    for (const [name, { rings }] of Object.entries(SHAPES)) {
      const runs = satin(columns(rings).columns, rings, SETTINGS);
      expect(runs.length).withContext(name).toBe(1);
      const [run] = runs;
      for (let i = 0; i < run.length; i += 2) {
        if (isInside(rings, run[i], run[i + 1])) continue;
        expect(distanceToRings(rings, run[i], run[i + 1]))
          .withContext(name)
          .toBeLessThan(0.12);
      }
    }
  });

  it('ends where it began, so that the way out is the underlay', () => {
    const [run] = satin(columns(SHAPES['bar'].rings).columns, SHAPES['bar'].rings, SETTINGS, { entry: { x: 0, y: 1 } });
    expect(distance(run[0], run[1], run[run.length - 2], run[run.length - 1])).toBeLessThan(1.3);
  });

  it('ends at the other end where it is asked to, with an underlay all along', () => {
    const { rings } = SHAPES['bar'];
    for (const underlay of ['none', 'edge', 'both'] as const) {
      const settings = { ...SETTINGS, underlay };
      const [run] = satin(columns(rings).columns, rings, settings, { entry: { x: 0, y: 1 }, exit: { x: 20, y: 1 } });
      expect(run[0]).withContext(underlay).toBeLessThan(1);
      expect(run[run.length - 2])
        .withContext(underlay)
        .toBeGreaterThan(19);
      // Below the satin the needle has been everywhere before: out and back.
      const turn = run.findIndex((v, i) => i % 2 === 0 && v > 19);
      expect(turn).toBeGreaterThan(0);
      const back = run.findIndex((v, i) => i % 2 === 0 && i > turn && v < 1);
      expect(back).withContext(underlay).toBeGreaterThan(turn);
      expect(run.length - back).toBeGreaterThan(180);
    }
  });

  it('leaves nothing on top of finished satin where a column meets the middle of another', () => {
    const { rings } = SHAPES['T'];
    // Entered at the foot of the stem: the bar is met in its middle.
    const [run] = satin(columns(rings).columns, rings, SETTINGS, { entry: { x: 7, y: 12 } });
    const from = run.length - 60;
    expect(distance(run[run.length - 2], run[run.length - 1], 7, 12)).toBeLessThan(1.6);
    for (let i = from; i < run.length; i += 2) {
      // What is sewn last goes to and fro over the stem: no way along it lies on it.
      expect(Math.abs(run[i] - run[i - 2]))
        .withContext(`stitch ${i / 2}`)
        .toBeGreaterThan(0.8);
    }
    const bar = run.slice(0, from);
    const across = [1, 4, 10, 13].map((x) => bar.filter((v, i) => i % 2 === 0 && Math.abs(v - x) < 0.5).length);
    expect(Math.min(...across)).toBeGreaterThan(3);
  });

  it('goes on from the column that comes nearest, not across to one that is only near', () => {
    const column = (spine: Points, widthMm: number): Column => {
      const rungs: Points = [];
      for (let i = 0; i < spine.length; i += 2) {
        const [a, b] = [Math.max(0, i - 2), Math.min(spine.length - 2, i + 2)];
        const [dx, dy] = [spine[b] - spine[a], spine[b + 1] - spine[a + 1]];
        const k = widthMm / 2 / Math.sqrt(dx * dx + dy * dy);
        rungs.push(spine[i] - dy * k, spine[i + 1] + dx * k, spine[i] + dy * k, spine[i + 1] - dx * k);
      }
      return { rungs, spine, closed: false };
    };
    const along = (n: number, at: (t: number) => readonly [number, number]): Points =>
      Array.from({ length: n + 1 }, (_, i) => at(i / n)).flat();
    const stem = column(
      along(50, (t) => [0, 10 - 10 * t]),
      2.3,
    );
    // From the top of the stem around to its middle.
    const bowl = column(
      along(80, (t) => [4 * Math.sin(Math.PI * t), 2.5 - 2.5 * Math.cos(Math.PI * t)]),
      2.3,
    );
    // It begins under the end of the bowl: near enough to the stem to be taken for a branch of it.
    const leg = column(
      along(40, (t) => [2.6 + 3 * t, 5 + 5 * t]),
      2.3,
    );
    const around = [rectangle(-2, -2, 10, 14)];
    for (const columns of [
      [stem, bowl, leg],
      [leg, stem, bowl],
      [bowl, leg, stem],
    ]) {
      const [run] = satin(columns, around, SETTINGS, { entry: { x: 0, y: 10 }, exit: { x: 5.6, y: 10 } });
      let longest = 0;
      // What is sewn last is satin alone: no stitch is longer than a rung is wide.
      for (let i = Math.floor(run.length / 4) * 2 + 2; i < run.length; i += 2) {
        longest = Math.max(longest, distance(run[i - 2], run[i - 1], run[i], run[i + 1]));
      }
      expect(longest).toBeLessThan(2.9);
    }
  });

  it('keeps the spacing on the outer rail', () => {
    const { rings } = SHAPES['bar'];
    const [run] = satin(columns(rings).columns, rings, SETTINGS);
    const tops: number[] = [];
    for (let i = 0; i < run.length; i += 2) if (run[i + 1] < 0.05) tops.push(run[i]);
    tops.sort((a, b) => a - b);
    const gaps = tops.slice(1).map((x, i) => x - tops[i]);
    expect(gaps.filter((g) => Math.abs(g - 0.4) > 0.1).length).toBeLessThan(gaps.length * 0.05);
  });

  it('splits stitches that would be too long, and reaches over the edge by the compensation', () => {
    const wide = [rectangle(0, 0, 30, 9)];
    const [run] = satin(columns(wide).columns, wide, { ...SETTINGS, compensationMm: 0.3 });
    let longest = 0;
    let least = 0;
    for (let i = 2; i < run.length; i += 2) {
      longest = Math.max(longest, distance(run[i - 2], run[i - 1], run[i], run[i + 1]));
      least = Math.min(least, run[i + 1]);
    }
    expect(longest).toBeLessThan(7.5);
    expect(least).toBeCloseTo(-0.3, 1);
    expect(areaOf(wide)).toBe(270);
  });

  it('goes over to another part by a new run', () => {
    const apart = [rectangle(0, 0, 12, 2), rectangle(0, 20, 12, 2)];
    expect(satin(columns(apart).columns, apart, SETTINGS).length).toBe(2);
  });
});
