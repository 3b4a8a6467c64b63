import { ciede2000, linearToLab, type Lab } from './ciede2000.js';
import { nearestThreads, type Chart } from './charts.js';
import { emptyShades, setShade, type Shades } from './histogram.js';
import { reduce } from './reduce.js';
import { fromHex, LINEAR, toByte, type Rgb } from './srgb.js';

/** What a number of threads costs: the mean CIEDE2000 between the picture and its nearest thread. */
export interface CurvePoint {
  readonly count: number;
  readonly deltaE: number;
}

/** Shades a curve is measured on at most: more of them change no figure that can be read off it. */
const MOST_SHADES = 900;

/** Fewer shades that stand for many: each the mean of a group. */
function condense(shades: Shades, most: number): Shades {
  if (shades.count <= most) return shades;
  // The commonest stand for themselves and take their nearest neighbours in.
  const order = Array.from({ length: shades.count }, (_, i) => i).sort(
    (a, b) => shades.weight[b] - shades.weight[a] || a - b,
  );
  const kept = order.slice(0, most).sort((a, b) => a - b);
  const sums = new Float64Array(kept.length * 4);
  for (let i = 0; i < shades.count; i++) {
    let best = 0;
    let least = Infinity;
    for (let k = 0; k < kept.length; k++) {
      const q = kept[k] * 3;
      const d =
        (shades.place[i * 3] - shades.place[q]) ** 2 +
        (shades.place[i * 3 + 1] - shades.place[q + 1]) ** 2 +
        (shades.place[i * 3 + 2] - shades.place[q + 2]) ** 2;
      if (d < least) {
        least = d;
        best = k;
      }
    }
    const w = shades.weight[i];
    for (let j = 0; j < 3; j++) sums[best * 4 + j] += shades.linear[i * 3 + j] * w;
    sums[best * 4 + 3] += w;
  }
  const out = emptyShades(kept.length);
  for (let k = 0; k < kept.length; k++) {
    const w = sums[k * 4 + 3];
    setShade(out, k, w, sums[k * 4] / w, sums[k * 4 + 1] / w, sums[k * 4 + 2] / w);
  }
  return out;
}

/**
 * Difference against number of threads: the picture reduced to every number from 1 to `most`, matched to the charts
 * if there are any. A generator, so that other work may come in between.
 */
export function* threadCurve(all: Shades, most: number, charts: readonly Chart[]): Generator<CurvePoint> {
  const shades = condense(all, MOST_SHADES);
  const labs = Array.from({ length: shades.count }, (_, i) => labAt(shades, i));
  const total = shades.weight.reduce((sum, w) => sum + w, 0);
  if (total === 0) return;
  for (let count = 1; count <= most; count++) {
    const { assigned, count: k } = reduce(shades, count);
    const colours = meansOf(shades, assigned, k).map((c): Lab => {
      const near = nearestThreads(c, charts, 1).at(0);
      const rgb: Rgb = near ? fromHex(near.thread.hex) : c;
      return linearToLab(LINEAR[rgb.r], LINEAR[rgb.g], LINEAR[rgb.b]);
    });
    let sum = 0;
    for (let i = 0; i < shades.count; i++) sum += shades.weight[i] * ciede2000(labs[i], colours[assigned[i]]);
    yield { count, deltaE: sum / total };
    // Every shade has its own colour: more threads change nothing.
    if (k < count || k === shades.count) return;
  }
}

const labAt = (shades: Shades, i: number): Lab =>
  linearToLab(shades.linear[i * 3], shades.linear[i * 3 + 1], shades.linear[i * 3 + 2]);

function meansOf(shades: Shades, assigned: Uint8Array, count: number): Rgb[] {
  const sums = new Float64Array(count * 4);
  for (let i = 0; i < shades.count; i++) {
    const w = shades.weight[i];
    for (let j = 0; j < 3; j++) sums[assigned[i] * 4 + j] += w * shades.linear[i * 3 + j];
    sums[assigned[i] * 4 + 3] += w;
  }
  return Array.from({ length: count }, (_, c) => {
    const n = Math.max(1e-9, sums[c * 4 + 3]);
    return { r: toByte(sums[c * 4] / n), g: toByte(sums[c * 4 + 1] / n), b: toByte(sums[c * 4 + 2] / n) };
  });
}

/** Shades a suggestion is made from: enough for the shape of the curve. */
const FEW_SHADES = 220;
const LEAST_SUGGESTED = 4;
const MOST_SUGGESTED = 16;
/** A further thread is worth its change if it brings the picture nearer by this much on average. */
const WORTH_A_THREAD = 0.16;

/** Number of threads after which the next three bring a photograph little nearer. */
export function suggestThreads(shades: Shades): number {
  const curve: number[] = [];
  for (const { deltaE } of threadCurve(condense(shades, FEW_SHADES), MOST_SUGGESTED + 3, [])) {
    curve.push(deltaE);
    const count = curve.length - 3;
    if (count >= LEAST_SUGGESTED && (curve[count - 1] - deltaE) / 3 < WORTH_A_THREAD) return count;
  }
  return Math.min(MOST_SUGGESTED, Math.max(1, curve.length));
}
