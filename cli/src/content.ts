import { basename } from 'node:path';
import {
  FORMATS,
  formatOf,
  printedGridOf,
  writeArchive,
  type ArchivePicture,
  type Design,
  type Recipe,
} from '@open-kite/core';
import type { DecodedPicture } from '@open-kite/server';
import { UserError } from '@open-kite/server/user-error';
import { about } from './files.js';

/** A design with everything an archive of it holds. */
export interface WholeDesign {
  readonly design: Design;
  readonly recipe: Recipe;
  readonly pictures: readonly ArchivePicture[];
  /** Name of the project; that of the file where it has none. */
  readonly name?: string;
}

/** Endings an output may have. */
const ENDINGS = FORMATS.map(({ ending }) => `.${ending}`);

/** Refuses an output whose ending is not known, before any work is done. */
export function checkEndings(outputs: readonly string[]): void {
  for (const file of outputs) {
    if (formatOf(file)) continue;
    throw new UserError(400, `${basename(file)}: an output ends in one of ${ENDINGS.join(' ')}`);
  }
}

async function printed(file: string, design: Design): Promise<Buffer> {
  const { writeChart } = await import('@open-kite/server/paper');
  try {
    return await writeChart(printedGridOf(design, stemOf(file)));
  } catch (error) {
    throw about(file, error);
  }
}

/** The content of an output file, decided by its ending. */
export async function contentOf(
  file: string,
  { name, design, recipe, pictures }: WholeDesign,
): Promise<Uint8Array | string> {
  const format = formatOf(file);
  if (format?.write) return format.write(design);
  if (format?.ending === 'chart.pdf') return printed(file, design);
  if (format?.ending === 'pdf') {
    const { writeWorksheet } = await import('@open-kite/server/paper');
    return writeWorksheet(design, stemOf(file));
  }
  return writeArchive({ name: name ?? stemOf(file), recipe, design, pictures });
}

/** The contents of output files, each decided by its ending. */
export async function contentsOf(
  files: readonly string[],
  design: WholeDesign,
): Promise<ReadonlyMap<string, Uint8Array | string>> {
  const contents = new Map<string, Uint8Array | string>();
  for (const file of files) contents.set(file, await contentOf(file, design));
  return contents;
}

/** A file's name without the ending that tells its format. */
const stemOf = (file: string): string => basename(file).slice(0, -1 - (formatOf(file)?.ending.length ?? 0));

/** A decoded picture as an archive holds it: vector artwork as its source. */
export async function archivedPicture({
  source,
  raster,
}: DecodedPicture): Promise<Pick<ArchivePicture, 'bytes' | 'extension'>> {
  if (source) return { bytes: source, extension: 'svg' };
  // Texts come without a picture: they need not wait for what reads them.
  const { pngOf } = await import('@open-kite/server');
  return { bytes: await pngOf(raster), extension: 'png' };
}
