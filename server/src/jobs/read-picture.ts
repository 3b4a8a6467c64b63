import { readArchive, readStitchList, sourcesOf, unpackDesign, type Recipe, type Sewing } from '@open-kite/core';
import type { Picture } from '@open-kite/contract';
import { claimedPixels } from '../pictures/claimed-pixels.js';
import { decodePicture, hashOf, pngOf, rasterOf, type DecodedPicture } from '../pictures/decode.js';
import { fileKind } from '../pictures/file-kind.js';
import { firstRecipe, readStoredSource } from '../pictures/first-recipe.js';
import { UserError } from '../user-error.js';
import type { Paper } from '../worksheet.js';

/** What reading a picture gives: how it is stored. */
export interface ReadPicture extends Picture {
  readonly png: Uint8Array;
  readonly source: Uint8Array | null;
}

/** What comes back from a thread: the result, or what the user is to hear. Errors lose their class on the way. */
export type Outcome<T> =
  { readonly value: T } | { readonly refused: { readonly status: number; readonly message: string } };

async function outcome<T>(work: () => Promise<T> | T): Promise<Outcome<T>> {
  try {
    return { value: await work() };
  } catch (error) {
    if (error instanceof UserError) return { refused: { status: error.status, message: error.message } };
    if (error instanceof RangeError) return { refused: { status: 422, message: error.message } };
    throw error;
  }
}

/** An uploaded picture, and the recipe it starts with: both come of one reading. */
export interface ReadUpload extends ReadPicture {
  readonly recipe: Recipe;
}

/** Decodes a picture that was uploaded, away from the server's own thread. */
export const readPicture = (bytes: Uint8Array): Promise<Outcome<ReadUpload>> =>
  outcome(async () => {
    const decoded = await decode(bytes);
    // Packing takes a thread of its own.
    const [stored, recipe] = await Promise.all([asStored(decoded), (async () => firstRecipe(decoded))()]);
    return { ...stored, recipe };
  });

const decode = (bytes: Uint8Array): Promise<DecodedPicture> =>
  decodePicture(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length));

async function asStored(decoded: DecodedPicture): Promise<ReadPicture> {
  const { width, height } = decoded.raster;
  const source = decoded.source ?? null;
  return { hash: hashOf(decoded), width, height, kind: decoded.kind, png: await pngOf(decoded.raster), source };
}

/** Has everything loaded that reading needs. */
export const getReady = (): Promise<Outcome<true>> => outcome((): true => true);

/** A project archive that was read: everything a project is made from. */
export interface ReadProject {
  readonly name: string;
  readonly recipe: Recipe;
  /** Its pictures by their names in the recipe. */
  readonly pictures: Readonly<Record<string, ReadPicture>>;
}

/** How a ZIP begins. */
const ZIP = [0x50, 0x4b] as const;

/** What an archive or a stitch list sews, for a machine. */
export interface ReadJob {
  readonly name: string;
  readonly sewing: Sewing;
}

/** Reads the stitches of a stitch list or a project archive. */
export const readJob = (bytes: Uint8Array): Promise<Outcome<ReadJob>> =>
  outcome(() => {
    if (bytes[0] !== ZIP[0] || bytes[1] !== ZIP[1]) {
      return { name: 'Job', sewing: readStitchList(Buffer.from(bytes).toString('utf8')) };
    }
    const { name, sewing } = readArchive(new Uint8Array(bytes));
    return { name, sewing };
  });

/** Reads a project archive that was uploaded. */
export const readProject = (bytes: Uint8Array): Promise<Outcome<ReadProject>> =>
  outcome(async () => {
    const { name, recipe, pictures: files } = readArchive(new Uint8Array(bytes));
    const pictures: Record<string, ReadPicture> = {};
    for (const { source, bytes: file, extension } of files) {
      try {
        pictures[source] = await asStored(await decode(file));
      } catch (error) {
        if (!(error instanceof UserError)) throw error;
        throw new UserError(422, `project archive: ${source}.${extension}: ${error.message}`);
      }
    }
    const missing = sourcesOf(recipe).find((source) => !pictures[source]);
    if (missing !== undefined) throw new UserError(422, `project archive: ${missing} is missing`);
    return { name, recipe, pictures };
  });

/** A worksheet of a stitch list. */
export interface WorksheetJob {
  readonly list: Uint8Array;
  readonly name: string;
  readonly paper: Paper;
  readonly notes: string;
}

/** Draws the worksheet of a stitch list that was handed over. */
export const drawWorksheet = ({ list, name, paper, notes }: WorksheetJob): Promise<Outcome<Uint8Array>> =>
  outcome(async () => {
    const sewing = readStitchList(Buffer.from(list).toString('utf8'));
    return (await import('../worksheet.js')).writeWorksheet(sewing, name, { paper, notes });
  });

/** The recipe a stored picture starts with. */
export const startRecipe = ({
  kind,
  png,
  source,
}: Pick<ReadPicture, 'kind' | 'png' | 'source'>): Promise<Outcome<Recipe>> =>
  outcome(async () =>
    firstRecipe({ raster: await rasterOf(Buffer.from(png)), ...(source ? readStoredSource(kind, source) : {}) }),
  );

/** Reads a packed design through and throws it away. */
export const checkDesign = (packed: Uint8Array): Promise<Outcome<true>> =>
  outcome(() => {
    unpackDesign(packed);
    return true;
  });

/** Pixels of a picture for the shelf, at most. */
const MOST_PREVIEW = 2_000_000;

/** Reads a picture for the shelf through and throws it away. */
export const checkPreview = (png: Uint8Array): Promise<Outcome<true>> =>
  outcome(async (): Promise<true> => {
    const bytes = Buffer.from(png.buffer, png.byteOffset, png.length);
    if (fileKind(bytes) !== 'png') throw new UserError(415, 'a preview must be a PNG');
    if ((await claimedPixels(bytes)) > MOST_PREVIEW) throw new UserError(413, 'the preview is too large');
    await rasterOf(bytes).catch(() => {
      throw new UserError(422, 'the preview is a damaged PNG');
    });
    return true;
  });
