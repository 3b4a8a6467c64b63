import { distance, type Points } from '../geometry/vector.js';
import { runningLine } from './running.js';
import { zigzag } from './zigzag.js';

const SETTINGS = { spacingMm: 0.4, compensationMm: 0, runStitchMm: 2.5 };
/** A straight ladder, and one around a bend of some inner radius. */
const ladder = (length: number, width: number): Points[] =>
  Array.from({ length: Math.round(length / 0.15) + 1 }, (_, i) => [i * 0.15, 0, i * 0.15, width]);
const bend = (inner: number, width: number): Points[] =>
  Array.from({ length: 120 }, (_, i) => {
    const [c, s] = [Math.cos(i / 40), Math.sin(i / 40)];
    return [(inner + width) * c, (inner + width) * s, inner * c, inner * s];
  });

/** Upright rungs 2 mm long and 0.15 mm apart, some of them longer at one end. */
const rungsAt = (n: number, more: (i: number) => number): number[][] =>
  Array.from({ length: n }, (_, i) => [i * 0.15, 0, i * 0.15, 2 + more(i)]);

describe('zigzag', () => {
  it('goes from rail to rail, half a spacing on each time', () => {
    const run = zigzag(ladder(10, 2), SETTINGS);
    for (let i = 2; i < run.length; i += 2) {
      expect(Math.abs(run[i + 1] - run[i - 1])).toBeCloseTo(2, 6);
      expect(run[i] - run[i - 2]).toBeLessThan(0.3);
    }
    expect(run.length / 2).toBeGreaterThan(48);
    expect(run.length / 2).toBeLessThan(54);
  });

  it('shortens more stitches the tighter the inner rail is, and leaves no gap between the full ones', () => {
    const shortShare = (inner: number): number => {
      const run = zigzag(bend(inner, 3), SETTINGS);
      const onInner: Points = [];
      for (let i = 0; i < run.length; i += 2)
        if (distance(0, 0, run[i], run[i + 1]) < inner + 2) onInner.push(run[i], run[i + 1]);
      const full: Points = [];
      for (let i = 0; i < onInner.length; i += 2) {
        if (distance(0, 0, onInner[i], onInner[i + 1]) < inner + 0.01) full.push(onInner[i], onInner[i + 1]);
      }
      for (let i = 2; i < full.length; i += 2) {
        expect(distance(full[i - 2], full[i - 1], full[i], full[i + 1]))
          .withContext(`radius ${inner}`)
          .toBeLessThan(0.42);
      }
      return 1 - full.length / onInner.length;
    };
    expect(shortShare(12)).toBe(0);
    expect(shortShare(2)).toBeGreaterThan(0.2);
    expect(shortShare(0.5)).toBeGreaterThan(shortShare(2) + 0.2);
  });

  it('shortens by how close stitches stand where they go in, beyond the edge', () => {
    // What reaches 0.45 mm over the inner edge of a bend of 1.2 mm stands on one of 0.75 mm.
    const run = zigzag(bend(1.2, 2.5), { spacingMm: 0.4, compensationMm: 0.45 });
    const full = Array.from({ length: run.length / 2 }, (_, i) => [run[i * 2], run[i * 2 + 1]] as const).filter(
      ([x, y]) => distance(0, 0, x, y) < 0.8,
    );
    const gaps = full.slice(1).map(([x, y], i) => distance(x, y, ...full[i]));
    expect(gaps.length).toBeGreaterThan(4);
    expect(Math.min(...gaps)).toBeGreaterThan(0.23);
    expect(Math.max(...gaps)).toBeLessThan(0.45);
  });

  it('makes no more stitches where a rail jumps sideways, and as many as are needed where rungs are missing', () => {
    const flared = rungsAt(40, (i) => (i >= 18 && i < 22 ? 3 : 0));
    const plain =
      zigzag(
        rungsAt(40, () => 0),
        { spacingMm: 0.4, compensationMm: 0 },
      ).length / 2;
    expect(zigzag(flared, { spacingMm: 0.4, compensationMm: 0 }).length / 2).toBeLessThan(plain + 4);
    // Ten rungs are gone: over the gap of 1.6 mm stitches stand as close as elsewhere.
    const gone = rungsAt(40, () => 0).filter((_, i) => i < 15 || i >= 25);
    const run = zigzag(gone, { spacingMm: 0.4, compensationMm: 0 });
    const tops = run.filter((_, i) => i % 4 === 0).sort((a, b) => a - b);
    expect(Math.max(...tops.slice(1).map((x, i) => x - tops[i]))).toBeLessThan(0.55);
  });

  it('reaches under a neighbour as far as it is told, and no farther for the pull', () => {
    const reached = (mm: number, compensationMm: number): number => {
      const run = zigzag(ladder(4, 2), {
        ...SETTINGS,
        compensationMm,
        reachAt: (_x, _y, _ux, uy) => (uy > 0 ? mm : 0),
      });
      return Math.max(...run.filter((_, i) => i % 2 === 1)) - 2;
    };
    expect(reached(0.9, 0.35)).toBeCloseTo(0.9, 6);
    expect(reached(0.2, 0.35)).toBeCloseTo(0.35, 6);
  });

  it('reaches less over the ends of short rungs, at tips', () => {
    const tip = Array.from({ length: 41 }, (_, i): Points => [i * 0.15, -1 + i * 0.025, i * 0.15, 1 - i * 0.025]);
    const run = zigzag(tip, { spacingMm: 0.4, compensationMm: 0.45 });
    const beyond = (x: number, y: number): number => Math.abs(y) - Math.max(0, 1 - x / 6);
    const points = Array.from({ length: run.length / 2 }, (_, i) => [run[i * 2], run[i * 2 + 1]] as const);
    const near = points.filter(([x]) => x < 3).map(([x, y]) => beyond(x, y));
    const last = points.filter(([x]) => x > 5.2).map(([x, y]) => beyond(x, y));
    expect(Math.min(...near)).toBeGreaterThan(0.35);
    expect(last.length).toBeGreaterThan(2);
    expect(Math.max(...last)).toBeLessThan(0.2);
  });

  it('never puts the points inside wide satin on one line', () => {
    const run = zigzag(ladder(6, 9), SETTINGS);
    const inner = new Set<string>();
    for (let i = 0; i < run.length; i += 2) if (run[i + 1] > 1 && run[i + 1] < 8) inner.add(run[i + 1].toFixed(2));
    expect(inner.size).toBeGreaterThan(2);
  });
});

describe('passes of a running line', () => {
  const length = (run: Points): number => {
    let sum = 0;
    for (let i = 2; i < run.length; i += 2) sum += distance(run[i - 2], run[i - 1], run[i], run[i + 1]);
    return sum;
  };
  const sew = (paths: Points[], passes: number): Points =>
    runningLine(paths, { stitchLengthMm: 2.5, widthMm: 0.4, passes }, { x: 0, y: 0 });

  it('are one, two or three over a single line', () => {
    for (const passes of [1, 2]) expect(length(sew([[0, 0, 20, 0]], passes))).toBeCloseTo(20 * passes, 6);
    // Three turn a little before both ends.
    expect(length(sew([[0, 0, 20, 0]], 3))).toBeCloseTo(60 - 4 * 0.6, 6);
    expect(sew([[0, 0, 20, 0]], 3).slice(-2)).toEqual([20, 0]);
    expect(sew([[0, 0, 20, 0]], 1).slice(-2)).toEqual([20, 0]);
    expect(sew([[0, 0, 20, 0]], 2).slice(-2)).toEqual([0, 0]);
  });

  it('go back over what leads on in a net', () => {
    const net = [
      [0, 0, 10, 0],
      [10, 0, 20, 0],
      [10, 0, 10, 10],
    ];
    expect(length(sew(net, 1))).toBeCloseTo(60, 6);
    expect(length(sew(net, 3))).toBeCloseTo(120 - 3 * 4 * 0.6, 6);
    // Where they meet the needle goes in no more often than with two passes.
    const met = (run: Points): number =>
      run.filter((x, i) => i % 2 === 0 && distance(x, run[i + 1], 10, 0) < 0.2).length;
    expect(met(sew(net, 3))).toBeLessThanOrEqual(met(sew(net, 1)));
    expect(met(sew(net, 3))).toBeGreaterThan(0);
  });
});
