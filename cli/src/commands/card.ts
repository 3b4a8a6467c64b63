import {
  convert,
  fabricOf,
  findCorners,
  learnCloth,
  measureSewn,
  overlayOf,
  placesOf,
  testCard,
  type Design,
  type Point,
  type Recipe,
} from '@open-kite/core';
import { decodePicture } from '@open-kite/server';
import { UserError } from '@open-kite/server/user-error';
import { checkEndings, contentsOf } from '../content.js';
import { writeFabric } from '../cloth.js';
import { about, readInput, writeOutputs } from '../files.js';
import { sewnAnew } from './export.js';

/** `open-kite card`: the test card of a fabric. */
export async function cardCommand(fabric: string, outputs: readonly string[]): Promise<void> {
  checkEndings(outputs);
  const recipe = testCard({ fabric, hex: fabricOf(fabric).hex });
  const made = {
    name: `Test card, ${fabricOf(fabric).name.toLowerCase()}`,
    recipe,
    design: await sewn(recipe),
    pictures: [],
  };
  await writeOutputs(await contentsOf(outputs, made));
}

const sewn = (recipe: Recipe): Promise<Design> => convert({ pictures: {}, recipe, charts: [] });

export interface LearnFlags {
  readonly out: string;
  readonly name: string;
  readonly fabric: string;
  readonly design?: string;
  readonly at?: readonly string[];
}

/** `open-kite learn`: a photograph of a sewn card, or of any sewn design, into a fabric of one's own. */
export async function learnCommand(file: string, flags: LearnFlags): Promise<void> {
  const { fabric } = flags;
  if (!/\.json$/i.test(flags.out)) throw new UserError(400, `${flags.out}: a measured fabric ends in .json`);
  const { raster } = await decodePicture(await readInput(file)).catch((error: Error) => {
    throw about(file, error);
  });
  const design = flags.design
    ? (await sewnAnew(flags.design)).design
    : await sewn(testCard({ fabric, hex: fabricOf(fabric).hex }));
  const corners = flags.at ? placesIn(flags.at) : findCorners(design, raster);
  if (!corners) {
    throw about(file, new Error('its four corner marks are not seen; say where they are with --at x,y x,y x,y x,y'));
  }
  const measured = measureSewn(design, raster, overlayOf(placesOf(design), corners));
  const learnt = learnCloth(flags.name, measured);
  if (!learnt) throw about(file, new Error('no width can be read on it'));
  await writeOutputs(new Map([[flags.out, writeFabric(fabric, learnt)]]));
  const { pushMm, gapMm, pull } = learnt;
  const widest = pull.at(-1);
  process.stdout.write(
    `${measured.length} places measured; rows of ${widest?.lengthMm.toFixed(0)} mm are drawn in by ${widest?.acrossMm} mm across and ${widest?.downMm} mm down at either end, satin grows by ${pushMm} mm${gapMm === null ? '' : `, a gap of ${gapMm} mm opens`}\n`,
  );
}

/** @throws UserError unless there are four places */
function placesIn(texts: readonly string[]): Point[] {
  const places = texts.map((text): Point => {
    const [x = NaN, y = NaN] = text.split(',').map(Number);
    return { x, y };
  });
  if (places.length !== 4 || places.some(({ x, y }) => !Number.isFinite(x) || !Number.isFinite(y))) {
    throw new UserError(400, 'learn: --at takes four places, each as x,y in pixels');
  }
  return places;
}
