import {
  convert,
  FIRST_PICTURE,
  recipeOfList,
  writeStitchList,
  type ArchivePicture,
  type SourcePicture,
} from '@open-kite/core';
import { decodePicture } from '@open-kite/server';
import { CHART_FOLDER, readCharts } from '@open-kite/server/charts';
import { checkEndings, contentsOf, type WholeDesign } from '../content.js';
import { about, openDesign, writeOutputs } from '../files.js';

/** A design of a file with what it is made of, sewn anew from its recipe where it has one. */
export async function sewnAnew(file: string): Promise<WholeDesign> {
  const opened = await openDesign(file);
  const { list, recipe: known } = opened;
  const recipe = known ?? (list && recipeOfList(list));
  if (!recipe) throw about(file, new Error('it holds no design'));
  const files: readonly ArchivePicture[] = list
    ? [{ source: FIRST_PICTURE, bytes: Buffer.from(writeStitchList(list)), extension: 'csv' }]
    : (opened.files ?? []);
  const pictures: Readonly<Record<string, SourcePicture>> = list
    ? { [FIRST_PICTURE]: { ...(await decodePicture(Buffer.from(writeStitchList(list)))), key: 'list', sewing: list } }
    : (opened.pictures ?? {});
  const design = await convert({ pictures, recipe, charts: readCharts(CHART_FOLDER) });
  return { name: opened.name, design, recipe, pictures: files };
}

/** `open-kite export`: a design in any format, into any others. */
export async function exportCommand(file: string, outputs: readonly string[]): Promise<void> {
  checkEndings(outputs);
  await writeOutputs(await contentsOf(outputs, await sewnAnew(file)));
}
