import { seededRandom } from '../geometry/chance.js';
import { flatCrosses, photoCrosses, type ThreadPixels } from './cells.js';
import { cellGrid, type Cross } from './grid.js';
import { COVERED_LATER, STANDS_OUT } from './links.js';
import { routeCrosses } from './route.js';

const BOX = { left: -50, top: -50, width: 100, height: 100 };
const SIDE = 400;

/** A picture of threads from a rule. */
function pixels(threadAt: (u: number, v: number) => number): ThreadPixels {
  const thread = new Int16Array(SIDE * SIDE);
  for (let i = 0; i < thread.length; i++) {
    thread[i] = threadAt(((i % SIDE) + 0.5) / SIDE, (Math.floor(i / SIDE) + 0.5) / SIDE);
  }
  return { width: SIDE, height: SIDE, thread, left: -50, top: -50, pixelMm: 100 / SIDE };
}

const full = (cell: number, thread = 0): Cross => ({ cell, thread, part: 'full', corner: 0 });

describe('cells of flat art', () => {
  const grid = cellGrid(BOX, 2.5);

  it('lie in the middle of the picture', () => {
    expect(grid).toEqual({ cols: 40, rows: 40, cellMm: 2.5, left: -50, top: -50 });
    expect(cellGrid(BOX, 3).left).toBeCloseTo(-49.5, 9);
  });

  it('take the thread that covers most of them, and stay bare where nothing is', () => {
    const crosses = flatCrosses(
      grid,
      pixels((u) => (u < 0.5 ? 1 : -1)),
      true,
      2,
    );
    expect(crosses.length).toBe(20 * 40);
    expect(crosses.every(({ thread, part, cell }) => thread === 1 && part === 'full' && cell % 40 < 20)).toBeTrue();
  });

  it('are shared where a slanted edge cuts them, and come nearer to the picture so', () => {
    const slanted = pixels((u, v) => (v > u ? 0 : 1));
    const whole = flatCrosses(grid, slanted, false, 2);
    const parts = flatCrosses(grid, slanted, true, 2);
    expect(whole.every(({ part }) => part === 'full')).toBeTrue();
    expect(parts.filter(({ part }) => part === 'three-quarter').length).toBeGreaterThanOrEqual(38);
    const cut = parts.filter(({ part }) => part !== 'full').map(({ cell }) => cell);
    expect(cut.every((cell) => cell % 40 === Math.floor(cell / 40))).toBeTrue();
  });

  it('lose strays, but keep what fills its cell', () => {
    const random = seededRandom(3);
    const specks = Array.from({ length: 30 }, () => [random(), random()]);
    const dusty = pixels((u, v) => (specks.some(([a, b]) => Math.abs(u - a) + Math.abs(v - b) < 0.009) ? 1 : 0));
    expect(flatCrosses(grid, dusty, false, 2).every(({ thread }) => thread === 0)).toBeTrue();
    const one = pixels((u, v) => (Math.floor(u * 40) === 10 && Math.floor(v * 40) === 12 ? 1 : 0));
    expect(flatCrosses(grid, one, false, 2).filter(({ thread }) => thread === 1).length).toBe(1);
  });
});

describe('cells of photographs', () => {
  it('take the nearest thread, and single ones are calmed where that costs little', () => {
    const grid = cellGrid({ left: 0, top: 0, width: 25, height: 25 }, 2.5);
    const mean = new Float32Array(400);
    for (let i = 0; i < 100; i++) mean.set(i === 44 ? [0.33, 0.33, 0.33, 1] : [0.3, 0.3, 0.3, 1], i * 4);
    mean[99 * 4 + 3] = 0;
    const threads = [0.3, 0.34].map((v) => [v, v, v] as const);
    expect(photoCrosses(grid, mean, threads, false, 0).find(({ cell }) => cell === 44)?.thread).toBe(1);
    const calm = photoCrosses(grid, mean, threads, true, 0);
    expect(calm.find(({ cell }) => cell === 44)?.thread).toBe(0);
    expect(calm.length).toBe(99);
  });
});

describe('the way over a grid', () => {
  const grid = cellGrid({ left: 0, top: 0, width: 50, height: 50 }, 2.5);
  const settings = { passes: 1, floatMm: 7.5 };

  /**
   * Checks that every leg is sewn, upper legs after lower ones, nothing lies open but on legs of crosses, and nothing crosses
   * an upper leg: half a lower leg may be sewn from its middle outwards, where a chain goes on.
   */
  function check(cells: readonly number[]): { stitches: number; runs: number } {
    const runs = routeCrosses(
      grid,
      cells.map((cell) => full(cell)),
      // Without floats everything sewn lies on the crosses themselves.
      { passes: 1, floatMm: 0 },
    );
    const own = new Set(cells);
    const lower = new Map<number, number>();
    const upper = new Map<number, number>();
    const halves: { readonly cell: number; readonly time: number }[] = [];
    let time = 0;
    for (const run of runs) {
      for (let i = 2; i < run.length; i += 2) {
        time++;
        const [ax, ay, bx, by] = [run[i - 2], run[i - 1], run[i], run[i + 1]].map((v) => v / 2.5);
        const [dx, dy] = [bx - ax, by - ay];
        const cell = Math.floor((ay + by) / 2) * grid.cols + Math.floor((ax + bx) / 2);
        expect(own.has(cell)).toBeTrue();
        expect(Math.abs(dx)).toBeCloseTo(Math.abs(dy), 9);
        if (Math.abs(dx) < 0.9) {
          if (dx * dy > 0) halves.push({ cell, time });
          continue;
        }
        if (dx * dy > 0) lower.set(cell, time);
        else upper.set(cell, time);
      }
    }
    for (const cell of cells) {
      const last = upper.get(cell) ?? 0;
      expect(last)
        .withContext(`cell ${cell}`)
        .toBeGreaterThan(lower.get(cell) ?? Infinity);
      expect(halves.filter((half) => half.cell === cell && half.time > last).length)
        .withContext(`cell ${cell}`)
        .toBeLessThan(2);
    }
    return { stitches: time, runs: runs.length };
  }

  it('sews blocks, rings and scattered cells with every upper leg on top', () => {
    const block: number[] = [];
    const ring: number[] = [];
    for (let y = 2; y < 12; y++) {
      for (let x = 3; x < 14; x++) {
        block.push(y * grid.cols + x);
        if (y === 2 || y === 11 || x === 3 || x === 13) ring.push(y * grid.cols + x);
      }
    }
    const { stitches, runs } = check(block);
    expect(runs).toBe(1);
    expect(stitches / block.length).toBeLessThan(4);
    check(ring);
    const random = seededRandom(11);
    for (let k = 0; k < 12; k++) {
      check(Array.from({ length: 400 }, (_, i) => i).filter(() => random() < 0.25 + 0.05 * k));
    }
  });

  it('sews a chain of crosses in one run from its head, without floats', () => {
    const chain = Array.from({ length: 9 }, (_, k) => (k + 3) * (grid.cols + 1));
    const { stitches, runs } = check(chain);
    expect(runs).toBe(1);
    expect(stitches / chain.length).toBeLessThan(6.1);
    // Short legs beside it let each of its parts begin at one end only.
    const beside = chain.flatMap((cell): Cross[] => [
      full(cell),
      { cell: cell + 1, thread: 0, part: 'quarter', corner: 3 },
      { cell: cell + grid.cols, thread: 0, part: 'quarter', corner: 1 },
    ]);
    expect(routeCrosses(grid, beside, { passes: 1, floatMm: 0 }).length).toBe(1);
  });

  it('floats only where the thread does not stand out', () => {
    const apart = [full(21), full(24)];
    const plain = new Uint8Array(grid.cols * grid.rows);
    expect(routeCrosses(grid, apart, settings, plain).length).toBe(1);
    expect(
      routeCrosses(
        grid,
        apart,
        settings,
        plain.map(() => STANDS_OUT),
      ).length,
    ).toBe(2);
    // Below crosses that are sewn later there is a way along their diagonals.
    const later = plain.map((_, cell) => (cell === 21 || cell === 24 ? 0 : STANDS_OUT | COVERED_LATER));
    const [run, ...more] = routeCrosses(grid, apart, settings, later);
    expect(more).toEqual([]);
    for (let i = 2; i < run.length; i += 2) {
      expect(Math.abs(run[i] - run[i - 2])).toBeCloseTo(Math.abs(run[i + 1] - run[i - 1]), 9);
    }
  });

  it('sews each leg as often as it is told', () => {
    const once = routeCrosses(grid, [full(21), full(22)], settings)[0].length;
    const thrice = routeCrosses(grid, [full(21), full(22)], { ...settings, passes: 3 })[0].length;
    expect((thrice - 2) / (once - 2)).toBe(3);
  });

  it('cuts the thread where parts lie too far apart to float', () => {
    expect(routeCrosses(grid, [full(0), full(2)], settings).length).toBe(1);
    expect(routeCrosses(grid, [full(0), full(399)], settings).length).toBe(2);
  });

  it('goes through the middle from one short leg of a cell to the other, and on to the next cell', () => {
    const side = (cell: number): Cross => ({ cell, thread: 0, part: 'side', corner: 0 });
    const runs = routeCrosses(grid, [side(21), side(22), side(23)], settings);
    expect(runs.length).toBe(1);
    // Two stitches a cell, and none between them.
    expect(runs[0].length / 2).toBe(7);
  });

  it('sews part crosses from their corners to the middle', () => {
    const runs = routeCrosses(grid, [{ cell: 21, thread: 0, part: 'quarter', corner: 2 }], settings);
    expect(runs.length).toBe(1);
    const [run] = runs;
    expect([run[2], run[3]]).toEqual([3.75, 3.75]);
    expect([run[0], run[1]]).toEqual([5, 5]);
  });
});
