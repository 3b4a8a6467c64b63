import {
  characterOf,
  drawScene,
  histogram,
  likenessOf,
  ProgressiveView,
  reduce,
  sceneOf,
  StepCache,
  type Raster,
  type Scene,
} from '@open-kite/core';
import { flatRecipe } from '@open-kite/core/testing';
import { convertOne } from './one-picture.js';
import { layeredScene } from './layered-scene.js';
import { best, heading, line } from './print.js';

/** A large field in four layers: about 150 000 stitches. */
const manyStitches = (): Scene => layeredScene(120, 90, [0, 30, 60, 90]);

/** Speed of the steps of a conversion on one picture. */
export async function coreBench(name: string, raster: Raster): Promise<void> {
  const megapixels = (raster.width * raster.height) / 1e6;
  heading('Steps in core', `${name}, ${raster.width} x ${raster.height} pixels, this machine, best of 5, warm`);
  const recipe = flatRecipe(raster.width, raster.height);
  const input = { raster, pictureKey: name, recipe, charts: [] };
  line(
    'kind of picture and number of colours',
    `${((await best(5, () => characterOf(raster))) / megapixels).toFixed(0)} ms/megapixel`,
  );
  line(
    'histogram and reduction to 12 colours',
    `${((await best(5, () => reduce(histogram(raster), 12))) / megapixels).toFixed(0)} ms/megapixel`,
  );
  line('whole conversion', `${(await best(5, () => convertOne(input))).toFixed(0)} ms`);
  line('rough conversion', `${(await best(5, () => convertOne(input, { quality: 'rough' }))).toFixed(0)} ms`);
  const cache = new StepCache();
  await convertOne(input, { cache });
  let angle = 0;
  const turned = (): Promise<unknown> =>
    convertOne({ ...input, recipe: { ...recipe, stitches: { ...recipe.stitches, angle: angle++ } } }, { cache });
  line('after a change of angle, early steps remembered', `${(await best(5, turned)).toFixed(0)} ms`);
  const design = await convertOne(input);
  const scene = sceneOf(design);
  const many = manyStitches();
  const view = { width: 1000, height: 1000, scale: 10, left: -500, top: -500 };
  line('sewn look, 100 x 100 mm at 10 px/mm', `${(await best(5, () => drawScene(scene, view, 'sewn'))).toFixed(0)} ms`);
  const steps = new ProgressiveView(many, { width: 1280, height: 640, scale: 3, left: -640, top: -320 }, 'sewn');
  steps.drawTo(many.segments.count);
  while (steps.prepare());
  const scrubs = Array.from({ length: 20 }, (_, i) => Math.floor((((i * 7) % 20) / 20) * many.segments.count));
  let worst = 0;
  for (const to of scrubs) worst = Math.max(worst, await best(1, () => steps.drawTo(to)));
  line(`scrubbing ${many.segments.count} stitches at fit, worst of 20 places`, `${worst.toFixed(0)} ms`);
  line('likeness', `${(await best(3, () => likenessOf(design, raster))).toFixed(0)} ms`);
}
