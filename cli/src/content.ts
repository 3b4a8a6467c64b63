import { basename, extname } from 'node:path';
import {
  DESIGN_FILES,
  printedGridOf,
  writeArchive,
  type ArchivePicture,
  type Design,
  type DesignFile,
  type Recipe,
} from '@open-kite/core';
import { pngOf, type DecodedPicture } from '@open-kite/server';
import { about } from './files.js';

/** A design with everything an archive of it holds. */
export interface WholeDesign {
  readonly design: Design;
  readonly recipe: Recipe;
  readonly pictures: readonly ArchivePicture[];
}

/** A PDF of this name is the chart of a grid rather than a worksheet. */
const PAPER_CHART = /\.chart\.pdf$/i;

async function printed(file: string, design: Design): Promise<Buffer> {
  const { writeChart } = await import('@open-kite/server/paper');
  try {
    return await writeChart(printedGridOf(design, basename(file).replace(PAPER_CHART, '')));
  } catch (error) {
    throw about(file, error);
  }
}

/** The content of an output file, decided by its ending. */
export async function contentOf(file: string, { design, recipe, pictures }: WholeDesign): Promise<Uint8Array | string> {
  const name = basename(file, extname(file));
  const ending = extname(file).toLowerCase().slice(1);
  if (ending in DESIGN_FILES) return DESIGN_FILES[ending as DesignFile](design);
  if (ending === 'pdf') {
    if (PAPER_CHART.test(file)) return printed(file, design);
    const { writeWorksheet } = await import('@open-kite/server/paper');
    return writeWorksheet(design, name);
  }
  return writeArchive({ name, recipe, design, pictures });
}

/** A decoded picture as an archive holds it: vector artwork as its source. */
export async function archivedPicture({
  source,
  raster,
}: DecodedPicture): Promise<Pick<ArchivePicture, 'bytes' | 'extension'>> {
  return source ? { bytes: source, extension: 'svg' } : { bytes: await pngOf(raster), extension: 'png' };
}
