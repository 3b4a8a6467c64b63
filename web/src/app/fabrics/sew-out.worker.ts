import { expose } from 'comlink';
import {
  convert,
  createRaster,
  findCorners,
  isMark,
  measureSewn,
  overlayOf,
  parseRecipe,
  placesOf,
  ringsOf,
  stitchBounds,
  testCard,
  unpackDesign,
  type Design,
  type Raster,
} from '@open-kite/core';
import { fetchBytes } from '../convert/worker-parts';
import type { SewnSource, SewOutWorker } from './sew-out-protocol';

/** Larger photographs are made smaller: more pixels say nothing more of a thread of 0.4 mm. */
const MOST_PIXELS = 14_000_000;
/** Pieces whose outlines are shown. */
const MOST_SHOWN = 400;

let design: Design | undefined;
let photo: Raster | undefined;

async function designOf(source: SewnSource): Promise<Design> {
  if (source.kind === 'card') return convert({ recipe: parseRecipe(testCard(source)), pictures: {}, charts: [] });
  const address = `/api/projects/${encodeURIComponent(source.id)}/designs/${encodeURIComponent(source.designKey)}`;
  return unpackDesign(new Uint8Array(await fetchBytes(address)));
}

async function pixelsOf(file: Blob): Promise<Raster> {
  const bitmap = await createImageBitmap(file).catch(() => {
    throw new Error('it is not a picture that can be read');
  });
  const scale = Math.min(1, Math.sqrt(MOST_PIXELS / (bitmap.width * bitmap.height)));
  const [width, height] = [bitmap.width, bitmap.height].map((side) => Math.max(1, Math.round(side * scale)));
  const canvas = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  if (!canvas) throw new Error('this browser cannot read its pixels');
  canvas.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  return createRaster(width, height, canvas.getImageData(0, 0, width, height).data);
}

const worker: SewOutWorker = {
  async open(source) {
    design = await designOf(source);
    const { pieces, stitches } = design;
    const bounds = stitchBounds(stitches);
    if (!bounds) throw new Error('there are no stitches in it');
    const largest = pieces.toSorted((a, b) => b.areaMm2 - a.areaMm2).slice(0, MOST_SHOWN);
    return {
      rings: largest.flatMap((piece) => ringsOf(piece)),
      places: placesOf(design),
      marked: pieces.some(({ object }) => isMark(object)),
      bounds,
    };
  },

  async read(file) {
    photo = await pixelsOf(file);
    return { width: photo.width, height: photo.height, corners: design && findCorners(design, photo) };
  },

  measure(corners) {
    if (!design || !photo) return Promise.resolve([]);
    return Promise.resolve(measureSewn(design, photo, overlayOf(placesOf(design), corners)));
  },
};

expose(worker);
