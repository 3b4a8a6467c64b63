import {
  BY_HAND,
  convert,
  fabricOf,
  figuresOf,
  findCorners,
  forecastGaps,
  fabricOn,
  learnCloth,
  measureSewn,
  overlayOf,
  placesOf,
  practicePhoto,
  distanceToRings,
  pulledTogether,
  ringsOf,
  PRACTICE_CLOTHS,
  sewnOn,
  testCard,
  turnsOf,
  type Design,
  type Fabric,
  type MeasuredCloth,
  type Measurement,
  type PracticeCloth,
} from '@open-kite/core';
import { flatRecipe, onePicture } from '@open-kite/core/testing';
import { decodePicture } from '@open-kite/server';
import * as art from './hand/art.js';
import { heading, line } from './print.js';

/** First seed of photographs and of art; another one shows them anew: npm run bench -- card 500. */
const FROM = Number(process.argv[3] ?? 61);
const SEEDS = [0, 1, 2, 3].map((k) => FROM + k);
const ART = SEEDS.map((seed) => seed * 1000);
/** Needle points this near to an outline, or over it by the compensation, are an edge. */
const EDGE_MM = 0.25;
/** Nothing is pulled any further. */
const STILL: Fabric = { ...fabricOf('felt'), pull: [{ lengthMm: 1, acrossMm: 0, downMm: 0, slantMm: 0 }], pushMm: 0 };

const quantile = (values: readonly number[], share: number): number =>
  values.toSorted((a, b) => a - b)[Math.floor(share * (values.length - 1))] ?? NaN;

/**
 * The test card of every practice cloth, photographed by hand in several lights: what is read on the photograph against where the needle
 * points lie in truth; then scripted art forecast by what was learnt, against the cloth itself.
 */
export async function cardBench(): Promise<void> {
  heading(
    'Test card',
    'sewn on simulated cloths, photographed (turned, tilted, uneven light, noise), measured, learnt',
  );
  for (const cloth of PRACTICE_CLOTHS) {
    const { hex } = fabricOf(cloth.fabric);
    const card = await convert({ recipe: testCard({ fabric: cloth.fabric, hex }), pictures: {}, charts: [] });
    const errors: number[] = [];
    const seconds: number[] = [];
    let learnt: MeasuredCloth | undefined;
    let found = 0;
    for (const seed of SEEDS) {
      const photo = practicePhoto(card, cloth, { ...BY_HAND, seed, turn: 10 + seed * 37 });
      const start = performance.now();
      const corners = findCorners(card, photo);
      if (!corners) continue;
      found++;
      const measured = measureSewn(card, photo, overlayOf(placesOf(card), corners));
      seconds.push((performance.now() - start) / 1000);
      errors.push(...widthErrors(card, cloth, measured));
      learnt ??= learnCloth(cloth.name, measured);
    }
    if (!learnt) continue;
    const { minutes, stitches } = figuresOf(card.stitches, 1);
    line(
      cloth.name,
      `marks found ${found} of ${SEEDS.length}; widths off by ${quantile(errors, 0.5).toFixed(3)} mm (95 %: ${quantile(errors, 0.95).toFixed(3)}, worst ${Math.max(...errors).toFixed(3)}; asked 0.12); push ${learnt.pushMm} of ${cloth.pushMm}; ${quantile(seconds, 0.5).toFixed(2)} s; card ${stitches} stitches, ${minutes.oneNeedle} min`,
    );
    await forecastAgainst(cloth, learnt);
  }
}

/** Forecast and truth on art nobody tuned to; gaps on the cloth with the usual compensation and with the learnt one. */
async function forecastAgainst(cloth: PracticeCloth, learnt: MeasuredCloth): Promise<void> {
  const off = { usual: [] as number[], learnt: [] as number[] };
  const gaps = { usual: 0, learnt: 0 };
  for (const seed of ART) {
    const drawing = art.flatArt(seed);
    const { raster, artwork } = await decodePicture(Buffer.from(drawing.svg));
    const base = flatRecipe(raster.width, raster.height);
    for (const how of ['usual', 'learnt'] as const) {
      const recipe = {
        ...base,
        picture: { ...base.picture, widthMm: 60, heightMm: (60 * raster.height) / raster.width },
        stitches: { ...base.stitches, fabric: cloth.fabric },
        clothHex: fabricOf(cloth.fabric).hex,
      };
      const input = onePicture({ raster, artwork, pictureKey: drawing.name, recipe, charts: [] });
      const onCloth = { ...input.recipe.cloth, ...(how === 'learnt' && { measured: learnt }) };
      const design = await convert({ ...input, recipe: { ...input.recipe, cloth: onCloth } });
      const fabric = fabricOn(onCloth);
      off[how].push(...edgesOff(design, cloth, fabric));
      const list = sewnOn(design.stitches, cloth);
      gaps[how] += forecastGaps(design.pieces, design.order, list, STILL).bareMm2;
    }
  }
  const within = (list: readonly number[]): string =>
    `${((100 * list.filter((v) => v <= 0.1).length) / list.length).toFixed(1)} %`;
  line(
    '  forecast',
    `edges within 0.1 mm: as assumed of the fabric ${within(off.usual)}, after the card ${within(off.learnt)} (asked 95); bare beside borders on the cloth ${gaps.usual.toFixed(1)} mm2 with its usual compensation, ${gaps.learnt.toFixed(1)} after the card`,
  );
}

/** How far the forecast lies from where rows end on the cloth, along the rows, at the edges of pieces: what lies below shows no edge. */
function edgesOff({ stitches, pieces }: Design, cloth: PracticeCloth, fabric: Fabric): number[] {
  const forecast = pulledTogether(stitches, () => fabric);
  const sewn = sewnOn(stitches, cloth);
  const rings = pieces.map(ringsOf);
  const turns = turnsOf(stitches, 0.94);
  return turns.flatMap(({ at, starts }, k) => {
    if (starts || k === 0) return [];
    const [dx, dy] = [stitches.x[at] - stitches.x[turns[k - 1].at], stitches.y[at] - stitches.y[turns[k - 1].at]];
    const size = Math.sqrt(dx * dx + dy * dy);
    const outline = rings[stitches.piece[at]] ?? [];
    if (size < 1 || distanceToRings(outline, stitches.x[at], stitches.y[at]) > EDGE_MM + fabric.compensationMm)
      return [];
    return [Math.abs(((forecast.x[at] - sewn.x[at]) * dx + (forecast.y[at] - sewn.y[at]) * dy) / size)];
  });
}

/** Widths read on a photograph against the needle points as they lie on the cloth. */
function widthErrors(card: Design, cloth: PracticeCloth, measured: readonly Measurement[]): number[] {
  const drawn = card.stitches;
  const sewn = sewnOn(drawn, cloth);
  return measured.flatMap((m) => {
    if (m.kind !== 'width') return [];
    const ends = [
      { sum: 0, count: 0 },
      { sum: 0, count: 0 },
    ];
    for (let i = 0; i < drawn.count; i++) {
      if (drawn.piece[i] !== m.piece) continue;
      const [x, y] = [drawn.x[i] - m.x, drawn.y[i] - m.y];
      const t = x * m.ux + y * m.uy;
      if (Math.abs(y * m.ux - x * m.uy) > m.bandMm + 0.2 || Math.abs(Math.abs(t) - m.drawnMm / 2) > 0.15) continue;
      const end = ends[t < 0 ? 0 : 1];
      end.sum += t - ((sewn.x[i] - m.x) * m.ux + (sewn.y[i] - m.y) * m.uy);
      end.count++;
    }
    if (ends.some(({ count }) => count === 0)) return [];
    const shorter = ends[1].sum / ends[1].count - ends[0].sum / ends[0].count;
    return [Math.abs(m.asDrawnMm - m.asSewnMm - shorter)];
  });
}
