import { linearOf } from '../../colour/srgb.js';
import { similarity } from '../../sewn-look/similarity.js';
import type { Flow } from '../flow.js';
import type { Layer } from '../methods/render-method.js';
import { SEWN_SHARE, type Plate } from '../plate.js';
import { flatCover } from './flat-cover.js';
import { ROW_STEP_MM, rowLines, type RowLine } from './row-lines.js';
import { sewRows, type WideRow } from './sew-rows.js';
import { softPlane } from './soft-plane.js';

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
  /** Whether the thread lies where the picture is dark or light; as it looks: where it is nearer to the thread than to the cloth. */
  readonly sews: 'natural' | 'dark' | 'light';
  /** Rows drop out where they would cover less than this share. */
  readonly breakOff: number;
  readonly trimOverMm: number;
  /** Rounds of comparing what was drawn with what is wanted. */
  readonly rounds: number;
}

/** How the eye mixes: a Gaussian of 0.5 mm. */
const SIGMA_MM = 0.5;
/** Widest half of a row, in shares of the distance of rows: neighbours overlap a little. */
const WIDEST = 0.57;
/** What a line of thread covers by itself, before it is any wider. */
const THREAD_MM = 0.15;
/** How wide a thread lies in the open. */
const LINE_MM = 0.4;
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

const lOf = (y: number): number => (y > 216 / 24389 ? 116 * Math.cbrt(y) - 16 : (y * 24389) / 27);
const lightOf = (l: number): number => (l > 8 ? ((l + 16) / 116) ** 3 : (l * 27) / 24389);
const luminance = ([r, g, b]: readonly [number, number, number]): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** Rows of one thread whose width above and below their middle follows the tones. */
export function* toneRows(plate: Plate, settings: ToneSettings): Generator<number, Layer & { ssim: number }> {
  const { width, height, scale } = plate;
  const cloth = luminance(linearOf(settings.clothHex));
  const thread = luminance(linearOf(settings.hex));
  const sigma = SIGMA_MM * scale;
  const goal = softPlane(wantedLight(plate, settings, cloth, thread), width, height, sigma);
  const wanted = goal.map(lOf);
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
    ).map(lOf);
    const ssim = similarity(coarse(drawn, width, height), coarse(wanted, width, height), width >> 1, height >> 1);
    if (ssim > best.ssim) best = { thread: 0, runs, openMm: 0, ssim };
    yield 0.2 + (0.8 * (round + 1)) / rounds;
    if (round === rounds - 1) break;
    const strong = gain * DAMPED ** Math.max(0, round + 1 - FULL_ROUNDS);
    for (const row of rows) widen(row, plate, drawn, wanted, strong);
  }
  return best;
}

/** Every second point both ways: similarity is looked at on a grid of 0.4 mm. */
function coarse(plane: Float32Array, width: number, height: number): Float32Array {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const at = y * 2 * width + x * 2;
      out[y * w + x] = (plane[at] + plane[at + 1] + plane[at + width] + plane[at + width + 1]) / 4;
    }
  }
  return out;
}

/** The light (linear) every point of a plate is to have, within what thread and cloth can reach; cloth where nothing is sewn. */
function wantedLight(
  { data }: Plate,
  { tones, darkest, lightest, sews, spacingMm, breakOff }: ToneSettings,
  cloth: number,
  thread: number,
): Float32Array {
  // A row that does not drop out is a line of thread at least.
  const faint = tones === 'fitted' && breakOff === 0 ? cloth + ((thread - cloth) * LINE_MM) / spacingMm : cloth;
  const low = lOf(Math.min(faint, thread));
  const high = lOf(Math.max(faint, thread));
  const isTurned = (sews === 'dark' && thread > cloth) || (sews === 'light' && thread < cloth);
  const out = new Float32Array(data.length / 4);
  for (let i = 0; i < out.length; i++) {
    const at = i * 4;
    if (data[at + 3] < SEWN_SHARE) {
      out[i] = cloth;
      continue;
    }
    let l = lOf(0.2126 * data[at] + 0.7152 * data[at + 1] + 0.0722 * data[at + 2]);
    if (tones === 'fitted') l = low + ((high - low) * (l - darkest)) / Math.max(1, lightest - darkest);
    l = Math.min(high, Math.max(low, l));
    out[i] = lightOf(isTurned ? low + high - l : l);
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
  const row: WideRow = { line, sewn: new Uint8Array(n), up: new Float32Array(n), down: new Float32Array(n) };
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
    const half = (c: number): number => Math.min(WIDEST * gap, Math.max(0, (c * gap - THREAD_MM) / 2));
    row.up[i] = half(above);
    row.down[i] = half(below);
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
      grown[i] = gain * line.gapMm[i] * (is - ought) * Math.cbrt(lightOf((is + ought) / 2)) ** 2;
    }
    const even = softPlane(grown, n, 1, EVEN_MM / ROW_STEP_MM);
    for (let i = 0; i < n; i++) half[i] = Math.min(WIDEST * line.gapMm[i], Math.max(0, half[i] + even[i]));
  }
}
