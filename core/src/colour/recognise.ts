import { shrink, workingSize } from '../picture/resample.js';
import type { Raster } from '../picture/raster.js';
import { characterOf } from './suggest.js';

/** What a picture is: flat areas and clean edges, lines on a ground, or soft as photographs are. */
export type PictureSort = 'flat' | 'drawing' | 'photograph';

/** Pixels a picture is looked at. */
const PIXELS = 160_000;
/** Flat art of so few colours that hardly covers its ground is a drawing. */
const DRAWING_COLOURS = 2;

/** Tells flat art, drawings and photographs apart, on a small copy of the picture where edges stay as they are. */
export function recognise(raster: Raster): PictureSort {
  const { width, height } = workingSize(raster.width, raster.height, PIXELS);
  const small = width === raster.width && height === raster.height ? raster : shrink(raster, width, height);
  // A photograph is one at any size; flat art that is shrunk far has little left but edges.
  const found = [small, raster].find((picture) => characterOf(picture).flat);
  if (!found) return 'photograph';
  return characterOf(found).colours <= DRAWING_COLOURS ? 'drawing' : 'flat';
}
