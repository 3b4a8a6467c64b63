import { basename, extname } from 'node:path';
import { FIRST_PICTURE, reportOf, writeArchive, type Report } from '@open-kite/core';
import { convertFile } from './commands/convert.js';
import { archivedPicture } from './content.js';
import { writeOutputs, wrongWith } from './files.js';
import type { ConvertFlags } from './options.js';

/** One picture of a batch, for a thread of its own. */
export interface BatchTask {
  readonly file: string;
  /** Archive to be written. */
  readonly to: string;
  readonly flags: ConvertFlags;
  /** What the archive says it was made from. */
  readonly made: { readonly input: string; readonly settings: string };
}

export type BatchOutcome =
  { readonly figures: Omit<Report, 'seconds'>; readonly notes: readonly string[] } | { readonly error: string };

/** Converts one picture and writes its archive. What is wrong with the picture comes back as a sentence. */
export async function batchOne({ file, to, flags, made }: BatchTask): Promise<BatchOutcome> {
  const notes: string[] = [];
  try {
    const { design, recipe, decoded } = await convertFile(file, flags, (note) => notes.push(note));
    const pictures = [{ source: FIRST_PICTURE, ...(await archivedPicture(decoded)) }];
    const name = basename(to, extname(to));
    await writeOutputs(new Map([[to, writeArchive({ name, recipe, design, pictures, made })]]));
    const { seconds, ...figures } = reportOf(design, undefined, {}, { design, recipe });
    void seconds;
    return { figures, notes };
  } catch (error) {
    return { error: wrongWith(error) };
  }
}
