import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  createRaster,
  dither,
  figuresOf,
  fromHex,
  likenessOf,
  likenessOfPictures,
  paintThreads,
  LINEAR,
  plateOf,
  renderDesign,
  RENDER_METHODS,
  renderMethodOf,
  samplePlate,
  StepCache,
  stitchCount,
  writePng,
  type Chart,
  type Design,
  type Raster,
} from '@open-kite/core';
import { flatRecipe, type FlatRecipe } from '@open-kite/core/testing';
import { convertOne, preparedOne } from './one-picture.js';
import { rampFit } from '@open-kite/core/testing';
import { CHART_FOLDER, decodePicture, readCharts } from '@open-kite/server';
import { FACE, portraitPixels } from '@open-kite/demo/artwork/portrait';
import { flatLines, greyOf, shortShare, shrunk } from './flat-look.js';
import { best, heading, line, percent } from './print.js';

const PICTURES = ['harbour', 'still-life', 'carved-mask'] as const;
const LONGEST_MM = 120;
const GRID_MM = 0.4;

interface Photo {
  readonly name: string;
  readonly raster: Raster;
}

/** A recipe for a photograph of 120 mm. */
function recipeFor({ raster }: Photo, method: string, threads: number): FlatRecipe {
  const base = flatRecipe(raster.width, raster.height);
  const factor = LONGEST_MM / Math.max(base.picture.widthMm, base.picture.heightMm);
  const { widthMm, heightMm } = base.picture;
  return {
    ...base,
    method,
    picture: { ...base.picture, dropGround: false, widthMm: widthMm * factor, heightMm: heightMm * factor },
    colours: { ...base.colours, count: threads },
  };
}

/** What mixing with the same threads and the cloth could reach: error diffusion on a grid of 0.4 mm. */
function reachable(design: Design, picture: Raster): { deltaE: number; ssim: number } {
  const box = design.picture;
  if (!box) throw new Error('a rendering has a picture');
  const plate = plateOf(picture, box);
  const width = Math.round(box.width / GRID_MM);
  const height = Math.round(box.height / GRID_MM);
  const data = new Float32Array(width * height * 3);
  const sample = new Float32Array(4);
  for (let i = 0; i < width * height; i++) {
    samplePlate(
      plate,
      box.left + ((i % width) + 0.5) * GRID_MM,
      box.top + (Math.floor(i / width) + 0.5) * GRID_MM,
      sample,
    );
    data.set(sample.subarray(0, 3), i * 3);
  }
  const colours = [design.fabric.hex, ...design.threads.map(({ hex }) => hex)].map(fromHex);
  const used = dither(
    { width, height, data },
    Float32Array.from(colours.flatMap(({ r, g, b }) => [LINEAR[r], LINEAR[g], LINEAR[b]])),
  );
  const out = createRaster(width, height);
  used.forEach((k, i) => out.data.set([colours[k].r, colours[k].g, colours[k].b, 255], i * 4));
  return likenessOfPictures(out, picture, design.fabric.hex);
}

async function painting(
  root: string,
  photos: readonly Photo[],
  threads: number,
  asked: string,
  charts: readonly Chart[] = [],
): Promise<number[]> {
  const own: number[] = [];
  for (const photo of photos) {
    const recipe = recipeFor(photo, 'painting', threads);
    const chosen = { ...recipe, colours: { ...recipe.colours, charts: charts.map(({ id }) => id) } };
    const input = { raster: photo.raster, pictureKey: photo.name, recipe: chosen, charts };
    const cache = new StepCache();
    let since = performance.now();
    let looked = since;
    let longest = 0;
    // Where a worker looks for messages, and can be stopped.
    const checkpoint = (): void => {
      const now = performance.now();
      longest = Math.max(longest, now - looked);
      looked = now;
    };
    await convertOne(input, { cache, quality: 'rough', checkpoint });
    const rough = performance.now() - since;
    since = performance.now();
    const design = await convertOne(input, { cache, checkpoint });
    const full = performance.now() - since;
    const picture = await preparedOne(input, cache);
    const { deltaE, ssim } = likenessOf(design, picture) ?? { deltaE: 0, ssim: 0 };
    const limit = reachable(design, picture);
    const { stitches, trims, longestStitchMm } = figuresOf(design.stitches, design.threads.length);
    own.push(deltaE);
    line(
      `${photo.name}, ${threads} ${charts.length > 0 ? `threads of ${charts[0].id}` : 'own threads'}: CIEDE2000, SSIM; stitches, trims`,
      `${deltaE.toFixed(2)}, ${ssim.toFixed(3)}; ${stitches}, ${trims}`,
      asked,
    );
    line(
      '  limit, ratio and difference to it; longest stitch; rough, finished',
      `${limit.deltaE.toFixed(2)}, ${(deltaE / limit.deltaE).toFixed(2)}, ${(deltaE - limit.deltaE).toFixed(2)}; ${longestStitchMm.toFixed(1)} mm; ${(rough / 1000).toFixed(1)}, ${(full / 1000).toFixed(1)} s`,
      '1.6 or 1.2; 2 s, 25 s',
    );
    line('  longest step before it can be stopped, Node, first conversion', `${longest.toFixed(0)} ms`, '300 ms');
    if (charts.length === 0)
      line('  of its length, ways that nothing sewn later hides', percent(openShare(design, picture)), '3 %');
    writeFileSync(
      join(root, 'dist/bench', `painting-${photo.name}-${threads}.png`),
      writePng(renderDesign(design, 8, 'sewn')),
    );
  }
  return own;
}

/** Share of the sewn length of a painting, with settings as usual, that are ways in the open. */
function openShare({ picture: box, threads, fabric }: Design, picture: Raster): number {
  if (!box) throw new Error('a rendering has a picture');
  const steps = paintThreads(plateOf(picture, box), {
    hexes: threads.map(({ hex }) => hex),
    clothHex: fabric.hex,
    filled: false,
    angle: 0,
    spacingMm: 0.4,
    lineMm: 1.2,
    calm: 0.5,
    detail: 0.15,
    first: 'scarce',
    twice: 2,
    longestMm: 6,
    quick: false,
  });
  let step = steps.next();
  while (!step.done) step = steps.next();
  let [open, all] = [0, 0];
  for (const { runs, openMm } of step.value.layers) {
    open += openMm;
    for (const run of runs) {
      for (let i = 2; i < run.length; i += 2) all += Math.hypot(run[i] - run[i - 2], run[i + 1] - run[i - 1]);
    }
  }
  return open / all;
}

const mean = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0) / list.length;

/** Photographs as rows, painting and inks. */
export async function photoBench(root: string): Promise<void> {
  const photos = await photosIn(root);
  await paintings(root, photos);
  await tonalRows(photos[0]);
  await facesBench(root);
  await budgets(photos);
}

/** Thread painting of the usual pictures alone. */
export async function paintingsBench(root: string): Promise<void> {
  await paintings(root, await photosIn(root));
}

async function photosIn(root: string): Promise<Photo[]> {
  const photos: Photo[] = [];
  for (const name of PICTURES) {
    const { raster } = await decodePicture(readFileSync(join(root, 'demo/artwork', `${name}.jpg`)));
    photos.push({ name, raster });
  }
  return photos;
}

async function paintings(root: string, photos: readonly Photo[]): Promise<void> {
  heading('Thread painting', 'three pictures rendered by script, 120 mm, straight lines, settings as usual');
  const own = await painting(root, photos, 12, '3.0, 0.88; 40 000, 150');
  await painting(root, photos, 24, '2.2, 0.93; 50 000');
  const chart = readCharts(CHART_FOLDER).reduce((a, b) => (b.threads.length > a.threads.length ? b : a));
  const matched = await painting(root, photos, 12, '', [chart]);
  line(`difference with ${chart.name} against own colours`, (mean(matched) / mean(own)).toFixed(2), '1.15');
}

/** Faces rendered by script, other than the one of the demo data. */
const SITTERS = [3, 5, 7, 11, 13];

/** Raster of a rendered face. */
function portrait(seed: number): Photo {
  const { width, height, data } = portraitPixels(seed);
  const raster = createRaster(width, height);
  for (let i = 0; i < width * height; i++) raster.data.set([...data.subarray(i * 3, i * 3 + 3), 255], i * 4);
  return { name: `portrait ${seed}`, raster };
}

/** A part of a raster, in shares of it. */
function partOf(raster: Raster, [left, top, right, bottom]: readonly [number, number, number, number]): Raster {
  const x0 = Math.round(left * raster.width);
  const y0 = Math.round(top * raster.height);
  const out = createRaster(Math.round((right - left) * raster.width), Math.round((bottom - top) * raster.height));
  for (let y = 0; y < out.height; y++) {
    const from = ((y0 + y) * raster.width + x0) * 4;
    out.data.set(raster.data.subarray(from, from + out.width * 4), y * out.width * 4);
  }
  return out;
}

/** What a design shows on squares of 0.4 mm: stitches as flat lines of 0.4 mm over its cloth, and its picture there. */
function flatLook(design: Design, picture: Raster): { drawn: Raster; wanted: Raster } {
  const box = design.picture;
  if (!box) throw new Error('a rendering has a picture');
  const fine = 4;
  const w = Math.floor(box.width / GRID_MM);
  const h = Math.floor(box.height / GRID_MM);
  const pixels = flatLines(design, {
    left: box.left,
    top: box.top,
    width: w * fine,
    height: h * fine,
    scale: fine / GRID_MM,
  });
  // Sides may be no multiple of a square.
  const part = partOf(picture, [0, 0, (w * GRID_MM) / box.width, (h * GRID_MM) / box.height]);
  return { drawn: shrunk(pixels, w, h, design.fabric.hex), wanted: shrunk(part, w, h, design.fabric.hex) };
}

interface Figures {
  readonly ssim: number;
  readonly face: number;
  readonly deltaE: number;
  readonly short: number;
  readonly trims: number;
  readonly stitches: number;
}

/** The threads of a method, said: a recipe of an earlier version takes those that were usual then. */
function usualThreads(method: string): Record<string, { hex: string }[]> {
  const source = renderMethodOf(method)?.threads;
  return source?.from === 'list' ? { [method]: source.usual.map((hex) => ({ hex })) } : {};
}

/** Sews a picture 100 mm wide on light cloth, and compares it. */
async function figuresFor(photo: Photo, method: string, change: (recipe: FlatRecipe) => FlatRecipe): Promise<Figures> {
  const base = flatRecipe(photo.raster.width, photo.raster.height);
  const factor = 100 / base.picture.widthMm;
  const { heightMm } = base.picture;
  const recipe = change({
    ...base,
    method,
    picture: { ...base.picture, dropGround: false, widthMm: 100, heightMm: heightMm * factor },
    rendering: { ...base.rendering, threads: usualThreads(method) },
  });
  const cache = new StepCache();
  const input = { raster: photo.raster, pictureKey: photo.name, recipe, charts: [] };
  const design = await convertOne(input, { cache });
  const { drawn, wanted } = flatLook(design, await preparedOne(input, cache));
  const grey = (raster: Raster): Raster => greyOf(raster);
  const face = likenessOfPictures(partOf(grey(drawn), FACE), partOf(grey(wanted), FACE), design.fabric.hex);
  const { stitches, trims } = figuresOf(design.stitches, design.threads.length);
  return {
    ssim: likenessOfPictures(grey(drawn), grey(wanted), design.fabric.hex).ssim,
    face: face.ssim,
    deltaE: likenessOfPictures(drawn, wanted, design.fabric.hex).deltaE,
    short: shortShare(design, 0.5),
    trims,
    stitches,
  };
}

const said = ({ ssim, face, deltaE, short, trims, stitches }: Figures, isFace: boolean): string =>
  `${deltaE.toFixed(2)}; ${ssim.toFixed(3)}${isFace ? ` / ${face.toFixed(3)}` : ''}; ${percent(short)}; ${trims}; ${stitches}`;

async function compared(
  photos: readonly Photo[],
  what: string,
  asked: string,
  sew: (photo: Photo) => Promise<Figures>,
): Promise<void> {
  const all: Figures[] = [];
  for (const photo of photos) {
    const found = await sew(photo);
    all.push(found);
    line(`${what}, ${photo.name}`, said(found, photo.name.startsWith('portrait')), '');
  }
  line(
    `${what}, mean difference and similarity`,
    `${mean(all.map((f) => f.deltaE)).toFixed(2)}; ${mean(all.map((f) => f.ssim)).toFixed(3)}`,
    asked,
  );
}

/** Rows and inks at 100 mm: faces, and pictures somebody keeps in a folder named by KITE_PICTURES. */
export async function facesBench(root: string): Promise<void> {
  const photos = [...SITTERS.map(portrait), ...(await photosIn(root))];
  const own = process.env['KITE_PICTURES'];
  if (own) {
    for (const name of ['cat.png', 'cup.png']) {
      photos.push({ name, raster: (await decodePicture(readFileSync(join(own, name)))).raster });
    }
  }
  heading(
    'Faces and pictures, 100 mm',
    'flat lines of 0.4 mm over #f4f1ea; difference; SSIM of L* whole / face; under 0.5 mm; trims; stitches',
  );
  const rows = (values: Record<string, number | string>) => (photo: Photo) =>
    figuresFor(photo, 'rows', (recipe) => ({
      ...recipe,
      rendering: { ...recipe.rendering, values: { rows: values } },
    }));
  await compared(photos, 'rows', '0.84, face 0.92; 6 %', rows({}));
  const inks = (values: Record<string, number | string>) => (photo: Photo) =>
    figuresFor(photo, 'inks', (recipe) => ({
      ...recipe,
      rendering: { ...recipe.rendering, values: { inks: values } },
    }));
  await compared(photos, 'inks, four fixed threads', '6', inks({}));
  await compared(photos, 'inks, four chosen threads', '5', inks({ palette: 'chosen' }));
  await compared(photos, 'inks, chosen threads and ground', '4.5', inks({ palette: 'chosen', ground: 'chosen' }));
  const painted = (photo: Photo): Promise<Figures> =>
    figuresFor(photo, 'painting', (recipe) => ({ ...recipe, colours: { ...recipe.colours, count: 20 } }));
  await compared(photos, 'painting, 20 threads', 'face 0.90', painted);
}

async function tonalRows(photo: Photo): Promise<void> {
  heading(
    'Tonal rows of growing closeness',
    'a ramp of greys even in L*, 120 mm, dark thread on light cloth; slope and R2 over the reachable range',
  );
  const base = {
    angle: 0,
    slant: 0,
    trimOverMm: 4,
    hex: '#22304a',
    clothHex: '#f4f1ea',
    invert: false,
    darkest: 0,
    lightest: 100,
    breakOff: 0.02,
  };
  for (const [spacingMm, pitchMm] of [
    [2.4, 0.7],
    [1.2, 0.5],
  ] as const) {
    const { slope, r2 } = rampFit({ ...base, spacingMm, pitchMm });
    line(
      `rows ${spacingMm} mm, pitch ${pitchMm} mm: slope, R2`,
      `${slope.toFixed(3)}, ${r2.toFixed(4)}`,
      '0.95 to 1.05, 0.99',
    );
  }
  const rows = { raster: photo.raster, pictureKey: 'rows', recipe: recipeFor(photo, 'rows', 12), charts: [] };
  const cache = new StepCache();
  await convertOne(rows, { cache });
  let angle = 0;
  const ms = await best(3, () =>
    convertOne(
      {
        ...rows,
        recipe: { ...rows.recipe, rendering: { ...rows.recipe.rendering, values: { rows: { angle: ++angle } } } },
      },
      { cache },
    ),
  );
  line('harbour, 120 mm, fine, picture known', `${(ms / 1000).toFixed(2)} s`, '1 s');
}

async function budgets(photos: readonly Photo[]): Promise<void> {
  heading(
    'Budget',
    'three quarters and half of the stitches a method makes by itself; share of the budget that is used',
  );
  for (const { id } of RENDER_METHODS) {
    for (const photo of photos) {
      const recipe = recipeFor(photo, id, 12);
      const input = { raster: photo.raster, pictureKey: photo.name, recipe, charts: [] };
      const steps = new StepCache();
      const full = stitchCount((await convertOne(input, { cache: steps })).stitches);
      const used: number[] = [];
      for (const share of [0.75, 0.5]) {
        const budget = Math.round(full * share);
        const design = await convertOne({ ...input, recipe: { ...recipe, budget } }, { cache: steps });
        used.push(stitchCount(design.stitches) / budget);
      }
      line(`${id}, ${photo.name}, ${full} stitches by itself`, used.map((v) => percent(v)).join(', '), '97 to 100 %');
    }
  }
}
