import { chooseColours, chooseThreads } from './choose-threads.js';
import { emptyShades, histogram, setShade, type Shades } from './colour/histogram.js';
import { fromHex, LINEAR } from './colour/srgb.js';
import { reduceColours } from './convert-colours.js';
import { traceStep, type ConvertInput } from './convert.js';
import { placeCurve, type Curve } from './geometry/curve.js';
import { isInside } from './geometry/polyline.js';
import { hoopToSource, sourceToHoop } from './picture/frame.js';
import { curvePath, type DrawnPath } from './pieces/drawn.js';
import type { Anchor } from './trace/colour-decisions.js';
import { COLOUR_BITS } from './trace/line-parts.js';
import { createRaster, type Raster } from './picture/raster.js';
import { StepCache } from './step-cache.js';

/** What colours are looked up without a pause between steps. */
const atOnce = (): Promise<void> => Promise.resolve();

/**
 * The picture as it is to be sewn: at its working size, bare where the recipe leaves it bare. Likeness is measured
 * against it. With the cache of the conversion it costs next to nothing.
 */
export async function preparedPicture(input: ConvertInput, cache = new StepCache()): Promise<Raster> {
  const { prepared, map } = await reduceColours(input, 'full', cache, atOnce);
  const { bare } = chooseColours(map, input.recipe, prepared);
  if (bare.size === 0) return prepared.picture;
  const { width, height, data } = prepared.picture;
  const out = createRaster(width, height, data.slice());
  for (let i = 0; i < map.labels.length; i++) if (bare.has(map.labels[i])) out.data[i * 4 + 3] = 0;
  return out;
}

/**
 * The picture at its own size in few colours: the recipe's number, matched to its charts if it names any. Bare places
 * stay transparent.
 */
export async function reducedPicture(input: ConvertInput): Promise<Raster> {
  const { map, prepared } = await reduceColours(input, 'own-size', new StepCache(), atOnce);
  const choices = chooseColours(map, input.recipe, prepared);
  const paints = map.palette.map((_, i) => ({ label: i + 1 }));
  const { threads, threadOf } = chooseThreads(paints, map, choices, input);
  const colours = threadOf.map((thread) => fromHex(threads[thread].hex));
  const out = createRaster(map.width, map.height);
  map.labels.forEach((label, i) => {
    if (label === 0) return;
    const { r, g, b } = colours[label - 1];
    out.data.set([r, g, b, 255], i * 4);
  });
  return out;
}

/** The shades a picture is made of, as it is to be sewn: of flat art its colours, edge shades left out. */
export async function pictureShades(input: ConvertInput, cache: StepCache): Promise<Shades> {
  const { prepared, map } = await reduceColours(input, 'full', cache, atOnce);
  if (!prepared.character.flat) return histogram(prepared.picture);
  const used = new Map(map.infos.flatMap((info) => info.shades.map((shade) => [shade.index, shade])));
  const shades = emptyShades(used.size);
  [...used.values()].forEach(({ hex, pixels }, i) => {
    const { r, g, b } = fromHex(hex);
    setShade(shades, i, pixels, LINEAR[r], LINEAR[g], LINEAR[b]);
  });
  return shades;
}

/** Where something is on the prepared picture: 1 for every pixel that belongs to it. */
export interface Whereabouts {
  readonly width: number;
  readonly height: number;
  readonly inside: Uint8Array;
}

/**
 * Where a colour of the design is, or one of its shades; it counts like `Design.colours` and `ColourShare.shades`.
 * @returns undefined for a colour that there is not
 */
export async function whereColour(
  input: ConvertInput,
  cache: StepCache,
  colour: number,
  shade?: number,
): Promise<Whereabouts | undefined> {
  const { map } = await reduceColours(input, 'full', cache, atOnce);
  const { width, height, labels, shadeOf } = map;
  if (colour < 0 || colour >= map.infos.length) return undefined;
  if (shade === undefined) {
    return { width, height, inside: matching(labels, colour + 1) };
  }
  const of = map.infos[colour].shades.at(shade);
  return of && { width, height, inside: matching(shadeOf, of.index + 1) };
}

function matching(values: Uint8Array | Uint16Array, wanted: number): Uint8Array {
  const out = new Uint8Array(values.length);
  for (let i = 0; i < values.length; i++) if (values[i] === wanted) out[i] = 1;
  return out;
}

/** Outline of the area of one colour at a place, as paths that can be drawn, and the colour it has. */
export interface OutlineAt {
  readonly paths: readonly DrawnPath[];
  readonly like: Anchor;
}

/**
 * Takes the outline of whatever is of one colour at a place of the source picture: an area of the trace, or a shape
 * of vector artwork.
 * @returns undefined where the cloth is bare
 */
export async function outlineAt(
  input: ConvertInput,
  cache: StepCache,
  u: number,
  v: number,
): Promise<OutlineAt | undefined> {
  const reduced = await reduceColours(input, 'full', cache, atOnce);
  const { prepared, map, art } = reduced;
  const { picture } = input.recipe;
  const take = (curves: readonly Curve[], label: number): OutlineAt => ({
    paths: curves.map((curve) => curvePath(curve, true, (x, y) => hoopToSource(picture, x, y))),
    like: map.infos[label - 1].anchor,
  });
  if (art) {
    const { x, y } = sourceToHoop(picture, u, v);
    for (let i = art.shapes.length - 1; i >= 0; i--) {
      const { outline, rings } = art.shapes[i];
      if (art.labels[i] > 0 && isInside(rings, x, y)) return take(outline, art.labels[i]);
    }
    return undefined;
  }
  const at = prepared.toPixel(u, v);
  if (at.x < 0 || at.y < 0 || at.x >= map.width || at.y >= map.height) return undefined;
  const { trace } = await traceStep(reduced, input.recipe, cache);
  const { bounds, faces } = trace;
  const pixel = (at.y + 1) * bounds.width + at.x + 1;
  const face = faces.find(({ component }) => component === bounds.components.of[pixel]);
  if (!face) return undefined;
  const { pixelsPerMm, grid } = prepared;
  const placed = face.rings.map((ring) =>
    placeCurve(ring, grid.left * pixelsPerMm, grid.top * pixelsPerMm, 1 / pixelsPerMm),
  );
  return take(placed, bounds.labels[pixel] & COLOUR_BITS);
}
