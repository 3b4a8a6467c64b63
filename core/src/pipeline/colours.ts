import type { Artwork } from '../artwork/artwork.js';
import { labelArtwork, labelsOfShapes, labelsOfStops, type ArtLabels } from '../artwork/label-artwork.js';
import { placeArtwork, type PlacedArtwork } from '../artwork/place-artwork.js';
import { fromHex, type Rgb } from '../colour/srgb.js';
import { toEndWithPauses } from '../geometry/pauses.js';
import type { Placement } from '../picture/frame.js';
import { lightColour, type Light } from '../picture/light.js';
import type { Grid } from '../picture/place.js';
import { regroups, type ColourDecision } from '../trace/colour-decisions.js';
import { flatArtSteps, type FlatLabels } from '../trace/edge-shades.js';
import { labelSteps, type LabelMap } from '../trace/labels.js';
import type { ConvertOptions, PictureInput, StepName } from './input.js';
import {
  FULL_PIXELS,
  groundOfWhole,
  pixelPlaces,
  prepare,
  ROUGH_PIXELS,
  type Placed,
  type Prepared,
} from './prepare.js';
import { step, type StepCache, type Turn } from './step.js';

/** What a picture in one ink is printed on. */
const PAPER: Rgb = { r: 255, g: 255, b: 255 };

/** Shapes of vector artwork where they are sewn, and their colours on the grid of the picture. */
export interface Art {
  readonly placed: PlacedArtwork;
  readonly labels: ArtLabels;
}

/** The first two steps of a picture: as it is to be sewn, and every pixel of it given to a colour. */
export interface Reduced {
  readonly prepared: Prepared;
  readonly map: LabelMap;
  /** Whether it is flat art or a photograph; vector artwork is flat, however much its colours fade. */
  readonly flat: boolean;
  readonly art: Art | undefined;
}

/** Threads a design may have: of artwork with more colours, the nearest are put together. */
const MOST_THREADS = 60;

const placeArtStep = step('artwork', ({ artwork, placement }: { artwork: Artwork; placement: Placement }) =>
  placeArtwork(artwork, placement),
);

interface ArtColourInputs {
  readonly placed: PlacedArtwork;
  readonly grid: Grid;
  /** Colour below what lets it through; null where nothing does. */
  readonly clothHex: string | null;
  readonly light: Light;
}

const artColourStep = step('artwork colours', ({ placed, grid, clothHex, light }: ArtColourInputs) =>
  labelArtwork(placed.shapes, grid, clothHex ?? '#ffffff', (colour) => lightColour(colour, light)),
);

interface FlatInputs {
  readonly placed: Placed;
  readonly pinned: readonly Rgb[];
}

const flatStep = step('flat', ({ placed, pinned }: FlatInputs, { pause }: Turn): Promise<FlatLabels> =>
  toEndWithPauses(flatArtSteps(placed.picture, placed.character.noisy, pinned), () => pause(0)),
);

interface LabelInputs {
  readonly placed: Placed;
  /** Labels of flat art or of shapes, which do not depend on the number of colours. */
  readonly labels: FlatLabels | null;
  readonly vector: boolean;
  readonly count: number | 'auto';
  /** Areas under this many pixels join a neighbour. */
  readonly smallestSpot: number;
  readonly ground: {
    readonly colour: Rgb | null;
    readonly found: boolean;
    readonly tolerance: number;
    readonly everywhere: boolean;
  };
  readonly groundBare: boolean;
  readonly decisions: readonly ColourDecision[];
  readonly pinned: readonly Rgb[];
  readonly placement: Placement;
  readonly grid: Grid;
}

const labelStep = step('colours', (inputs: LabelInputs, { pause }: Turn): Promise<LabelMap> => {
  const { placed, labels, vector, ground, placement, grid } = inputs;
  const character = vector ? { ...placed.character, flat: true, noisy: false } : placed.character;
  const steps = labelSteps(placed.picture, character, {
    count: inputs.count,
    smallestSpot: inputs.smallestSpot,
    ground: { ...ground, colour: ground.colour ?? undefined },
    groundBare: inputs.groundBare,
    decisions: inputs.decisions,
    pinned: inputs.pinned,
    flat: labels ?? undefined,
    source: placed.unlit,
    mask: placed.mask,
    ...pixelPlaces(placement, grid),
  });
  return toEndWithPauses(steps, pause);
});

/** Prepares a picture and reduces its colours. */
export async function reduceColours(
  input: PictureInput,
  quality: ConvertOptions['quality'] | 'own-size',
  cache: StepCache,
  pause: (step: StepName, share: number) => Promise<void>,
): Promise<Reduced> {
  const { source, view } = input;
  const { light, colours, pieces, picture } = view;
  await pause('prepare', 0);
  const pixels = quality === 'own-size' ? Infinity : quality === 'rough' ? ROUGH_PIXELS : FULL_PIXELS;
  const prepared = await prepare(input, pixels, quality !== 'own-size', cache, (share) =>
    pause('prepare', 0.1 * share),
  );
  const { placed, placement, grid, pixelsPerMm } = prepared;

  await pause('colours', 0.1);
  const art = source.artwork && (await placedArt(source.artwork, input, prepared, cache));
  const seen = (hex: string): Rgb => lightColour(fromHex(hex), light);
  const decisions = colours.decisions.filter(regroups);
  const pinned = decisions.filter((d) => d.kind === 'pin').map((d) => seen(d.at.hex));
  const { flat } = placed.character;
  const labels = art
    ? art.labels
    : flat
      ? await cache.run(flatStep, { placed, pinned }, () => pause('colours', 0.1), view.id)
      : null;
  // A spot too small to sew joins its neighbour: left out, it would be a hole.
  const smallest = Math.max(colours.smallestSpotMm2, pieces.smallestMm2);
  const few = art && colours.count === 'auto' && art.labels.palette.length > MOST_THREADS;
  // Of a picture in one ink the paper is the ground, however much of the border is inked.
  const oneInk = light.tone === 'one';
  const whole = picture.dropGround && !art ? await groundOfWhole(input, cache) : undefined;
  const ground =
    picture.groundHex !== null ? seen(picture.groundHex) : oneInk ? PAPER : whole && lightColour(whole, light);
  const map = await cache.run(
    labelStep,
    {
      placed,
      labels,
      vector: art !== undefined,
      count: few ? MOST_THREADS : colours.count,
      smallestSpot: Math.round(smallest * pixelsPerMm * pixelsPerMm),
      ground: {
        colour: ground ?? null,
        found: picture.groundHex === null && !oneInk,
        tolerance: picture.groundTolerance,
        everywhere: picture.groundEverywhere || oneInk,
      },
      groundBare: picture.dropGround,
      decisions,
      pinned,
      placement,
      grid,
    },
    (share) => pause('colours', 0.1 + 0.05 * share),
    view.id,
  );
  return { prepared, map, flat: art !== undefined || flat, art };
}

/** Labels of the shapes and gradient stops of artwork, once its colours are reduced. */
export function shapeLabels({ labels }: Art, map: LabelMap): ShapeLabels {
  // Asked for at every change of a piece: nothing else but these two says anything of it.
  const known = SHAPE_LABELS.get(map);
  if (known?.of === labels) return known;
  const made = { of: labels, labels: labelsOfShapes(labels, map), stopLabels: labelsOfStops(labels, map) };
  SHAPE_LABELS.set(map, made);
  return made;
}

interface ShapeLabels {
  readonly labels: ReturnType<typeof labelsOfShapes>;
  readonly stopLabels: ReturnType<typeof labelsOfStops>;
}

const SHAPE_LABELS = new WeakMap<LabelMap, ShapeLabels & { readonly of: ArtLabels }>();

async function placedArt(
  artwork: Artwork,
  { view }: PictureInput,
  { placement, grid }: Prepared,
  cache: StepCache,
): Promise<Art> {
  const placed = await cache.run(placeArtStep, { artwork, placement }, undefined, view.id);
  const glassy = artwork.shapes.some(({ opacity }) => opacity < 1);
  const clothHex = glassy ? view.cloth.hex : null;
  const labels = await cache.run(artColourStep, { placed, grid, clothHex, light: view.light }, undefined, view.id);
  return { placed, labels };
}
