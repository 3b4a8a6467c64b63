import {
  convert,
  FIRST_PICTURE,
  parseRecipe,
  pictureOf,
  pictureOfInput,
  reducedPicture,
  viewOf,
  withView,
  writePng,
  writeShapeSvg,
  type ConvertInput,
  type PictureView,
} from '@open-kite/core';
import { decodePicture, firstRecipe } from '@open-kite/server';
import { CHART_FOLDER, readCharts } from '@open-kite/server/charts';
import { UserError } from '@open-kite/server/user-error';
import { about, readInput, writeOutputs } from '../files.js';

/** A picture with a first recipe, changed. @throws UserError that names the file */
async function openWith(file: string, change: (view: PictureView) => PictureView): Promise<ConvertInput> {
  const decoded = await decodePicture(await readInput(file)).catch((error: unknown) => {
    throw about(file, error);
  });
  const first = firstRecipe(decoded);
  const picture = pictureOf(first);
  const recipe = picture ? parseRecipe(withView(first, change(viewOf(first, picture)))) : first;
  const { raster, artwork } = decoded;
  const pictures = { [FIRST_PICTURE]: { key: 'picture', raster, artwork } };
  return { pictures, recipe, charts: readCharts(CHART_FOLDER) };
}

interface Reduction {
  readonly out: string;
  readonly colours?: number | 'auto';
}

/** `open-kite trace`: shapes only, no stitches. */
export async function traceCommand(file: string, flags: Reduction & { readonly strictness?: number }): Promise<void> {
  if (!/\.svg$/i.test(flags.out)) throw new UserError(400, `${flags.out}: traced shapes end in .svg`);
  const input = await openWith(file, (base) => ({
    ...base,
    method: 'pieces',
    picture: { ...base.picture, dropGround: false },
    colours: { ...base.colours, count: flags.colours ?? 'auto', smallestSpotMm2: 0 },
    pieces: { ...base.pieces, strictnessMm: flags.strictness ?? base.pieces.strictnessMm, smallestMm2: 0 },
  }));
  await writeOutputs(new Map([[flags.out, writeShapeSvg(await convert(input))]]));
}

/** `open-kite reduce`: colours only. */
export async function reduceCommand(file: string, flags: Reduction & { readonly chart?: string[] }): Promise<void> {
  if (!/\.png$/i.test(flags.out)) throw new UserError(400, `${flags.out}: a reduced picture ends in .png`);
  const input = await openWith(file, (base) => ({
    ...base,
    method: 'pieces',
    // All colours count, those of a ground too.
    picture: { ...base.picture, dropGround: false },
    colours: { ...base.colours, count: flags.colours ?? 'auto', charts: flags.chart ?? [], smallestSpotMm2: 0 },
    pieces: { ...base.pieces, smallestMm2: 0 },
  }));
  await writeOutputs(new Map([[flags.out, writePng(await reducedPicture(pictureOfInput(input)))]]));
}
