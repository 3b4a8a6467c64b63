import { nearestThreads, ownThread, type Chart } from '../../colour/charts.js';
import { METRIC } from '../../colour/colour-metric.js';
import { emptyShades, setShade } from '../../colour/histogram.js';
import { luminance } from '../../colour/lightness.js';
import { reduce } from '../../colour/reduce.js';
import { fromHex, linearOf, toByte, toHex } from '../../colour/srgb.js';
import type { ChosenThreads } from '../methods/render-method.js';
import type { PaletteThread } from '../palette-thread.js';
import type { Plate } from '../plate.js';
import { sewnColours } from '../sewn-colour.js';
import { colourPlanes, type ColourPlanes } from './colour-planes.js';
import { InkMixer, leastShare } from './mix-inks.js';

export interface InkChoice {
  /** Threads to choose; none where they are named already. */
  readonly count: number;
  readonly named: readonly PaletteThread[];
  /** Whether a ground of thread is chosen as well. */
  readonly ground: boolean;
  readonly clothHex: string;
  readonly charts: readonly Chart[];
  readonly spacingMm: number;
  readonly mostInk: number;
}

/** Cells that are looked at; fewer of them where many threads make many ways to mix. */
const CELLS = 300;
const CELLS_OF_MANY = 140;
const MANY = 4;
const CENTRES = 14;
/** Threads lie outside the colours they mix to: centres are pushed out from the mean by these. */
const PUSHES = [1, 1.25, 1.55];
/** Clear colours that are tried beside those of the picture, and greys. */
const CLEAR = [
  ['#f3c816', '#f0a01c', '#e06a1c', '#c8151b', '#a01840', '#c83c8c'],
  ['#7a3c9c', '#3c3c9c', '#1d66b8', '#1d96b8', '#1c8c7c', '#2c8c3c'],
  ['#8cb43c', '#6a4a28', '#f4f1ea', '#b8b8b8', '#6c6c6c', '#18181c'],
].flat();
/** Share of the work before the first thread is tried. */
const START = 0.1;
const ROUNDS = 2;
const SWEEPS = 4;
/** A filled ground has to bring a picture nearer by this much difference squared. */
const GROUND_COST = 1.5;

/**
 * Chooses inks for a picture: one after the other the one that brings what can be mixed nearest to it, then exchanges. With
 * charts only their threads are tried. Yields the share done.
 */
export function* chooseInks(plate: Plate, choice: InkChoice): Generator<number, ChosenThreads> {
  const { count, named, clothHex, charts } = choice;
  const cloth = linearOf(clothHex);
  const planes = colourPlanes(plate, cloth);
  const cells = someCells(planes, count > MANY ? CELLS_OF_MANY : CELLS);
  if (cells.length === 0) return { threads: named };
  const centres = centresOf(planes, cells);
  const judge = new InkJudge(planes, cells, choice);
  const candidates = (sets: readonly (readonly string[])[]): Candidate[] =>
    candidatesOf(sets, charts).map((thread) => ({ thread, look: judge.look(thread.hex) }));
  const all = candidates(centres);
  yield START;
  const wanted = named.length > 0 ? 0 : count;
  const turns = wanted * (1 + ROUNDS) + 1;
  let done = START;
  let turn = 0;
  const next = (): number => (done = START + ((1 - START) * ++turn) / turns);
  let chosen = named.map((thread): Candidate => ({ thread, look: judge.look(thread.hex) }));
  for (let k = 0; k < wanted; k++) {
    const best = yield* bestOf(all, (one) => judge.cost([...chosen, one], cloth), chosen, done);
    // Charts may have fewer threads than are asked for.
    if (!best) break;
    chosen = [...chosen, best];
    yield next();
  }
  let ground: Candidate | undefined;
  if (choice.ground) {
    const bare = judge.cost(chosen, cloth);
    ground = yield* bestOf(candidates([centres[0]]), (one) => judge.cost(chosen, one.look), [], done);
    // Where the threads are chosen as well, bare cloth may do.
    if (ground && named.length === 0 && bare - judge.cost(chosen, ground.look) < GROUND_COST) ground = undefined;
    yield next();
  }
  const below = ground?.look ?? cloth;
  for (let round = 0; named.length === 0 && round < ROUNDS; round++) {
    for (let k = 0; k < chosen.length; k++) {
      const others = chosen.filter((_, i) => i !== k);
      const best = yield* bestOf(all, (one) => judge.cost([...others, one], below), others, done);
      if (best) chosen = chosen.with(k, best);
      yield Math.min(1, next());
    }
  }
  const sorted = named.length > 0 ? chosen : chosen.slice().sort((a, b) => luminance(...b.look) - luminance(...a.look));
  const numbered = ({ thread }: Candidate, i: number): PaletteThread =>
    thread.chart === 'own' ? ownOf(thread.hex, i) : thread;
  return { threads: sorted.map(numbered), ground: ground && numbered(ground, sorted.length) };
}

interface Candidate {
  readonly thread: PaletteThread;
  /** Linear r, g, b as it looks sewn. */
  readonly look: readonly [number, number, number];
}

/** The one of least cost that is not taken yet; undefined where all are. Yields the share that was done before. */
function* bestOf(
  all: readonly Candidate[],
  cost: (one: Candidate) => number,
  taken: readonly Candidate[],
  done: number,
): Generator<number, Candidate | undefined> {
  let best: Candidate | undefined;
  let least = Infinity;
  for (const one of all) {
    if (taken.some(({ thread }) => thread.hex === one.thread.hex)) continue;
    const now = cost(one);
    if (now < least) [least, best] = [now, one];
    yield done;
  }
  return best;
}

/** Tells what mixing some inks would cost over cells of a picture. */
class InkJudge {
  private readonly known = new Map<string, readonly [number, number, number]>();
  private readonly wanted: Float32Array;
  private readonly metric: Float32Array;
  private readonly ground: Float32Array;

  constructor(
    planes: ColourPlanes,
    private readonly cells: readonly number[],
    private readonly choice: InkChoice,
  ) {
    this.wanted = new Float32Array(cells.length * 3);
    this.metric = new Float32Array(cells.length * METRIC);
    this.ground = new Float32Array(cells.length * 3);
    cells.forEach((cell, i) => {
      this.wanted.set(planes.wanted.subarray(cell * 3, cell * 3 + 3), i * 3);
      this.metric.set(planes.metric.subarray(cell * METRIC, (cell + 1) * METRIC), i * METRIC);
    });
  }

  look(hex: string): readonly [number, number, number] {
    const known = this.known.get(hex);
    if (known) return known;
    const [r, g, b] = sewnColours([hex], 15, 0.4);
    this.known.set(hex, [r, g, b]);
    return [r, g, b];
  }

  /** Mean cost of the best mixture of every cell. */
  cost(inks: readonly Candidate[], below: readonly number[]): number {
    const sorted = inks.map(({ look }) => look).sort((a, b) => luminance(...b) - luminance(...a));
    const mixer = new InkMixer({
      colours: Float32Array.from(sorted.flat()),
      most: this.choice.mostInk,
      least: leastShare(this.choice.spacingMm),
    });
    const { wanted, metric, ground, cells } = this;
    for (let i = 0; i < ground.length; i++) ground[i] = below[i % 3];
    let sum = 0;
    for (let i = 0; i < cells.length; i++) {
      let least = Infinity;
      for (let set = 0; set < 1 << sorted.length; set++) {
        least = Math.min(least, mixer.solve(set, ground, wanted, i * 3, metric, SWEEPS));
      }
      // Seen as a difference: single cells far off must not decide alone.
      sum += Math.sqrt(least);
    }
    return (sum / cells.length) ** 2;
  }
}

/** Cells spread evenly over what is to be sewn. */
function someCells({ inside }: ColourPlanes, most: number): number[] {
  const all: number[] = [];
  for (let i = 0; i < inside.length; i++) if (inside[i]) all.push(i);
  if (all.length <= most) return all;
  // A step that shares no factor with the width of the picture.
  const golden = 0.6180339887;
  return Array.from({ length: most }, (_, k) => all[Math.floor(((k * golden) % 1) * all.length)]);
}

/** Colours of the cells gathered to a few, each pushed out from their mean. */
function centresOf({ wanted }: ColourPlanes, cells: readonly number[]): string[][] {
  const shades = emptyShades(cells.length);
  cells.forEach((cell, i) => setShade(shades, i, 1, wanted[cell * 3], wanted[cell * 3 + 1], wanted[cell * 3 + 2]));
  const { assigned, count } = reduce(shades, Math.min(CENTRES, cells.length));
  const sums = Array.from({ length: count }, () => [0, 0, 0, 0]);
  const mean = [0, 0, 0];
  cells.forEach((cell, i) => {
    for (let j = 0; j < 3; j++) {
      sums[assigned[i]][j] += wanted[cell * 3 + j];
      mean[j] += Math.cbrt(wanted[cell * 3 + j]) / cells.length;
    }
    sums[assigned[i]][3]++;
  });
  const used = sums.filter((sum) => sum[3] > 0);
  return PUSHES.map((push) =>
    used.map((sum) => {
      const [r, g, b] = [0, 1, 2].map((j) => {
        const root = Math.cbrt(sum[j] / sum[3]);
        return Math.min(1, Math.max(0, mean[j] + (root - mean[j]) * push)) ** 3;
      });
      return toHex({ r: toByte(r), g: toByte(g), b: toByte(b) });
    }),
  );
}

const ownOf = (hex: string, i: number): PaletteThread => ({ ...ownThread(fromHex(hex), i), chart: 'own' });

/** Threads that are tried: colours as they are, or the threads of charts nearest to them. */
function candidatesOf(centres: readonly (readonly string[])[], charts: readonly Chart[]): PaletteThread[] {
  const hexes = [...new Set([...centres.flat(), ...CLEAR])];
  if (charts.length === 0) return hexes.map(ownOf);
  const out = new Map<string, PaletteThread>();
  for (const hex of hexes) {
    const match = nearestThreads(fromHex(hex), charts, 1).at(0);
    if (match) out.set(`${match.chart} ${match.thread.code}`, { ...match.thread, chart: match.chart });
  }
  return [...out.values()];
}
