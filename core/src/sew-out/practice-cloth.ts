import { distance } from '../geometry/vector.js';
import type { StitchList } from '../sequence/stitch-list.js';
import { turnsOf, type RowTurn } from '../sequence/turns.js';

/**
 * A simulated cloth for practice. How it gives is known here and nowhere else: what is learnt from a card that was sewn on it is
 * compared with this.
 */
export interface PracticeCloth {
  readonly id: string;
  readonly name: string;
  /** The fabric one would say it is. */
  readonly fabric: string;
  /** Pull at either end of a very long row, in mm, and the length of row at which it has nearly come to that. */
  readonly mostMm: number;
  readonly nearlyMm: number;
  /** How much more it gives across than down, as a share, and how much more on the slant. */
  readonly across: number;
  readonly slant: number;
  /** How far satin is pushed out at its ends, in mm. */
  readonly pushMm: number;
}

export const PRACTICE_CLOTHS: readonly PracticeCloth[] = [
  {
    id: 'tea-towel',
    name: 'Tea towel cotton',
    fabric: 'quilting-cotton',
    mostMm: 0.24,
    nearlyMm: 3,
    across: 0.12,
    slant: 0.1,
    pushMm: 0.17,
  },
  {
    id: 'sail-bag',
    name: 'Sail bag canvas',
    fabric: 'canvas',
    mostMm: 0.15,
    nearlyMm: 2.4,
    across: 0.05,
    slant: 0.14,
    pushMm: 0.12,
  },
  {
    id: 'fair-shirt',
    name: 'Fair shirt jersey',
    fabric: 'jersey',
    mostMm: 0.46,
    nearlyMm: 4,
    across: 0.3,
    slant: 0.16,
    pushMm: 0.36,
  },
  {
    id: 'bath-towel',
    name: 'Bath towel',
    fabric: 'towelling',
    mostMm: 0.38,
    nearlyMm: 3.4,
    across: 0.1,
    slant: 0.05,
    pushMm: 0.31,
  },
  {
    id: 'deck-fleece',
    name: 'Deck fleece',
    fabric: 'fleece',
    mostMm: 0.52,
    nearlyMm: 4.6,
    across: 0.22,
    slant: 0.08,
    pushMm: 0.42,
  },
];

/**
 * A practice cloth by its name.
 * @throws RangeError if there is none of that name; the message lists those there are
 */
export function practiceCloth(id: string): PracticeCloth {
  const found = PRACTICE_CLOTHS.find((cloth) => cloth.id === id);
  if (found) return found;
  const known = PRACTICE_CLOTHS.map((cloth) => cloth.id).join(', ');
  throw new RangeError(`there is no cloth "${id.slice(0, 40)}"; known are ${known}`);
}

/** Where the direction of the thread changes by more than this, a row ends: the cosine of 16 degrees. */
const BEND = 0.961;
/** Shorter rows do not pull. */
const LEAST_MM = 1;
/** Turns beside each other hold on to each other: each takes so much of its neighbours. */
const HELD = 0.3;
const BESIDE_MM = 0.9;
/** What lies this near to the end of a row goes along with it. */
const ALONG_MM = 0.9;
/** Fewer rows are no satin. */
const LEAST_ROWS = 10;
/** Push dies away over so much of a column. */
const DIES_MM = 1.4;

/** A stitch list as it lies once it is sewn on a cloth and out of the hoop: the same rows elsewhere. */
export function sewnOn(list: StitchList, cloth: PracticeCloth): StitchList {
  const { count } = list;
  const x = Float64Array.from(list.x.subarray(0, count));
  const y = Float64Array.from(list.y.subarray(0, count));
  const turns = turnsOf(list, BEND);
  const dx = new Float64Array(turns.length);
  const dy = new Float64Array(turns.length);
  const rows = new Uint8Array(turns.length);
  for (let k = 1; k < turns.length; k++) {
    const [a, b] = [turns[k - 1], turns[k]];
    if (b.starts) continue;
    const [vx, vy] = [list.x[b.at] - list.x[a.at], list.y[b.at] - list.y[a.at]];
    const size = Math.sqrt(vx * vx + vy * vy);
    if (size < LEAST_MM) continue;
    const [ux, uy] = [vx / size, vy / size];
    const give = cloth.mostMm * (1 - Math.exp((-3 * size) / cloth.nearlyMm)) * gives(cloth, ux, uy);
    const by = Math.min(give, size * 0.4);
    dx[k - 1] += ux * by;
    dy[k - 1] += uy * by;
    dx[k] -= ux * by;
    dy[k] -= uy * by;
    rows[k - 1]++;
    rows[k]++;
  }
  for (let k = 0; k < turns.length; k++) {
    if (rows[k] === 0) continue;
    dx[k] /= rows[k];
    dy[k] /= rows[k];
  }
  const [hx, hy] = [heldBy(dx, turns, list), heldBy(dy, turns, list)];
  for (let k = 0; k < turns.length; k++) {
    x[turns[k].at] += hx[k];
    y[turns[k].at] += hy[k];
  }
  takenAlong(list, turns, rows, hx, hy, x, y);
  pushedOut(list, turns, cloth.pushMm, x, y);
  return { ...list, x: Float32Array.from(x), y: Float32Array.from(y) };
}

/**
 * The cloth itself is drawn together, and whatever is sewn in it goes along: needle points inside rows, and short rows, by the turns of long
 * ones around them.
 */
function takenAlong(
  list: StitchList,
  turns: readonly RowTurn[],
  rows: Uint8Array,
  hx: Float64Array,
  hy: Float64Array,
  x: Float64Array,
  y: Float64Array,
): void {
  const places = new Map<string, number[]>();
  const cellOf = (v: number): number => Math.floor(v / ALONG_MM);
  const pulls = turns.map((_, k) => rows[k] > 0);
  turns.forEach(({ at }, k) => {
    if (!pulls[k]) return;
    const key = `${cellOf(list.x[at])},${cellOf(list.y[at])}`;
    places.get(key)?.push(k) ?? places.set(key, [k]);
  });
  const moved = new Set(turns.flatMap(({ at }, k) => (pulls[k] ? [at] : [])));
  for (let i = 0; i < list.count; i++) {
    if (moved.has(i)) continue;
    let [sumX, sumY, sum] = [0, 0, 0];
    for (let cx = -1; cx <= 1; cx++) {
      for (let cy = -1; cy <= 1; cy++) {
        for (const k of places.get(`${cellOf(list.x[i]) + cx},${cellOf(list.y[i]) + cy}`) ?? []) {
          const near = 1 - distance(list.x[i], list.y[i], list.x[turns[k].at], list.y[turns[k].at]) / ALONG_MM;
          if (near <= 0) continue;
          sumX += hx[k] * near;
          sumY += hy[k] * near;
          sum += near;
        }
      }
    }
    if (sum === 0) continue;
    x[i] += sumX / sum;
    y[i] += sumY / sum;
  }
}

/** How much a cloth gives in a direction, 1 in the mean of both straight ones. */
function gives({ across, slant }: PracticeCloth, ux: number, uy: number): number {
  const twice = 2 * Math.atan2(uy, ux);
  return 1 + across * Math.cos(twice) + slant * Math.sin(twice) ** 2;
}

/** Each turn takes a little of those beside it at the same ends of the rows. */
function heldBy(moves: Float64Array, turns: readonly RowTurn[], { x, y }: StitchList): Float64Array {
  const besides = (k: number, other: number): boolean =>
    other >= 0 &&
    other < turns.length &&
    distance(x[turns[k].at], y[turns[k].at], x[turns[other].at], y[turns[other].at]) < BESIDE_MM;
  return moves.map((move, k) => {
    const near = [k - 2, k - 1, k + 1, k + 2].filter((other) => besides(k, other)).map((other) => moves[other]);
    if (near.length === 0) return move;
    return move * (1 - HELD) + (near.reduce((sum, v) => sum + v, 0) / near.length) * HELD;
  });
}

/** Satin spreads along its column: its ends move out, and what is behind them less and less. */
function pushedOut(
  list: StitchList,
  turns: readonly RowTurn[],
  pushMm: number,
  x: Float64Array,
  y: Float64Array,
): void {
  let run: RowTurn[] = [];
  for (let k = 2; k <= turns.length; k++) {
    const goesOn = k < turns.length && !turns[k].starts && !turns[k - 1].starts && comesBack(list, turns, k);
    if (goesOn) run.push(...(run.length === 0 ? [turns[k - 2], turns[k - 1]] : []), turns[k]);
    else {
      if (run.length >= LEAST_ROWS) spread(list, run, pushMm, x, y);
      run = [];
    }
  }
}

/** Whether a row comes back next to where the one before it began. */
function comesBack({ x, y }: StitchList, turns: readonly RowTurn[], k: number): boolean {
  const [a, b, c] = [turns[k - 2].at, turns[k - 1].at, turns[k].at];
  return (
    distance(x[a], y[a], x[c], y[c]) < BESIDE_MM && (x[b] - x[a]) * (x[c] - x[b]) + (y[b] - y[a]) * (y[c] - y[b]) < 0
  );
}

function spread(list: StitchList, run: readonly RowTurn[], pushMm: number, x: Float64Array, y: Float64Array): void {
  const middles = run.slice(1).map(({ at }, k) => {
    const before = run[k].at;
    return { x: (list.x[at] + list.x[before]) / 2, y: (list.y[at] + list.y[before]) / 2 };
  });
  const last = middles.length - 1;
  const few = Math.min(last, 8);
  for (const [tip, inner, forth] of [
    [middles[0], middles[few], true],
    [middles[last], middles[last - few], false],
  ] as const) {
    const size = distance(tip.x, tip.y, inner.x, inner.y);
    if (size === 0) continue;
    let way = 0;
    for (let step = 0; step < run.length && way < 4 * DIES_MM; step++) {
      const k = forth ? step : run.length - 1 - step;
      if (step > 1) {
        const [m, n] = forth ? [k - 1, k - 2] : [k, k + 1];
        way += distance(middles[m].x, middles[m].y, middles[n].x, middles[n].y);
      }
      const share = (pushMm * Math.exp(-((way / DIES_MM) ** 2))) / size;
      for (let i = run[k].at; i < (run[k + 1]?.at ?? run[k].at + 1); i++) {
        x[i] += (tip.x - inner.x) * share;
        y[i] += (tip.y - inner.y) * share;
      }
    }
  }
}
