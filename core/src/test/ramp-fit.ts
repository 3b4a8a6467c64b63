import { lightnessOf } from '../colour/lightness.js';
import { LINEAR } from '../colour/srgb.js';
import type { Points } from '../geometry/vector.js';
import { plateOf } from '../photo/plate.js';
import { tonalRows, type TonalSettings } from '../photo/tonal-rows.js';
import { JUMP, STITCH, StitchWriter, type StitchList } from '../sequence/stitch-list.js';
import { drawScene } from '../sewn-look/render.js';
import { segmentsOf } from '../sewn-look/segments.js';
import { ThreadShades } from '../sewn-look/threads.js';
import { greyRamp } from './photo-like.js';

/** Stretches of needle points as a stitch list of one thread. */
export function listOf(runs: readonly Points[]): StitchList {
  const writer = new StitchWriter();
  for (const run of runs) {
    writer.add(run[0], run[1], JUMP, 0, 0);
    for (let i = 0; i < run.length; i += 2) writer.add(run[i], run[i + 1], STITCH, 0, 0);
  }
  return writer.finish();
}

const WIDTH_MM = 120;
const HEIGHT_MM = 36;
const SCALE = 10;
const WINDOW = 40;

/** How evenly a grey ramp is sewn: slope against the ideal one, and how much of the change is even. */
export function rampFit(settings: TonalSettings): { slope: number; r2: number } {
  const box = { left: -WIDTH_MM / 2, top: -HEIGHT_MM / 2, width: WIDTH_MM, height: HEIGHT_MM };
  const { layer, range } = tonalRows(plateOf(greyRamp(1000, 300), box), settings);
  const scene = {
    segments: segmentsOf(listOf(layer.runs)),
    shades: new ThreadShades([settings.hex]),
    hexes: [settings.hex],
    clothHex: settings.clothHex,
    patches: [],
  };
  const width = WIDTH_MM * SCALE;
  const height = HEIGHT_MM * SCALE;
  const view = { width, height, scale: SCALE, left: -width / 2, top: -height / 2 };
  const pixels = drawScene(scene, view, 'sewn');
  const xs: number[] = [];
  const ys: number[] = [];
  for (let x = WINDOW; x + WINDOW <= width - WINDOW; x += WINDOW) {
    let [sum, n] = [0, 0];
    for (let y = Math.round(height * 0.15); y < height * 0.85; y++) {
      for (let k = x; k < x + WINDOW; k++) {
        const p = pixels[y * width + k];
        sum += 0.2126 * LINEAR[p & 255] + 0.7152 * LINEAR[(p >> 8) & 255] + 0.0722 * LINEAR[(p >> 16) & 255];
        n++;
      }
    }
    const light = sum / n;
    const l = lightnessOf(light);
    xs.push((x + WINDOW / 2) / width);
    ys.push((l - range.dark) / (range.light - range.dark));
  }
  const mean = (list: number[]): number => list.reduce((a, b) => a + b, 0) / list.length;
  const [mx, my] = [mean(xs), mean(ys)];
  let [xy, xx, yy] = [0, 0, 0];
  xs.forEach((x, i) => {
    xy += (x - mx) * (ys[i] - my);
    xx += (x - mx) ** 2;
    yy += (ys[i] - my) ** 2;
  });
  return { slope: xy / xx, r2: (xy * xy) / (xx * yy) };
}
