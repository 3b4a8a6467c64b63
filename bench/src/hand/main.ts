// Stitches as a skilled hand would have laid them: scripted art nobody has tuned to, measured on the stitches alone.
// Arguments: the first seed, pictures of each group, and groups, with commas between, where only some are wanted.
import sharp from 'sharp';
import { fabricOf, figuresOf, likenessOf, StepCache, type Design } from '@open-kite/core';
import { flatRecipe } from '@open-kite/core/testing';
import { decodePicture } from '@open-kite/server';
import { convertOne, wholeOne } from '../one-picture.js';
import { heading, line, percent } from '../print.js';
import * as art from './art.js';
import { cornersLost, handFigures, rowTurns, type HandFigures } from './measure.js';

const [from = '9000', count = '8', only = ''] = process.argv.slice(2);
const groups = only.split(',').filter(Boolean);

interface Sewn {
  readonly name: string;
  readonly figures: HandFigures;
  readonly design: Design;
  readonly deltaE: number;
  readonly seconds: number;
  /** Minutes of its own order for six needles, against that for one, both on six needles. */
  readonly sixNeedles: number;
}

interface Asked {
  readonly widthMm?: number;
  readonly fabric?: string;
  /** Drawn as pixels, as somebody may have saved it, so many across. */
  readonly pixels?: number;
}

async function made(drawing: art.ScriptedArt, { widthMm, fabric = 'quilting-cotton', pixels }: Asked): Promise<Sewn> {
  const file = Buffer.from(drawing.svg);
  const bytes = pixels ? await sharp(file).resize(pixels).flatten({ background: '#ffffff' }).png().toBuffer() : file;
  const { raster, artwork } = await decodePicture(bytes);
  const base = flatRecipe(raster.width, raster.height);
  const wide = widthMm ?? drawing.sizeMm ?? 60;
  const recipe = {
    ...base,
    picture: { ...base.picture, widthMm: wide, heightMm: (wide * raster.height) / raster.width },
    stitches: { ...base.stitches, fabric },
    clothHex: fabricOf(fabric).hex,
  };
  const given = { raster, artwork, pictureKey: `${drawing.name} ${pixels ?? 0}`, recipe, charts: [] };
  const cache = new StepCache();
  const start = performance.now();
  const design = await convertOne(given, { cache });
  const seconds = (performance.now() - start) / 1000;
  const likeness = likenessOf(design, await wholeOne(given, cache, 600));
  const many = await convertOne({ ...given, recipe: { ...recipe, order: { ...base.order, needles: 6 } } }, { cache });
  const minutes = (d: Design): number => figuresOf(d.stitches, d.threads.length).minutes.multiNeedle;
  return {
    name: drawing.name,
    figures: handFigures(design),
    design,
    deltaE: likeness?.deltaE ?? 0,
    seconds,
    sixNeedles: minutes(many) / Math.max(0.1, minutes(design)),
  };
}

const seeds = Array.from({ length: Number(count) }, (_, i) => Number(from) + i);

async function group(
  name: string,
  make: (seed: number) => art.ScriptedArt,
  asked: Asked,
  more?: (sewn: readonly Sewn[]) => void,
): Promise<void> {
  if (groups.length > 0 && !groups.some((wanted) => name.startsWith(wanted))) return;
  const sewn: Sewn[] = [];
  for (const seed of seeds) sewn.push(await made(make(seed), asked));
  tell(name, sewn);
  more?.(sewn);
}

const sum = (list: readonly Sewn[], of: (f: HandFigures) => number): number =>
  list.reduce((s, { figures }) => s + of(figures), 0);
const mean = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0) / Math.max(1, list.length);

/** The worst of a group, and where. */
function worst(list: readonly Sewn[], of: (f: HandFigures) => { value: number; x: number; y: number }): string {
  const at = list.reduce((a, b) => (of(b.figures).value > of(a.figures).value ? b : a));
  const { value, x, y } = of(at.figures);
  return `${value.toFixed(2)} (${at.name} at ${x.toFixed(1)}, ${y.toFixed(1)})`;
}

const COLUMNS = [
  'group',
  'over 4 %',
  'over 5 %',
  'most',
  'crowded',
  'hole mm2',
  'long mm',
  'stitches',
  'a cm2',
  '<0.5 %',
  'pieces',
  'trims',
  'near %',
  'differs',
  'six',
  'runs',
  'seconds',
];

const row = (cells: readonly string[]): void =>
  console.log(cells.map((cell, i) => (i === 0 ? cell.padEnd(17) : cell.padStart(9))).join(''));

/** One line of figures of a group, and where it is worst. */
function tell(name: string, sewn: readonly Sewn[]): void {
  const area = sum(sewn, (f) => f.sewnMm2);
  const stitches = sum(sewn, (f) => f.stitches);
  const pieces = sum(sewn, (f) => f.pieces);
  const share = (of: (f: HandFigures) => number, all: number): string =>
    ((sum(sewn, of) / Math.max(1, all)) * 100).toFixed(1);
  row([
    name,
    share((f) => f.over4, area),
    share((f) => f.over5, area),
    mean(sewn.map(({ figures }) => figures.most.value)).toFixed(1),
    (sum(sewn, (f) => f.crowded) / (sum(sewn, (f) => f.points) / 1000)).toFixed(1),
    Math.max(...sewn.map(({ figures }) => figures.hole.value)).toFixed(2),
    Math.max(...sewn.map(({ figures }) => figures.hole.longMm)).toFixed(2),
    String(stitches),
    ((stitches / area) * 100).toFixed(0),
    share((f) => f.under05, stitches),
    String(pieces),
    (sum(sewn, (f) => f.trims) / pieces).toFixed(2),
    share(
      (f) => f.nearTrims,
      sum(sewn, (f) => f.sameTrims),
    ),
    mean(sewn.map(({ deltaE }) => deltaE)).toFixed(2),
    mean(sewn.map(({ sixNeedles }) => sixNeedles)).toFixed(3),
    mean(sewn.map(({ figures }) => figures.changes)).toFixed(1),
    mean(sewn.map(({ seconds }) => seconds)).toFixed(2),
  ]);
  places.push(`${name}: most ${worst(sewn, (f) => f.most)}, hole ${worst(sewn, (f) => f.hole)}`);
}

const places: string[] = [];
heading(
  'As a skilled hand would',
  `${count} drawings a group from seed ${from} on; quilting cotton but where it says; area in per cent of what is sewn`,
);
row(COLUMNS);

for (const widthMm of [40, 60, 100]) {
  await group(`icons ${widthMm}`, art.icon, { widthMm });
  await group(`flat art ${widthMm}`, art.flatArt, { widthMm, pixels: 800 });
}
await group('pique icons 40', art.icon, { widthMm: 40, fabric: 'pique' });
await group('cross', art.cross, {});
await group('frame', art.frame, {});
await group('comb', art.comb, {});
await group('flags', art.flags, {});
await group('chequers', art.chequers, {});
await group('crowd', art.crowd, {});
await group('bars', art.bars, {}, (sewn) => {
  const turns = sewn.map(({ design }) => rowTurns(design));
  const [all, long] = [0, 1].map((k) => turns.reduce((s, t) => s + t[k], 0));
  line('row turns over 0.9 mm', `${percent(long / Math.max(1, all), 1)} of ${all}`, '5 %');
});
for (const heightMm of [5, 8, 12, 20]) {
  const letters = (seed: number): number => art.word(seed, heightMm).letters;
  const asked = { pixels: Math.round(art.word(0, heightMm).sizeMm ?? 60) * 16 };
  await group(
    `words ${heightMm}`,
    (seed) => art.word(seed, heightMm),
    asked,
    (sewn) => {
      const all = seeds.reduce((sum, seed) => sum + letters(seed), 0);
      // Dots and commas may be sewn as they like.
      const kinds = sewn.map(
        ({ design }) => new Set(design.pieces.filter((p) => p.areaMm2 > 2).map((p) => p.family)).size,
      );
      line('techniques a word', mean(kinds).toFixed(2), '1');
      line('pieces a letter', (sum(sewn, (f) => f.pieces) / all).toFixed(2), '1');
      line('trims a letter', (sum(sewn, (f) => f.trims) / all).toFixed(2), '0.3');
    },
  );
}
if (groups.length === 0 || groups.includes('ends')) {
  const upright = await made(art.bars(0), {});
  heading('ends', 'upright bars of 3, 4 and 5 mm');
  let x = 30;
  for (const w of art.BAR_WIDTHS) {
    // The page's middle is the hoop's.
    if (w >= 3 && w <= 5)
      line(
        `corner lost, ${w} mm`,
        `${cornersLost(upright.design, { x: x - 80, y: 30 - 45, w, h: 28 }).toFixed(3)} mm2`,
        '0.05',
      );
    x += w + 5;
  }
}

console.log('\nWorst places');
for (const place of places) console.log(`  ${place}`);
