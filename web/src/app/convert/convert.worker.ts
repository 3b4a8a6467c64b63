import { expose, transfer } from 'comlink';
import {
  convert,
  createRaster,
  DESIGN_FILES,
  figuresOf,
  likenessOf,
  preparedPicture,
  renderDesign,
  StepCache,
  writeArchive,
  writePng,
  type Chart,
  type Design,
  type Raster,
  type Recipe,
} from '@open-kite/core';
import type { ConvertWorker } from './convert-protocol';

class Cancelled extends Error {}

let raster: Raster | undefined;
let pictureHash = '';
let charts: readonly Chart[] = [];
let cache = new StepCache();
let wanted = 0;
let finished: Design | undefined;
let finishedRecipe: Recipe | undefined;

/** Lets waiting messages in, a cancel among them; a message channel is not slowed down like a timer is. */
const turn = new MessageChannel();
const waiting: (() => void)[] = [];
turn.port1.onmessage = () => waiting.shift()?.();
const nextTurn = (): Promise<void> =>
  new Promise((resolve) => {
    waiting.push(resolve);
    turn.port2.postMessage(0);
  });

async function fetchBytes(address: string): Promise<ArrayBuffer> {
  const answer = await fetch(address);
  if (!answer.ok) throw new Error(`the picture could not be fetched (${answer.status})`);
  return answer.arrayBuffer();
}

/** The design with arrays of its own, so that they can leave without a copy while the cache keeps its own. */
function leave(design: Design): Design {
  const { stitches } = design;
  const copy = {
    count: stitches.count,
    x: stitches.x.slice(),
    y: stitches.y.slice(),
    command: stitches.command.slice(),
    thread: stitches.thread.slice(),
    piece: stitches.piece.slice(),
  };
  const buffers = [copy.x, copy.y, copy.command, copy.thread, copy.piece].map((a) => a.buffer);
  return transfer({ ...design, stitches: copy }, buffers);
}

function ready(): Design {
  if (!finished) throw new Error('there is no finished design yet');
  return finished;
}

const worker: ConvertWorker = {
  async open(hash, given) {
    const buffer = await fetchBytes(`/api/pictures/${hash}/pixels`);
    const [width, height] = new Uint32Array(buffer, 0, 2);
    raster = createRaster(width, height, new Uint8ClampedArray(buffer, 8));
    pictureHash = hash;
    charts = given;
    cache = new StepCache();
    finished = undefined;
  },

  async convert(job, recipe, quality, progress) {
    if (!raster) throw new Error('no picture is open');
    wanted = Math.max(wanted, job);
    let told = 0;
    try {
      const design = await convert(
        { raster, pictureKey: pictureHash, recipe, charts },
        {
          quality,
          cache,
          progress: (step, share) => {
            // Every message costs the interface a little: whole percents are enough.
            if (Math.floor(share * 100) !== told || share === 0) progress(step, share);
            told = Math.floor(share * 100);
          },
          checkpoint: async () => {
            await nextTurn();
            if (job < wanted) throw new Cancelled();
          },
        },
      );
      if (quality === 'full') [finished, finishedRecipe] = [design, recipe];
      return leave(design);
    } catch (error) {
      if (error instanceof Cancelled) return undefined;
      throw error;
    }
  },

  cancel(job) {
    wanted = Math.max(wanted, job + 1);
  },

  async likeness() {
    if (!finished || !raster || !finishedRecipe) return undefined;
    const design = finished;
    return likenessOf(
      design,
      await preparedPicture({ raster, pictureKey: pictureHash, recipe: finishedRecipe, charts }, cache),
    );
  },

  async exportAs(kind, name, recipe) {
    const design = ready();
    if (kind === 'kite') {
      const bytes = new Uint8Array(await fetchBytes(`/api/pictures/${pictureHash}/image`));
      return new Uint8Array(writeArchive({ name, recipe, design, picture: { bytes, extension: 'png' } }));
    }
    const content = DESIGN_FILES[kind](design);
    return typeof content === 'string' ? new TextEncoder().encode(content) : new Uint8Array(content);
  },

  async preview() {
    if (!finished?.picture) return undefined;
    const figures = figuresOf(finished.stitches, finished.threads.length);
    const scale = 480 / Math.max(finished.picture.width, finished.picture.height);
    const png = new Uint8Array(writePng(renderDesign(finished, scale, 'sewn', 4)));
    const { stitches, minutes } = figures;
    return { png, stitches, threads: finished.threads.length, minutes: minutes.oneNeedle };
  },
};

expose(worker);
