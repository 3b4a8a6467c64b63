import { lengthOf } from '../geometry/polyline.js';
import { maskOfComponent } from './area-mask.js';
import { findBoundaries } from './boundaries.js';
import { centreline, type Centreline } from './centreline.js';
import { distanceMap } from './distance-map.js';

const SIZE = 160;

function lineOf(inside: (x: number, y: number) => boolean): Centreline {
  const labels = new Uint8Array(SIZE * SIZE);
  for (let i = 0; i < labels.length; i++) labels[i] = inside((i % SIZE) + 0.5, Math.floor(i / SIZE) + 0.5) ? 1 : 0;
  const bounds = findBoundaries(labels, SIZE, SIZE);
  const component = bounds.components.label.indexOf(1);
  return centreline(maskOfComponent(bounds, component, distanceMap(bounds.labels, bounds.width, bounds.height)), 2);
}

describe('distanceMap', () => {
  it('agrees with a search over all boundary pixels', () => {
    const labels = new Uint8Array(40 * 30);
    for (let i = 0; i < labels.length; i++)
      labels[i] = ((i % 40) - 20) ** 2 + (Math.floor(i / 40) - 14) ** 2 < 90 ? 1 : 2;
    const edges: [number, number][] = [];
    for (let y = 0; y < 30; y++) {
      for (let x = 0; x < 40; x++) {
        const l = labels[y * 40 + x];
        const other = [
          [1, 0],
          [-1, 0],
          [0, 1],
          [0, -1],
        ].some(([dx, dy]) => {
          const [xx, yy] = [x + dx, y + dy];
          return xx >= 0 && yy >= 0 && xx < 40 && yy < 30 && labels[yy * 40 + xx] !== l;
        });
        if (other) edges.push([x, y]);
      }
    }
    const map = distanceMap(labels, 40, 30);
    for (let i = 0; i < map.length; i++) {
      const best = Math.min(...edges.map(([x, y]) => Math.hypot(x - (i % 40), y - Math.floor(i / 40))));
      expect(map[i]).toBeCloseTo(best + 0.5, 4);
    }
  });
});

describe('centreline', () => {
  it('runs along the middle of a bar, nearly to its ends', () => {
    const { paths, width } = lineOf((x, y) => x > 20 && x < 140 && y > 76 && y < 84);
    expect(paths.length).toBe(1);
    expect(width).toBeCloseTo(8, 0);
    expect(lengthOf(paths[0])).toBeCloseTo(116, -1);
    for (let i = 1; i < paths[0].length; i += 2) expect(Math.abs(paths[0][i] - 80)).toBeLessThan(1);
  });

  it('reaches as far into round ends as into square ones', () => {
    const inCapsule = (x: number, y: number): boolean => Math.hypot(x - Math.min(130, Math.max(30, x)), y - 80) < 5.5;
    const { paths, width } = lineOf(inCapsule);
    expect(lengthOf(paths[0])).toBeCloseTo(111 - 4, -0.5);
    expect(width).toBeLessThan(11.2);
  });

  it('follows a curve within a pixel', () => {
    const { paths } = lineOf((x, y) => Math.abs(Math.hypot(x - 80, y - 120) - 60) < 4 && y < 110);
    for (const path of paths) {
      for (let i = 0; i < path.length; i += 2) {
        // The cut ends are slanted, and the line bends into their corners.
        if (path[i + 1] < 98) expect(Math.abs(Math.hypot(path[i] - 80, path[i + 1] - 120) - 60)).toBeLessThan(1.2);
      }
    }
  });

  it('joins a ring and its post at one point', () => {
    const { paths } = lineOf(
      (x, y) => Math.abs(Math.hypot(x - 80, y - 90) - 50) < 5 || (Math.abs(x - 80) < 4 && y > 8 && y < 42),
    );
    expect(paths.length).toBe(2);
    const ring = paths.find((p) => p[0] === p[p.length - 2] && p[1] === p[p.length - 1]) as number[];
    const post = paths.find((p) => p !== ring) as number[];
    const ends = [post.slice(0, 2), post.slice(-2)];
    expect(ends).toContain(ring.slice(0, 2));
    expect(lengthOf(ring)).toBeCloseTo(2 * Math.PI * 50, -1);
  });

  it('meets at the middle of a T without spurs', () => {
    const { paths } = lineOf(
      (x, y) => (y > 30 && y < 38 && x > 20 && x < 140) || (x > 76 && x < 84 && y > 30 && y < 130),
    );
    expect(paths.length).toBe(3);
  });
});
