import { METRIC, writeMetric } from '../colour/colour-metric.js';
import { measureCover } from './cover-table.js';
import { samplePlate, SEWN_SHARE, type Plate } from './plate.js';
import { sewnColours } from './sewn-colour.js';
import type { Layer } from './methods/render-method.js';
import { zigzagRows, type RowSettings } from './zigzag-rows.js';
import { fromHex, LINEAR } from '../colour/srgb.js';

export interface InkSettings {
  /** Threads in sewing order, two to six. */
  readonly hexes: readonly string[];
  /** What they are laid over: the cloth, or a filled ground. */
  readonly groundHex: string;
  readonly spacingMm: number;
  readonly pitchMm: number;
  /** Direction of the first ink; each later one is turned on by `turn`. */
  readonly angle: number;
  readonly turn: number;
  /** Cover of all inks together at most, 1 is one full layer. */
  readonly mostInk: number;
  readonly trimOverMm: number;
}

/** Inks thinner than this are not sewn, as a share of a full layer. */
const LEAST_INK = 0.06;
const GRID = 17;
const ROUNDS = 14;

/**
 * Sews a picture as layers of rows, one an ink, each at an angle of its own. How much of each ink a colour needs is looked
 * for in a model in which an ink of cover a lets 1 - a of what lies below through; a table over all colours holds it.
 */
export function* inkLayers(plate: Plate, settings: InkSettings): Generator<number, Layer[]> {
  const { hexes } = settings;
  const inks = sewnColours(hexes, settings.angle, 0.4);
  const { r, g, b } = fromHex(settings.groundHex);
  const ground = [LINEAR[r], LINEAR[g], LINEAR[b]];
  const table = separationTable(inks, ground, settings.mostInk);
  yield 0.2;
  const layers: Layer[] = [];
  const sample = new Float32Array(4);
  const amounts = new Float64Array(hexes.length);
  for (let k = 0; k < hexes.length; k++) {
    const rows: RowSettings = {
      angle: settings.angle + k * settings.turn,
      spacingMm: settings.spacingMm,
      pitchMm: settings.pitchMm,
      slant: 0,
      vary: 'width',
      leastCover: LEAST_INK,
      trimOverMm: settings.trimOverMm,
      thread: k,
    };
    // Black on white tells how much of a patch rows of a strength cover.
    const cover = measureCover(rows, '#000000', '#ffffff');
    const [bare, full] = [cover.light[0], cover.light[cover.light.length - 1]];
    const steps = 256;
    const strength = Float64Array.from({ length: steps + 1 }, (_, i) =>
      cover.strengthFor(bare + (full - bare) * (i / steps)),
    );
    layers.push(
      zigzagRows(
        plate,
        rows,
        (x, y) => {
          samplePlate(plate, x, y, sample);
          if (sample[3] < SEWN_SHARE) return -1;
          lookUp(table, hexes.length, sample, amounts);
          return amounts[k];
        },
        (c) => strength[Math.round(Math.min(1, c) * steps)],
      ),
    );
    yield 0.2 + (0.8 * (k + 1)) / hexes.length;
  }
  return layers;
}

/** Amounts of all inks for colours on a grid, finer in the dark. */
function separationTable(inks: Float32Array, ground: readonly number[], mostInk: number): Float32Array {
  const n = inks.length / 3;
  const out = new Float32Array(GRID ** 3 * n);
  const metric = new Float32Array(METRIC);
  let last: Float64Array = new Float64Array(n);
  for (let i = 0; i < GRID ** 3; i++) {
    const at = [i % GRID, Math.floor(i / GRID) % GRID, Math.floor(i / GRID / GRID)];
    const goal = at.map((k) => (k / (GRID - 1)) ** 2);
    writeMetric(goal[0], goal[1], goal[2], metric, 0);
    // The neighbour in the table is a good place to begin, except at the start of a line.
    last = separate(inks, ground, goal, metric, mostInk, at[0] === 0 ? new Float64Array(n).fill(0.3) : last);
    out.set(last, i * n);
  }
  return out;
}

/** Finds amounts one ink after the other, again and again: each time the best of some steps. */
function separate(
  inks: Float32Array,
  ground: readonly number[],
  goal: readonly number[],
  metric: Float32Array,
  mostInk: number,
  start: Float64Array,
): Float64Array {
  const amounts = start.slice();
  const n = amounts.length;
  const cost = (): number => {
    let [x, y, z] = ground;
    let sum = 0;
    for (let k = 0; k < n; k++) {
      const a = amounts[k];
      x += (inks[k * 3] - x) * a;
      y += (inks[k * 3 + 1] - y) * a;
      z += (inks[k * 3 + 2] - z) * a;
      sum += a;
    }
    const [d0, d1, d2] = [x - goal[0], y - goal[1], z - goal[2]];
    const m = metric;
    const square =
      m[0] * d0 * d0 + m[3] * d1 * d1 + m[5] * d2 * d2 + 2 * (m[1] * d0 * d1 + m[2] * d0 * d2 + m[4] * d1 * d2);
    const over = Math.max(0, sum - mostInk);
    return square + 400 * over * over + 0.6 * sum;
  };
  let least = cost();
  for (let round = 0, step = 0.25; round < ROUNDS; round++, step *= 0.75) {
    for (let k = 0; k < n; k++) {
      const before = amounts[k];
      for (const to of [before + step, before - step]) {
        amounts[k] = Math.min(1, Math.max(0, to));
        const now = cost();
        if (now < least - 1e-9) least = now;
        else amounts[k] = before;
        if (amounts[k] !== before) break;
      }
    }
  }
  return amounts;
}

/** Amounts for a colour, between the eight around it in the table. */
function lookUp(table: Float32Array, n: number, colour: Float32Array, out: Float64Array): void {
  const place = [0, 1, 2].map((j) => Math.sqrt(Math.min(1, Math.max(0, colour[j]))) * (GRID - 1));
  const low = place.map((v) => Math.min(GRID - 2, Math.floor(v)));
  out.fill(0);
  for (let corner = 0; corner < 8; corner++) {
    let weight = 1;
    let at = 0;
    for (let j = 2; j >= 0; j--) {
      const up = (corner >> j) & 1;
      weight *= up ? place[j] - low[j] : 1 - (place[j] - low[j]);
      at = at * GRID + low[j] + up;
    }
    if (weight === 0) continue;
    for (let k = 0; k < n; k++) out[k] += weight * table[at * n + k];
  }
}
