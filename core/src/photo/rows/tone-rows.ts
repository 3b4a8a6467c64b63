import { boundsOf } from '../../geometry/polyline.js';
import { lightnessOf, luminance, luminanceOf } from '../../colour/lightness.js';
import { linearOf } from '../../colour/srgb.js';
import type { Points } from '../../geometry/vector.js';
import { similarity } from '../../sewn-look/similarity.js';
import type { Flow } from '../flow.js';
import type { Layer } from '../methods/render-method.js';
import { SEWN_SHARE, type Plate } from '../plate.js';
import { flatCover, THREAD_MM } from './flat-cover.js';
import { ROW_STEP_MM, rowLines, rowShape, type RowLine } from './row-lines.js';
import { halfFor, sewRows, SIGMA_MM } from './sew-rows.js';
import { halved, softPlane } from './soft-plane.js';
import { bareRow, type WideRow } from './wide-row.js';

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
  /** Rings, in mm on the cloth, that count as much as all the rest; left out for none. */
  readonly favoured?: readonly Points[];
}

/** Widest half of a row, in shares of the distance of rows: neighbours overlap a little. */
const WIDEST = 0.57;
/** Growth of a half for a difference of one in L*, in shares of the distance of rows. */
const GAIN = 0.011;
/** Rounds at full gain; later ones are damped by this each. */
const FULL_ROUNDS = 6;
const DAMPED = 0.72;
/** Where rows may lie, in shares of their distance, and rounds each of it is looked at for. */
const SHIFTS = [0, 0.25, 0.5, 0.75];
const TRIAL_ROUNDS = 3;
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
  const target = wantedLight(plate, settings, cloth, thread);
  const goal = softPlane(target, width, height, sigma);
  const wanted = goal.map(lightnessOf);
  const seenWanted = seenFrom(target, plate);
  yield 0.1;
  const sign = cloth > thread ? 1 : -1;
  const gain = (GAIN * sign * 0.85) / Math.max(0.05, Math.abs(cloth - thread));
  const rounds = Math.max(1, settings.rounds);
  const likeness = likenessTo(seenWanted, plate, settings.favoured ?? []);
  /** Sews the rows, and compares what is drawn with what is wanted. */
  const draw = (rows: readonly WideRow[]): { runs: Points[]; drawn: Float32Array; ssim: number } => {
    const runs = sewRows(rows, settings);
    const light = flatCover(plate, runs).map((c) => cloth + (thread - cloth) * c);
    const drawn = softPlane(light, width, height, sigma).map(lightnessOf);
    const ssim = likeness(seenFrom(light, plate));
    return { runs, drawn, ssim };
  };
  // An eye is as high as a row or two: where rows lie decides whether it is seen. All places are tried, the best is gone on with.
  const shifts = rowShape(settings.shape).shifts && rounds > TRIAL_ROUNDS ? SHIFTS : [0];
  const trials = shifts.length > 1 ? TRIAL_ROUNDS : rounds;
  const most = (shifts.length - 1) * trials + rounds;
  let done = 0;
  let best: { readonly runs: Points[]; readonly ssim: number; readonly rows: readonly WideRow[] } = {
    runs: [],
    ssim: -1,
    rows: [],
  };
  /** Draws rows and widens them where they are too light, round by round; the best of all rounds is kept. */
  function* refine(rows: readonly WideRow[], from: number, to: number): Generator<number, void> {
    for (let round = from; round < to; round++) {
      const { runs, drawn, ssim } = draw(rows);
      if (ssim > best.ssim) best = { runs, ssim, rows };
      const strong = gain * DAMPED ** Math.max(0, round + 1 - FULL_ROUNDS);
      for (const row of rows) widen(row, plate, drawn, wanted, strong);
      yield 0.1 + (0.9 * ++done) / most;
    }
  }
  for (const shift of shifts) {
    const lines = rowLines(plate, settings.shape, { ...settings, shift });
    yield* refine(
      lines.map((line) => firstWidths(line, plate, goal, cloth, thread, settings)),
      0,
      trials,
    );
  }
  yield* refine(best.rows, trials, rounds);
  return { thread: 0, runs: best.runs, openMm: 0, ssim: best.ssim };
}

/** The lightness of a plane of light on a grid of 0.4 mm, blurred as likeness is measured. */
function seenFrom(light: Float32Array, { width, height, scale }: Plate): Float32Array {
  const sigma = Math.sqrt((SIGMA_MM * scale) ** 2 - 4 / 12) / 2;
  return softPlane(halved(light, width, height), width >> 1, height >> 1, sigma).map(lightnessOf);
}

/** How similar to a plane others are on a grid of 0.4 mm; what is favoured counts as much as the whole. */
function likenessTo(
  wanted: Float32Array,
  { width, height, left, top, scale }: Plate,
  favoured: readonly Points[],
): (seen: Float32Array) => number {
  const [w, h] = [width >> 1, height >> 1];
  const perMm = scale / 2;
  const boxes = favoured.map((ring) => {
    const box = boundsOf([ring]);
    const x0 = Math.min(w - 1, Math.max(0, Math.floor((box.left - left) * perMm)));
    const y0 = Math.min(h - 1, Math.max(0, Math.floor((box.top - top) * perMm)));
    const x1 = Math.min(w, Math.max(x0 + 1, Math.ceil((box.right - left) * perMm)));
    const y1 = Math.min(h, Math.max(y0 + 1, Math.ceil((box.bottom - top) * perMm)));
    return { x0, y0, wide: x1 - x0, high: y1 - y0 };
  });
  return (seen) => {
    const whole = similarity(seen, wanted, w, h);
    if (boxes.length === 0) return whole;
    const parts = boxes.map(({ x0, y0, wide, high }) => {
      const [a, b] = [seen, wanted].map((plane) =>
        Float32Array.from({ length: wide * high }, (_, i) => plane[(y0 + Math.floor(i / wide)) * w + x0 + (i % wide)]),
      );
      return similarity(a, b, wide, high);
    });
    return (whole + parts.reduce((sum, part) => sum + part, 0) / parts.length) / 2;
  };
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
