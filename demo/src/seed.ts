import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pictureOf, viewOf, withView, type PictureView, type Recipe } from '@open-kite/core';
import { addPicture, type Stores } from '@open-kite/server';
import { lantern, monogram, nameBadge } from './lettered.js';

const ARTWORK = fileURLToPath(new URL('../artwork', import.meta.url));

interface PictureSample {
  readonly name: string;
  readonly file: string;
  readonly change?: (view: PictureView) => PictureView;
}

/** A design of letters and shapes, without a picture. */
interface DrawnSample {
  readonly name: string;
  readonly recipe: () => Recipe;
}

type Sample = PictureSample | DrawnSample;

/** Projects of the Lantern Bay Kite Fair; the last one here stands first on the shelf. */
const SAMPLES: readonly Sample[] = [
  { name: 'Lantern, applique', recipe: lantern },
  { name: 'Monogram, bath towel', recipe: monogram },
  { name: 'Name badge, Imke', recipe: nameBadge },
  {
    name: 'Kite flyer, dark bag',
    file: 'kite-flyer.jpg',
    change: (view) => ({
      ...view,
      method: 'rows',
      picture: { ...view.picture, widthMm: 100, heightMm: 100, dropGround: false },
      cloth: { fabric: 'denim', hex: '#22303a' },
      rendering: { ...view.rendering, threads: { rows: [{ hex: '#efe6d2' }] } },
    }),
  },
  {
    name: 'Quilt block, north hall',
    file: 'quilt-block.png',
    change: (view) => ({ ...view, picture: { ...view.picture, widthMm: 90, heightMm: 90 } }),
  },
  {
    name: 'Evening harbour, tea towel',
    file: 'harbour.jpg',
    change: (view) => ({
      ...view,
      method: 'painting',
      picture: { ...view.picture, widthMm: 140, heightMm: 105, dropGround: false },
      cloth: { fabric: 'linen', hex: '#e6dcc6' },
    }),
  },
  { name: 'Pennant, harbour wall', file: 'pennant.svg' },
  { name: 'Box kite, apron pocket', file: 'box-kite.jpg' },
  {
    name: 'Fair crest, front patch',
    file: 'crest.png',
    change: (view) => ({ ...view, colours: { ...view.colours, count: 6, charts: ['saltline'] } }),
  },
];

/**
 * Fills an empty store with the sample projects: all of them stand on the shelf at once, and get their stitches one after
 * the other, the first on the shelf first.
 */
export async function seedSamples({ pictures, projects, cupboard, charts, designs, reading }: Stores): Promise<void> {
  fillCupboard(cupboard, charts);
  const made: string[] = [];
  for (const sample of SAMPLES) {
    if ('recipe' in sample) {
      made.unshift(projects.create(sample.name, {}, sample.recipe()).id);
      continue;
    }
    const picture = await addPicture(pictures, reading, await readFile(join(ARTWORK, sample.file)));
    const first = await reading.firstRecipe(pictures.get(picture.hash));
    const object = pictureOf(first);
    if (!object) throw new Error(`${sample.name}: there is no picture in its recipe`);
    const recipe = sample.change ? withView(first, sample.change(viewOf(first, object))) : first;
    made.unshift(projects.create(sample.name, { [object.source]: picture.hash }, recipe).id);
  }
  await Promise.all(made.map((id) => designs.make(id)));
}

/** Threads that were left over from last year's fair: a small chart of the shop's own. */
const LEFTOVERS: readonly (readonly [string, string, string])[] = [
  ['LF-1', 'Bunting red', '#b3262b'],
  ['LF-2', 'Ferry white', '#f3efe2'],
  ['LF-3', 'Rope', '#c19a63'],
  ['LF-4', 'Gull grey', '#9aa3a4'],
  ['LF-5', 'Night tide', '#1d2b3f'],
  ['LF-6', 'Lantern glow', '#f2b84b'],
];

/** Every so many threads of the first chart lie in the drawer. */
const DRAWER_STEP = 4;

function fillCupboard(cupboard: Stores['cupboard'], charts: Stores['charts']): void {
  const threads = LEFTOVERS.map(([code, name, hex]) => ({ code, name, hex, weight: 40, finish: 'plain' }));
  const own = cupboard.create({ name: 'Fair leftovers', threads });
  const first = charts.find((chart) => chart.id === 'saltline');
  const drawn = (first?.threads ?? []).filter((_, i) => i % DRAWER_STEP === 0);
  cupboard.setStash([
    ...drawn.map(({ code }, i) => ({ chart: 'saltline', code, spools: 1 + (i % 4), lowAt: i % 5 === 0 ? 1 : 0 })),
    ...threads.map(({ code }, i) => ({ chart: own.id, code, spools: i % 3, lowAt: 1 })),
  ]);
}
