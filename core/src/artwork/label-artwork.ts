import { fromHex, isSame, toHex, type Rgb } from '../colour/srgb.js';
import { ringCoverage } from '../picture/coverage.js';
import { boundsOf } from '../geometry/polyline.js';
import type { Grid } from '../picture/place.js';
import type { FlatLabels } from '../trace/edge-shades.js';
import type { LabelMap } from '../trace/labels.js';
import { isBareStop, type ArtShape, type Gradient } from './artwork.js';
import type { PlacedShape } from './place-artwork.js';

/** Colours of the artwork, and where each shows. */
export interface ArtLabels extends FlatLabels {
  /** Entry of the palette of every shape, counted from 1. */
  readonly colourOf: readonly number[];
  /** Of every shape with a gradient the entries of its stops, 0 for bare cloth; undefined for others. */
  readonly stopsOf: readonly (readonly number[] | undefined)[];
  /** Shape that shows at every pixel, counted from 1; 0 is bare. */
  readonly shapeAt: Uint16Array;
}

/** Labels are small numbers; of more colours the nearest are one. */
const MOST_COLOURS = 120;

/** Colour of a shape over the cloth: what is not solid lets it through. */
export function shapeHex({ hex, opacity }: ArtShape, clothHex: string): string {
  if (opacity >= 0.995) return hex;
  const [a, b] = [fromHex(hex), fromHex(clothHex)];
  const mix = (over: number, under: number): number => Math.round(over * opacity + under * (1 - opacity));
  return toHex({ r: mix(a.r, b.r), g: mix(a.g, b.g), b: mix(a.b, b.b) });
}

/**
 * Paints the shapes on a grid, each with its colour, without smoothing: every colour of the artwork is kept, and no
 * shade of an edge becomes one.
 * @param seen a colour as the light of the picture changes it
 */
export function labelArtwork(
  shapes: readonly PlacedShape[],
  grid: Grid,
  clothHex: string,
  seen: (colour: Rgb) => Rgb,
): ArtLabels {
  const palette: Rgb[] = [];
  const known = new Map<string, number>();
  const entryOf = (hex: string): number => {
    let at = known.get(hex);
    if (at === undefined) {
      const colour = seen(fromHex(hex));
      at = palette.findIndex((c) => isSame(c, colour)) + 1;
      if (at === 0) at = palette.length < MOST_COLOURS ? palette.push(colour) : nearest(palette, colour) + 1;
      known.set(hex, at);
    }
    return at;
  };
  const stopsOf = shapes.map(({ gradient }) =>
    gradient?.stops.map(({ hex, opacity }) => (isBareStop(opacity) ? 0 : entryOf(hex))),
  );
  const colourOf = shapes.map(({ shape }, i) => stopsOf[i]?.find((at) => at > 0) ?? entryOf(shapeHex(shape, clothHex)));
  const labels = new Uint8Array(grid.width * grid.height);
  const shapeAt = new Uint16Array(labels.length);
  const scale = grid.width / grid.widthMm;
  const scaleY = grid.height / grid.heightMm;
  shapes.forEach(({ rings, gradient }, i) => {
    const box = boundsOf(rings);
    const left = Math.max(0, Math.floor((box.left - grid.left) * scale));
    const top = Math.max(0, Math.floor((box.top - grid.top) * scaleY));
    const width = Math.min(grid.width, Math.ceil((box.right - grid.left) * scale)) - left;
    const height = Math.min(grid.height, Math.ceil((box.bottom - grid.top) * scaleY)) - top;
    if (width <= 0 || height <= 0) return;
    const placed = rings.map((ring) =>
      ring.map((v, k) => (k % 2 === 0 ? (v - grid.left) * scale - left : (v - grid.top) * scaleY - top)),
    );
    const coverage = ringCoverage(placed, width, height);
    let most = 0;
    for (const c of coverage) if (c > most) most = c;
    if (most === 0) {
      // Too small for any pixel: it gets the one it lies in.
      const [x, y] = [Math.floor(placed[0][0]), Math.floor(placed[0][1])];
      coverage[Math.max(0, Math.min(height - 1, y)) * width + Math.max(0, Math.min(width - 1, x))] = most = 1;
    }
    // What is thinner than a pixel still shows where it covers most of one.
    const least = Math.max(1, Math.min(128, most));
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        if (coverage[y * width + x] < least) continue;
        const at = (y + top) * grid.width + x + left;
        labels[at] = gradient ? stopEntry(gradient, stopsOf[i] ?? [], grid, x + left, y + top) : colourOf[i];
        shapeAt[at] = i + 1;
      }
    }
  });
  return { labels, palette, colourOf, stopsOf, shapeAt };
}

/** Entry of the stop that is nearest along a gradient to a pixel; of those that are not bare. */
function stopEntry(gradient: Gradient, entries: readonly number[], grid: Grid, px: number, py: number): number {
  const x = grid.left + ((px + 0.5) / grid.width) * grid.widthMm;
  const y = grid.top + ((py + 0.5) / grid.height) * grid.heightMm;
  const [dx, dy] = [gradient.x2 - gradient.x1, gradient.y2 - gradient.y1];
  const length = Math.max(1e-9, Math.sqrt(dx * dx + dy * dy));
  const t =
    gradient.kind === 'linear'
      ? ((x - gradient.x1) * dx + (y - gradient.y1) * dy) / (length * length)
      : Math.sqrt((x - gradient.x1) ** 2 + (y - gradient.y1) ** 2) / length;
  let best = 0;
  let least = Infinity;
  gradient.stops.forEach(({ at }, k) => {
    const gap = Math.abs(at - Math.min(1, Math.max(0, t)));
    if (entries[k] > 0 && gap < least) [least, best] = [gap, entries[k]];
  });
  return best;
}

function nearest(palette: readonly Rgb[], { r, g, b }: Rgb): number {
  const gap = (c: Rgb): number => (c.r - r) ** 2 + (c.g - g) ** 2 + (c.b - b) ** 2;
  return palette.reduce((best, c, i) => (gap(c) < gap(palette[best]) ? i : best), 0);
}

/** Label of every entry of the artwork's palette, from 1; 0 where its colour shows nowhere. */
function labelsOfEntries(art: ArtLabels, map: LabelMap): Uint8Array {
  const labelOf = new Uint8Array(art.palette.length + 1);
  map.infos.forEach(({ shades }, i) => {
    if (i + 1 !== map.ground) for (const { index } of shades) labelOf[index + 1] = i + 1;
  });
  return labelOf;
}

/** Labels of the stops of every shape that has a gradient; 0 for bare cloth. */
export function labelsOfStops(art: ArtLabels, map: LabelMap): (readonly number[] | undefined)[] {
  const labelOf = labelsOfEntries(art, map);
  // A stop that is ground wherever it shows is still that colour: whether it is sewn is said of the ground.
  const ground = new Set(map.infos[map.ground - 1]?.shades.map(({ index }) => index + 1));
  for (const entry of ground) if (labelOf[entry] === 0) labelOf[entry] = map.ground;
  return art.stopsOf.map((entries) => entries?.map((entry) => labelOf[entry]));
}

/**
 * Labels of the shapes after colours were put together and the ground was found: that of their own colour, or the
 * ground's where most of what shows of them is ground.
 * @returns a label from 1 for every shape, 0 for one whose colour shows nowhere
 */
export function labelsOfShapes(art: ArtLabels, map: LabelMap): number[] {
  const labelOf = labelsOfEntries(art, map);
  const shown = new Uint32Array(art.colourOf.length + 1);
  const ground = new Uint32Array(art.colourOf.length + 1);
  for (let i = 0; i < art.shapeAt.length; i++) {
    shown[art.shapeAt[i]]++;
    if (map.labels[i] === map.ground) ground[art.shapeAt[i]]++;
  }
  return art.colourOf.map((colour, i) => {
    const isGround = map.ground > 0 && ground[i + 1] * 2 > shown[i + 1];
    return isGround ? map.ground : labelOf[colour];
  });
}
