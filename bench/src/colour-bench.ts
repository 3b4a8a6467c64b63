import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import * as imageQ from 'image-q';
import sharp from 'sharp';
import {
  ciede2000,
  createRaster,
  histogram,
  PLAIN_LIGHT,
  reduce,
  rgbToLab,
  StepCache,
  toByte,
  writePng,
  type ColourDecision,
  type Design,
  type Light,
  type Raster,
} from '@open-kite/core';
import { flatRecipe, type FlatRecipe } from '@open-kite/core/testing';
import { convertOne, wholeOne } from './one-picture.js';
import { drawSmooth, flatScene } from '@open-kite/core/testing';
import { best, heading, line, percent } from './print.js';

const cellAt = (data: Uint8ClampedArray, at: number): number =>
  ((data[at] >> 3) << 10) | ((data[at + 1] >> 3) << 5) | (data[at + 2] >> 3);

/** Every pixel in one of `count` colours, by core's reduction: histogram, centres, and the colour of every pixel. */
function reduced(raster: Raster, count: number): Raster {
  const shades = histogram(raster);
  const { assigned, count: k } = reduce(shades, count);
  const sums = new Float64Array(k * 4);
  for (let i = 0; i < shades.count; i++) {
    for (let j = 0; j < 3; j++) sums[assigned[i] * 4 + j] += shades.weight[i] * shades.linear[i * 3 + j];
    sums[assigned[i] * 4 + 3] += shades.weight[i];
  }
  const colours = new Uint8Array(k * 3);
  for (let c = 0; c < k; c++)
    for (let j = 0; j < 3; j++) colours[c * 3 + j] = toByte(sums[c * 4 + j] / sums[c * 4 + 3]);
  const { data, width, height } = raster;
  const used = new Uint8Array(1 << 15);
  for (let i = 0; i < data.length; i += 4) used[cellAt(data, i)] = 1;
  const colourOf = new Uint8Array(1 << 15);
  for (let c = 0, at = 0; c < used.length; c++) if (used[c]) colourOf[c] = assigned[at++];
  const out = createRaster(width, height);
  for (let i = 0; i < data.length; i += 4) {
    const c = colourOf[cellAt(data, i)] * 3;
    out.data[i] = colours[c];
    out.data[i + 1] = colours[c + 1];
    out.data[i + 2] = colours[c + 2];
    out.data[i + 3] = 255;
  }
  return out;
}

/** Mean CIEDE2000 between two pictures, every third pixel. */
function difference(a: Raster, b: Raster): number {
  const known = new Map<string, number>();
  let sum = 0;
  let n = 0;
  for (let i = 0; i < a.data.length; i += 12) {
    const p = { r: a.data[i], g: a.data[i + 1], b: a.data[i + 2] };
    const q = { r: b.data[i], g: b.data[i + 1], b: b.data[i + 2] };
    const key = `${p.r},${p.g},${p.b},${q.r},${q.g},${q.b}`;
    let d = known.get(key);
    if (d === undefined) known.set(key, (d = ciede2000(rgbToLab(p), rgbToLab(q))));
    sum += d;
    n++;
  }
  return sum / n;
}

/** The Wu quantiser of image-q, no dithering. */
function wuOf(raster: Raster, count: number): Raster {
  const points = imageQ.utils.PointContainer.fromUint8Array(raster.data, raster.width, raster.height);
  const palette = imageQ.buildPaletteSync([points], { colors: count, paletteQuantization: 'wuquant' });
  const out = imageQ.applyPaletteSync(points, palette, { imageQuantization: 'nearest' });
  return createRaster(raster.width, raster.height, new Uint8ClampedArray(out.toUint8Array()));
}

/** pngquant at its best quality, no dithering; undefined where it is not installed. */
async function pngquantOf(raster: Raster, count: number): Promise<Raster | undefined> {
  const folder = mkdtempSync(join(tmpdir(), 'kite-bench-'));
  try {
    const file = join(folder, 'in.png');
    writeFileSync(file, writePng(raster));
    const out = join(folder, 'out.png');
    execFileSync('pngquant', ['--nofs', '--speed', '1', '--output', out, String(count), file], { stdio: 'ignore' });
    const { data, info } = await sharp(readFileSync(out)).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    return createRaster(info.width, info.height, new Uint8ClampedArray(data));
  } catch {
    return undefined;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

async function comparison(name: string, raster: Raster): Promise<void> {
  heading(
    `Reduction of ${name}`,
    `mean CIEDE2000, no dithering, ${raster.width} x ${raster.height} pixels; core, image-q Wu, pngquant --speed 1 --nofs, same run`,
  );
  for (const count of [4, 8, 12, 24]) {
    const ours = difference(raster, reduced(raster, count));
    const wu = difference(raster, wuOf(raster, count));
    const png = await pngquantOf(raster, count);
    const theirs = png ? difference(raster, png) : undefined;
    const least = Math.min(wu, theirs ?? Infinity);
    line(
      `${count} colours: core / image-q Wu / pngquant`,
      `${ours.toFixed(2)} / ${wu.toFixed(2)} / ${theirs?.toFixed(2) ?? 'not installed'}`,
      `${(ours / least).toFixed(2)} x the better`,
    );
  }
}

/** Scripted flat pictures: discs and thin bars on a ground, some of them saved as JPEG. */
async function flatPictures(): Promise<{ raster: Raster; palette: { r: number; g: number; b: number }[] }[]> {
  const pictures = [];
  for (let i = 0; i < 40; i++) {
    const colours = 2 + (i % 11);
    const { scene, palette } = flatScene(560, colours, 9000 + i * 17);
    const { raster, truth } = drawSmooth(scene, palette, 560, 560);
    // Later shapes may hide earlier ones: only colours that are there count.
    const area = new Uint32Array(palette.length);
    for (const t of truth) area[t]++;
    const seen = palette.filter((_, c) => area[c] > 40);
    if (i % 4 !== 3) pictures.push({ raster, palette: seen });
    else {
      const jpeg = await sharp(Buffer.from(raster.data), { raw: { width: 560, height: 560, channels: 4 } })
        .jpeg({ quality: 88 })
        .toBuffer();
      const { data } = await sharp(jpeg).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
      pictures.push({ raster: createRaster(560, 560, new Uint8ClampedArray(data)), palette: seen });
    }
  }
  return pictures;
}

async function suggestions(): Promise<void> {
  heading(
    'Suggested number of colours',
    '40 scripted flat pictures of 560 px, 2 to 12 colours, thin bars, every fourth a JPEG of quality 88',
  );
  let exact = 0;
  let surviving = 0;
  const wrong: string[] = [];
  const pictures = await flatPictures();
  for (const [i, { raster, palette }] of pictures.entries()) {
    const recipe = flatRecipe(raster.width, raster.height);
    const design = await convertOne({ raster, pictureKey: `f${i}`, recipe, charts: [] });
    if (design.pictures[0].suggestedColours === palette.length) exact++;
    else wrong.push(`#${i}: ${design.pictures[0].suggestedColours} for ${palette.length}`);
    // A colour that is none of the picture's own can only be an edge shade.
    for (const colour of design.colours) {
      const rgb = {
        r: parseInt(colour.hex.slice(1, 3), 16),
        g: parseInt(colour.hex.slice(3, 5), 16),
        b: parseInt(colour.hex.slice(5), 16),
      };
      if (!palette.some((p) => ciede2000(rgbToLab(p), rgbToLab(rgb)) < 6)) surviving++;
    }
  }
  line('exact', `${exact} of ${pictures.length} (${percent(exact / pictures.length, 1)})`, '90 %');
  if (wrong.length > 0) line('  wrong', wrong.join(', '));
  line('edge shades surviving as colours', String(surviving), 'none');
}

/** Decisions of every kind on a design: what a user might say of its colours. */
function decisionsOn(design: Design): ColourDecision[] {
  const [a, b, c, d] = [...design.colours].filter((x) => x.bare !== 'ground').sort((x, y) => y.share - x.share);
  return [
    { kind: 'pin', at: d.anchor },
    { kind: 'merge', at: c.anchor, into: a.anchor },
    { kind: 'bare', at: b.anchor },
    { kind: 'thread', at: a.anchor, chart: 'own', code: '' },
  ];
}

async function stickiness(name: string, raster: Raster): Promise<void> {
  heading(
    `Decisions on the colours of ${name}`,
    'pin, merge, leave bare, thread; each change after the first conversion with 6 colours',
  );
  const base = flatRecipe(raster.width, raster.height);
  const cache = new StepCache();
  const run = (recipe: FlatRecipe): Promise<Design> =>
    convertOne({ raster, pictureKey: name, recipe, charts: [] }, { cache });
  const six: FlatRecipe = { ...base, colours: { ...base.colours, count: 6 } };
  const decisions = decisionsOn(await run(six));
  const said: FlatRecipe = { ...six, colours: { ...six.colours, decisions } };
  const changes: [string, FlatRecipe][] = [
    ['8 colours', { ...said, colours: { ...said.colours, count: 8 } }],
    ['6 colours again', said],
    ['brightness 15, contrast 15', { ...said, light: { ...said.light, brightness: 15, contrast: 15 } }],
    ['warmth 30, gamma 1.2', { ...said, light: { ...said.light, warmth: 30, gamma: 1.2 } }],
    ['turned by 12 degrees', { ...said, picture: { ...said.picture, turn: 12 } }],
  ];
  for (const [what, recipe] of changes) {
    const [{ lostDecisions }] = (await run(recipe)).pictures;
    line(what, `${decisions.length - lostDecisions.length} of ${decisions.length} kept`, 'all');
  }
}

async function lightBench(photo: Raster): Promise<void> {
  const big = createRaster(4000, 3000);
  for (let y = 0; y < 3000; y++) {
    for (let x = 0; x < 4000; x++) {
      const from = (Math.floor((y * photo.height) / 3000) * photo.width + Math.floor((x * photo.width) / 4000)) * 4;
      big.data.set(photo.data.subarray(from, from + 4), (y * 4000 + x) * 4);
    }
  }
  heading(
    'Light',
    'a photo of 12 megapixels shown in 0.5 megapixels, core alone, best of 5, the shrunk picture remembered',
  );
  const recipe = flatRecipe(4000, 3000);
  const cache = new StepCache();
  const show = (light: Partial<Light>): Promise<Raster> =>
    wholeOne(
      { raster: big, pictureKey: 'big', recipe: { ...recipe, light: { ...PLAIN_LIGHT, ...light } }, charts: [] },
      cache,
      500_000,
    );
  line('first time', `${(await best(1, () => show({}))).toFixed(0)} ms`);
  let n = 0;
  line('brightness', `${(await best(5, () => show({ brightness: ++n }))).toFixed(0)} ms`, '200 ms');
  line(
    'all of it, noise removal unchanged',
    `${(await best(5, () => show({ noise: 40, gamma: 1.2, contrast: ++n, saturation: 30, sharpness: 50 }))).toFixed(0)} ms`,
    '200 ms',
  );
  line('noise removal itself', `${(await best(5, () => show({ noise: ++n, contrast: 10 }))).toFixed(0)} ms`, '200 ms');
}

/** Reduction, suggestion, decisions and light. */
export async function colourBench(photo: Raster, crest: Raster): Promise<void> {
  const megapixels = (photo.width * photo.height) / 1e6;
  heading('Reduction', `harbour, ${photo.width} x ${photo.height} pixels, core alone, best of 5, warm`);
  const ms = await best(5, () => reduced(photo, 12));
  line('to 12 colours: histogram, centres, every pixel', `${(ms / megapixels).toFixed(0)} ms/megapixel`, '150 ms');
  await comparison('the harbour', photo);
  await comparison('the crest', crest);
  await suggestions();
  await stickiness('harbour', photo);
  await stickiness('crest', crest);
  await lightBench(photo);
}
