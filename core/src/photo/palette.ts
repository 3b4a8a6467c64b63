import { isInside } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { ciede2000, linearToLab, type Lab } from '../colour/ciede2000.js';
import type { Chart } from '../colour/charts.js';
import { chartPalette } from './chart-palette.js';
import { ownName } from '../colour/colour-word.js';
import { emptyShades, placeOf, setShade } from '../colour/histogram.js';
import { reduce } from '../colour/reduce.js';
import { fromHex, LINEAR, toByte, toHex } from '../colour/srgb.js';
import { dither, type SmallPicture } from './dither.js';
import { SEWN_SHARE, type Plate } from './plate.js';
import { WovenJudge } from './woven-judge.js';
import type { PaletteThread } from './palette-thread.js';

export interface PaletteSettings {
  readonly count: number;
  /** Rounds of moving colours: more come nearer. */
  readonly rounds?: number;
  /** Charts to choose from; none for colours of the picture's own. */
  readonly charts: readonly Chart[];
  /** Threads that are in it in any case. */
  readonly fixed: readonly PaletteThread[];
  /** How a thread looks once it is sewn, in linear light. */
  readonly sewn: (hex: string) => readonly [number, number, number];
  readonly clothHex: string;
  /** Rings, in mm on the cloth, around what counts more than the rest; left out for none. */
  readonly favoured?: readonly Points[];
}

const SIDE = 150;
const ROUNDS = 12;
/** Share of the time that colours of the picture's own take, if there are charts. */
const OWN_SHARE = 0.2;
/** Centres lie inside the colours they stand for: mixing needs colours farther out. */
const STRETCH = 1.15;
const STEP = 1.5;
/** Cells along the longer side that threads of charts are judged on. */
const WOVEN_SIDE = 56;
/** Lines of thread are longer than pixels: colours that differ much from what they mix to cost this much of it. */
const CALM = 0.15;
/** A place that is favoured counts as so many others. */
const FAVOURED = 5;

/**
 * Threads that mix well to a picture. Centres of its colours are stretched about their mean, then moved by what error
 * diffusion with them leaves over (blurred, mean over the places that use a colour); the best of all rounds is kept.
 * Yields the share done. From charts, the nearest threads are taken and changed for others while that brings a small weave nearer.
 */
export function* mixPalette(plate: Plate, settings: PaletteSettings): Generator<number, PaletteThread[]> {
  const { fixed, charts, favoured = [] } = settings;
  const picture = smallPicture(plate, SIDE, favoured);
  const count = Math.max(0, settings.count - fixed.length);
  if (count === 0) return fixed.slice(0, settings.count);
  const judge = new Judge(picture, settings.clothHex);
  const free = yield* ownColours(picture, judge, count, fixed, settings);
  if (charts.length === 0) return [...fixed, ...free.map((hex, i) => ownThreadOf(hex, i + fixed.length))];
  // A palette in few rounds is wanted soon: its threads are those nearest to the colours.
  const isRough = settings.rounds !== undefined;
  const woven = isRough ? undefined : new WovenJudge(smallPicture(plate, WOVEN_SIDE), settings.clothHex);
  return yield* chartPalette(woven, free, settings);
}

const ownThreadOf = (hex: string, i: number): PaletteThread => ({
  hex,
  chart: 'own',
  code: `OWN-${String(i + 1).padStart(2, '0')}`,
  name: ownName(hex),
});

const hexOfLinear = (r: number, g: number, b: number): string => toHex({ r: toByte(r), g: toByte(g), b: toByte(b) });

function* ownColours(
  picture: WeighedPicture,
  judge: Judge,
  count: number,
  fixed: readonly PaletteThread[],
  { sewn, rounds = ROUNDS }: PaletteSettings,
): Generator<number, string[]> {
  const { weight } = picture;
  const n = picture.data.length / 3;
  const shades = emptyShades(n);
  for (let i = 0; i < n; i++) {
    setShade(shades, i, weight[i], picture.data[i * 3], picture.data[i * 3 + 1], picture.data[i * 3 + 2]);
  }
  const pinned: number[] = [];
  const place = new Float32Array(3);
  for (const { hex } of fixed) {
    const [r, g, b] = sewn(hex);
    placeOf(r, g, b, place, 0);
    pinned.push(...place);
  }
  const { assigned, count: found } = reduce(shades, Math.min(255, count + fixed.length), pinned);
  yield 0;
  const sums = new Float64Array(found * 4);
  const mean = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < 3; j++) {
      sums[assigned[i] * 4 + j] += picture.data[i * 3 + j] * weight[i];
      mean[j] += picture.data[i * 3 + j] / n;
    }
    sums[assigned[i] * 4 + 3] += weight[i];
  }
  // Thread colours, in linear light; what they look like sewn is looked up.
  const colours = new Float32Array(count * 3);
  for (let t = 0; t < count; t++) {
    const s = (t + fixed.length) * 4;
    const all = s < sums.length ? sums[s + 3] : 0;
    for (let j = 0; j < 3; j++) {
      const own = all > 0 ? sums[s + j] / all : mean[j] * (0.3 + t * 0.2);
      colours[t * 3 + j] = clip(mean[j] + (own - mean[j]) * STRETCH);
    }
  }
  let best: string[] = [];
  let least = Infinity;
  for (let round = 0; round <= rounds; round++) {
    const hexes = Array.from({ length: count }, (_, t) =>
      hexOfLinear(colours[t * 3], colours[t * 3 + 1], colours[t * 3 + 2]),
    );
    const all = [...fixed.map(({ hex }) => hex), ...hexes].map(sewn);
    yield (OWN_SHARE * Math.max(0, round - 0.5)) / Math.max(1, rounds);
    const { error, residual } = judge.try(all);
    yield (OWN_SHARE * round) / Math.max(1, rounds);
    if (error < least) [least, best] = [error, hexes];
    // The cloth is number 0, then the fixed ones.
    for (let t = 0; t < count; t++) {
      const r = residual[t + 1 + fixed.length];
      for (let j = 0; j < 3; j++) colours[t * 3 + j] = clip(colours[t * 3 + j] + STEP * r[j]);
    }
  }
  return best;
}

const clip = (v: number): number => Math.min(1, Math.max(0, v));

interface WeighedPicture extends SmallPicture {
  /** As how many places each of it counts. */
  readonly weight: Float32Array;
}

/**
 * What of a plate is to be sewn, as a small picture; bare places take the mean, which nothing depends on.
 * @param favoured rings, in mm, around what counts more
 */
function smallPicture(plate: Plate, side: number, favoured: readonly Points[] = []): WeighedPicture {
  const step = Math.max(1, Math.max(plate.width, plate.height) / side);
  const width = Math.max(1, Math.floor(plate.width / step));
  const height = Math.max(1, Math.floor(plate.height / step));
  const data = new Float32Array(width * height * 3);
  const mean = [0, 0, 0, 0];
  const bare: number[] = [];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const sum = [0, 0, 0, 0];
      for (let py = Math.floor(y * step); py < Math.floor((y + 1) * step); py++) {
        for (let px = Math.floor(x * step); px < Math.floor((x + 1) * step); px++) {
          const at = (py * plate.width + px) * 4;
          const a = plate.data[at + 3];
          if (a < SEWN_SHARE) continue;
          for (let j = 0; j < 3; j++) sum[j] += plate.data[at + j];
          sum[3]++;
        }
      }
      const i = y * width + x;
      if (sum[3] === 0) bare.push(i);
      else {
        for (let j = 0; j < 3; j++) {
          data[i * 3 + j] = sum[j] / sum[3];
          mean[j] += data[i * 3 + j];
        }
        mean[3]++;
      }
    }
  }
  for (const i of bare) for (let j = 0; j < 3; j++) data[i * 3 + j] = mean[3] > 0 ? mean[j] / mean[3] : 0;
  const weight = new Float32Array(width * height).fill(1);
  const mm = step / plate.scale;
  for (let i = 0; favoured.length > 0 && i < weight.length; i++) {
    const x = plate.left + ((i % width) + 0.5) * mm;
    const y = plate.top + (Math.floor(i / width) + 0.5) * mm;
    if (favoured.some((ring) => isInside([ring], x, y))) weight[i] = FAVOURED;
  }
  return { width, height, data, weight };
}

/** Tells how near mixing comes to a picture with some threads over a cloth. */
class Judge {
  private readonly labs: Lab[];
  private readonly soft: Float32Array;
  private readonly cloth: [number, number, number];

  constructor(
    private readonly picture: WeighedPicture,
    clothHex: string,
  ) {
    const { r, g, b } = fromHex(clothHex);
    this.cloth = [LINEAR[r], LINEAR[g], LINEAR[b]];
    this.soft = soften(picture.data, picture.width, picture.height);
    this.labs = [];
    for (let i = 0; i < this.soft.length; i += 3) {
      this.labs.push(linearToLab(this.soft[i], this.soft[i + 1], this.soft[i + 2]));
    }
  }

  /** Mean CIEDE2000 after mixing, with a share for how much is mixed, and for cloth and each colour the mean of what is left over where it is used. */
  try(colours: readonly (readonly [number, number, number])[]): {
    error: number;
    residual: [number, number, number][];
  } {
    const { width, height, weight } = this.picture;
    const list = Float32Array.from([this.cloth, ...colours].flat());
    const used = dither(this.picture, list);
    const drawn = new Float32Array(used.length * 3);
    for (let i = 0; i < used.length; i++) for (let j = 0; j < 3; j++) drawn[i * 3 + j] = list[used[i] * 3 + j];
    const mixed = soften(drawn, width, height);
    let error = 0;
    let rough = 0;
    let all = 0;
    const own = list.length / 3;
    const looks = Array.from({ length: own }, (_, t) => linearToLab(list[t * 3], list[t * 3 + 1], list[t * 3 + 2]));
    const residual = Array.from({ length: colours.length + 1 }, (): [number, number, number] => [0, 0, 0]);
    const counts = new Float64Array(colours.length + 1);
    for (let i = 0; i < used.length; i++) {
      const w = weight[i];
      all += w;
      counts[used[i]] += w;
      for (let j = 0; j < 3; j++) residual[used[i]][j] += (this.soft[i * 3 + j] - mixed[i * 3 + j]) * w;
      const lab = this.labs[i];
      const look = looks[used[i]];
      error += w * ciede2000(lab, linearToLab(mixed[i * 3], mixed[i * 3 + 1], mixed[i * 3 + 2]));
      rough += w * Math.sqrt((lab.l - look.l) ** 2 + (lab.a - look.a) ** 2 + (lab.b - look.b) ** 2);
    }
    residual.forEach((r, t) => {
      for (let j = 0; j < 3; j++) r[j] = counts[t] > 0 ? r[j] / counts[t] : 0;
    });
    return { error: (error + CALM * rough) / all, residual };
  }
}

/** A blur of 1-4-6-4-1 both ways, as of 0.5 mm on this grid. */
function soften(data: Float32Array, width: number, height: number): Float32Array {
  const rows = new Float32Array(data.length);
  const out = new Float32Array(data.length);
  const w = [1 / 16, 4 / 16, 6 / 16, 4 / 16, 1 / 16];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      for (let k = -2; k <= 2; k++) {
        const px = Math.min(width - 1, Math.max(0, x + k));
        for (let j = 0; j < 3; j++) rows[(y * width + x) * 3 + j] += w[k + 2] * data[(y * width + px) * 3 + j];
      }
    }
  }
  for (let y = 0; y < height; y++) {
    for (let k = -2; k <= 2; k++) {
      const py = Math.min(height - 1, Math.max(0, y + k));
      for (let c = 0; c < width * 3; c++) out[y * width * 3 + c] += w[k + 2] * rows[py * width * 3 + c];
    }
  }
  return out;
}
