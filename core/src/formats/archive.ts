import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import { lazy, object, string } from 'yup';
import type { Design } from '../design/design.js';
import type { Sewing } from '../sequence/sewing.js';
import { FIRST_PICTURE, parseRecipe, type Recipe } from '../recipe/recipe.js';
import { frameOf, PREVIEW_MARGIN_MM, renderDesign } from '../sewn-look/render.js';
import { writeDesignJson } from './design-json.js';
import { asFile, headCheck } from './file-head.js';
import { writePng } from './png.js';
import { readStitchList, writeStitchList } from './stitch-list-csv.js';

/** What a project archive is made of. */
export interface ArchiveContents {
  readonly name: string;
  readonly recipe: Recipe;
  readonly design: Design;
  /** The pictures its objects show. */
  readonly pictures: readonly ArchivePicture[];
  /** Names of the file and the settings it was made from, in bulk: who comes again sees whether it is still right. */
  readonly made?: MadeFrom;
}

/** Hashes of a picture's file and of the settings it was converted by. */
export interface MadeFrom {
  readonly input: string;
  readonly settings: string;
}

/** A picture as an archive holds it: its name in the recipe, its bytes, and its file ending, `png` or `svg`. */
export interface ArchivePicture {
  readonly source: string;
  readonly bytes: Uint8Array;
  readonly extension: string;
}

/** What a reader gets back from a project archive. */
export interface ArchiveRead {
  readonly name: string;
  readonly recipe: Recipe;
  readonly sewing: Sewing;
  /** Names of pieces that outline others, which are not compared with a picture. */
  readonly outlines: readonly string[];
  readonly pictures: readonly ArchivePicture[];
}

const FORMAT = 'open-kite project';
const VERSION = 1;
const MB = 1024 * 1024;
const MOST_BYTES = 512 * MB;
/** What a file of an archive may unpack to at most; pictures and the preview are as large as any that is dropped. */
const MOST_OF: Readonly<Record<string, number>> = {
  'manifest.json': MB,
  'recipe.json': 64 * MB,
  'design.json': 160 * MB,
  'stitches.csv': 120 * MB,
};
/** Stitches and settings become as small as at twice the work. */
const LEVEL = 3;
/** Archives carry no clock: the same project gives the same bytes. */
const TIME = new Date(2000, 0, 1);

/** Longest side of the sewn picture in an archive, in pixels, and the most a mm. */
const PREVIEW_SIDE = 320;
const MOST_PX_PER_MM = 4;

const checkHead = headCheck({ format: FORMAT, version: VERSION });

const manifestSchema = object({
  name: string().strict(true).default('Project'),
  files: lazy((value: unknown) => {
    const names = typeof value === 'object' && value !== null ? Object.keys(value) : [];
    const sum = object({ sha256: string().strict(true).required() }).required();
    return object(Object.fromEntries(names.map((name) => [name, sum])))
      .default({})
      .typeError('its list of files cannot be read');
  }),
});

interface Manifest {
  readonly name: string;
  readonly files: Readonly<Record<string, { readonly sha256: string }>>;
}

const manifestOf = (value: unknown): Manifest =>
  asFile('project archive', () => {
    checkHead(value);
    return manifestSchema.validateSync(value);
  });

/** Names of the pieces of a design that are outlines. */
function outlinesOf(design: unknown): string[] {
  const { pieces } = (design ?? {}) as { pieces?: readonly { id?: unknown; origin?: unknown }[] };
  if (!Array.isArray(pieces)) return [];
  return pieces.flatMap(({ id, origin }) => (origin === 'outline' && typeof id === 'string' ? [id] : []));
}

/** One picture alone has no number. */
const fileOf = ({ source, extension }: ArchivePicture, count: number): string =>
  count === 1 && source === FIRST_PICTURE ? `picture.${extension}` : `${source}.${extension}`;

/** Writes a project archive: a ZIP described in docs/formats.md. */
export function writeArchive({ name, recipe, design, pictures, made }: ArchiveContents): Uint8Array {
  const { width, height } = frameOf(design, PREVIEW_MARGIN_MM);
  const scale = Math.min(MOST_PX_PER_MM, PREVIEW_SIDE / Math.max(width, height));
  const preview = writePng(renderDesign(design, scale, 'sewn', PREVIEW_MARGIN_MM), LEVEL);
  const files: Record<string, Uint8Array> = {
    'recipe.json': strToU8(JSON.stringify(recipe, null, 2) + '\n'),
    ...Object.fromEntries(pictures.map((picture) => [fileOf(picture, pictures.length), picture.bytes])),
    'design.json': strToU8(writeDesignJson(design)),
    'stitches.csv': strToU8(writeStitchList(design)),
    'preview.png': preview,
  };
  const manifest = {
    format: FORMAT,
    version: VERSION,
    name,
    ...(made ? { made } : {}),
    files: Object.fromEntries(
      Object.entries(files).map(([file, bytes]) => [file, { sha256: bytesToHex(sha256(bytes)) }]),
    ),
  };
  const zip: Zippable = { 'manifest.json': [strToU8(JSON.stringify(manifest, null, 2) + '\n'), { mtime: TIME }] };
  // Pictures are packed already: all but vector artwork would stay as large.
  for (const [file, bytes] of Object.entries(files))
    zip[file] = [bytes, { mtime: TIME, level: isPacked(file) ? 0 : LEVEL }];
  return zipSync(zip, { level: LEVEL });
}

const isPacked = (file: string): boolean => /\.(png|jpe?g|webp|gif|avif)$/.test(file);

/** What an archive says it was made from; undefined where it says nothing. @throws RangeError for what is no archive */
export function madeFrom(bytes: Uint8Array): MadeFrom | undefined {
  try {
    const files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => name === 'manifest.json' && originalSize <= MOST_OF[name],
    });
    const { made } = JSON.parse(strFromU8(files['manifest.json'])) as { made?: Partial<MadeFrom> };
    const { input, settings } = made ?? {};
    return typeof input === 'string' && typeof settings === 'string' ? { input, settings } : undefined;
  } catch {
    throw new RangeError('project archive: it is damaged or not a ZIP');
  }
}

/**
 * Reads a project archive.
 * @throws RangeError if it is damaged, too large, or not a project archive.
 */
export function readArchive(bytes: Uint8Array): ArchiveRead {
  let total = 0;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter: (file) => {
        total += file.originalSize;
        const most = MOST_OF[file.name] ?? MOST_BYTES;
        if (file.originalSize > most) throw new RangeError(`${file.name} unpacks to more than ${most / MB} MB`);
        if (total > MOST_BYTES) throw new RangeError(`it unpacks to more than ${MOST_BYTES / MB} MB`);
        return /^(manifest\.json|recipe\.json|design\.json|stitches\.csv|preview\.png|picture(-[1-9][0-9]?)?\.[a-z]+)$/.test(
          file.name,
        );
      },
    });
  } catch (error) {
    const why = error instanceof RangeError ? error.message : 'it is damaged or not a ZIP';
    throw new RangeError(`project archive: ${why}`);
  }
  const text = (name: string): string => {
    if (!files[name]) throw new RangeError(`project archive: ${name} is missing`);
    return strFromU8(files[name]);
  };
  const json = (name: string): unknown => {
    try {
      return JSON.parse(text(name)) as unknown;
    } catch (error) {
      if (error instanceof RangeError) throw error;
      throw new RangeError(`project archive: ${name} is not JSON`);
    }
  };
  const manifest = manifestOf(json('manifest.json'));
  for (const [file, { sha256: expected }] of Object.entries(manifest.files)) {
    if (!files[file] || bytesToHex(sha256(files[file])) !== expected) {
      throw new RangeError(`project archive: ${file} is damaged or missing`);
    }
  }
  return {
    name: manifest.name,
    recipe: parseRecipe(json('recipe.json')),
    sewing: readStitchList(text('stitches.csv')),
    outlines: outlinesOf(json('design.json')),
    pictures: Object.keys(files).flatMap((file): ArchivePicture[] => {
      const found = /^picture(-\d+)?\.([a-z]+)$/.exec(file);
      if (!found) return [];
      const source = found[1] === undefined ? FIRST_PICTURE : `picture${found[1]}`;
      return [{ source, bytes: files[file], extension: found[2] }];
    }),
  };
}
