import { LINEAR } from '../colour/srgb.js';
import { JUMP, STITCH, StitchWriter } from '../sequence/stitch-list.js';
import { drawScene } from '../sewn-look/render.js';
import { segmentsOf } from '../sewn-look/segments.js';
import { ThreadShades } from '../sewn-look/threads.js';
import type { Plate } from './plate.js';
import { zigzagRows, type RowSettings } from './zigzag-rows.js';

const SIDE_MM = 16;
const SCALE = 10;
const ENTRIES = 32;

/** What rows of a thread can do on a cloth, measured. */
export interface CoverTable {
  /** Light (linear luminance) of the patch at growing strength; the first is bare cloth, the second the faintest row. */
  readonly light: Float64Array;
  /** Strength at which rows have a light; the nearest where they cannot. */
  strengthFor(light: number): number;
}

/**
 * Sews flat patches at growing strength and measures their light: what is left of the cloth, thinning, turns and shadows are
 * all in it. The table is made monotone, so that it can be read backwards.
 */
export function measureCover(settings: RowSettings, threadHex: string, clothHex: string): CoverTable {
  const light = new Float64Array(ENTRIES + 1);
  for (let k = 0; k <= ENTRIES; k++) light[k] = patchLight(settings, threadHex, clothHex, strengthAt(k));
  const falls = light[ENTRIES] < light[0];
  for (let k = 1; k <= ENTRIES; k++) {
    light[k] = falls ? Math.min(light[k], light[k - 1] - 1e-6) : Math.max(light[k], light[k - 1] + 1e-6);
  }
  return {
    light,
    strengthFor(wanted) {
      const sign = falls ? -1 : 1;
      let low = 0;
      let high = ENTRIES;
      if (sign * wanted <= sign * light[0]) return 0;
      if (sign * wanted >= sign * light[ENTRIES]) return 1;
      while (high - low > 1) {
        const mid = (low + high) >> 1;
        if (sign * light[mid] <= sign * wanted) low = mid;
        else high = mid;
      }
      return strengthAt(low + (wanted - light[low]) / (light[high] - light[low]));
    },
  };
}

/** Entries lie closer where rows are weak. */
const strengthAt = (k: number): number => (k / ENTRIES) ** 1.5;

function patchLight(settings: RowSettings, threadHex: string, clothHex: string, strength: number): number {
  const side = SIDE_MM * 2;
  const plate: Plate = {
    width: side,
    height: side,
    left: -SIDE_MM / 2,
    top: -SIDE_MM / 2,
    scale: 2,
    data: new Float32Array(0),
  };
  const writer = new StitchWriter();
  if (strength > 0) {
    const layer = zigzagRows(
      plate,
      { ...settings, thread: 0, leastCover: 0 },
      () => 1,
      () => strength,
    );
    for (const run of layer.runs) {
      writer.add(run[0], run[1], JUMP, 0, 0);
      for (let i = 0; i < run.length; i += 2) writer.add(run[i], run[i + 1], STITCH, 0, 0);
    }
  }
  // A window of whole rows, well inside.
  const rows = Math.max(2, Math.floor((SIDE_MM * 0.6) / settings.spacingMm));
  const pixels = Math.round(rows * settings.spacingMm * SCALE);
  const view = {
    width: pixels,
    height: pixels,
    scale: SCALE,
    left: -Math.floor(pixels / 2),
    top: -Math.floor(pixels / 2),
  };
  const hexes = [threadHex];
  const scene = {
    segments: segmentsOf(writer.finish()),
    shades: new ThreadShades(hexes),
    hexes,
    clothHex,
    patches: [],
  };
  let sum = 0;
  const drawn = drawScene(scene, view, 'sewn');
  for (const p of drawn) {
    sum += 0.2126 * LINEAR[p & 255] + 0.7152 * LINEAR[(p >> 8) & 255] + 0.0722 * LINEAR[(p >> 16) & 255];
  }
  return sum / drawn.length;
}
