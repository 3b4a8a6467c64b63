import type { Chart } from '../colour/charts.js';
import { toHex } from '../colour/srgb.js';
import { subtract, unite } from '../geometry/polygons.js';
import { boundsOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { DesignObject, PictureObject } from '../objects/design-object.js';
import { edgeOf, isHidden, objectFrame, pictureUnder, wholeMm2Of } from '../objects/frames.js';
import { mapsOfCopies } from '../objects/kinds/copies.js';
import { lineOfCopies } from '../objects/copies-line.js';
import { onItsLine } from '../objects/text-line.js';
import { kindOf } from '../objects/kinds/index.js';
import type { ObjectAreas } from '../objects/kinds/object-kind.js';
import type { PicturePlace } from '../objects/design-object.js';
import type { Grid } from '../picture/place.js';
import { artworkAreas } from '../pieces/artwork-areas.js';
import { fromRings, mappedArea, movedArea, type Area } from '../pieces/area.js';
import type { Paint } from '../pieces/paint.js';
import { candidateOf, findAgain, isSameRef, onCloth } from '../pieces/find-again.js';
import { findPieces, type ObjectFrame } from '../pieces/find-pieces.js';
import type { FoundPieces } from '../pieces/found-pieces.js';
import type { PieceDecision } from '../pieces/piece-decisions.js';
import type { PieceRef, ThreadChoice } from '../pieces/piece-ref.js';
import { tracedAreas } from '../pieces/traced-areas.js';
import { familyOf } from '../stitches/kinds/index.js';
import type { Corners } from '../trace/spine-stretches.js';
import type { LabelMap } from '../trace/labels.js';
import type { Trace } from '../trace/trace.js';
import { threadColour } from '../colour/thread-colour.js';
import { chooseColours, type ColourChoices, type ColourPlace } from './choose-threads.js';
import { shapeLabels, type Art } from './colours.js';
import { step } from './step.js';

/** A picture of the stack with its colours known. */
export interface StackedPicture {
  readonly id: string;
  /** Labels of its colours count from here on among those of the design. */
  readonly base: number;
  readonly map: LabelMap;
  readonly colours: ColourPlace;
  readonly grid: Grid;
  readonly pixelsPerMm: number;
  /** What is traced, or the shapes of artwork; neither for a rendering. */
  readonly trace: Trace | null;
  readonly art: Art | null;
  readonly pieces: PictureObject['pieces'];
}

interface StackInputs {
  readonly pictures: readonly StackedPicture[];
  /** All objects, of pictures only their places. */
  readonly objects: readonly DesignObject[];
  /** Decisions that shape pieces, at their places in the recipe. */
  readonly decisions: readonly (PieceDecision | null)[];
  readonly corners: Corners;
  /** Colour of the cloth, and the charts, where a gradient asks for them. */
  readonly clothHex: string | null;
  readonly charts: readonly Chart[];
}

/** What lies on a rendering is sewn over it, and hides nothing of itself. */
const KEEP_ALL_MM = 100;
/** Widths of what lies on the cloth by itself. */
const LOOSE = { smallestMm2: 0, lineBelowMm: 0.9, satinBelowMm: 5, keepBelowMm: 0.9 };
/** Layers of one object: more than artwork has shapes. */
const LAYERS = 1_000_000;

/** Pieces of all objects of a design. */
export const stackStep = step('pieces', (inputs: StackInputs): FoundPieces => {
  const known = inputs.pictures.map((picture) => knownPicture(picture));
  const design = new StackReader(inputs, known);
  const { areas, small } = stackAreas(inputs, known, design);
  return findPieces(
    areas,
    {
      corners: inputs.corners,
      familyOf,
      decisions: inputs.decisions,
      frameOf: design.frameOf,
      labelOf: design.labelOf,
      seenHexOf: design.seenHexOf,
      copies: inputs.objects.flatMap((object, i) =>
        object.kind === 'copies' && !isHidden(inputs.objects, object)
          ? [
              {
                id: object.id,
                of: object.of,
                oneByOne: object.oneByOne ?? false,
                layer: i * LAYERS,
                mapsOf: (box) => mapsOfCopies(object.layout, box, lineOfCopies(inputs.objects, object)),
              },
            ]
          : [],
      ),
    },
    small,
  );
});

interface KnownPicture extends StackedPicture {
  readonly choices: ColourChoices;
}

const knownPicture = (picture: StackedPicture): KnownPicture => ({
  ...picture,
  choices: chooseColours(picture.map, picture.colours),
});

/** Looks up what pieces need to know of the design. */
class StackReader {
  private readonly frames = new Map<string, ObjectFrame>();

  constructor(
    private readonly inputs: StackInputs,
    private readonly pictures: readonly KnownPicture[],
  ) {}

  readonly frameOf = (object: string): ObjectFrame => {
    const known = this.frames.get(object);
    if (known) return known;
    const { objects } = this.inputs;
    const under = pictureUnder(objects, object);
    const picture = this.pictures.find(({ id }) => id === under);
    const frame = {
      ...(picture ? widthsOf(picture) : LOOSE),
      toHoop: objectFrame(objects, object).toHoop,
      wholeMm2: wholeMm2Of(objects, object),
      traced: picture?.trace ? tracedOf(picture, this.placeOf(picture.id)) : undefined,
    };
    // Of the objects on a picture only the picture's own areas are faces of its trace.
    this.frames.set(object, frame);
    return frame;
  };

  /** Label of the colour of a picture: of that below an object, else of the lowest that has it. */
  readonly labelOf = (choice: ThreadChoice, object: string): number => {
    if (!('like' in choice)) return 0;
    const under = pictureUnder(this.inputs.objects, object);
    const own = this.pictures.filter(({ id }) => id === under);
    for (const { choices, base } of [...own, ...this.pictures]) {
      const label = choices.labelAt(choice.like);
      if (label > 0) return label + base;
    }
    return 0;
  };

  /** Colour of a label before the light is changed. */
  hexOf(label: number): string {
    const picture = this.pictures.findLast(({ base }) => label > base);
    return picture?.map.infos[label - picture.base - 1]?.anchor.hex ?? '#000000';
  }

  readonly seenHexOf = (paint: Paint | undefined): string => {
    const { clothHex, charts } = this.inputs;
    if (!paint) return clothHex ?? '#ffffff';
    if ('hex' in paint) return paint.hex;
    if ('code' in paint) return toHex(threadColour(charts, paint.chart, paint.code));
    const picture = this.pictures.findLast(({ base }) => paint.label > base);
    return picture ? toHex(picture.map.palette[paint.label - picture.base - 1]) : '#000000';
  };

  placeOf(id: string): PicturePlace | undefined {
    const object = this.inputs.objects.find((o) => o.id === id);
    return object?.kind === 'picture' ? object.picture : undefined;
  }

  paintOf(choice: ThreadChoice, object: string): { paint: Paint; hex: string } {
    const label = this.labelOf(choice, object);
    if (label > 0) return { paint: { label }, hex: this.hexOf(label) };
    const paint = 'like' in choice ? { hex: choice.like.hex } : choice;
    return { paint, hex: 'hex' in paint ? paint.hex : '#000000' };
  }
}

const widthsOf = ({ trace, art, pieces }: StackedPicture) =>
  trace || art ? pieces : { ...pieces, smallestMm2: 0, keepBelowMm: KEEP_ALL_MM };

function tracedOf({ trace, grid, pixelsPerMm }: StackedPicture, place: PicturePlace | undefined) {
  return {
    trace: trace as Trace,
    left: grid.left + (place?.xMm ?? 0),
    top: grid.top + (place?.yMm ?? 0),
    pixelsPerMm,
  };
}

/** Areas of all objects, from the lowest up: each adds its own, and holes cut what lies below. */
function stackAreas(
  { objects, decisions, corners }: StackInputs,
  pictures: readonly KnownPicture[],
  design: StackReader,
): { areas: Area[]; small: Area[] } {
  // Small areas count only where somebody asked for one: a photograph has thousands.
  const keepsSmall = decisions.some((decision) => decision?.kind === 'keep');
  const small: Area[] = [];
  const replaced: PieceRef[] = [];
  const layers: { areas: readonly Area[]; hole?: readonly Points[] }[] = [];
  const below = (): readonly Area[] => layers.flatMap(({ areas: own }) => own);
  const madeOf = (object: DesignObject, i: number): ObjectAreas | undefined => {
    const { toHoop, unitMm } = objectFrame(objects, object.id);
    return kindOf(object).areas?.(object.kind === 'letters' ? onItsLine(objects, object) : object, {
      toHoop,
      unitMm,
      layer: i * LAYERS,
      paintOf: (choice) => design.paintOf(choice, object.id),
      ringsOf: (id) => edgesBelow(objects, id, below()) ?? edgesOfHidden(id),
      corners,
      ringsOfPieces: (refs) => ringsOfPieces(refs, below(), decisions, design),
      ringsBeside: (id, refs) => ringsBeside(id, refs, below(), design),
    });
  };
  /** What is hidden is not sewn, but may still be gone around: a text that is there for its applique alone. */
  const edgesOfHidden = (id: string | null): readonly Points[] | undefined => {
    const i = objects.findIndex((object) => object.id === id);
    if (i < 0 || !isHidden(objects, objects[i])) return undefined;
    const rings = madeOf(objects[i], i)?.areas.flatMap((area) => area.rings) ?? [];
    return rings.length === 0 ? undefined : unite(rings, []);
  };
  objects.forEach((object, i) => {
    if (isHidden(objects, object)) return;
    const picture = pictures.find(({ id }) => id === object.id);
    if (picture) {
      const found = pictureAreas(picture, design, i * LAYERS);
      const isLarge = ({ areaMm2 }: Area): boolean => areaMm2 >= picture.pieces.smallestMm2;
      layers.push({ areas: keepsSmall ? found : found.filter(isLarge) });
      if (!keepsSmall) small.push(...found.filter((area) => !isLarge(area)));
      return;
    }
    const made = madeOf(object, i);
    if (!made) return;
    if (made.replaces) replaced.push(made.replaces);
    layers.push(made);
  });
  let areas: Area[] = [];
  const gone = replacedAreas(
    layers.flatMap(({ areas: own }) => own),
    replaced,
    design,
  );
  for (const { areas: own, hole } of layers) {
    if (hole) areas = areas.flatMap((area) => cutHole(area, hole));
    areas.push(...own.filter((area) => !gone.has(area)));
  }
  return { areas, small };
}

/** The edge of an object: its own, else that of its areas; of everything below where there is no object. */
function edgesBelow(
  objects: readonly DesignObject[],
  id: string | null,
  below: readonly Area[],
): readonly Points[] | undefined {
  const own = id === null ? undefined : edgeOf(objects, id);
  if (own) return own;
  const areas = id === null ? below : below.filter(({ object }) => object === id);
  const renderings = id === null ? renderedEdges(objects, below) : [];
  const rings = [...areas.flatMap((area) => area.rings), ...renderings];
  return rings.length === 0 ? undefined : unite(rings, []);
}

/** Frames of pictures that have no areas: renderings are outlined by what they cover. */
function renderedEdges(objects: readonly DesignObject[], below: readonly Area[]): Points[] {
  return objects.flatMap((object) => {
    if (object.kind !== 'picture' || isHidden(objects, object)) return [];
    return below.some((area) => area.object === object.id) ? [] : (edgeOf(objects, object.id) ?? []);
  });
}

/** Outlines of single areas, where somebody moved them to. */
function ringsOfPieces(
  refs: readonly PieceRef[],
  below: readonly Area[],
  decisions: StackInputs['decisions'],
  design: StackReader,
): readonly Points[] {
  const candidates = below.map((a) => candidateOf(a, design.frameOf(a.object).wholeMm2));
  const rings = refs.flatMap((ref) => {
    const { toHoop } = design.frameOf(ref.object);
    const at = findAgain(candidates, ref, toHoop);
    if (at < 0) return [];
    const said = decisions.findLast((d) => d?.kind === 'place' && isSameRef(d.at, ref));
    const area = said?.kind === 'place' ? movedArea(below[at], onCloth(said.by, toHoop)) : below[at];
    return area.rings;
  });
  return rings.length === 0 ? [] : unite(rings, []);
}

/** Outlines of areas but for those of an object, or for single ones. */
function ringsBeside(
  id: string | null,
  refs: readonly PieceRef[],
  below: readonly Area[],
  design: StackReader,
): readonly (readonly Points[])[] {
  if (refs.length === 0)
    return id === null ? [] : below.filter(({ object }) => object !== id).map(({ rings }) => rings);
  const candidates = below.map((a) => candidateOf(a, design.frameOf(a.object).wholeMm2));
  const own = new Set(refs.map((ref) => findAgain(candidates, ref, design.frameOf(ref.object).toHoop)));
  return below.flatMap(({ rings }, i) => (own.has(i) ? [] : [rings]));
}

/** What a picture's trace or artwork gives, where it lies on the cloth. */
function pictureAreas(picture: KnownPicture, design: StackReader, layer: number): Area[] {
  const { id, base, map, trace, art, choices } = picture;
  const bare = new Set(choices.bare.keys());
  const place = design.placeOf(id);
  const counted = (paint: Paint): Paint => ('label' in paint ? { label: paint.label + base } : paint);
  const onCloth = (area: Area): Area => ({
    ...area,
    layer: area.layer + layer,
    paint: counted(area.paint),
    fill: area.fill && {
      ...area.fill,
      stops: area.fill.stops.map((stop) => ({ ...stop, paint: stop.paint && counted(stop.paint) })),
    },
  });
  if (trace) {
    return tracedAreas(id, trace, map, tracedOf(picture, place), bare).map(onCloth);
  }
  if (!art) return [];
  const { labels, stopLabels } = shapeLabels(art, map);
  const hexOf = (label: number): string => map.infos[label - 1]?.anchor.hex ?? '#000000';
  const found = artworkAreas(id, art.placed.shapes, labels, stopLabels, hexOf, bare).map(onCloth);
  const [dx, dy] = [place?.xMm ?? 0, place?.yMm ?? 0];
  return dx === 0 && dy === 0 ? found : found.map((area) => mappedArea(area, { a: 1, b: 0, c: 0, d: 1, e: dx, f: dy }));
}

/** Found areas that somebody has drawn anew. */
function replacedAreas(found: readonly Area[], refs: readonly PieceRef[], design: StackReader): ReadonlySet<Area> {
  if (refs.length === 0) return new Set();
  const candidates = found.map((a) => candidateOf(a, design.frameOf(a.object).wholeMm2));
  const at = refs.map((ref) => findAgain(candidates, ref, design.frameOf(ref.object).toHoop));
  return new Set(at.flatMap((i) => (i >= 0 ? [found[i]] : [])));
}

function cutHole(area: Area, hole: readonly Points[]): Area[] {
  const before = boundsOf(area.rings);
  const box = boundsOf(hole);
  if (box.right < before.left || box.left > before.right || box.bottom < before.top || box.top > before.bottom) {
    return [area];
  }
  const rest = subtract(area.rings, hole);
  if (rest.length === 0) return [];
  return [{ ...area, ...fromRings(rest), face: undefined, line: undefined }];
}

/** Whether a decision or the artwork lays a gradient, whose colours then matter. */
export const hasGradients = (inputs: Pick<StackInputs, 'decisions' | 'pictures'>): boolean =>
  inputs.decisions.some((decision) => decision?.kind === 'gradient') ||
  inputs.pictures.some(({ art }) => art?.placed.shapes.some(({ gradient }) => gradient) === true);
