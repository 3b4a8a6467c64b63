import { measureCharacter, type Character } from './colour/suggest.js';
import { hoopToSource, sourceToHoop } from './picture/frame.js';
import { applyLight, isPlain, type Light } from './picture/light.js';
import { denoise } from './picture/denoise.js';
import { gridOf, maskOnGrid, placePicture, type Grid } from './picture/place.js';
import { enlargeSmall, shrink, workingSize } from './picture/resample.js';
import type { Raster } from './picture/raster.js';
import { fromHex, type Rgb } from './colour/srgb.js';
import type { Recipe } from './recipe/recipe.js';
import type { StepCache } from './step-cache.js';
import { toEndWithPauses } from './steps.js';
import { plainBorder } from './trace/ground.js';

/** Pixels a picture is worked on at most. */
export const FULL_PIXELS = 1_500_000;
export const ROUGH_PIXELS = 62_500;

/** A picture as it is to be sewn: turned, cut, in its light. */
export interface Prepared {
  readonly picture: Raster;
  /** The same before its light was changed. */
  readonly unlit: Raster;
  /** What of it lies inside its mask, 0 to 255 a pixel. */
  readonly mask: Uint8Array | undefined;
  readonly grid: Grid;
  readonly pixelsPerMm: number;
  readonly character: Character;
  /** Place on the source picture, as shares of its sides, of the middle of a pixel; and back. */
  readonly toSource: (x: number, y: number) => { u: number; v: number };
  readonly toPixel: (u: number, v: number) => { x: number; y: number };
  /** Names it among other steps. */
  readonly key: string;
}

/** Places a picture, then changes its light; each part is remembered. */
export async function prepare(
  { raster: source, pictureKey, recipe }: { raster: Raster; pictureKey: string; recipe: Recipe },
  budget: number,
  enlarge: boolean,
  cache: StepCache,
  pause: (share: number) => Promise<void> = () => Promise.resolve(),
): Promise<Prepared> {
  const raster = enlarge ? enlargeSmall(source) : source;
  const placement = recipe.picture;
  const { widthMm, heightMm, turn, mirror, mask } = placement;
  const grid = gridOf(raster.width, raster.height, placement, budget);
  // Without a mask and unturned, the size in millimetres says nothing about the pixels.
  const shape = mask || turn % 90 !== 0 ? JSON.stringify([widthMm, heightMm, mask]) : '';
  const placeKey = `${pictureKey} ${grid.width}x${grid.height} ${turn} ${mirror} ${shape}`;
  const fill = await groundBeyond(source, pictureKey, recipe, cache);
  const fillKey = fill ? `${fill.r},${fill.g},${fill.b}` : '';
  const { light } = recipe;
  const litKey = `${placeKey} ${fillKey} ${isPlain(light) ? '' : JSON.stringify(light)}`;
  const placed = await cache.get('prepare', litKey, async () => {
    const unlit = await cache.get('place', `${placeKey} ${fillKey}`, () => placePicture(raster, placement, grid, fill));
    await pause(0.3);
    const picture = await lightUp(unlit, light, 'noise', `${placeKey} ${fillKey}`, cache);
    await pause(0.4);
    const character = await toEndWithPauses(measureCharacter(picture), (share) => pause(0.4 + 0.6 * share));
    return { unlit, picture, character, inside: maskOnGrid(placement, grid) };
  });
  const pixelsPerMm = Math.sqrt((grid.width * grid.height) / (grid.widthMm * grid.heightMm));
  return {
    picture: placed.picture,
    unlit: placed.unlit,
    mask: placed.inside,
    character: placed.character,
    grid,
    pixelsPerMm,
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
    key: litKey,
  };
}

/**
 * A picture in its light; what takes the noise out is remembered under a step of its own.
 * @param key names the picture
 */
export async function lightUp(
  raster: Raster,
  light: Light,
  step: string,
  key: string,
  cache: StepCache,
): Promise<Raster> {
  const { noise } = light;
  const clean = noise > 0 ? await cache.get(step, `${key} ${noise}`, () => denoise(raster, noise)) : raster;
  return applyLight(clean, light);
}

/** Colour of the ground beyond the picture's edges: the one the user named, or that of a plain border. */
async function groundBeyond(
  raster: Raster,
  pictureKey: string,
  recipe: Recipe,
  cache: StepCache,
): Promise<Rgb | undefined> {
  const { mask, turn, groundHex } = recipe.picture;
  if (!mask && turn % 90 === 0) return undefined;
  if (groundHex !== null) return fromHex(groundHex);
  const found = await cache.get('border', pictureKey, () => {
    const { width, height } = workingSize(raster.width, raster.height, ROUGH_PIXELS);
    return { colour: plainBorder(shrink(raster, width, height)) };
  });
  return found.colour;
}
