import type { Picture } from '@open-kite/contract';
import { expose, transfer } from 'comlink';
import {
  convert,
  FIRST_PICTURE,
  FORMATS,
  figuresOf,
  frameOf,
  listObject,
  fromHex,
  findingsOf,
  findingSteps,
  likenessSteps,
  designKey,
  outlineAt,
  packDesign,
  pictureAlone,
  pictureOfInput,
  pictureShades,
  preparedPicture,
  PREVIEW_MARGIN_MM,
  renderDesign,
  StepCache,
  threadCurve,
  whereColour,
  writeArchive,
  writePng,
  type Chart,
  type ConvertInput,
  type CurvePoint,
  type Design,
  type Recipe,
  type SourcePicture,
  type StepName,
  sourcesOf,
  unpackDesign,
} from '@open-kite/core';
import { buffersOf, copyStitches } from './stitch-copies';
import { DIMMED, type Converted, type ConvertWorker } from './convert-protocol';
import { measureDesign } from './design-measures';
import { practicePicture } from './practice-picture';
import { fetchArtwork, fetchList, fetchBytes, fetchPixels, nextTurn } from './worker-parts';

/** Progress is told at most this often, and messages are let in as often. */
const TELL_MS = 50;
const TURN_MS = 12;

class Cancelled extends Error {}

/** Pictures by their names in recipes, and what is fetched of each. */
let pictures: Readonly<Record<string, Picture>> = {};
const sources = new Map<string, Promise<SourcePicture>>();
let opened: Readonly<Record<string, SourcePicture>> = {};
let opening: Promise<void> = Promise.resolve();
let charts: readonly Chart[] = [];
let stash: ReadonlySet<string> = new Set();
const cache = new StepCache();
let wanted = 0;
/** Conversions under way. */
let converting = 0;
let finished: Design | undefined;
let finishedRecipe: Recipe | undefined;
/** Number of the latest try: an older one is not finished. */
let tryJob = 0;
/** Key of the design that is stored with the project. */
let storedKey: string | undefined;

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

/** What a conversion takes, once its pictures are there. */
async function inputFor(recipe: Recipe): Promise<ConvertInput> {
  await opening;
  return { pictures: opened, recipe, charts, stash };
}

function fetchSource({ hash, kind }: Picture): Promise<SourcePicture> {
  const known = sources.get(hash);
  if (known) return known;
  const made = Promise.all([
    fetchPixels(hash),
    kind === 'svg' ? fetchArtwork(hash) : undefined,
    kind === 'list' ? fetchList(hash) : undefined,
  ]).then(([raster, artwork, sewing]): SourcePicture => ({ key: hash, raster, artwork, sewing }));
  sources.set(hash, made);
  // What could not be fetched is asked for again.
  made.catch(() => sources.delete(hash));
  return made;
}

/** Lets messages in now and then, and stops work that nobody wants any more. */
function inTurns(isStopped: () => boolean): () => Promise<void> {
  let turned = performance.now();
  return async () => {
    if (performance.now() - turned < TURN_MS) return;
    await nextTurn();
    turned = performance.now();
    if (isStopped()) throw new Cancelled();
  };
}

/** What a work gives; undefined where it was stopped. */
async function unlessStopped<T>(work: () => Promise<T>): Promise<T | undefined> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof Cancelled) return undefined;
    throw error;
  }
}

const keyFor = (recipe: Recipe): string => designKey(recipe, hashesOf(recipe), charts, [...stash]);

function hashesOf(recipe: Recipe): Record<string, string> {
  return Object.fromEntries(sourcesOf(recipe).map((name) => [name, pictures[name]?.hash ?? '']));
}

/** What of a picture an archive holds, and its ending. */
const FILES = { raster: ['image', 'png'], svg: ['source', 'svg'], list: ['source', 'csv'] } as const;

/** Number of the latest curve asked for: an older one is not finished. */
let curveJob = 0;

/** Pixels of the picture that shows where a colour is, along its longer side. */
const WHERE_SIDE = 700;

const worker: ConvertWorker = {
  async getReady() {
    const { recipe, raster } = practicePicture();
    const checkpoint = inTurns(() => converting > 0);
    const practice = { pictures: { [FIRST_PICTURE]: { key: 'practice', raster } }, recipe, charts: [] };
    await unlessStopped(() => convert(practice, { quality: 'rough', cache: new StepCache(), checkpoint }));
  },

  fetchAhead(picture) {
    void fetchSource(picture).catch(() => undefined);
  },

  open(given) {
    pictures = given;
    opening = Promise.all(
      Object.entries(given).map(async ([name, picture]) => [name, await fetchSource(picture)] as const),
    ).then((list) => {
      opened = Object.fromEntries(list);
    });
    opening.catch(() => undefined);
    return opening;
  },

  async restore(packed, key, recipe, shown, copies) {
    pictures = shown;
    if (key !== keyFor(recipe)) return undefined;
    try {
      const design = unpackDesign(new Uint8Array(packed));
      [finished, finishedRecipe, storedKey] = [design, recipe, key];
      return leave(design, copies);
    } catch {
      // What cannot be read is made anew.
      return undefined;
    }
  },

  async keep(projectId) {
    if (!finished || !finishedRecipe) return;
    const key = keyFor(finishedRecipe);
    if (key === storedKey) return;
    const body = new Blob([new Uint8Array(packDesign(finished))], { type: 'application/octet-stream' });
    const answer = await fetch(`/api/projects/${projectId}/designs/${key}`, { method: 'PUT', body });
    if (answer.ok) storedKey = key;
  },

  setCupboard(given, keys) {
    charts = given;
    stash = new Set(keys);
  },

  async convert(job, recipe, quality, copies, progress) {
    wanted = Math.max(wanted, job);
    const input = await inputFor(recipe);
    converting++;
    let told = -Infinity;
    const tell = (step: StepName, share: number): void => {
      // Every message costs the interface a little, and what is done at once needs none.
      const now = performance.now();
      if (now - told < TELL_MS) return;
      if (told > 0) progress(step, share);
      told = now;
    };
    try {
      return await unlessStopped(async () => {
        const checkpoint = inTurns(() => job < wanted);
        const design = await convert(input, { quality, cache, progress: tell, checkpoint });
        if (quality === 'full') [finished, finishedRecipe] = [design, recipe];
        return leave(design, copies);
      });
    } finally {
      converting--;
    }
  },

  async tryOut(recipe) {
    const job = ++tryJob;
    const checkpoint = inTurns(() => job !== tryJob || converting > 0);
    const input = await inputFor(recipe);
    return unlessStopped(async () => {
      const design = await convert(input, { quality: 'full', cache, checkpoint });
      await nextTurn();
      if (job !== tryJob || converting > 0) return undefined;
      const findings = findingsOf(design, design, recipe);
      const left = leave(design, 0);
      return Object.assign(left, { findings });
    });
  },

  cancel(job) {
    wanted = Math.max(wanted, job + 1);
  },

  async warmUp(recipe) {
    const checkpoint = inTurns(() => converting > 0);
    const input = await inputFor(recipe);
    await unlessStopped(() => convert(input, { quality: 'rough', cache, checkpoint }));
  },

  async likeness() {
    if (!finished || !finishedRecipe) return undefined;
    const design = finished;
    if (design.pictures.length === 0) return undefined;
    const picture = await preparedPicture(pictureOfInput(await inputFor(finishedRecipe)), cache);
    const steps = likenessSteps(pictureAlone(design), picture);
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
      await nextTurn();
      // A newer conversion has been asked for: its likeness is the one that counts.
      if (finished !== design || converting) return undefined;
    }
  },

  async listAt(hash, id, source) {
    return listObject(id, source, await fetchList(hash));
  },

  async findings() {
    if (!finished || !finishedRecipe || converting) return undefined;
    const design = finished;
    const steps = findingSteps(design, design, finishedRecipe);
    for (;;) {
      await nextTurn();
      // A newer conversion has been asked for: its findings are those that count.
      if (finished !== design || converting) return undefined;
      const step = steps.next();
      if (step.done) return step.value;
    }
  },

  async where(recipe, object, colour, shade) {
    const found = await whereColour(pictureOfInput(await inputFor(recipe), object), cache, colour, shade);
    if (!found) return undefined;
    const { r, g, b } = fromHex(recipe.cloth.hex);
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

  async outlineAt(recipe, object, u, v, tolerance) {
    return outlineAt(pictureOfInput(await inputFor(recipe), object), cache, u, v, tolerance);
  },

  async curve(recipe, object, most) {
    const job = ++curveJob;
    const input = pictureOfInput(await inputFor(recipe), object);
    const used = charts.filter((chart) => input.view.colours.charts.includes(chart.id));
    const points: CurvePoint[] = [];
    for (const point of threadCurve(await pictureShades(input, cache), most, used)) {
      points.push(point);
      await nextTurn();
      if (job !== curveJob) return undefined;
    }
    return points;
  },

  async exportAs(kind, name, recipe) {
    const design = ready();
    if (kind === 'kite') {
      const files = Object.entries(hashesOf(recipe)).map(async ([source, hash]) => {
        const [part, extension] = FILES[pictures[source].kind];
        return { source, extension, bytes: new Uint8Array(await fetchBytes(`/api/pictures/${hash}/${part}`)) };
      });
      return new Uint8Array(writeArchive({ name, recipe, design, pictures: await Promise.all(files) }));
    }
    const content = FORMATS.find(({ ending }) => ending === kind)?.write?.(design);
    if (content === undefined) throw new Error(`there is no format .${kind}`);
    return typeof content === 'string' ? new TextEncoder().encode(content) : new Uint8Array(content);
  },

  async preview() {
    if (!finished || finished.stitches.count <= 1) return undefined;
    const figures = figuresOf(finished.stitches, finished.threads.length);
    const { width, height } = finished.picture ?? frameOf(finished, 0);
    const scale = 480 / Math.max(width, height, 1);
    const png = new Uint8Array(writePng(renderDesign(finished, scale, 'sewn', PREVIEW_MARGIN_MM)));
    const { stitches, minutes, threadChanges } = figures;
    return { png, stitches, threads: finished.threads.length, minutes: minutes.oneNeedle, threadChanges };
  },
};

expose(worker);
