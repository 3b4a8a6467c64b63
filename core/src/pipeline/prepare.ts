import { measureCharacter, type Character } from '../colour/suggest.js';
import { fromHex, type Rgb } from '../colour/srgb.js';
import { toEndWithPauses } from '../geometry/pauses.js';
import { denoise } from '../picture/denoise.js';
import { centred, hoopToSource, sourceToHoop, type PictureBox, type Placement } from '../picture/frame.js';
import { applyLight, isPlain, PLAIN_LIGHT, type Light } from '../picture/light.js';
import { gridOf, maskOnGrid, placePicture, type Grid } from '../picture/place.js';
import type { Raster } from '../picture/raster.js';
import { enlargedSize, enlargeSmall, shrink, workingSize } from '../picture/resample.js';
import { clearGround, plainBorder } from '../trace/ground.js';
import type { PictureInput } from './input.js';
import { step, type Pause, type StepCache, type Turn } from './step.js';

/** Pixels a picture is worked on at most. */
export const FULL_PIXELS = 1_500_000;
export const ROUGH_PIXELS = 62_500;

/** Pixels of a placed picture, in its light and before it. */
export interface Placed {
  readonly picture: Raster;
  /** The same before its light was changed. */
  readonly unlit: Raster;
  /** What of it lies inside its mask, 0 to 255 a pixel. */
  readonly mask: Uint8Array | undefined;
  readonly character: Character;
}

/** A picture as it is to be sewn: turned, cut, in its light; in the middle of the hoop, wherever it lies. */
export interface Prepared {
  readonly placed: Placed;
  readonly placement: Placement;
  readonly grid: Grid;
  readonly pixelsPerMm: number;
}

/** Places on the source picture, as shares of its sides, of the middle of a pixel of its grid; and back. */
export interface PixelPlaces {
  readonly toSource: (x: number, y: number) => { u: number; v: number };
  readonly toPixel: (u: number, v: number) => { x: number; y: number };
}

export function pixelPlaces(placement: Placement, grid: Grid): PixelPlaces {
  return {
    toSource: (x, y) =>
      hoopToSource(
        placement,
        grid.left + ((x + 0.5) * grid.widthMm) / grid.width,
        grid.top + ((y + 0.5) * grid.heightMm) / grid.height,
      ),
    toPixel: (u, v) => {
      const place = sourceToHoop(placement, u, v);
      return {
        x: Math.floor(((place.x - grid.left) * grid.width) / grid.widthMm),
        y: Math.floor(((place.y - grid.top) * grid.height) / grid.heightMm),
      };
    },
  };
}

/** Where a prepared picture lies in the middle of the hoop. */
export const boxOf = ({ left, top, widthMm, heightMm }: Grid): PictureBox => ({
  left,
  top,
  width: widthMm,
  height: heightMm,
});

const borderStep = step('border', ({ raster }: { raster: Raster }) => {
  const { width, height } = workingSize(raster.width, raster.height, ROUGH_PIXELS);
  return { colour: plainBorder(shrink(raster, width, height)) };
});

const wholeGroundStep = step('whole ground', ({ raster, tolerance }: { raster: Raster; tolerance: number }) => {
  const { width, height } = workingSize(raster.width, raster.height, ROUGH_PIXELS);
  const found = clearGround(shrink(raster, width, height), { tolerance, everywhere: false });
  return { colour: found?.colour };
});

/** Colour of the plain ground that a picture has before a mask cuts it: at the mask's rim it need not be seen. */
export async function groundOfWhole(
  { source, view }: Pick<PictureInput, 'source' | 'view'>,
  cache: StepCache,
): Promise<Rgb | undefined> {
  const { mask, groundTolerance } = view.picture;
  if (!mask) return undefined;
  const inputs = { raster: source.raster, tolerance: groundTolerance };
  return (await cache.run(wholeGroundStep, inputs, undefined, view.id)).colour;
}

interface PlaceInputs {
  readonly raster: Raster;
  readonly enlarge: boolean;
  readonly placement: Placement;
  readonly grid: Grid;
  /** Colour of the ground where a mask reaches beyond the picture. */
  readonly fill: Rgb | null;
}

const placeStep = step('place', ({ raster, enlarge, placement, grid, fill }: PlaceInputs) =>
  placePicture(enlarge ? enlargeSmall(raster) : raster, placement, grid, fill ?? undefined),
);

const noiseStep = step('noise', ({ raster, noise }: { raster: Raster; noise: number }) => denoise(raster, noise));

const lightStep = step(
  'prepare',
  async (
    {
      clean,
      unlit,
      light,
      placement,
      grid,
    }: { clean: Raster; unlit: Raster; light: Light; placement: Placement; grid: Grid },
    { pause }: Turn,
  ): Promise<Placed> => {
    const picture = applyLight(clean, light);
    await pause(0.4);
    const character = await toEndWithPauses(measureCharacter(picture), (share) => pause(0.4 + 0.6 * share));
    return { unlit, picture, character, mask: maskOnGrid(placement, grid) };
  },
);

/** Places a picture, then changes its light; each part is remembered. */
export async function prepare(
  { source, view }: Pick<PictureInput, 'source' | 'view'>,
  pixels: number,
  enlarge: boolean,
  cache: StepCache,
  pause: Pause = () => Promise.resolve(),
): Promise<Prepared> {
  const { raster } = source;
  const placement = placementOf(view.picture);
  const size = enlarge ? enlargedSize(raster) : raster;
  const grid = gridOf(size.width, size.height, placement, pixels);
  const fill = await groundBeyond(raster, view, cache);
  // Without a mask and unturned, the size in millimetres says nothing about the pixels.
  const shape = placement.mask || placement.turn % 90 !== 0 ? { placement, grid } : inPixels(placement, grid);
  const unlit = await cache.run(placeStep, { raster, enlarge, ...shape, fill: fill ?? null }, pause, view.id);
  await pause(0.3);
  const clean = await withoutNoise(unlit, view.light, cache, view.id);
  const light = isPlain(view.light) ? PLAIN_LIGHT : view.light;
  const placed = await cache.run(lightStep, { clean, unlit, light, ...shape }, pause, view.id);
  const pixelsPerMm = Math.sqrt((grid.width * grid.height) / (grid.widthMm * grid.heightMm));
  return { placed, placement, grid, pixelsPerMm };
}

/** What of a picture's place decides on its pixels. */
function placementOf(place: Placement): Placement {
  const { widthMm, heightMm, turn, mirror, mask } = centred(place);
  return { widthMm, heightMm, turn, mirror, mask };
}

/** A placement and grid that count pixels instead of millimetres. */
function inPixels({ turn, mirror }: Placement, { width, height }: Grid): { placement: Placement; grid: Grid } {
  return {
    placement: { widthMm: width, heightMm: height, turn, mirror, mask: null },
    grid: { width, height, left: 0, top: 0, widthMm: width, heightMm: height },
  };
}

/** A picture with its noise taken out, which is remembered by itself. */
export function withoutNoise(raster: Raster, { noise }: Light, cache: StepCache, scope = ''): Promise<Raster> {
  return noise > 0 ? cache.run(noiseStep, { raster, noise }, undefined, scope) : Promise.resolve(raster);
}

/** Colour of what lies beyond the picture's edges: chosen for it, that of the ground, or that of a plain border. */
async function groundBeyond(
  raster: Raster,
  { picture: { mask, turn, groundHex, beyondHex }, id }: PictureInput['view'],
  cache: StepCache,
): Promise<Rgb | undefined> {
  if (!mask && turn % 90 === 0) return undefined;
  if (beyondHex !== null) return fromHex(beyondHex);
  if (groundHex !== null) return fromHex(groundHex);
  return (await cache.run(borderStep, { raster }, undefined, id)).colour;
}
