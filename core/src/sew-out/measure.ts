import { fromHex } from '../colour/srgb.js';
import type { Design } from '../design/design.js';
import { distance } from '../geometry/vector.js';
import { createRaster, type Raster } from '../picture/raster.js';
import { stitchBounds } from '../sequence/stitch-list.js';
import { drawScene, sceneOf } from '../sewn-look/render.js';
import { laidAt, scaleAt, type Overlay } from './lay-over.js';
import { probesOf, type Probe } from './probes.js';

/** Something that was measured: as it was drawn, and as it was sewn, by the same way of reading. */
export interface Measurement extends Probe {
  readonly asDrawnMm: number;
  readonly asSewnMm: number;
}

/** How much thread there is at a place, in mm around the hoop's centre: more where there is more, on a scale of its own. */
type ThreadAt = (x: number, y: number, thread: number) => number;

/** Profiles are read in such steps along the probe, and such ones across its band. */
const STEP_MM = 0.04;
const BAND_STEP_MM = 0.11;
/** They reach so far beyond the edges as drawn, and the cloth is read at their ends. */
const BEYOND_MM = 0.85;
const CLOTH_MM = 0.25;
/** Single threads are smoothed together over so much. */
const SMOOTH_MM = 0.12;
/** Less difference between thread and cloth is none. */
const LEAST_CONTRAST = 0.12;
/** What is as sewn differs from what is as drawn by no more than this: else something else was read. */
const MOST_MM = 2.4;
const GAP_REACH_MM = 1.7;
const GAP_PLAIN_MM = 1;

/** Pixels a mm at which stitches are drawn to be read, where that many are affordable. */
const [LEAST_SCALE, MOST_SCALE] = [4, 16];
const AROUND_MM = 2;
const MOST_PIXELS = 12_000_000;

/**
 * Measures a sewn design on a photograph of it.
 * @param overlay from mm around the hoop's centre to pixels of the photograph
 */
export function measureSewn(design: Design, photo: Raster, overlay: Overlay): Measurement[] {
  const probes = probesOf(design);
  const drawn = drawnThreads(design, overlay);
  const seen = seenThreads(design, photo, overlay);
  const threads = design.pieces.map(({ thread }) => thread);
  const widths = probes.flatMap((probe) => {
    if (probe.kind === 'gap') return [];
    const asDrawn = widthOf(drawn, probe, threads[probe.piece]);
    const asSewn = widthOf(seen, probe, threads[probe.piece]);
    if (!asDrawn || !asSewn || Math.abs(asDrawn.mm - asSewn.mm) > MOST_MM) return [];
    const measured: Measurement = { ...probe, asDrawnMm: asDrawn.mm, asSewnMm: asSewn.mm };
    return [{ measured, cloth: { drawn: asDrawn.cloth, seen: asSewn.cloth } }];
  });
  const gaps = probes.flatMap((probe): Measurement[] => {
    if (probe.kind !== 'gap' || widths.length === 0) return [];
    // Light changes over a photograph: the cloth is that of the nearest place where it was read.
    const near = widths.reduce((a, b) =>
      distance(b.measured.x, b.measured.y, probe.x, probe.y) < distance(a.measured.x, a.measured.y, probe.x, probe.y)
        ? b
        : a,
    );
    const asDrawnMm = gapOf(drawn, probe, threads[probe.piece], near.cloth.drawn);
    const asSewnMm = gapOf(seen, probe, threads[probe.piece], near.cloth.seen);
    return asDrawnMm === undefined || asSewnMm === undefined ? [] : [{ ...probe, asDrawnMm, asSewnMm }];
  });
  return [...widths.map(({ measured }) => measured), ...gaps];
}

/** The design as it would look if nothing pulled, at about the scale of the photograph: read as that is, it says what is due to the pull. */
function drawnThreads(design: Design, overlay: Overlay): ThreadAt {
  const box = stitchBounds(design.stitches) ?? { left: 0, top: 0, right: 1, bottom: 1 };
  const [left, top] = [box.left - AROUND_MM, box.top - AROUND_MM];
  const [wide, high] = [box.right + AROUND_MM - left, box.bottom + AROUND_MM - top];
  const seen = scaleAt(overlay, (box.left + box.right) / 2, (box.top + box.bottom) / 2);
  const most = Math.min(MOST_SCALE, Math.sqrt(MOST_PIXELS / (wide * high)));
  const scale = Math.max(LEAST_SCALE, Math.min(most, Math.round(seen)));
  const [width, height] = [Math.ceil(wide * scale), Math.ceil(high * scale)];
  const view = { width, height, scale, left: Math.floor(left * scale), top: Math.floor(top * scale) };
  const drawn = drawScene(sceneOf(design), view, 'sewn');
  const picture = createRaster(width, height, new Uint8ClampedArray(drawn.buffer));
  return seenThreads(design, picture, [scale, 0, -view.left, 0, scale, -view.top, 0, 0, 1]);
}

/** Pixels of a photograph on the way from the colour of the cloth to that of a thread. */
function seenThreads({ threads, fabric }: Design, { width, height, data }: Raster, overlay: Overlay): ThreadAt {
  const cloth = fromHex(fabric.hex);
  const ways = threads.map(({ hex }) => {
    const { r, g, b } = fromHex(hex);
    const way = [r - cloth.r, g - cloth.g, b - cloth.b];
    const square = way.reduce((sum, v) => sum + v * v, 0) || 1;
    return way.map((v) => v / square);
  });
  return (x, y, thread) => {
    const place = laidAt(overlay, x, y);
    const [px, py] = [place.x - 0.5, place.y - 0.5];
    const [i, j] = [Math.floor(px), Math.floor(py)];
    if (i < 0 || j < 0 || i + 1 >= width || j + 1 >= height) return NaN;
    const [fx, fy] = [px - i, py - j];
    const at = (j * width + i) * 4;
    let sum = 0;
    for (let c = 0; c < 3; c++) {
      const above = data[at + c] * (1 - fx) + data[at + 4 + c] * fx;
      const below = data[at + width * 4 + c] * (1 - fx) + data[at + width * 4 + 4 + c] * fx;
      sum += (above * (1 - fy) + below * fy) * ways[thread][c];
    }
    return sum;
  };
}

/** Mean of thread along a probe, step by step, over its band. */
function profileOf(threadAt: ThreadAt, { x, y, ux, uy, bandMm }: Probe, reachMm: number, thread: number): Float64Array {
  const half = Math.round(reachMm / STEP_MM);
  const bands = Math.max(1, Math.round(bandMm / BAND_STEP_MM));
  const raw = Float64Array.from({ length: 2 * half + 1 }, (_, i) => {
    const t = (i - half) * STEP_MM;
    let sum = 0;
    for (let k = -bands; k <= bands; k++) {
      const v = (k / bands) * bandMm;
      sum += threadAt(x + ux * t - uy * v, y + uy * t + ux * v, thread);
    }
    return sum / (2 * bands + 1);
  });
  const reach = Math.round(SMOOTH_MM / STEP_MM);
  return raw.map((_, i) => meanOf(raw, i - reach, i + reach));
}

function meanOf(values: Float64Array, from: number, to: number): number {
  let [sum, count] = [0, 0];
  for (let i = Math.max(0, from); i <= Math.min(values.length - 1, to); i++, count++) sum += values[i];
  return sum / count;
}

/** How far apart both edges lie, each where thread and cloth are half and half; and the cloth beside them. */
function widthOf(threadAt: ThreadAt, probe: Probe, thread: number): { mm: number; cloth: number } | undefined {
  const reach = probe.drawnMm / 2 + BEYOND_MM;
  const profile = profileOf(threadAt, probe, reach, thread);
  const last = profile.length - 1;
  const middle = last / 2;
  const cloth = Math.round(CLOTH_MM / STEP_MM);
  const plain = Math.round(Math.max(probe.drawnMm / 2 - 1, probe.drawnMm * 0.15) / STEP_MM);
  const inside = meanOf(profile, middle - plain, middle + plain);
  const edge = (way: 1 | -1): { at: number; outside: number } | undefined => {
    const outside = way > 0 ? meanOf(profile, last - cloth, last) : meanOf(profile, 0, cloth);
    if (!(inside - outside > LEAST_CONTRAST)) return undefined;
    const level = (inside + outside) / 2;
    // From the cloth inwards: the first place that is more thread than cloth.
    for (let i = way > 0 ? last : 0; i !== middle; i -= way) {
      if (profile[i] < level) continue;
      const before = profile[i + way] ?? outside;
      return { at: i + (way * (profile[i] - level)) / Math.max(1e-9, profile[i] - before), outside };
    }
    return undefined;
  };
  const [from, to] = [edge(-1), edge(1)];
  if (!from || !to) return undefined;
  return { mm: (to.at - from.at) * STEP_MM, cloth: (from.outside + to.outside) / 2 };
}

/** Bare cloth between two fields, in mm: what thread is missing there. */
function gapOf(threadAt: ThreadAt, probe: Probe, thread: number, cloth: number): number | undefined {
  const profile = profileOf(threadAt, probe, GAP_REACH_MM, thread);
  const last = profile.length - 1;
  const plain = Math.round((GAP_REACH_MM - GAP_PLAIN_MM) / STEP_MM);
  const inside = (meanOf(profile, 0, plain) + meanOf(profile, last - plain, last)) / 2;
  if (!(inside - cloth > LEAST_CONTRAST)) return undefined;
  let missing = 0;
  for (let i = plain; i <= last - plain; i++) missing += (inside - profile[i]) / (inside - cloth);
  return Math.max(0, missing * STEP_MM);
}
