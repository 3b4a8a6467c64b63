import { CellSettler } from './settle-cells.js';
import { ciede2000, linearToLab, type Lab } from '../colour/ciede2000.js';
import { octantAt, type CellGrid, type Cross } from './grid.js';

/** Pixels of the picture as threads; -1 is bare. */
export interface ThreadPixels {
  readonly width: number;
  readonly height: number;
  readonly thread: Int16Array;
  readonly left: number;
  readonly top: number;
  readonly pixelMm: number;
}

/** A part cross must make the cell this much truer, as a share of its area. */
const WORTH_PART = 0.16;
const OCTANTS = 8;

/** Share of each thread in the eight triangles of every cell that its diagonals and middle lines make. */
interface Octants {
  /** Areas by thread + 1 (0 is bare) of eight octants. */
  readonly areas: Map<number, Float64Array>;
  readonly total: number;
}

function octantsOf(grid: CellGrid, pixels: ThreadPixels, cell: number): Octants {
  const areas = new Map<number, Float64Array>();
  const cx = cell % grid.cols;
  const cy = Math.floor(cell / grid.cols);
  const { pixelMm, width, height } = pixels;
  const x0 = (grid.left + cx * grid.cellMm - pixels.left) / pixelMm;
  const y0 = (grid.top + cy * grid.cellMm - pixels.top) / pixelMm;
  const side = grid.cellMm / pixelMm;
  // Sampled on a grid of its own, so that coarse pixels are shared out evenly.
  const n = Math.min(24, Math.max(8, Math.round(side)));
  let total = 0;
  for (let j = 0; j < n; j++) {
    for (let i = 0; i < n; i++) {
      const u = (i + 0.5) / n;
      const v = (j + 0.5) / n;
      const px = Math.floor(x0 + u * side);
      const py = Math.floor(y0 + v * side);
      const thread = px < 0 || py < 0 || px >= width || py >= height ? -1 : pixels.thread[py * width + px];
      let list = areas.get(thread + 1);
      if (!list) areas.set(thread + 1, (list = new Float64Array(OCTANTS)));
      list[octantAt(u - 0.5, v - 0.5)]++;
      total++;
    }
  }
  return { areas, total };
}

/** Octants of the quadrant at a corner: upper left is 6 and 7, and so on clockwise. */
const QUADRANT: readonly (readonly number[])[] = [
  [6, 7],
  [0, 1],
  [2, 3],
  [4, 5],
];
/** Octants of the half on the side of a corner, cut along the diagonal between its neighbours. */
const TRIANGLE: readonly (readonly number[])[] = [
  [5, 6, 7, 0],
  [7, 0, 1, 2],
  [1, 2, 3, 4],
  [3, 4, 5, 6],
];
/** Octants of the half that begins at a corner and ends at the next one clockwise. */
const SIDE: readonly (readonly number[])[] = [
  [6, 7, 0, 1],
  [0, 1, 2, 3],
  [2, 3, 4, 5],
  [4, 5, 6, 7],
];

const sumOf = (areas: Float64Array | undefined, which: readonly number[]): number =>
  areas ? which.reduce((sum, k) => sum + areas[k], 0) : 0;

interface Division {
  /** Area that shows the right thread. */
  readonly right: number;
  readonly crosses: readonly Omit<Cross, 'cell'>[];
}

/** The ways a cell can be shared between two threads, and how much of it each makes right. */
function divisions(a: number, b: number, areas: Octants['areas']): Division[] {
  const [of, ob] = [areas.get(a + 1), areas.get(b + 1)];
  const whole = sumOf(of, [0, 1, 2, 3, 4, 5, 6, 7]);
  const out: Division[] = [];
  const add = (right: number, crosses: Omit<Cross, 'cell'>[]): void => {
    out.push({ right, crosses: crosses.filter(({ thread }) => thread >= 0) });
  };
  for (let corner = 0; corner < 4; corner++) {
    const opposite = (corner + 2) % 4;
    const threeQuarter = { thread: a, part: 'three-quarter' as const, corner: opposite };
    const quarter = { thread: b, part: 'quarter' as const, corner };
    add(whole - sumOf(of, QUADRANT[corner]) + sumOf(ob, QUADRANT[corner]), [threeQuarter, quarter]);
    add(whole - sumOf(of, TRIANGLE[corner]) + sumOf(ob, TRIANGLE[corner]), [threeQuarter, quarter]);
    if (a < b || b < 0) {
      add(whole - sumOf(of, SIDE[corner]) + sumOf(ob, SIDE[corner]), [
        { thread: a, part: 'side', corner: opposite },
        { thread: b, part: 'side', corner },
      ]);
    }
  }
  return out;
}

/** The commonest thread of every cell of flat art, strays cleaned, and part crosses where an edge cuts a cell. */
export function flatCrosses(grid: CellGrid, pixels: ThreadPixels, parts: boolean, strays: number): Cross[] {
  const count = grid.cols * grid.rows;
  const all = Array.from({ length: count }, (_, cell) => octantsOf(grid, pixels, cell));
  const ranked = all.map(({ areas }) =>
    [...areas]
      .map(([key, list]) => ({ thread: key - 1, area: list.reduce((sum, v) => sum + v, 0) }))
      .sort((p, q) => q.area - p.area || p.thread - q.thread),
  );
  const thread = Int16Array.from(ranked, (list) => list[0].thread);
  cleanStrays(grid, thread, strays, (cell) => (ranked[cell][0].area / all[cell].total >= SURE ? 0 : 1));
  const out: Cross[] = [];
  for (let cell = 0; cell < count; cell++) {
    const { areas, total } = all[cell];
    const own = thread[cell];
    let best: Division = {
      right: sumOf(areas.get(own + 1), [0, 1, 2, 3, 4, 5, 6, 7]),
      crosses: own >= 0 ? [{ thread: own, part: 'full', corner: 0 }] : [],
    };
    if (parts && best.right < total * (1 - WORTH_PART)) {
      const least = best.right + total * WORTH_PART;
      const three = ranked[cell].slice(0, 3).map((r) => r.thread);
      for (const a of three) {
        for (const b of three) {
          if (a === b) continue;
          for (const division of divisions(a, b, areas)) {
            if (division.right > Math.max(least, best.right)) best = division;
          }
        }
      }
    }
    for (const cross of best.crosses) out.push({ cell, ...cross });
  }
  return out;
}

/** A cell that is this much of one thread is no stray. */
const SURE = 0.6;

/** Groups of at most so many like cells take the thread around them where they are not sure of their own. */
function cleanStrays(grid: CellGrid, thread: Int16Array, most: number, unsure: (cell: number) => number): void {
  if (most <= 0) return;
  const { cols, rows } = grid;
  const seen = new Uint8Array(thread.length);
  for (let start = 0; start < thread.length; start++) {
    if (seen[start]) continue;
    const group = [start];
    seen[start] = 1;
    const around = new Map<number, number>();
    // The group grows while it is gone through.
    for (const cell of group) {
      const x = cell % cols;
      const y = Math.floor(cell / cols);
      for (let dy = -1; dy <= 1; dy++) {
        for (let dx = -1; dx <= 1; dx++) {
          const [nx, ny] = [x + dx, y + dy];
          if (nx < 0 || ny < 0 || nx >= cols || ny >= rows || (dx === 0 && dy === 0)) continue;
          const next = ny * cols + nx;
          if (thread[next] === thread[start]) {
            if (!seen[next]) {
              seen[next] = 1;
              group.push(next);
            }
          } else around.set(thread[next], (around.get(thread[next]) ?? 0) + 1);
        }
      }
    }
    if (group.length > most || group.reduce((sum, cell) => sum + unsure(cell), 0) * 2 <= group.length) continue;
    const [best] = [...around].sort((p, q) => q[1] - p[1] || p[0] - q[0]);
    if (best) for (const cell of group) thread[cell] = best[0];
  }
}

/** A cell without a like neighbour takes the thread of one where that costs less than this, in CIEDE2000. */
const CALM = 6;
/** What unlike neighbours, and a cell without a like one, cost where threads are blended; squared CIEDE2000. */
const UNLIKE = 2;
const LONELY = 24;

/**
 * Cells of a photograph: the thread nearest to the mean colour of each; blended, those that together come nearest to the
 * picture as it is seen from afar.
 * @param mean linear r, g, b of a cell, and the share of it that is to be sewn, four numbers each
 * @param linear linear r, g, b of each thread
 * @param calm whether scattered cells are avoided
 * @param blend how much neighbours make up for each other, 0 to 1
 */
export function photoCrosses(
  grid: CellGrid,
  mean: Float32Array,
  linear: readonly (readonly [number, number, number])[],
  calm: boolean,
  blend: number,
): Cross[] {
  const nearest = nearestOfThreads(linear.map(([r, g, b]) => linearToLab(r, g, b)));
  const labs = Array.from({ length: grid.cols * grid.rows }, (_, i) =>
    linearToLab(mean[i * 4], mean[i * 4 + 1], mean[i * 4 + 2]),
  );
  const thread = Int16Array.from(labs, (lab, i) => (mean[i * 4 + 3] < 0.5 ? -1 : nearest.to(lab).thread));
  if (blend > 0) {
    const weights = calm ? { unlike: UNLIKE, lonely: LONELY } : { unlike: 0, lonely: 0 };
    new CellSettler(grid, mean, 1 - (1 - blend) ** 2).settle(linear, thread, weights);
  } else if (calm) calmCells(grid, labs, thread, nearest.cost);
  return [...thread].flatMap((t, cell): Cross[] => (t < 0 ? [] : [{ cell, thread: t, part: 'full', corner: 0 }]));
}

/** Cells without a like neighbour take the thread of one where that costs little. */
function calmCells(
  grid: CellGrid,
  labs: readonly Lab[],
  thread: Int16Array,
  costOf: (lab: Lab, thread: number) => number,
): void {
  for (let round = 0; round < 3; round++) {
    let changed = 0;
    for (let i = 0; i < thread.length; i++) {
      if (thread[i] < 0) continue;
      const near = neighboursOf(grid, i).map((n) => thread[n]);
      if (near.includes(thread[i])) continue;
      let best = -1;
      let least = costOf(labs[i], thread[i]) + CALM;
      for (const t of new Set(near)) {
        const cost = t < 0 ? Infinity : costOf(labs[i], t);
        if (cost < least) [least, best] = [cost, t];
      }
      if (best < 0) continue;
      thread[i] = best;
      changed++;
    }
    if (changed === 0) break;
  }
}

/** Threads that are nearest in Lab are compared by CIEDE2000, which takes forty times as long. */
const COMPARED = 5;

function nearestOfThreads(threads: readonly Lab[]): {
  readonly to: (lab: Lab) => { thread: number; cost: number };
  readonly cost: (lab: Lab, thread: number) => number;
} {
  const far = new Float64Array(threads.length);
  const cost = (lab: Lab, thread: number): number => ciede2000(lab, threads[thread]);
  const to = (lab: Lab): { thread: number; cost: number } => {
    for (let t = 0; t < threads.length; t++) {
      const { l, a, b } = threads[t];
      far[t] = (lab.l - l) ** 2 + (lab.a - a) ** 2 + (lab.b - b) ** 2;
    }
    let best = { thread: -1, cost: Infinity };
    for (let k = 0; k < Math.min(COMPARED, threads.length); k++) {
      let next = 0;
      for (let t = 1; t < threads.length; t++) if (far[t] < far[next]) next = t;
      far[next] = Infinity;
      const d = cost(lab, next);
      if (d < best.cost) best = { thread: next, cost: d };
    }
    return best;
  };
  return { to, cost };
}

function neighboursOf({ cols, rows }: CellGrid, cell: number): number[] {
  const x = cell % cols;
  const y = Math.floor(cell / cols);
  const out: number[] = [];
  for (let dy = -1; dy <= 1; dy++) {
    for (let dx = -1; dx <= 1; dx++) {
      const [nx, ny] = [x + dx, y + dy];
      if ((dx !== 0 || dy !== 0) && nx >= 0 && ny >= 0 && nx < cols && ny < rows) out.push(ny * cols + nx);
    }
  }
  return out;
}
