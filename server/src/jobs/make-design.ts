import {
  convert,
  designKey,
  figuresOf,
  frameOf,
  packDesign,
  PREVIEW_MARGIN_MM,
  renderDesign,
  writePng,
  type Chart,
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

/** Makes a design; a worker thread's task. */
export async function makeDesign({ recipe, pictures, charts }: DesignJob): Promise<MadeDesign> {
  const sources: Record<string, SourcePicture> = {};
  for (const { source, hash, png, kind, file } of pictures) {
    const raster = await rasterOf(Buffer.from(png));
    sources[source] = { key: hash, raster, ...(file ? readStoredSource(kind, file) : {}) };
  }
  const design = await convert({ pictures: sources, recipe, charts });
  const { stitches, minutes } = figuresOf(design.stitches, design.threads.length);
  const scale = PREVIEW_SIDE / Math.max(design.picture?.width ?? 100, design.picture?.height ?? 100);
  const hashes = Object.fromEntries(pictures.map(({ source, hash }) => [source, hash]));
  return {
    key: designKey(recipe, hashes, charts, []),
    packed: packDesign(design),
    preview: writePng(renderDesign(design, scale, 'sewn', PREVIEW_MARGIN_MM)),
    figures: { stitches, threads: design.threads.length, minutes: minutes.oneNeedle },
  };
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
