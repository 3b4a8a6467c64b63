import { expose, transfer } from 'comlink';
import {
  convert,
  DESIGN_FILES,
  figuresOf,
  fromHex,
  likenessSteps,
  outlineAt,
  pictureShades,
  preparedPicture,
  renderDesign,
  StepCache,
  threadCurve,
  whereColour,
  writeArchive,
  writePng,
  type Artwork,
  type Chart,
  type ConvertInput,
  type CurvePoint,
  type Design,
  type Raster,
  type Recipe,
} from '@open-kite/core';
import { buffersOf, copyStitches } from './stitch-copies';
import { DIMMED, type Converted, type ConvertWorker } from './convert-protocol';
import { measureDesign } from './design-measures';
import { fetchArtwork, fetchBytes, fetchPixels, nextTurn } from './worker-parts';

/** Progress is told at most this often, and messages are let in as often. */
const TELL_MS = 50;
const TURN_MS = 12;

class Cancelled extends Error {}

let raster: Raster | undefined;
let artwork: Artwork | undefined;
let pictureHash = '';
let charts: readonly Chart[] = [];
let stash: ReadonlySet<string> = new Set();
let cache = new StepCache();
let wanted = 0;
/** Conversions under way. */
let converting = 0;
let finished: Design | undefined;
let finishedRecipe: Recipe | undefined;

/** The design with arrays of its own, so that they can leave without a copy while the cache keeps its own; and more for those who draw. */
function leave(design: Design, copies: number): Converted {
  const [stitches, ...spares] = Array.from({ length: 1 + copies }, () => copyStitches(design.stitches));
  const buffers = [stitches, ...spares].flatMap(buffersOf);
  // The ladders of satin columns are only for making stitches: nobody draws them, and they are large.
  const pieces = design.pieces.map((piece) => ({ ...piece, columns: [] }));
  return transfer({ design: { ...design, pieces, stitches }, measures: measureDesign(design), spares }, buffers);
}

function ready(): Design {
  if (!finished) throw new Error('there is no finished design yet');
  return finished;
}

function inputFor(recipe: Recipe): ConvertInput {
  if (!raster) throw new Error('no picture is open');
  return { raster, artwork, pictureKey: pictureHash, recipe, charts, stash };
}

/** Number of the latest curve asked for: an older one is not finished. */
let curveJob = 0;

/** Pixels of the picture that shows where a colour is, along its longer side. */
const WHERE_SIDE = 700;

const worker: ConvertWorker = {
  async open(hash, kind) {
    [raster, artwork] = await Promise.all([fetchPixels(hash), kind === 'svg' ? fetchArtwork(hash) : undefined]);
    pictureHash = hash;
    cache = new StepCache();
    finished = undefined;
  },

  setCupboard(given, keys) {
    charts = given;
    stash = new Set(keys);
  },

  async convert(job, recipe, quality, copies, progress) {
    const input = inputFor(recipe);
    wanted = Math.max(wanted, job);
    converting++;
    let told = -Infinity;
    let turned = performance.now();
    try {
      const design = await convert(input, {
        quality,
        cache,
        progress: (step, share) => {
          // Every message costs the interface a little, and what is done at once needs none.
          const now = performance.now();
          if (now - told < TELL_MS) return;
          if (told > 0) progress(step, share);
          told = now;
        },
        checkpoint: async () => {
          if (performance.now() - turned < TURN_MS) return;
          await nextTurn();
          turned = performance.now();
          if (job < wanted) throw new Cancelled();
        },
      });
      if (quality === 'full') [finished, finishedRecipe] = [design, recipe];
      return leave(design, copies);
    } catch (error) {
      if (error instanceof Cancelled) return undefined;
      throw error;
    } finally {
      converting--;
    }
  },

  cancel(job) {
    wanted = Math.max(wanted, job + 1);
  },

  async likeness() {
    if (!finished || !finishedRecipe) return undefined;
    const design = finished;
    const steps = likenessSteps(design, await preparedPicture(inputFor(finishedRecipe), cache));
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
      await nextTurn();
      // A newer conversion has been asked for: its likeness is the one that counts.
      if (finished !== design || converting) return undefined;
    }
  },

  async where(recipe, colour, shade) {
    const found = await whereColour(inputFor(recipe), cache, colour, shade);
    if (!found) return undefined;
    const { r, g, b } = fromHex(recipe.clothHex);
    const step = Math.max(1, Math.ceil(Math.max(found.width, found.height) / WHERE_SIDE));
    const width = Math.ceil(found.width / step);
    const height = Math.ceil(found.height / step);
    const data = new ImageData(width, height);
    for (let i = 0; i < width * height; i++) {
      const x = Math.min(found.width - 1, (i % width) * step + (step >> 1));
      const y = Math.min(found.height - 1, Math.floor(i / width) * step + (step >> 1));
      data.data.set([r, g, b, found.inside[y * found.width + x] ? 0 : DIMMED], i * 4);
    }
    const bitmap = await createImageBitmap(data);
    return transfer(bitmap, [bitmap]);
  },

  outlineAt(recipe, u, v) {
    return outlineAt(inputFor(recipe), cache, u, v);
  },

  async curve(recipe, most) {
    const job = ++curveJob;
    const used = charts.filter((chart) => recipe.colours.charts.includes(chart.id));
    const points: CurvePoint[] = [];
    for (const point of threadCurve(await pictureShades(inputFor(recipe), cache), most, used)) {
      points.push(point);
      await nextTurn();
      if (job !== curveJob) return undefined;
    }
    return points;
  },

  async exportAs(kind, name, recipe) {
    const design = ready();
    if (kind === 'kite') {
      const [part, extension] = artwork ? ['source', 'svg'] : ['image', 'png'];
      const bytes = new Uint8Array(await fetchBytes(`/api/pictures/${pictureHash}/${part}`));
      return new Uint8Array(writeArchive({ name, recipe, design, picture: { bytes, extension } }));
    }
    const content = DESIGN_FILES[kind](design);
    return typeof content === 'string' ? new TextEncoder().encode(content) : new Uint8Array(content);
  },

  async preview() {
    if (!finished?.picture) return undefined;
    const figures = figuresOf(finished.stitches, finished.threads.length);
    const scale = 480 / Math.max(finished.picture.width, finished.picture.height);
    const png = new Uint8Array(writePng(renderDesign(finished, scale, 'sewn', 4)));
    const { stitches, minutes, threadChanges } = figures;
    return { png, stitches, threads: finished.threads.length, minutes: minutes.oneNeedle, threadChanges };
  },
};

expose(worker);
