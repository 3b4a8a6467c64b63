import { linearOf } from '../colour/srgb.js';
import { distance, type Points } from '../geometry/vector.js';
import { closeHoles } from './close-holes.js';
import type { Flow } from './flow.js';
import { layLattice, type Lattice } from './lattice.js';
import { CELL_MM } from './cell.js';
import type { Layer } from './methods/render-method.js';
import type { Plate } from './plate.js';
import { routeThread, type EndedRun } from './route-thread.js';
import { gainsAmong, orderByLight, orderByShare, withPlaces } from './sewing-order.js';
import { sewnColours } from './sewn-colour.js';
import { sewInTwoGoes } from './two-goes.js';
import { Weave } from './weave.js';

export interface PaintingSettings {
  /** Threads, in any order. */
  readonly hexes: readonly string[];
  readonly clothHex: string;
  /** Whether a ground of thread lies below. */
  readonly filled: boolean;
  readonly angle: number;
  readonly flow?: Flow;
  /** Distance of rows in mm. */
  readonly spacingMm: number;
  /** Shortest line of a thread in mm. */
  readonly lineMm: number;
  /** What a change of thread costs: more makes longer lines and fewer stitches. */
  readonly calm: number;
  /** Weight of fine detail. */
  readonly detail: number;
  /** Which of two threads is sewn first: the one that is scarcer where both are, the darker, or the lighter. */
  readonly first: 'scarce' | 'dark' | 'light';
  /** Threads at most that are sewn in two goes, where the scarcer of two is sewn first. */
  readonly twice: number;
  /** Threads that are sewn before (below 0) or after (above 0) the others, by their index; the farthest first and last. */
  readonly places?: readonly number[];
  readonly longestMm: number;
  /** A rough painting that is there soon. */
  readonly quick: boolean;
  /** A painting that this one is sewn over: only what it left over is mended. */
  readonly over?: Painting;
}

/** Threads look brighter among others than in a patch of their own: this much, before it is known where they lie. */
const AMONG_OTHERS = 1.06;
/** Shortest line where the picture is even. */
const EVEN_LINE_MM = 7;
const SWEEPS = 5;
/** Sweeps with the threads that are left, after each that was sewn and before the first. */
const SWEEPS_BETWEEN = 2;
/** Bare cloth that differs by this from the picture, lightness weighing more, looks like a hole. */
const HOLE = 25;
/** Islands of a thread with less line than this are given to other threads. */
const ISLAND_MM = 4.8;
const MOST_WAY_COST = 18;
/** In the open a way costs this many times more where the picture is even: it would be seen there from afar. */
const EVEN_WAY = 2;
/** A way lies over most of a cell it leads across. */
const WAY_COVER = 0.8;

/** What was painted, and what it shows cell by cell. */
export interface Painting {
  readonly layers: readonly Layer[];
  readonly lattice: Lattice;
  readonly shown: Float32Array;
}

/** Paints a picture in lines of thread; yields the share done. */
export function* paintThreads(plate: Plate, settings: PaintingSettings): Generator<number, Painting> {
  const { hexes, quick } = settings;
  const lattice = layLattice(plate, settings.angle, settings.spacingMm, settings.flow);
  yield 0.01;
  const sewn = sewnColours(hexes, settings.angle, settings.spacingMm);
  yield 0.02;
  const colours = Float32Array.from([0, 0, 0, ...sewn.map((v) => v * AMONG_OTHERS)]);
  const weave = new Weave(
    lattice,
    {
      colours,
      changeCost: settings.calm,
      leastCells: Math.max(2, Math.round(settings.lineMm / CELL_MM)),
      evenCells: Math.round(Math.max(settings.lineMm, EVEN_LINE_MM) / CELL_MM),
      sharpness: settings.detail,
      farthestBare: settings.filled ? Infinity : HOLE,
    },
    linearOf(settings.clothHex),
  );
  yield 0.03;
  if (settings.over) weave.lay(seenFrom(lattice, settings.over));
  else for (const done of weave.begin()) yield 0.03 + 0.02 * done;
  yield 0.05;
  const sweeps = quick ? 1 : SWEEPS;
  for (let sweep = 0; sweep < sweeps; sweep++) {
    for (const done of weave.sweep(sweep % 2 === 0)) yield 0.05 + (0.35 * (sweep + done)) / sweeps;
  }
  const { order, rank, threadOf } = planGoes(weave, lattice, settings);
  gainsAmong(weave.label, lattice.cols, rank).forEach((gain, t) => {
    for (let k = 0; t > 0 && k < 3; k++) weave.colours[t * 3 + k] = sewn[(threadOf[t] - 1) * 3 + k] * gain;
  });
  weave.recolour();
  for (let sweep = 0; sweep < (quick ? 0 : SWEEPS_BETWEEN); sweep++) {
    for (const done of weave.sweep(sweep % 2 === 0)) yield 0.4 + 0.05 * (sweep + done);
  }
  for (let round = 0; round < (quick ? 0 : 2); round++) {
    banIslands(weave, lattice, rank);
    for (const done of weave.sweep(round % 2 === 0)) yield 0.5 + 0.05 * (round + done);
  }
  const layers: Layer[] = [];
  if (quick) {
    // Which ways a thread takes does not show from afar, and takes as long as the picture itself.
    for (const thread of order) {
      const runs = loosely(lattice, weave.label, thread);
      if (runs.length > 0) layers.push({ thread: threadOf[thread] - 1, runs, openMm: 0 });
    }
    return { layers, lattice, shown: weave.shown };
  }
  const sewnRuns: (EndedRun & { readonly thread: number })[] = [];
  for (let k = 0; k < order.length; k++) {
    const thread = order[k];
    weave.restrict(order.slice(k));
    for (let sweep = 0; k > 0 && sweep < SWEEPS_BETWEEN; sweep++) {
      for (const done of weave.sweep((k + sweep) % 2 === 0)) {
        yield 0.6 + (0.4 * (k + (sweep + done) / SWEEPS_BETWEEN)) / order.length;
      }
    }
    const route = routeThread({
      lattice,
      label: weave.label,
      thread,
      isLater: (other) => other > 0 && rank[other] > rank[thread],
      shown: weave.shown,
      metric: weave.metric,
      colour: [...weave.colours.subarray(thread * 3, thread * 3 + 3)],
      openFactor: (cell) => 1 + EVEN_WAY * weave.evenness(cell),
      longestMm: settings.longestMm,
      leastChainMm: ISLAND_MM,
      mostCost: MOST_WAY_COST,
    });
    weave.drop(route.left);
    weave.settle(thread);
    for (const cell of route.crossed) weave.stain(cell, thread, WAY_COVER);
    weave.measure();
    for (const run of route.runs) sewnRuns.push({ ...run, thread });
    const runs = route.runs.map(({ points }) => points);
    if (runs.length > 0) layers.push({ thread: threadOf[thread] - 1, runs, openMm: route.openMm });
    yield 0.6 + (0.4 * (k + 1)) / order.length;
  }
  closeHoles(lattice, weave.holes(), sewnRuns, (run, cell) => weave.differenceAt(cell, sewnRuns[run].thread));
  return { layers, lattice, shown: weave.shown };
}

/** Each row of a rough painting is drawn as two lines, a quarter of the distance of rows from its middle. */
const BESIDE = [-0.25, 0.25];
/** Cells of a bent row that are drawn as one straight line. */
const STRAIGHT_CELLS = 12;

/** The cells of a thread as loose lines, without ways between them. */
function loosely({ cols, rows, x, y, pitch }: Lattice, label: Uint8Array, thread: number): Points[] {
  const out: Points[] = [];
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < cols; c++) {
      const from = r * cols + c;
      if (label[from] !== thread) continue;
      while (c + 1 < cols && label[r * cols + c + 1] === thread) c++;
      const to = r * cols + c;
      for (const beside of BESIDE) {
        const aside = beside * pitch;
        const run: number[] = [];
        const put = (cell: number, half: number): void => {
          const column = cell % cols;
          const [a, b] = [column > 0 ? cell - 1 : cell, column + 1 < cols ? cell + 1 : cell];
          const length = distance(x[a], y[a], x[b], y[b]) || 1;
          const ux = (x[b] - x[a]) / length;
          const uy = (y[b] - y[a]) / length;
          run.push(x[cell] + ux * half - uy * aside, y[cell] + uy * half + ux * aside);
        };
        put(from, -CELL_MM / 2);
        for (let cell = from + STRAIGHT_CELLS; cell < to; cell += STRAIGHT_CELLS) put(cell, 0);
        put(to, CELL_MM / 2);
        out.push(run);
      }
    }
  }
  return out;
}

/** In what order threads are sewn, and which of them twice. */
interface Goes {
  /** Numbers of threads; one that is sewn twice has two. */
  readonly order: readonly number[];
  /** Place in the order of each number, from 1 on. */
  readonly rank: Uint8Array;
  readonly threadOf: readonly number[];
}

function planGoes(weave: Weave, lattice: Lattice, settings: PaintingSettings): Goes {
  const { hexes, first, quick, twice: most, places = [] } = settings;
  const byLight = orderByLight(weave.colours, hexes.length, first === 'light');
  const byShare = first === 'scarce';
  const { order: found, twice } = sewInTwoGoes(
    weave.label,
    lattice,
    byShare ? orderByShare(weave.label, lattice, byLight) : byLight,
    (thread) => (places.at(thread - 1) ?? 0) === 0,
    byShare && !quick ? most : 0,
  );
  const threadOf = Array.from({ length: hexes.length + 1 }, (_, t) => t);
  for (const { thread, first: go, isFirst } of twice) {
    weave.twin(thread);
    threadOf[go] = thread;
    for (let cell = 0; cell < weave.label.length; cell++) weave.ban(cell, isFirst(cell) ? thread : go);
  }
  const order = withPlaces(found, places);
  weave.restrict(order);
  const rank = new Uint8Array(threadOf.length);
  order.forEach((thread, k) => (rank[thread] = k + 1));
  return { order, rank, threadOf };
}

/** What another painting shows at the cells of a lattice that lies otherwise. */
function seenFrom(lattice: Lattice, { lattice: other, shown }: Painting): Float32Array {
  const out = new Float32Array(lattice.inside.length * 3);
  // Both lie around the same middle: places are found again by the other's axes.
  const { cols, rows, x, y } = other;
  const [ox, oy] = [x[0], y[0]];
  const [ux, uy] = [(x[cols - 1] - ox) / (cols - 1), (y[cols - 1] - oy) / (cols - 1)];
  const last = (rows - 1) * cols;
  const [vx, vy] = [(x[last] - ox) / (rows - 1), (y[last] - oy) / (rows - 1)];
  const det = ux * vy - uy * vx;
  for (let i = 0; i < lattice.inside.length; i++) {
    const dx = lattice.x[i] - ox;
    const dy = lattice.y[i] - oy;
    const c = Math.min(cols - 1, Math.max(0, Math.round((dx * vy - dy * vx) / det)));
    const r = Math.min(rows - 1, Math.max(0, Math.round((ux * dy - uy * dx) / det)));
    for (let j = 0; j < 3; j++) out[i * 3 + j] = shown[(r * cols + c) * 3 + j];
  }
  return out;
}

/**
 * Bars threads from places where they would lie alone: parts of their cells, joined by cells that are sewn over later or
 * by a step across one row, that hold too little line to be worth a cut of the thread.
 */
function banIslands(weave: Weave, { cols, rows }: Lattice, rank: Uint8Array): void {
  const count = cols * rows;
  const seen = new Int32Array(count);
  const stack = new Int32Array(count);
  let mark = 0;
  for (let thread = 1; thread < rank.length; thread++) {
    mark++;
    const { label } = weave;
    for (let start = 0; start < count; start++) {
      if (label[start] !== thread || seen[start] === mark) continue;
      let top = 0;
      let own = 0;
      const cells: number[] = [];
      stack[top++] = start;
      seen[start] = mark;
      while (top > 0) {
        const cell = stack[--top];
        if (label[cell] === thread) {
          own++;
          cells.push(cell);
        }
        const c = cell % cols;
        const r = (cell - c) / cols;
        const isOwn = label[cell] === thread;
        const reach = isOwn ? 2 : 1;
        for (let dy = -reach; dy <= reach; dy++) {
          const y = r + dy;
          if (y < 0 || y >= rows) continue;
          for (let dx = -1; dx <= 1; dx++) {
            const x = c + dx;
            if (x < 0 || x >= cols) continue;
            const next = y * cols + x;
            if (seen[next] === mark) continue;
            const now = label[next];
            // Two rows on only to cells of the thread itself: the way crosses one row in the open.
            if (now !== thread && (Math.abs(dy) > 1 || now === 0 || rank[now] < rank[thread])) continue;
            seen[next] = mark;
            stack[top++] = next;
          }
        }
      }
      if (own * CELL_MM >= ISLAND_MM) continue;
      for (const cell of cells) weave.ban(cell, thread);
    }
  }
  weave.enforceBans();
}
