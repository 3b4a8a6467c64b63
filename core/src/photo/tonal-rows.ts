import { linearToLab } from '../colour/ciede2000.js';
import { lightnessOf, luminanceOf } from '../colour/lightness.js';
import { measureCover } from './cover-table.js';
import { samplePlate, SEWN_SHARE, type Plate } from './plate.js';
import type { Layer } from './methods/render-method.js';
import { zigzagRows, type RowSettings } from './zigzag-rows.js';

export interface TonalSettings extends Omit<RowSettings, 'thread' | 'leastCover'> {
  readonly hex: string;
  readonly clothHex: string;
  /** Light and dark exchanged, as for a light thread on dark cloth. */
  readonly invert: boolean;
  /** Lightness (L*) of the picture that is sewn as the darkest and the lightest tone. */
  readonly darkest: number;
  readonly lightest: number;
  /** Rows break off where they would cover less than this share. */
  readonly breakOff: number;
}

/** L* of the reachable range that a tone from 0 (dark) to 1 is sewn at: an even ramp stays even. */
export interface ToneRange {
  readonly dark: number;
  readonly light: number;
}

/**
 * Sews a picture in rows of one thread whose closeness follows its tones. The tones are laid evenly over the range
 * of lightness that thread and cloth can reach, which is measured.
 */
export function tonalRows(plate: Plate, settings: TonalSettings): { layer: Layer; range: ToneRange } {
  const rows: RowSettings = { ...settings, thread: 0, leastCover: settings.breakOff };
  const table = measureCover(rows, settings.hex, settings.clothHex);
  // Between bare cloth and the faintest row there is nothing: rows break off there.
  const faint = lightnessOf(table.light[1]);
  const full = lightnessOf(table.light[table.light.length - 1]);
  const sample = new Float32Array(4);
  const { darkest, lightest, invert } = settings;
  const span = Math.max(1, lightest - darkest);
  // Strength by tone, read off once: tones come in fine steps.
  const steps = 512;
  const strength = Float64Array.from({ length: steps + 1 }, (_, k) =>
    table.strengthFor(luminanceOf(faint + (full - faint) * (k / steps))),
  );
  const cover = (x: number, y: number): number => {
    samplePlate(plate, x, y, sample);
    if (sample[3] < SEWN_SHARE) return -1;
    const { l } = linearToLab(sample[0], sample[1], sample[2]);
    const tone = Math.min(1, Math.max(0, (l - darkest) / span));
    return invert ? tone : 1 - tone;
  };
  const layer = zigzagRows(plate, rows, cover, (c) => strength[Math.round(Math.min(1, c) * steps)]);
  return { layer, range: { dark: Math.min(faint, full), light: Math.max(faint, full) } };
}

/** Lightness (L*) of the darkest and the lightest hundredth of what is to be sewn. */
export function toneSpan({ data }: Plate): { low: number; high: number } {
  const counts = new Float64Array(101);
  let total = 0;
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3] < SEWN_SHARE) continue;
    counts[Math.round(Math.min(100, Math.max(0, linearToLab(data[i], data[i + 1], data[i + 2]).l)))]++;
    total++;
  }
  const at = (share: number): number => {
    let sum = 0;
    for (let l = 0; l <= 100; l++) {
      sum += counts[l];
      if (sum >= total * share) return l;
    }
    return 100;
  };
  return { low: at(0.01), high: Math.max(at(0.01) + 1, at(0.99)) };
}
