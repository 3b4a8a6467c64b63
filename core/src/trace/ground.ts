import { ciede2000, rgbToLab, type Lab } from '../colour/ciede2000.js';
import type { Rgb } from '../colour/srgb.js';
import { BARE_ALPHA, createRaster, type Raster } from '../picture/raster.js';
import { findComponents } from './components.js';
import type { GroundSettings } from './ground-settings.js';

/** Share of the picture's border that must carry one colour for it to be a plain ground. */
const PLAIN_BORDER = 0.85;
/** Where art touches the edge, this much is enough of a colour that looks like paper. */
const PAPER_BORDER = 0.35;
/** Paper is at least so light (L*), and so little coloured. */
const PAPER_LIGHT = 91;
const PAPER_CHROMA = 8;
/** Share of the whole picture it must fill; less is a frame drawn around the picture. */
const PLAIN_AREA = 0.18;

/** Pixels at the border of the picture or of its mask: where a ground would be. */
function rimOf(width: number, height: number, mask: Uint8Array | undefined): number[] {
  const rim: number[] = [];
  if (!mask) {
    for (let x = 0; x < width; x++) rim.push(x, (height - 1) * width + x);
    for (let y = 1; y < height - 1; y++) rim.push(y * width, y * width + width - 1);
    return rim;
  }
  const inside = (x: number, y: number): boolean =>
    x >= 0 && y >= 0 && x < width && y < height && mask[y * width + x] >= BARE_ALPHA;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (!inside(x, y)) continue;
      if (!inside(x - 1, y) || !inside(x + 1, y) || !inside(x, y - 1) || !inside(x, y + 1)) rim.push(y * width + x);
    }
  }
  return rim;
}

/**
 * If one colour fills most of the border, or a good part of it and looks like paper, its areas that reach the border get a label of their own: the ground.
 * The same colour further inside stays what it is, unless it is asked for or there is only one other colour.
 */
export function separateGround(
  labels: Uint8Array,
  width: number,
  height: number,
  palette: readonly Rgb[],
  settings: GroundSettings,
  mask?: Uint8Array,
): { palette: Rgb[]; ground: number } {
  const none = { palette: [...palette], ground: 0 };
  const rim = rimOf(width, height, mask);
  const votes = new Uint32Array(256);
  for (const i of rim) votes[labels[i]]++;
  let plain = 1;
  for (let label = 2; label <= palette.length; label++) if (votes[label] > votes[plain]) plain = label;
  if (settings.colour) plain = nearestLabel(palette, settings.colour, settings.tolerance);
  else if (votes[plain] < rim.length * PLAIN_BORDER) plain = paperAtRim(palette, votes, rim.length) ?? plain;
  // A picture of one colour is all there is to sew.
  if ((palette.length < 2 && !settings.colour) || plain === 0) return none;
  const lab = rgbToLab(settings.colour ?? palette[plain - 1]);
  const isGround = new Uint8Array(256);
  palette.forEach((c, i) => {
    if (i + 1 === plain || ciede2000(lab, rgbToLab(c)) <= settings.tolerance) isGround[i + 1] = 1;
  });
  const share = rim.reduce((sum, i) => sum + isGround[labels[i]], 0);
  if (!settings.colour && share < rim.length * (isPaper(lab) ? PAPER_BORDER : PLAIN_BORDER)) return none;
  // A line drawing has ink and ground: what its lines enclose is ground as well.
  const everywhere = settings.everywhere || ((!settings.colour || settings.found) && palette.length <= 2);
  if (palette.length <= 2 && everywhere) return { palette: [...palette], ground: plain };
  const parts = findComponents(labels, width, height);
  const outside = new Uint8Array(parts.count);
  if (everywhere) parts.label.forEach((label, c) => (outside[c] = isGround[label]));
  else spread(parts.of, rim, labels, isGround, outside, width, height);
  const area = parts.area.reduce((sum, size, c) => sum + (outside[c] ? size : 0), 0);
  if (!settings.colour && area < labels.length * PLAIN_AREA) return none;
  if (area === 0) return none;
  const ground = palette.length + 1;
  let inside = 0;
  for (let i = 0; i < labels.length; i++) {
    if (outside[parts.of[i]]) labels[i] = ground;
    else if (labels[i] === plain) inside++;
  }
  if (inside > 0) return { palette: [...palette, palette[plain - 1]], ground };
  // The colour occurs only as ground: it keeps its own number and no new one is needed.
  for (let i = 0; i < labels.length; i++) if (labels[i] === ground) labels[i] = plain;
  return { palette: [...palette], ground: plain };
}

const isPaper = ({ l, a, b }: Lab): boolean => l >= PAPER_LIGHT && a * a + b * b <= PAPER_CHROMA * PAPER_CHROMA;

/** Label of what looks like paper on a good part of the rim, where something does. */
function paperAtRim(palette: readonly Rgb[], votes: Uint32Array, rim: number): number | undefined {
  const label = palette.reduce((best, colour, i) => {
    const more = votes[i + 1] > (best > 0 ? votes[best] : 0);
    return more && isPaper(rgbToLab(colour)) ? i + 1 : best;
  }, 0);
  return label > 0 && votes[label] >= rim * PAPER_BORDER ? label : undefined;
}

function nearestLabel(palette: readonly Rgb[], colour: Rgb, tolerance: number): number {
  const lab = rgbToLab(colour);
  let best = 0;
  let least = Math.max(tolerance, 6);
  palette.forEach((c, i) => {
    const d = ciede2000(lab, rgbToLab(c));
    if (d <= least) {
      least = d;
      best = i + 1;
    }
  });
  return best;
}

/** Marks the areas of ground colour that reach the rim, directly or through another area of ground colour. */
function spread(
  of: Int32Array,
  rim: readonly number[],
  labels: Uint8Array,
  isGround: Uint8Array,
  outside: Uint8Array,
  width: number,
  height: number,
): void {
  for (const i of rim) if (isGround[labels[i]]) outside[of[i]] = 1;
  // Areas of one colour that touch are one area already.
  if (isGround.reduce((sum, g) => sum + g, 0) < 2) return;
  const meet = (a: number, b: number): boolean => {
    if (of[a] === of[b] || !isGround[labels[a]] || !isGround[labels[b]] || outside[of[a]] === outside[of[b]])
      return false;
    outside[of[a]] = 1;
    outside[of[b]] = 1;
    return true;
  };
  for (let again = true; again;) {
    again = false;
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const i = y * width + x;
        if (x + 1 < width && meet(i, i + 1)) again = true;
        if (y + 1 < height && meet(i, i + width)) again = true;
      }
    }
  }
}

/**
 * The colour that most of a picture's border has, if it is plain: what lies beyond the picture then looks like it too.
 */
export function plainBorder(raster: Raster): Rgb | undefined {
  const { width, height, data } = raster;
  const rim = rimOf(width, height, undefined);
  const opaque = rim.filter((i) => data[i * 4 + 3] >= BARE_ALPHA);
  if (opaque.length < rim.length * PLAIN_BORDER) return undefined;
  const colour = medianOf(data, opaque);
  const near = nearness(colour);
  const like = opaque.filter((i) => near(data, i * 4) <= MOST_SPREAD);
  return like.length >= rim.length * PLAIN_BORDER ? colour : undefined;
}

/** Spread of a ground's own shades that is added to the tolerance, at most. */
const MOST_SPREAD = 6;

/**
 * Finds the ground of a photograph pixel by pixel, from the border inwards or everywhere, and clears it: cleared
 * pixels are bare in the picture given back, and what the ground's colour has left on the edge is taken out of it.
 * @returns undefined where there is no plain ground
 */
export function clearGround(
  raster: Raster,
  settings: GroundSettings,
  mask?: Uint8Array,
): { picture: Raster; ground: Uint8Array; colour: Rgb } | undefined {
  const { width, height, data } = raster;
  const rim = rimOf(width, height, mask).filter((i) => data[i * 4 + 3] >= BARE_ALPHA);
  if (rim.length === 0) return undefined;
  const colour = settings.colour ?? medianOf(data, rim);
  const near = nearness(colour);
  let tolerance = settings.tolerance;
  if (!settings.colour) {
    const far = rim.map((i) => near(data, i * 4)).sort((a, b) => a - b);
    // The ground's own noise: what most of the border differs by.
    tolerance += Math.min(MOST_SPREAD, far[Math.floor(far.length * PLAIN_BORDER)]);
    if (far.filter((d) => d <= tolerance).length < rim.length * PLAIN_BORDER) return undefined;
    if (far[Math.floor(far.length * PLAIN_BORDER)] > MOST_SPREAD) return undefined;
  }
  const ground = new Uint8Array(width * height);
  const belongs = (i: number): boolean => data[i * 4 + 3] >= BARE_ALPHA && near(data, i * 4) <= tolerance;
  if (settings.everywhere) for (let i = 0; i < ground.length; i++) ground[i] = belongs(i) ? 1 : 0;
  else flood(ground, rim, belongs, width, height);
  const size = ground.reduce((sum, g) => sum + g, 0);
  if (size === 0 || size === ground.length || (!settings.colour && size < ground.length * PLAIN_AREA)) return undefined;
  const picture = createRaster(width, height, data.slice());
  cleanEdge(picture, ground, colour);
  for (let i = 0; i < ground.length; i++) if (ground[i]) picture.data[i * 4 + 3] = 0;
  return { picture, ground, colour };
}

function medianOf(data: Uint8ClampedArray, pixels: readonly number[]): Rgb {
  const channel = (j: number): number => {
    const counts = new Uint32Array(256);
    for (const i of pixels) counts[data[i * 4 + j]]++;
    let passed = 0;
    for (let v = 0; v < 256; v++) {
      passed += counts[v];
      if (passed * 2 >= pixels.length) return v;
    }
    return 255;
  };
  return { r: channel(0), g: channel(1), b: channel(2) };
}

/** Difference (CIEDE2000) of pixels from a colour; each shade is computed once. */
function nearness(colour: Rgb): (data: Uint8ClampedArray, at: number) => number {
  const lab = rgbToLab(colour);
  const known = new Map<number, number>();
  return (data, at) => {
    const key = (data[at] << 16) | (data[at + 1] << 8) | data[at + 2];
    let d = known.get(key);
    if (d === undefined) {
      const other: Lab = rgbToLab({ r: data[at], g: data[at + 1], b: data[at + 2] });
      known.set(key, (d = ciede2000(lab, other)));
    }
    return d;
  };
}

function flood(
  ground: Uint8Array,
  rim: readonly number[],
  belongs: (i: number) => boolean,
  width: number,
  height: number,
): void {
  const open: number[] = [];
  const visit = (i: number): void => {
    if (ground[i] || !belongs(i)) return;
    ground[i] = 1;
    open.push(i);
  };
  for (const i of rim) visit(i);
  for (let i = open.pop(); i !== undefined; i = open.pop()) {
    const x = i % width;
    if (x > 0) visit(i - 1);
    if (x < width - 1) visit(i + 1);
    if (i >= width) visit(i - width);
    if (i < width * (height - 1)) visit(i + width);
  }
}

/** How far from the ground its colour still shows in the edge, in pixels. */
const EDGE = 3;

/**
 * Pixels near the ground that lie between its colour and that of what is further inside are mixtures: the half nearer
 * to the ground becomes ground, the other half takes the inner colour.
 */
function cleanEdge(picture: Raster, ground: Uint8Array, colour: Rgb): void {
  const { width, height, data } = picture;
  const depth = new Uint8Array(width * height);
  let shore: number[] = [];
  const neighbours = (i: number): number[] => {
    const x = i % width;
    const list: number[] = [];
    if (x > 0) list.push(i - 1);
    if (x < width - 1) list.push(i + 1);
    if (i >= width) list.push(i - width);
    if (i < width * (height - 1)) list.push(i + width);
    return list;
  };
  for (let i = 0; i < ground.length; i++) {
    if (!ground[i] && neighbours(i).some((n) => ground[n])) {
      depth[i] = 1;
      shore.push(i);
    }
  }
  const layers = [shore];
  for (let d = 2; d <= EDGE + 1; d++) {
    const next: number[] = [];
    for (const i of shore) {
      for (const n of neighbours(i)) {
        if (ground[n] || depth[n]) continue;
        depth[n] = d;
        next.push(n);
      }
    }
    layers.push(next);
    shore = next;
  }
  const inner = (i: number): number => {
    let at = i;
    for (let d = depth[i]; d <= EDGE; d++) at = neighbours(at).find((n) => !ground[n] && depth[n] === d + 1) ?? at;
    return at;
  };
  const edits: [number, number, number][] = [];
  for (const layer of layers.slice(0, EDGE)) {
    for (const i of layer) {
      const from = inner(i);
      if (from === i) continue;
      const t = shareOf(data, i * 4, from * 4, colour);
      if (t !== undefined) edits.push([i, from, t]);
    }
  }
  const before = data.slice();
  for (const [i, from, t] of edits) {
    if (t < 0.5) ground[i] = 1;
    else data.set(before.subarray(from * 4, from * 4 + 3), i * 4);
  }
}

/** How much of the inner colour a pixel has, if it is a mixture of it and the ground's. */
function shareOf(data: Uint8ClampedArray, at: number, inner: number, ground: Rgb): number | undefined {
  const d = [data[inner] - ground.r, data[inner + 1] - ground.g, data[inner + 2] - ground.b];
  const square = d[0] * d[0] + d[1] * d[1] + d[2] * d[2];
  if (square < 400) return undefined;
  const p = [data[at] - ground.r, data[at + 1] - ground.g, data[at + 2] - ground.b];
  const t = (p[0] * d[0] + p[1] * d[1] + p[2] * d[2]) / square;
  if (t > 0.97) return undefined;
  const rest = p[0] * p[0] + p[1] * p[1] + p[2] * p[2] - t * t * square;
  return rest <= Math.max(900, square * 0.03) ? Math.max(0, t) : undefined;
}
