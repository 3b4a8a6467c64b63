import { expose, transfer } from 'comlink';
import {
  named,
  pictureTones,
  sampleColour,
  StepCache,
  wholePicture,
  type PictureView,
  type Raster,
} from '@open-kite/core';
import type { PictureWorker } from './convert-protocol';
import { fetchPixels, nextTurn } from './worker-parts';

let raster: Raster | undefined;
let pictureHash = '';
let cache = new StepCache();
/** Number of the latest picture asked for: older ones are not drawn. */
let latest = 0;

function inputFor(view: PictureView): Parameters<typeof wholePicture>[0] {
  if (!raster) throw new Error('no picture is open');
  return { source: { key: pictureHash, raster: named(raster, `pixels ${pictureHash}`) }, view };
}

const worker: PictureWorker = {
  async open({ hash }) {
    raster = await fetchPixels(hash);
    pictureHash = hash;
    cache = new StepCache();
  },

  async picture(view, pixels) {
    const job = ++latest;
    // Sliders ask faster than a large picture can be lit: only the last of those waiting is worth it.
    await nextTurn();
    if (job !== latest) return undefined;
    const lit = await wholePicture(inputFor(view), cache, pixels);
    const bitmap = await createImageBitmap(new ImageData(new Uint8ClampedArray(lit.data), lit.width, lit.height));
    return transfer(bitmap, [bitmap]);
  },

  async tones(view) {
    return pictureTones(inputFor(view), cache);
  },

  sample(u, v) {
    return raster && sampleColour(raster, u, v);
  },
};

expose(worker);
