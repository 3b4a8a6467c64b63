import { readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { basename, dirname, extname, join } from 'node:path';
import { mkdir } from 'node:fs/promises';
import {
  readArchive,
  readDesignJson,
  readStitchList,
  type ArchivePicture,
  type Recipe,
  type Sewing,
  type SourcePicture,
} from '@open-kite/core';
import { UserError } from '@open-kite/server/user-error';

/** Says which file something is wrong with. */
export function about(file: string, error: unknown): UserError {
  const message = error instanceof Error ? error.message : String(error);
  return new UserError(422, `${basename(file)}: ${message}`);
}

/** What is wrong with what somebody gave, in words; anything else is thrown on. */
export function wrongWith(error: unknown): string {
  if (error instanceof UserError || error instanceof RangeError) return error.message;
  throw error;
}

/** Reads a file. @throws UserError that names it. */
export async function readInput(file: string): Promise<Buffer> {
  try {
    if ((await stat(file)).isDirectory()) throw new UserError(422, `${file}: this is a folder`);
    return await readFile(file);
  } catch (error) {
    if (error instanceof UserError) throw error;
    const { code } = error as NodeJS.ErrnoException;
    throw new UserError(422, `${file}: ${code === 'ENOENT' ? 'there is no such file' : 'the file cannot be opened'}`);
  }
}

/** Writes files so that all of them appear whole or none does. */
export async function writeOutputs(outputs: ReadonlyMap<string, Uint8Array | string>): Promise<void> {
  const parts: [part: string, file: string][] = [];
  try {
    for (const [file, content] of outputs) {
      const part = join(dirname(file), `.${basename(file)}.${process.pid}.part`);
      await mkdir(dirname(file), { recursive: true });
      parts.push([part, file]);
      await writeFile(part, content);
    }
    for (const [part, file] of parts) await rename(part, file);
  } catch (error) {
    for (const [part] of parts) await rm(part, { force: true });
    const { code } = error as NodeJS.ErrnoException;
    throw new UserError(422, `${parts.at(-1)?.[1] ?? 'output'}: cannot be written (${code ?? 'unknown reason'})`);
  }
}

/** A design read from outside, with its pictures and recipe where the file holds them. */
export interface OpenedDesign {
  readonly sewing: Sewing;
  readonly pictures?: Readonly<Record<string, SourcePicture>>;
  readonly recipe?: Recipe;
  /** Names of pieces that are outlines. */
  readonly outlines?: readonly string[];
  /** Files of its pictures, as an archive has them. */
  readonly files?: readonly ArchivePicture[];
  /** The whole of it, where it is a stitch list. */
  readonly list?: Sewing;
  /** Name of the project, where the file says one. */
  readonly name?: string;
}

/** A list as a design of its own. */
const ofList = (sewing: Sewing): OpenedDesign => ({ sewing, list: sewing });

/** Reads a project archive, a stitch list or design JSON, told apart by the file's ending. */
export async function openDesign(file: string): Promise<OpenedDesign> {
  const bytes = await readInput(file);
  try {
    switch (extname(file).toLowerCase()) {
      case '.kite': {
        const { name, sewing, pictures, recipe, outlines } = readArchive(bytes);
        const { decodePicture } = await import('@open-kite/server');
        const sources: Record<string, SourcePicture> = {};
        for (const { source, bytes: file } of pictures) {
          sources[source] = { key: source, ...(await decodePicture(Buffer.from(file))) };
        }
        return { name, sewing, recipe, pictures: sources, outlines, files: pictures };
      }
      case '.csv':
        return ofList(readStitchList(bytes.toString('utf8')));
      case '.json':
        return ofList(readDesignJson(bytes.toString('utf8')));
    }
  } catch (error) {
    throw about(file, error);
  }
  throw new UserError(422, `${basename(file)}: a design ends in .kite, .csv or .json`);
}
