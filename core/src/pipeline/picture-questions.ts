import { chooseColours, chooseThreads, colourPlace } from './choose-threads.js';
import { emptyShades, histogram, setShade, type Shades } from '../colour/histogram.js';
import { fromHex, LINEAR, toHex } from '../colour/srgb.js';
import { reduceColours, shapeLabels } from './colours.js';
import { pictureInput, type ConvertInput, type PictureInput } from './input.js';
import { pixelPlaces } from './prepare.js';
import { placeCurve, type Curve } from '../geometry/curve.js';
import { isInside } from '../geometry/polyline.js';
import { centred, hoopToSource, sourceToHoop } from '../picture/frame.js';
import { curvePath, type DrawnPath } from '../pieces/drawn.js';
import type { Anchor } from '../trace/colour-decisions.js';
import { dropSpecks } from '../trace/components.js';
import { flood } from '../trace/flood.js';
import type { LabelMap } from '../trace/labels.js';
import { COLOUR_BITS } from '../trace/line-parts.js';
import { traceLabels } from '../trace/trace.js';
import { createRaster, type Raster } from '../picture/raster.js';
import { StepCache } from './step.js';
import { outlineSettings, traceOf } from './trace-step.js';
import { pictureOf } from '../recipe/view.js';

/** What colours are looked up without a pause between steps. */
const atOnce = (): Promise<void> => Promise.resolve();

/**
 * One of the pictures of a design as its conversion sees it: the one that is named, else the lowest.
 * @throws RangeError in a design without pictures
 */
export function pictureOfInput(input: ConvertInput, object?: string): PictureInput {
  const picture = pictureOf(input.recipe, object);
  if (!picture) throw new RangeError('there is no picture in this design');
  return pictureInput(input, picture);
}

/**
 * The picture as it is to be sewn: at its working size, bare where the recipe leaves it bare. Likeness is measured
 * against it. With the cache of the conversion it costs next to nothing.
 */
export async function preparedPicture(input: PictureInput, cache = new StepCache()): Promise<Raster> {
  const { prepared, map } = await reduceColours(input, 'full', cache, atOnce);
  const { bare } = chooseColours(map, colourPlace(input, prepared));
  const { picture } = prepared.placed;
  if (bare.size === 0) return picture;
  const { width, height, data } = picture;
  const out = createRaster(width, height, data.slice());
  for (let i = 0; i < map.labels.length; i++) if (bare.has(map.labels[i])) out.data[i * 4 + 3] = 0;
  return out;
}

/**
 * The picture at its own size in few colours: the recipe's number, matched to its charts if it names any. Bare places
 * stay transparent.
 */
export async function reducedPicture(input: PictureInput): Promise<Raster> {
  const { map, prepared } = await reduceColours(input, 'own-size', new StepCache(), atOnce);
  const choices = chooseColours(map, colourPlace(input, prepared));
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
export async function pictureShades(input: PictureInput, cache: StepCache): Promise<Shades> {
  const { prepared, map, flat } = await reduceColours(input, 'full', cache, atOnce);
  if (!flat) return histogram(prepared.placed.picture);
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
 * Where a colour of a picture is, or one of its shades; it counts like the picture's own in `Design.colours`, and like
 * `ColourShare.shades`.
 * @returns undefined for a colour that there is not
 */
export async function whereColour(
  input: PictureInput,
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

/** Smaller holes and specks of what is taken with a tolerance are none: grain of a photograph. */
const SMALLEST_HOLE_MM2 = 0.8;

/** Outline of the area of one colour at a place, as paths that can be drawn, and the colour it has. */
export interface OutlineAt {
  readonly paths: readonly DrawnPath[];
  readonly like: Anchor;
}

/**
 * Takes the outline of whatever is of one colour at a place of the source picture: an area of the trace, or a shape
 * of vector artwork.
 * @param tolerance with one, it is what hangs together in the picture itself and is so near in colour (CIEDE2000), whatever
 * colours the design has; shapes of artwork are taken as they are
 * @returns undefined where the cloth is bare
 */
export async function outlineAt(
  input: PictureInput,
  cache: StepCache,
  u: number,
  v: number,
  tolerance = 0,
): Promise<OutlineAt | undefined> {
  const reduced = await reduceColours(input, 'full', cache, atOnce);
  const { prepared, map, art } = reduced;
  const { picture } = input.view;
  const pathOf = (curve: Curve): DrawnPath => curvePath(curve, true, (x, y) => hoopToSource(centred(picture), x, y));
  const take = (curves: readonly Curve[], label: number): OutlineAt => ({
    paths: curves.map(pathOf),
    like: map.infos[label - 1].anchor,
  });
  // What is found lies in the middle of the hoop, wherever the picture is.
  const centre = centred(picture);
  if (art) {
    const { x, y } = sourceToHoop(centre, u, v);
    const { labels } = shapeLabels(art, map);
    for (let i = art.placed.shapes.length - 1; i >= 0; i--) {
      const { outline, rings } = art.placed.shapes[i];
      if (labels[i] > 0 && isInside(rings, x, y)) return take(outline, labels[i]);
    }
    return undefined;
  }
  const { grid, placement, pixelsPerMm } = prepared;
  const at = pixelPlaces(placement, grid).toPixel(u, v);
  if (at.x < 0 || at.y < 0 || at.x >= map.width || at.y >= map.height) return undefined;
  const placedAt = (ring: Curve): Curve =>
    placeCurve(ring, grid.left * pixelsPerMm, grid.top * pixelsPerMm, 1 / pixelsPerMm);
  if (tolerance > 0) {
    const { picture: raster } = prepared.placed;
    const inside = flood(raster, at.x, at.y, tolerance);
    if (!inside) return undefined;
    dropSpecks(inside, map.width, map.height, SMALLEST_HOLE_MM2 * pixelsPerMm * pixelsPerMm);
    const [r, g, b] = raster.data.subarray((at.y * map.width + at.x) * 4);
    const own: LabelMap = { ...map, labels: inside, palette: [{ r, g, b }], ground: 0, smoothEdges: false };
    const found = traceLabels(own, raster, outlineSettings(reduced, input.view));
    const faces = found.faces.filter(({ label }) => label === 1);
    if (faces.length === 0) return undefined;
    return {
      paths: faces.flatMap(({ rings }) => rings.map((ring) => pathOf(placedAt(ring)))),
      like: { hex: toHex({ r, g, b }), u, v },
    };
  }
  const { bounds, faces } = await traceOf(reduced, input.view, cache);
  const pixel = (at.y + 1) * bounds.width + at.x + 1;
  const face = faces.find(({ component }) => component === bounds.components.of[pixel]);
  if (!face) return undefined;
  return take(face.rings.map(placedAt), bounds.labels[pixel] & COLOUR_BITS);
}
