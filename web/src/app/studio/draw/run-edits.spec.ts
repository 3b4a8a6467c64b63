import { corner, type Run } from './draw-runs';
import { close, cutAt, joined, nearestEnds, simplified, straighten } from './run-edits';

const run = (closed: boolean, ...places: [number, number][]): Run => ({
  closed,
  nodes: places.map(([x, y]) => corner(x, y)),
});
const places = ({ nodes }: Run): [number, number][] => nodes.map(({ x, y }) => [x, y]);

describe('points of runs', () => {
  it('are where a closed run opens, and an open one falls in two', () => {
    const ring = run(true, [0, 0], [10, 0], [10, 10]);
    const [opened] = cutAt(ring, ring.nodes[1]);
    expect(opened.closed).toBe(false);
    expect(places(opened)).toEqual([
      [10, 0],
      [10, 10],
      [0, 0],
      [10, 0],
    ]);
    const line = run(false, [0, 0], [5, 0], [9, 0]);
    expect(cutAt(line, line.nodes[1]).map(places)).toEqual([
      [
        [0, 0],
        [5, 0],
      ],
      [
        [5, 0],
        [9, 0],
      ],
    ]);
    expect(cutAt(line, line.nodes[0])).toEqual([line]);
  });

  it('close an open run, the two ends becoming one where they meet', () => {
    const line = run(false, [0, 0], [10, 0], [10, 10], [0, 0.5]);
    expect(close(line)).toBe(true);
    expect(line.closed).toBe(true);
    expect(line.nodes.length).toBe(3);
    expect(close(line)).toBe(false);
  });

  it('join two lines by their nearest ends, turned round where they must be', () => {
    const a = run(false, [0, 0], [10, 0]);
    const b = run(false, [30, 0], [12, 0]);
    expect(nearestEnds([a, b, run(true, [1, 1], [2, 2], [3, 1])])?.gap).toBe(2);
    expect(places(joined(a, b))).toEqual([
      [0, 0],
      [10, 0],
      [12, 0],
      [30, 0],
    ]);
    expect(joined(a, run(false, [10, 0], [10, 8])).nodes.length).toBe(3);
    expect(nearestEnds([a])).toBeUndefined();
  });

  it('make stretches straight between those that are chosen', () => {
    const line = run(false, [0, 0], [10, 0], [20, 0]);
    Object.assign(line.nodes[0], { outX: 3, outY: 4 });
    Object.assign(line.nodes[1], { inX: -3, inY: 4, outX: 3, outY: -4 });
    expect(straighten(line, new Set(line.nodes.slice(0, 2)))).toBe(true);
    expect([line.nodes[0].outX, line.nodes[1].inX, line.nodes[1].outX]).toEqual([0, 0, 3]);
    expect(straighten(line, new Set([line.nodes[0]]))).toBe(false);
  });

  it('are fewer where a line needs fewer, and never too few', () => {
    const line = run(false, [0, 0], [5, 0.1], [10, 0], [10, 10]);
    expect(places(simplified(line, 1))).toEqual([
      [0, 0],
      [10, 0],
      [10, 10],
    ]);
    const ring = run(true, [0, 0], [0.1, 0], [0, 0.1]);
    expect(simplified(ring, 5)).toBe(ring);
  });
});
