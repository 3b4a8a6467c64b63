import {
  BY_HAND,
  convert,
  designKey,
  figuresOf,
  frameOf,
  packDesign,
  practiceCloth,
  practicePhoto,
  PREVIEW_MARGIN_MM,
  readStitchList,
  renderDesign,
  sourcesOf,
  unpackDesign,
  writeArchive,
  writePng,
  type Chart,
  type Design,
  type Recipe,
  type SourcePicture,
} from '@open-kite/core';
import type { Picture, ShelfFigures } from '@open-kite/contract';
import { readStoredSource } from '../pictures/first-recipe.js';
import { rasterOf } from '../pictures/decode.js';

/** A design to be made away from the server's own thread. */
export interface DesignJob {
  readonly recipe: Recipe;
  /** Its pictures by their names in the recipe: pixels as PNG, and the source of vector artwork. */
  readonly pictures: readonly {
    readonly source: string;
    readonly hash: string;
    readonly png: Uint8Array;
    readonly kind: Picture['kind'];
    readonly file: Uint8Array | null;
  }[];
  readonly charts: readonly Chart[];
  /** Threads in the drawer, as `chart code`. */
  readonly stash: readonly string[];
}

/** What is kept of a design: packed, with its key, and its picture and figures for the shelf. */
export interface MadeDesign {
  readonly key: string;
  readonly packed: Uint8Array;
  readonly preview: Uint8Array;
  readonly figures: ShelfFigures;
}

/** Longest side of a picture for the shelf, in pixels. */
const PREVIEW_SIDE = 480;

const hashesOf = (pictures: DesignJob['pictures']): Record<string, string> =>
  Object.fromEntries(pictures.map(({ source, hash }) => [source, hash]));

async function convertJob({ recipe, pictures, charts, stash }: DesignJob): Promise<Design> {
  const sources: Record<string, SourcePicture> = {};
  for (const { source, hash, png, kind, file } of pictures) {
    const raster = await rasterOf(Buffer.from(png));
    sources[source] = { key: hash, raster, ...(file ? readStoredSource(kind, file) : {}) };
  }
  return convert({ pictures: sources, recipe, charts, stash: new Set(stash) });
}

/** Makes a design; a worker thread's task. */
export async function makeDesign(job: DesignJob): Promise<MadeDesign> {
  const { recipe, pictures, charts, stash } = job;
  const design = await convertJob(job);
  const { stitches, minutes } = figuresOf(design.stitches, design.threads.length);
  const scale = PREVIEW_SIDE / Math.max(design.picture?.width ?? 100, design.picture?.height ?? 100);
  return {
    key: designKey(recipe, hashesOf(pictures), charts, stash),
    packed: packDesign(design),
    preview: writePng(renderDesign(design, scale, 'sewn', PREVIEW_MARGIN_MM)),
    figures: { stitches, threads: design.threads.length, minutes: minutes.oneNeedle },
  };
}

/** A project to be handed out whole, with the design that is stored with it. */
export interface ArchiveJob extends DesignJob {
  readonly name: string;
  readonly stored: { readonly key: string; readonly packed: Uint8Array } | undefined;
}

/** What of a picture an archive holds, and its ending. */
const ARCHIVED = { raster: 'png', svg: 'svg', list: 'csv' } as const;

/** Writes the archive of a project: what is stored of its design where that fits, a new one where not; a worker thread's task. */
export async function makeArchive(job: ArchiveJob): Promise<Uint8Array> {
  const { name, recipe, pictures, charts, stash, stored } = job;
  const shown = new Set(sourcesOf(recipe));
  const own = pictures.filter(({ source }) => shown.has(source));
  const fits = stored?.key === designKey(recipe, hashesOf(own), charts, stash);
  return writeArchive({
    name,
    recipe,
    design: (fits && readable(stored?.packed)) || (await convertJob(job)),
    pictures: own.map(({ source, kind, png, file }) => ({
      source,
      extension: ARCHIVED[kind],
      bytes: kind === 'raster' || !file ? png : file,
    })),
  });
}

/** A packed design; undefined where it is damaged, so that it is made anew. */
function readable(packed: Uint8Array | undefined): Design | undefined {
  try {
    return packed && unpackDesign(packed);
  } catch {
    return undefined;
  }
}

/** A text to be shown sewn: its recipe, and the height of the picture in pixels. */
export interface SampleJob {
  readonly recipe: Recipe;
  readonly heightPx: number;
}

/** Sews a small sample, and gives its picture; a worker thread's task. */
export async function sewSample({ recipe, heightPx }: SampleJob): Promise<Uint8Array> {
  const design = await convert({ pictures: {}, recipe, charts: [] });
  const { height } = frameOf(design, SAMPLE_MARGIN_MM);
  return writePng(renderDesign(design, heightPx / Math.max(1, height), 'sewn', SAMPLE_MARGIN_MM));
}

const SAMPLE_MARGIN_MM = 1;

/** A stitch list that was sewn on a practice cloth, to be photographed; another seed is another light. */
export interface PhotoJob {
  readonly list: string;
  readonly cloth: string;
  readonly seed: number;
}

/** Photographs what was sewn on a practice cloth; a worker thread's task. */
export async function photograph({ list, cloth, seed }: PhotoJob): Promise<Uint8Array> {
  const sewing = readStitchList(list);
  return Promise.resolve(writePng(practicePhoto(sewing, practiceCloth(cloth), { ...BY_HAND, seed })));
}
