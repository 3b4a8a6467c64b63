import { evenly, lengthOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { AreaMask } from '../trace/area-mask.js';
import { distanceMap, distanceTo } from '../trace/distance-map.js';
import { skeletonOf } from '../trace/skeleton.js';
import { latticeStride, stepBetween } from './back-stitch.js';
import type { ThreadPixels } from './cells.js';
import type { CellGrid } from './grid.js';

/** What a disc of this radius, in cells, does not fit into is a thin line. */
const OPENING = 0.42;
/** Room between crossing lines that still counts as lines, in radii of the disc. */
const CROSSING = 1.6;
/** Shorter lines, in cells, are left to the crosses. */
const SHORTEST = 1.5;
/** Places of the lattice a line may be led over, in half cells from it. */
const REACH = 1.15;
/** What a turn by 45 degrees costs, in squared half cells; sharper ones cost this much more. */
const TURN = 0.25;
const SHARP_TIMES = 3;
/** Samples of a line for each half cell. */
const SAMPLES = 2;

/** Thin lines of a picture, as back stitches, and the picture without them. */
export interface ThinLines {
  /** Thread of each step of the lattice. */
  readonly backs: Map<number, number>;
  /** Pixels as before, with those of lines given to what lies beside them. */
  readonly without: ThreadPixels;
}

/**
 * Finds lines that are too thin for crosses: what opening with a disc takes from a thread's area is thinned, and each
 * branch led over the half-cell lattice by the way that stays nearest to it and turns least (Viterbi 1967).
 */
export function thinLines(grid: CellGrid, pixels: ThreadPixels): ThinLines {
  const { width, height } = pixels;
  const radius = (OPENING * grid.cellMm) / pixels.pixelMm;
  const backs = new Map<number, number>();
  const taken = new Uint8Array(width * height);
  const threads = new Set<number>(pixels.thread);
  threads.delete(-1);
  for (const thread of [...threads].sort((a, b) => a - b)) {
    const rest = openingRest(pixels, thread, radius);
    for (const patch of patchesOf(rest, width, height, (SHORTEST * grid.cellMm * 0.5) / pixels.pixelMm)) {
      for (const line of linesIn(patch)) {
        const onLattice = toLattice(grid, pixels, patch, line);
        if (lengthOf(onLattice) < SHORTEST * 2) continue;
        for (const step of leadOverLattice(grid, onLattice)) backs.set(step, thread);
        takeAround(patch, line, radius, taken, width, height);
      }
    }
  }
  return { backs, without: withoutLines(pixels, taken) };
}

/** Pixels of a thread that no disc inside its area covers. */
function openingRest({ thread, width, height }: ThreadPixels, which: number, radius: number): Uint8Array {
  const other = new Uint8Array(thread.length);
  for (let i = 0; i < other.length; i++) other[i] = thread[i] === which ? 0 : 1;
  const away = distanceTo(other, width, height);
  const core = new Uint8Array(thread.length);
  for (let i = 0; i < core.length; i++) core[i] = away[i] > radius ? 1 : 0;
  dropSmall(core, width, (CROSSING * radius) ** 2);
  const fromCore = distanceTo(core, width, height);
  const rest = new Uint8Array(thread.length);
  for (let i = 0; i < rest.length; i++) rest[i] = other[i] === 0 && fromCore[i] > radius ? 1 : 0;
  return rest;
}

/** Takes away groups of at most so many pixels: where lines cross there is a little more room than in them. */
function dropSmall(mask: Uint8Array, width: number, most: number): void {
  const seen = new Uint8Array(mask.length);
  for (let start = 0; start < mask.length; start++) {
    if (!mask[start] || seen[start]) continue;
    const group = [start];
    seen[start] = 1;
    // The list grows while it is gone through.
    for (const i of group) {
      const x = i % width;
      for (const next of [x > 0 ? i - 1 : i, x < width - 1 ? i + 1 : i, i - width, i + width]) {
        if (next < 0 || next >= mask.length || !mask[next] || seen[next]) continue;
        seen[next] = 1;
        group.push(next);
      }
    }
    if (group.length <= most) for (const i of group) mask[i] = 0;
  }
}

interface Patch extends AreaMask {
  /** Left and upper edge of its frame in the picture. */
  readonly x: number;
  readonly y: number;
}

/** Connected patches of a mask that reach far enough, each with a free frame. */
function patchesOf(mask: Uint8Array, width: number, height: number, least: number): Patch[] {
  const seen = new Uint8Array(mask.length);
  const out: Patch[] = [];
  for (let start = 0; start < mask.length; start++) {
    if (!mask[start] || seen[start]) continue;
    const pixels = [start];
    seen[start] = 1;
    let [left, right, top, bottom] = [width, 0, height, 0];
    // The list grows while it is gone through.
    for (const i of pixels) {
      const x = i % width;
      const y = (i - x) / width;
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < top) top = y;
      if (y > bottom) bottom = y;
      for (let dy = -1; dy <= 1; dy++) {
        for (let dx = -1; dx <= 1; dx++) {
          const [nx, ny] = [x + dx, y + dy];
          if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue;
          const next = ny * width + nx;
          if (mask[next] && !seen[next]) {
            seen[next] = 1;
            pixels.push(next);
          }
        }
      }
    }
    if (Math.max(right - left, bottom - top) < least) continue;
    const w = right - left + 3;
    const h = bottom - top + 3;
    const inside = new Uint8Array(w * h);
    for (const i of pixels) inside[(Math.floor(i / width) - top + 1) * w + (i % width) - left + 1] = 1;
    out.push({
      width: w,
      height: h,
      inside,
      radius: distanceMap(inside, w, h),
      left: 0,
      top: 0,
      scale: 1,
      area: pixels.length,
      x: left - 1,
      y: top - 1,
    });
  }
  return out;
}

/** Middle lines of a patch, lengthened at free ends by what thinning takes. */
function linesIn(patch: Patch): Points[] {
  const { branches } = skeletonOf(patch);
  return branches.map(({ points }) => {
    const out = points.slice();
    const n = out.length;
    if (n < 6) return out;
    const reach = (x: number, y: number): number =>
      Math.max(0, patch.radius[Math.floor(y) * patch.width + Math.floor(x)] - 0.5);
    const lengthen = (at: number, from: number): readonly [number, number] => {
      const [x, y] = [out[at], out[at + 1]];
      const [dx, dy] = [x - out[from], y - out[from + 1]];
      const d = Math.sqrt(dx * dx + dy * dy) || 1;
      const r = reach(x, y);
      return [x + (dx / d) * r, y + (dy / d) * r];
    };
    const head = lengthen(0, Math.min(n - 2, 8));
    const tail = lengthen(n - 2, Math.max(0, n - 10));
    return [...head, ...out, ...tail];
  });
}

/** Places of a patch in half cells of the grid. */
function toLattice(grid: CellGrid, pixels: ThreadPixels, patch: Patch, line: Points): Points {
  return line.map((v, i) =>
    i % 2 === 0
      ? (pixels.left + (v + patch.x) * pixels.pixelMm - grid.left) / (grid.cellMm / 2)
      : (pixels.top + (v + patch.y) * pixels.pixelMm - grid.top) / (grid.cellMm / 2),
  );
}

const DIRECTIONS: readonly (readonly [number, number])[] = [
  [1, 0],
  [1, 1],
  [0, 1],
  [-1, 1],
  [-1, 0],
  [-1, -1],
  [0, -1],
  [1, -1],
];
/** A way that has not moved yet. */
const NONE = 8;

interface State {
  readonly x: number;
  readonly y: number;
  readonly direction: number;
  readonly cost: number;
  readonly from: State | undefined;
}

/** Steps of the lattice along a line in half cells. */
export function leadOverLattice(grid: CellGrid, line: Points): number[] {
  const samples = evenly(line, 1 / SAMPLES);
  const [maxX, maxY] = [grid.cols * 2, grid.rows * 2];
  let states = new Map<number, State>();
  const near = (k: number): [number, number, number][] => {
    const [px, py] = [samples[k * 2], samples[k * 2 + 1]];
    const out: [number, number, number][] = [];
    for (let y = Math.ceil(py - REACH); y <= py + REACH; y++) {
      for (let x = Math.ceil(px - REACH); x <= px + REACH; x++) {
        if (x < 0 || y < 0 || x > maxX || y > maxY) continue;
        const d2 = (x - px) ** 2 + (y - py) ** 2;
        if (d2 <= REACH * REACH) out.push([x, y, d2]);
      }
    }
    return out;
  };
  const stride = latticeStride(grid);
  for (const [x, y, d2] of near(0)) {
    states.set((y * stride + x) * 9 + NONE, { x, y, direction: NONE, cost: d2, from: undefined });
  }
  for (let k = 1; k < samples.length / 2; k++) {
    const costs = new Map(near(k).map(([x, y, d2]) => [y * stride + x, d2 / SAMPLES]));
    const next = new Map<number, State>();
    const offer = (x: number, y: number, direction: number, turned: number, from: State): void => {
      const here = x < 0 || x > maxX ? undefined : costs.get(y * stride + x);
      if (here === undefined) return;
      const cost = from.cost + here + turned;
      const key = (y * stride + x) * 9 + direction;
      const known = next.get(key);
      if (!known || cost < known.cost) {
        const stays = x === from.x && y === from.y;
        next.set(key, { x, y, direction, cost, from: stays ? from.from : from });
      }
    };
    for (const state of states.values()) {
      offer(state.x, state.y, state.direction, 0, state);
      DIRECTIONS.forEach(([dx, dy], direction) => {
        let turned = 0;
        if (state.direction !== NONE) {
          const by = Math.abs(direction - state.direction);
          const turn = Math.min(by, 8 - by);
          if (turn === 4) return;
          turned = turn === 0 ? 0 : turn === 1 ? TURN : TURN * SHARP_TIMES;
        }
        offer(state.x + dx, state.y + dy, direction, turned, state);
      });
    }
    if (next.size === 0) break;
    states = next;
  }
  let best: State | undefined;
  for (const state of states.values()) if (!best || state.cost < best.cost) best = state;
  const steps: number[] = [];
  for (let at = best; at?.from; at = at.from) {
    const step = stepBetween(stride, at.from.x, at.from.y, at.x, at.y);
    if (step !== undefined) steps.push(step);
  }
  return steps.reverse();
}

/** Marks the pixels of a patch that belong to a line. */
function takeAround(
  patch: Patch,
  line: Points,
  radius: number,
  taken: Uint8Array,
  width: number,
  height: number,
): void {
  const reach = Math.ceil(radius) + 1;
  for (let i = 0; i < line.length; i += 2) {
    const [cx, cy] = [Math.floor(line[i]), Math.floor(line[i + 1])];
    for (let y = cy - reach; y <= cy + reach; y++) {
      for (let x = cx - reach; x <= cx + reach; x++) {
        if (x < 0 || y < 0 || x >= patch.width || y >= patch.height || !patch.inside[y * patch.width + x]) continue;
        const [px, py] = [x + patch.x, y + patch.y];
        if (px >= 0 && py >= 0 && px < width && py < height) taken[py * width + px] = 1;
      }
    }
  }
}

/** Gives the pixels that were taken to the nearest others. */
function withoutLines(pixels: ThreadPixels, taken: Uint8Array): ThreadPixels {
  const { width, height } = pixels;
  const thread = pixels.thread.slice();
  const open = taken.slice();
  let front: number[] = [];
  for (let i = 0; i < open.length; i++) if (!open[i]) front.push(i);
  while (front.length > 0) {
    const next: number[] = [];
    for (const i of front) {
      const x = i % width;
      const y = (i - x) / width;
      const spread = (to: number): void => {
        if (!open[to]) return;
        open[to] = 0;
        thread[to] = thread[i];
        next.push(to);
      };
      if (x > 0) spread(i - 1);
      if (x < width - 1) spread(i + 1);
      if (y > 0) spread(i - width);
      if (y < height - 1) spread(i + width);
    }
    front = next;
  }
  return { ...pixels, thread };
}
