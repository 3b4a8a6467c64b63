import { lightnessOf, luminance, luminanceOf } from '../../colour/lightness.js';
import { linearOf } from '../../colour/srgb.js';
import { similarity } from '../../sewn-look/similarity.js';
import type { Flow } from '../flow.js';
import type { Layer } from '../methods/render-method.js';
import { SEWN_SHARE, type Plate } from '../plate.js';
import { flatCover, THREAD_MM } from './flat-cover.js';
import { ROW_STEP_MM, rowLines, type RowLine } from './row-lines.js';
import { bareRow, halfFor, sewRows, SIGMA_MM, type WideRow } from './sew-rows.js';
import { halved, softPlane } from './soft-plane.js';

export interface ToneSettings {
  readonly hex: string;
  readonly clothHex: string;
  /** An id of `ROW_SHAPES`, and what rows along the forms follow. */
  readonly shape: string;
  readonly flow?: Flow;
  readonly angle: number;
  readonly spacingMm: number;
  readonly pitchMm: number;
  readonly slant: number;
  /** Tones the thread cannot reach are cut off, or all are drawn together until they fit. */
  readonly tones: 'clipped' | 'fitted';
  /** Lightness (L*) of the picture that counts as the darkest and the lightest tone where they are fitted. */
  readonly darkest: number;
  readonly lightest: number;
  /** Whether the thread lies where the picture is light. */
  readonly lightIsSewn: boolean;
  /** Rows drop out where they would cover less than this share. */
  readonly breakOff: number;
  readonly trimOverMm: number;
  /** Rounds of comparing what was drawn with what is wanted. */
  readonly rounds: number;
}

/** Widest half of a row, in shares of the distance of rows: neighbours overlap a little. */
const WIDEST = 0.57;
/** Growth of a half for a difference of one in L*, in shares of the distance of rows. */
const GAIN = 0.011;
/** Rounds at full gain; later ones are damped by this each. */
const FULL_ROUNDS = 6;
const DAMPED = 0.72;
/** Widths are evened out along the row over this. */
const EVEN_MM = 0.25;
/** Gaps of light that a row goes on over. */
const BRIDGE_MM = 3;
/** Each side of a row answers for what is this far from its middle, in shares of the distance of rows. */
const ASIDE = 0.2;

/** Rows of one thread whose width above and below their middle follows the tones. */
export function* toneRows(plate: Plate, settings: ToneSettings): Generator<number, Layer & { ssim: number }> {
  const { width, height, scale } = plate;
  const cloth = luminance(...linearOf(settings.clothHex));
  const thread = luminance(...linearOf(settings.hex));
  const sigma = SIGMA_MM * scale;
  const goal = softPlane(wantedLight(plate, settings, cloth, thread), width, height, sigma);
  const wanted = goal.map(lightnessOf);
  // Similarity is looked at on a grid of 0.4 mm.
  const coarseWanted = halved(wanted, width, height);
  yield 0.1;
  const rows = rowLines(plate, settings.shape, settings.spacingMm, settings.angle, settings.flow).map((line) =>
    firstWidths(line, plate, goal, cloth, thread, settings),
  );
  yield 0.2;
  const sign = cloth > thread ? 1 : -1;
  const gain = (GAIN * sign * 0.85) / Math.max(0.05, Math.abs(cloth - thread));
  let best: Layer & { ssim: number } = { thread: 0, runs: [], openMm: 0, ssim: -1 };
  const rounds = Math.max(1, settings.rounds);
  for (let round = 0; round < rounds; round++) {
    const runs = sewRows(rows, settings);
    const cover = flatCover(plate, runs);
    const drawn = softPlane(
      cover.map((c) => cloth + (thread - cloth) * c),
      width,
      height,
      sigma,
    ).map(lightnessOf);
    const ssim = similarity(halved(drawn, width, height), coarseWanted, width >> 1, height >> 1);
    if (ssim > best.ssim) best = { thread: 0, runs, openMm: 0, ssim };
    yield 0.2 + (0.8 * (round + 1)) / rounds;
    if (round === rounds - 1) break;
    const strong = gain * DAMPED ** Math.max(0, round + 1 - FULL_ROUNDS);
    for (const row of rows) widen(row, plate, drawn, wanted, strong);
  }
  return best;
}

/** The light (linear) every point of a plate is to have, within what thread and cloth can reach; cloth where nothing is sewn. */
function wantedLight(
  { data }: Plate,
  { tones, darkest, lightest, lightIsSewn, spacingMm, breakOff }: ToneSettings,
  cloth: number,
  thread: number,
): Float32Array {
  // A row that does not drop out is a line of thread at least.
  const faint = tones === 'fitted' && breakOff === 0 ? cloth + ((thread - cloth) * THREAD_MM) / spacingMm : cloth;
  const low = lightnessOf(Math.min(faint, thread));
  const high = lightnessOf(Math.max(faint, thread));
  const isTurned = lightIsSewn !== thread > cloth;
  const out = new Float32Array(data.length / 4);
  for (let i = 0; i < out.length; i++) {
    const at = i * 4;
    if (data[at + 3] < SEWN_SHARE) {
      out[i] = cloth;
      continue;
    }
    let l = lightnessOf(luminance(data[at], data[at + 1], data[at + 2]));
    if (tones === 'fitted') l = low + ((high - low) * (l - darkest)) / Math.max(1, lightest - darkest);
    l = Math.min(high, Math.max(low, l));
    out[i] = luminanceOf(isTurned ? low + high - l : l);
  }
  return out;
}

/** Value of a plane at a place in mm, between its points. */
function at({ width, height, left, top, scale }: Plate, plane: Float32Array, x: number, y: number): number {
  const u = Math.min(width - 1.001, Math.max(0, (x - left) * scale - 0.5));
  const v = Math.min(height - 1.001, Math.max(0, (y - top) * scale - 0.5));
  const c = Math.floor(u);
  const r = Math.floor(v);
  const k = r * width + c;
  const a = plane[k] + (plane[k + 1] - plane[k]) * (u - c);
  const b = plane[k + width] + (plane[k + width + 1] - plane[k + width]) * (u - c);
  return a + (b - a) * (v - r);
}

/** Where a row is sewn, and how wide it is before anything was drawn. */
function firstWidths(
  line: RowLine,
  plate: Plate,
  goal: Float32Array,
  cloth: number,
  thread: number,
  { breakOff }: ToneSettings,
): WideRow {
  const n = line.x.length;
  const row = bareRow(line);
  const { width, height, left, top, scale, data } = plate;
  const bridge = Math.round(BRIDGE_MM / ROW_STEP_MM);
  let last = -bridge - 1;
  for (let i = 0; i < n; i++) {
    const x = line.x[i];
    const y = line.y[i];
    const px = Math.floor((x - left) * scale);
    const py = Math.floor((y - top) * scale);
    if (px < 0 || py < 0 || px >= width || py >= height || data[(py * width + px) * 4 + 3] < SEWN_SHARE) {
      last = -bridge - 1;
      continue;
    }
    const gap = line.gapMm[i];
    const cover = (side: number): number => {
      const light = at(plate, goal, x + line.acrossX[i] * side * gap * ASIDE, y + line.acrossY[i] * side * gap * ASIDE);
      return (cloth - light) / (cloth - thread || 1);
    };
    const above = cover(1);
    const below = cover(-1);
    row.up[i] = halfFor(above, gap, WIDEST);
    row.down[i] = halfFor(below, gap, WIDEST);
    if (above + below < 2 * breakOff) continue;
    if (i - last <= bridge) row.sewn.fill(1, last + 1, i);
    row.sewn[i] = 1;
    last = i;
  }
  return row;
}

/** Widens a row where what was drawn is too near to the cloth, and narrows it where it is too near to the thread. */
function widen(row: WideRow, plate: Plate, drawn: Float32Array, wanted: Float32Array, gain: number): void {
  const { line } = row;
  const n = line.x.length;
  for (const side of [1, -1]) {
    const half = side > 0 ? row.up : row.down;
    const grown = new Float32Array(n);
    for (let i = 0; i < n; i++) {
      if (!row.sewn[i]) continue;
      const x = line.x[i] + line.acrossX[i] * side * line.gapMm[i] * ASIDE;
      const y = line.y[i] + line.acrossY[i] * side * line.gapMm[i] * ASIDE;
      const is = at(plate, drawn, x, y);
      const ought = at(plate, wanted, x, y);
      grown[i] = gain * line.gapMm[i] * (is - ought) * Math.cbrt(luminanceOf((is + ought) / 2)) ** 2;
    }
    const even = softPlane(grown, n, 1, EVEN_MM / ROW_STEP_MM);
    for (let i = 0; i < n; i++) half[i] = Math.min(WIDEST * line.gapMm[i], Math.max(0, half[i] + even[i]));
  }
}
