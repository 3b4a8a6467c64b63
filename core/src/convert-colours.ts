import { labelArtwork, labelsOfShapes, labelsOfStops, type ArtLabels } from './artwork/label-artwork.js';
import { placeArtwork, type PlacedArtwork } from './artwork/place-artwork.js';
import { fromHex, type Rgb } from './colour/srgb.js';
import type { ConvertInput, ConvertOptions, StepName } from './convert.js';
import { prepare, ROUGH_PIXELS, FULL_PIXELS, type Prepared } from './prepare.js';
import { lightColour } from './picture/light.js';
import type { StepCache } from './step-cache.js';
import { toEndWithPauses } from './steps.js';
import { regroups } from './trace/colour-decisions.js';
import { flatArtSteps } from './trace/edge-shades.js';
import { labelSteps, type LabelMap } from './trace/labels.js';

/** What a picture in one ink is printed on. */
const PAPER: Rgb = { r: 255, g: 255, b: 255 };

export interface Reduced {
  readonly prepared: Prepared;
  readonly map: LabelMap;
  readonly key: string;
  /** Shapes of vector artwork, each with its label. */
  readonly art?: PlacedArtwork & {
    readonly labels: readonly number[];
    readonly stopLabels: readonly (readonly number[] | undefined)[];
  };
}

/** Threads a design may have: of artwork with more colours, the nearest are put together. */
const MOST_THREADS = 60;

/** The first two steps: the picture as it is to be sewn, and every pixel of it given to a colour. */
export async function reduceColours(
  input: ConvertInput,
  quality: ConvertOptions['quality'] | 'own-size',
  cache: StepCache,
  pause: (step: StepName, share: number) => Promise<void>,
): Promise<Reduced> {
  const { recipe } = input;
  await pause('prepare', 0);
  const budget = quality === 'own-size' ? Infinity : quality === 'rough' ? ROUGH_PIXELS : FULL_PIXELS;
  const prepared = await prepare(input, budget, quality !== 'own-size', cache, (share) =>
    pause('prepare', 0.1 * share),
  );

  await pause('colours', 0.1);
  // A spot too small to sew joins its neighbour: left out, it would be a hole.
  const smallest = Math.max(recipe.colours.smallestSpotMm2, recipe.pieces.smallestMm2);
  const smallestSpot = Math.round(smallest * prepared.pixelsPerMm * prepared.pixelsPerMm);
  const { groundHex, groundTolerance, groundEverywhere } = recipe.picture;
  const decisions = recipe.colours.decisions.filter(regroups);
  const art = await placedArtwork(input, prepared, cache);
  const few = art && recipe.colours.count === 'auto' && art.labels.palette.length > MOST_THREADS;
  const count = few ? MOST_THREADS : recipe.colours.count;
  const said = JSON.stringify([count, smallestSpot, groundHex, groundTolerance, groundEverywhere, decisions]);
  const key = `${art?.key ?? prepared.key} ${said}`;
  const oneInk = recipe.light.tone === 'one';
  const seen = (hex: string): Rgb => lightColour(fromHex(hex), recipe.light);
  const pinned = decisions.filter((d) => d.kind === 'pin').map((d) => seen(d.at.hex));
  const character = art ? { ...prepared.character, flat: true, noisy: false } : prepared.character;
  const { flat: isFlat, noisy } = character;
  const map = await cache.get('colours', key, async () => {
    const flatKey = `${prepared.key} ${JSON.stringify(pinned)}`;
    const flat = art
      ? art.labels
      : isFlat
        ? await cache.get('flat', flatKey, () =>
            toEndWithPauses(flatArtSteps(prepared.picture, noisy, pinned), () => pause('colours', 0.1)),
          )
        : undefined;
    const steps = labelSteps(prepared.picture, character, {
      count,
      smallestSpot,
      ground: {
        // Of a picture in one ink the paper is the ground, however much of the border is inked.
        colour: groundHex !== null ? seen(groundHex) : oneInk ? PAPER : undefined,
        tolerance: groundTolerance,
        everywhere: groundEverywhere || oneInk,
      },
      decisions,
      pinned,
      flat,
      source: prepared.unlit,
      mask: prepared.mask,
      toSource: prepared.toSource,
      toPixel: prepared.toPixel,
    });
    return toEndWithPauses(steps, (share) => pause('colours', 0.1 + 0.05 * share));
  });
  if (!art) return { prepared, map, key };
  const labels = await cache.get('shape labels', key, () => labelsOfShapes(art.labels, map));
  return {
    prepared: { ...prepared, character },
    map,
    key,
    art: { ...art.placed, labels, stopLabels: labelsOfStops(art.labels, map) },
  };
}

/** The shapes of vector artwork on the cloth, and their colours on the grid of the picture. */
async function placedArtwork(
  { artwork, pictureKey, recipe }: ConvertInput,
  prepared: Prepared,
  cache: StepCache,
): Promise<{ placed: PlacedArtwork; labels: ArtLabels; key: string } | undefined> {
  if (!artwork) return undefined;
  const { widthMm, heightMm, turn, mirror, mask } = recipe.picture;
  const placeKey = `${pictureKey} ${JSON.stringify([widthMm, heightMm, turn, mirror, mask])}`;
  const placed = await cache.get('artwork', placeKey, () => placeArtwork(artwork, recipe.picture));
  const glassy = artwork.shapes.some(({ opacity }) => opacity < 1);
  const key = `${prepared.key} ${placeKey} ${JSON.stringify(recipe.light)} ${glassy ? recipe.clothHex : ''}`;
  const labels = await cache.get('artwork colours', key, () =>
    labelArtwork(placed.shapes, prepared.grid, recipe.clothHex, (colour) => lightColour(colour, recipe.light)),
  );
  return { placed, labels, key };
}
