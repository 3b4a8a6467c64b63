import { seededRandom } from '../geometry/chance.js';
import { blur, boundsOf, distanceToRings, evenly, isInside } from '../geometry/polyline.js';
import type { Rings } from '../geometry/polygons.js';
import type { Points } from '../geometry/vector.js';

/** Places wander by this share of the gap, too little for lines to meet. */
const WANDER = 0.22;
/** How near to the outline the line may come, in gaps. */
const MARGIN = 0.3;

/**
 * A closed line that wanders over a shape and never crosses itself: the way around a random tree of cells (the loop
 * around a spanning tree visits every quarter of every cell once), with its corners rounded.
 * @param gapMm distance of neighbouring stretches
 * @returns one loop for each part of the shape that is wide enough
 */
export function stippleLoops(rings: Rings, gapMm: number): Points[] {
  const box = boundsOf(rings);
  const cell = 2 * gapMm;
  const columns = Math.max(1, Math.ceil((box.right - box.left) / cell));
  const rows = Math.max(1, Math.ceil((box.bottom - box.top) / cell));
  const left = (box.left + box.right - columns * cell) / 2;
  const top = (box.top + box.bottom - rows * cell) / 2;
  const random = seededRandom(Math.round((box.right - box.left) * 1000) + Math.round((box.bottom - box.top) * 7919));
  const isOpen = Array.from({ length: columns * rows }, (_, i) => {
    for (let q = 0; q < 4; q++) {
      const x = left + ((i % columns) + 0.25 + 0.5 * (q % 2)) * cell;
      const y = top + (Math.floor(i / columns) + 0.25 + 0.5 * (q >> 1)) * cell;
      if (!isInside(rings, x, y) || distanceToRings(rings, x, y) < MARGIN * gapMm) return false;
    }
    return true;
  });
  const { right, down, seeds } = randomTrees(isOpen, columns, rows, random);
  return seeds.map((seed) => {
    const loop = aroundTree(seed, right, down, columns);
    const placed: Points = [];
    for (const quarter of loop) {
      const x = (quarter % (2 * columns)) / 2 + 0.25;
      const y = Math.floor(quarter / (2 * columns)) / 2 + 0.25;
      placed.push(
        left + (x * cell + (random() - 0.5) * 2 * WANDER * gapMm),
        top + (y * cell + (random() - 0.5) * 2 * WANDER * gapMm),
      );
    }
    let line = evenly([...placed, placed[0], placed[1]], gapMm / 4);
    for (let round = 0; round < 4; round++) line = blur(line, true);
    return [...line, line[0], line[1]];
  });
}

/** A random tree over each connected group of cells, as links to the right and downwards. */
function randomTrees(
  isOpen: readonly boolean[],
  columns: number,
  rows: number,
  random: () => number,
): { right: Uint8Array; down: Uint8Array; seeds: number[] } {
  const right = new Uint8Array(isOpen.length);
  const down = new Uint8Array(isOpen.length);
  const seen = new Uint8Array(isOpen.length);
  const seeds: number[] = [];
  for (let seed = 0; seed < isOpen.length; seed++) {
    if (!isOpen[seed] || seen[seed]) continue;
    seeds.push(seed);
    seen[seed] = 1;
    const stack = [seed];
    while (stack.length > 0) {
      const at = stack[stack.length - 1];
      const x = at % columns;
      const y = Math.floor(at / columns);
      const free = [
        x + 1 < columns ? at + 1 : -1,
        x > 0 ? at - 1 : -1,
        y + 1 < rows ? at + columns : -1,
        y > 0 ? at - columns : -1,
      ].filter((other) => other >= 0 && isOpen[other] && !seen[other]);
      if (free.length === 0) {
        stack.pop();
        continue;
      }
      const next = free[Math.floor(random() * free.length)];
      seen[next] = 1;
      if (Math.abs(next - at) === 1) right[Math.min(at, next)] = 1;
      else down[Math.min(at, next)] = 1;
      stack.push(next);
    }
  }
  return { right, down, seeds };
}

/** Quarters of cells in the order met when walking around the tree with it on the right-hand side. */
function aroundTree(seed: number, right: Uint8Array, down: Uint8Array, columns: number): number[] {
  const wide = 2 * columns;
  const start = Math.floor(seed / columns) * 2 * wide + (seed % columns) * 2;
  const cellOf = (x: number, y: number): number => (y >> 1) * columns + (x >> 1);
  /** Whether the step from a quarter to one beside it crosses no branch of the tree and leaves no cell but by one. */
  const isWay = (x: number, y: number, dx: number, dy: number): boolean => {
    const [nx, ny] = [x + dx, y + dy];
    if (nx < 0 || ny < 0 || nx >= wide) return false;
    const [a, b] = [cellOf(x, y), cellOf(nx, ny)];
    if (a !== b) return dx !== 0 ? right[Math.min(a, b)] === 1 : down[Math.min(a, b)] === 1;
    // Inside a cell: the branch that leaves through the side between the two quarters must not be there.
    if (dx !== 0) return (y & 1) === 0 ? !(a >= columns && down[a - columns]) : !down[a];
    return (x & 1) === 0 ? !(a % columns > 0 && right[a - 1]) : !right[a];
  };
  const loop: number[] = [];
  const ways = [
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
  ] as const;
  let [x, y, facing] = [start % wide, Math.floor(start / wide), 0];
  const most = right.length * 4 + 4;
  do {
    loop.push(y * wide + x);
    // Of the two ways on, the one that does not lead back.
    const back = loop.length > 1 ? loop[loop.length - 2] : -1;
    let moved = false;
    for (let turn = 0; turn < 4 && !moved; turn++) {
      const [dx, dy] = ways[(facing + turn) % 4];
      if (!isWay(x, y, dx, dy) || (y + dy) * wide + x + dx === back) continue;
      [x, y] = [x + dx, y + dy];
      facing = (facing + turn) % 4;
      moved = true;
    }
    if (!moved) break;
  } while (y * wide + x !== start && loop.length < most);
  return loop;
}
