import { METRIC } from '../colour/colour-metric.js';
import type { Lattice } from './lattice.js';
import { routeThread, type RouteInput } from './route-thread.js';

/** A lattice drawn with letters, one a cell: `a` is the thread, `z` is sewn later, `.` lies open, ` ` is outside. */
function drawn(rows: readonly string[], more: Partial<RouteInput> = {}): RouteInput {
  const cols = rows[0].length;
  const count = cols * rows.length;
  const lattice: Lattice = {
    cols,
    rows: rows.length,
    x: Float32Array.from({ length: count }, (_, i) => (i % cols) * 0.4),
    y: Float32Array.from({ length: count }, (_, i) => Math.floor(i / cols) * 0.4),
    pitch: 0.4,
    inside: Uint8Array.from(rows.join(''), (c) => (c === ' ' ? 0 : 1)),
    wanted: new Float32Array(count * 3),
  };
  return {
    lattice,
    label: Uint8Array.from(rows.join(''), (c) => (c === 'a' ? 1 : c === 'z' ? 2 : 0)),
    thread: 1,
    isLater: (thread) => thread === 2,
    shown: new Float32Array(count * 3),
    metric: new Float32Array(count * METRIC).fill(1),
    colour: [0.5, 0.5, 0.5],
    openFactor: () => 1,
    longestMm: 6,
    leastChainMm: 0,
    mostCost: 12,
    ...more,
  };
}

describe('routing a thread', () => {
  it('sews rows that lie below each other in one go, to and fro', () => {
    const { runs, openMm, crossed } = routeThread(drawn(['aaaaaa', 'aaaaaa', 'aaaaaa']));
    expect(runs.length).toBe(1);
    expect(openMm).toBe(0);
    expect(crossed).toEqual([]);
    // Every row from end to end, a little beyond the middle of its last cell.
    const xs = runs[0].points.filter((_, i) => i % 2 === 0);
    expect(xs[0]).toBeCloseTo(-0.12, 5);
    expect(xs[xs.length - 1]).toBeCloseTo(2.12, 5);
    // Where the needle turns one row ends later and the next begins as much later.
    expect((xs[1] + xs[2]) / 2).toBeCloseTo(2.12, 5);
  });

  it('goes under what is sewn later, at no open cost', () => {
    const { runs, openMm, crossed } = routeThread(drawn(['aaaa........', 'zzzzzzzzzzzz', '........aaaa']));
    expect(runs.length).toBe(1);
    expect(openMm).toBe(0);
    expect(crossed.length).toBeGreaterThan(0);
  });

  it('sews through short gaps that are covered later, not through open ones', () => {
    expect(routeThread(drawn(['aaazzaaa'])).runs[0].points.length).toBe(4);
    const open = routeThread(drawn(['aaa..aaa'], { mostCost: 0.5 }));
    expect(open.runs.length).toBe(2);
  });

  it('crosses a little of the open, and tells how much', () => {
    const { runs, openMm } = routeThread(drawn(['aaaa', '....', 'aaaa']));
    expect(runs.length).toBe(1);
    expect(openMm).toBeGreaterThan(0);
    expect(openMm).toBeLessThan(1);
  });

  it('cuts the thread where a way would cost too much, and never leaves the picture', () => {
    const apart = ['aaaa', ...Array.from({ length: 40 }, () => '....'), 'aaaa'];
    expect(routeThread(drawn(apart)).runs.length).toBe(2);
    const split = ['aaaa  aaaa'];
    expect(routeThread(drawn(split)).runs.length).toBe(2);
  });

  it('cuts sooner where a way in the open would be seen more, but not under what is sewn later', () => {
    const open = ['aaaa', '....', '....', 'aaaa'];
    const under = open.map((row) => row.replaceAll('.', 'z'));
    expect(routeThread(drawn(open)).runs.length).toBe(1);
    expect(routeThread(drawn(open, { openFactor: () => 20 })).runs.length).toBe(2);
    expect(routeThread(drawn(under, { openFactor: () => 20 })).runs.length).toBe(1);
  });

  it('leaves small stretches to other threads where they are not worth a cut', () => {
    const rows = ['aaaaaaaaaaaaaaaa', ...Array.from({ length: 40 }, () => '................'), 'aaa.............'];
    const { runs, left } = routeThread(drawn(rows, { leastChainMm: 3 }));
    expect(runs.length).toBe(1);
    expect(left.length).toBe(3);
  });

  it('divides long rows', () => {
    const run = routeThread(drawn(['a'.repeat(40)], { longestMm: 5 })).runs[0].points;
    for (let i = 2; i < run.length; i += 2) expect(Math.abs(run[i] - run[i - 2])).toBeLessThan(5.5);
  });
});
