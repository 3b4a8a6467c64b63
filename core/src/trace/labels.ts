import { histogram, emptyShades, setShade } from '../colour/histogram.js';
import { reduce } from '../colour/reduce.js';
import { LINEAR, toByte, type Rgb } from '../colour/srgb.js';
import type { Character } from '../colour/suggest.js';
import { BARE_ALPHA, type Raster } from '../picture/raster.js';
import { dropSpecks, findComponents } from './components.js';
import { labelFlatArt, type FlatLabels } from './edge-shades.js';

/** Every pixel given to a colour. */
export interface LabelMap {
  readonly width: number;
  readonly height: number;
  /** 0 is bare, 1.. are entries of `palette`. */
  readonly labels: Uint8Array;
  readonly palette: readonly Rgb[];
  /** Label of the plain ground, 0 where there is none. */
  readonly ground: number;
  /** Whether edges carry the smoothing of flat art, so that they can be placed between pixels. */
  readonly smoothEdges: boolean;
}

export interface LabelSettings {
  /** Colours at most. */
  readonly count: number | 'auto';
  /** Areas under this many pixels join a neighbour. */
  readonly smallestSpot: number;
}

/** Gives every pixel one of a few colours, without edge shades and without specks, and finds a plain ground. */
export function labelPicture(raster: Raster, character: Character, settings: LabelSettings): LabelMap {
  const { width, height } = raster;
  const found = character.flat
    ? limitColours(labelFlatArt(raster, character.noisy), settings.count)
    : labelPhoto(raster, settings.count === 'auto' ? character.colours : settings.count);
  const { labels } = found;
  const speck = Math.max(1, Math.min(12, Math.round(width * height * 2.3e-5)));
  dropSpecks(labels, width, height, Math.max(speck, settings.smallestSpot));
  const { palette, ground } = separateGround(labels, width, height, found.palette);
  return { width, height, labels, palette, ground, smoothEdges: character.flat };
}

/** Merges the nearest colours of flat art until there are at most `count`; the commonest of a group stays. */
function limitColours(flat: FlatLabels, count: number | 'auto'): FlatLabels {
  const { palette, labels } = flat;
  if (count === 'auto' || palette.length <= count) return flat;
  const area = new Float64Array(palette.length);
  for (const label of labels) if (label > 0) area[label - 1]++;
  const shades = emptyShades(palette.length);
  palette.forEach((c, i) => setShade(shades, i, area[i] + 1, LINEAR[c.r], LINEAR[c.g], LINEAR[c.b]));
  const { assigned } = reduce(shades, count);
  const keeper = new Map<number, number>();
  palette.forEach((_, i) => {
    const best = keeper.get(assigned[i]);
    if (best === undefined || area[i] > area[best]) keeper.set(assigned[i], i);
  });
  const kept = [...keeper.values()].sort((a, b) => a - b);
  const renumber = new Uint8Array(palette.length + 1);
  palette.forEach((_, i) => (renumber[i + 1] = kept.indexOf(keeper.get(assigned[i]) as number) + 1));
  for (let i = 0; i < labels.length; i++) labels[i] = renumber[labels[i]];
  return { labels, palette: kept.map((i) => palette[i]) };
}

/** Labels of a photograph: nearest reduced colour, calmed by the majority of the neighbours. */
function labelPhoto(raster: Raster, count: number): FlatLabels {
  const shades = histogram(raster);
  const { assigned, count: k } = reduce(shades, count);
  const sums = new Float64Array(k * 4);
  const cellLabel = new Uint8Array(1 << 15);
  for (let i = 0; i < shades.count; i++) {
    const c = assigned[i];
    const w = shades.weight[i];
    for (let j = 0; j < 3; j++) sums[c * 4 + j] += w * shades.linear[i * 3 + j];
    sums[c * 4 + 3] += w;
  }
  // Shades come in the order of their histogram cells, so the cells can be walked again.
  const { data, width, height } = raster;
  const used = new Uint8Array(1 << 15);
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3] >= BARE_ALPHA) used[((data[i] >> 3) << 10) | ((data[i + 1] >> 3) << 5) | (data[i + 2] >> 3)] = 1;
  }
  for (let c = 0, at = 0; c < used.length; c++) if (used[c]) cellLabel[c] = assigned[at++] + 1;
  let labels = new Uint8Array(width * height);
  for (let i = 0; i < labels.length; i++) {
    const at = i * 4;
    if (data[at + 3] < BARE_ALPHA) continue;
    labels[i] = cellLabel[((data[at] >> 3) << 10) | ((data[at + 1] >> 3) << 5) | (data[at + 2] >> 3)];
  }
  for (let round = 0; round < 2; round++) labels = majority(labels, width, height);
  const palette: Rgb[] = [];
  for (let c = 0; c < k; c++) {
    const w = Math.max(1, sums[c * 4 + 3]);
    palette.push({ r: toByte(sums[c * 4] / w), g: toByte(sums[c * 4 + 1] / w), b: toByte(sums[c * 4 + 2] / w) });
  }
  return { labels, palette };
}

/** Each pixel takes the label that at least five of its 3 x 3 neighbourhood agree on. */
function majority(labels: Uint8Array, width: number, height: number): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(labels);
  const near = new Uint8Array(9);
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      let same = 0;
      let n = 0;
      for (let dy = -width; dy <= width; dy += width) {
        for (let dx = -1; dx <= 1; dx++) {
          const label = labels[i + dy + dx];
          near[n++] = label;
          if (label === labels[i]) same++;
        }
      }
      if (same >= 5) continue;
      for (let a = 0; a < 5; a++) {
        let votes = 0;
        for (let b = 0; b < 9; b++) if (near[b] === near[a]) votes++;
        if (votes >= 5) {
          out[i] = near[a];
          break;
        }
      }
    }
  }
  return out;
}

/** Share of the picture's border that must carry one colour for it to be a plain ground. */
const PLAIN_BORDER = 0.85;
/** Share of the whole picture it must fill; less is a frame drawn around the picture. */
const PLAIN_AREA = 0.18;

/**
 * If one colour fills most of the border, its areas that reach the border get a label of their own: the ground.
 * The same colour further inside stays what it is, unless there is only one other colour.
 */
function separateGround(
  labels: Uint8Array,
  width: number,
  height: number,
  palette: readonly Rgb[],
): { palette: Rgb[]; ground: number } {
  const border: number[] = [];
  for (let x = 0; x < width; x++) border.push(x, (height - 1) * width + x);
  for (let y = 1; y < height - 1; y++) border.push(y * width, y * width + width - 1);
  const votes = new Uint32Array(256);
  for (const i of border) votes[labels[i]]++;
  let plain = 1;
  for (let label = 2; label <= palette.length; label++) if (votes[label] > votes[plain]) plain = label;
  // A picture of one colour is all there is to sew.
  if (palette.length < 2 || votes[plain] < border.length * PLAIN_BORDER) return { palette: [...palette], ground: 0 };
  // A line drawing has ink and ground: what its lines enclose is ground as well.
  if (palette.length <= 2) return { palette: [...palette], ground: plain };
  const parts = findComponents(labels, width, height);
  const outside = new Uint8Array(parts.count);
  for (const i of border) if (labels[i] === plain) outside[parts.of[i]] = 1;
  const area = parts.area.reduce((sum, size, c) => sum + (outside[c] ? size : 0), 0);
  if (area < labels.length * PLAIN_AREA) return { palette: [...palette], ground: 0 };
  const ground = palette.length + 1;
  let inside = 0;
  for (let i = 0; i < labels.length; i++) {
    if (labels[i] !== plain) continue;
    if (outside[parts.of[i]]) labels[i] = ground;
    else inside++;
  }
  if (inside > 0) return { palette: [...palette, palette[plain - 1]], ground };
  // The colour occurs only as ground: it keeps its own number and no new one is needed.
  for (let i = 0; i < labels.length; i++) if (labels[i] === ground) labels[i] = plain;
  return { palette: [...palette], ground: plain };
}
