import { curveThrough, flatten, flattenRing, reverseCurve, type Curve } from '../geometry/curve.js';
import { common, fillRings, thicken, type Rings } from '../geometry/polygons.js';
import { areaWithin, boundsOf, signedArea, type Bounds } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import { placedFrame, sourceToHoop, type Placement } from '../picture/frame.js';
import { maskCurve } from '../picture/mask.js';
import { GRADIENT_STOPS, isBareStop, type ArtProblem, type ArtShape, type Artwork, type Gradient } from './artwork.js';
import { mapPoint, scaleOf, type Matrix } from './matrix.js';
import { mapCurve } from './matrix.js';
import { crossingsOf, MOST_CROSSINGS } from './scribbles.js';

/** A shape of the artwork where it will be sewn, in mm around the hoop's middle. */
export interface PlacedShape {
  readonly shape: ArtShape;
  /** Closed curves that do not cross each other or themselves: outer rings and holes. */
  readonly outline: readonly Curve[];
  readonly rings: Rings;
  /** What a fill fades through, in mm on the cloth. */
  readonly gradient?: Gradient;
  /** Middle and width of what was drawn as a line. */
  readonly line?: { readonly paths: readonly Curve[]; readonly widthMm: number };
}

export interface PlacedArtwork {
  readonly shapes: readonly PlacedShape[];
  readonly problems: readonly ArtProblem[];
}

/** Curves are turned into points as finely as a needle can follow. */
const FLATNESS = 0.02;
/** Two areas differ if they do by more than this share. */
const SAME_AREA = 0.002;

/** Places the artwork's shapes on the cloth, cut by the mask; outlines that cross themselves are repaired and told. */
export function placeArtwork(artwork: Artwork, placement: Placement): PlacedArtwork {
  const map = mapOf(artwork, placement);
  const mask = maskRings(placement);
  const page = pageOf(artwork, map);
  const pageBox = boundsOf(page);
  const shapes: PlacedShape[] = [];
  const problems: ArtProblem[] = artwork.problems.map((problem) => {
    if (problem.x === undefined || problem.y === undefined) return problem;
    const [x, y] = mapPoint(map, problem.x, problem.y);
    return { ...problem, x, y };
  });
  for (const shape of artwork.shapes) {
    const fill = shape.stroke ? placeLine(shape, map) : placeFill(shape, map, problems);
    const placed = { ...fill, gradient: shape.stroke ? undefined : placeGradient(shape.gradient, map) };
    const clipped = clip(placed, shape, map, reachesBeyond(placed.rings, pageBox) ? [...mask, page] : mask);
    if (clipped.rings.length > 0) shapes.push(clipped);
  }
  return { shapes, problems };
}

/** A gradient on the cloth, if it is one: of one colour throughout it is none. */
function placeGradient(gradient: Gradient | undefined, map: Matrix): Gradient | undefined {
  if (!gradient || new Set(gradient.stops.map(({ hex, opacity }) => `${hex} ${isBareStop(opacity)}`)).size < 2) {
    return undefined;
  }
  const [x1, y1] = mapPoint(map, gradient.x1, gradient.y1);
  const [x2, y2] = mapPoint(map, gradient.x2, gradient.y2);
  return { ...gradient, x1, y1, x2, y2, stops: fewStops(gradient.stops) };
}

/** Of many stops, those that thread can follow: the first, the last, and the rest evenly chosen between. */
function fewStops(stops: Gradient['stops']): Gradient['stops'] {
  const [, most] = GRADIENT_STOPS;
  if (stops.length <= most) return stops;
  return Array.from({ length: most }, (_, k) => stops[Math.round((k * (stops.length - 1)) / (most - 1))]);
}

/** The map from the artwork's millimetres to the hoop's. */
function mapOf({ widthMm, heightMm }: Artwork, placement: Placement): Matrix {
  const o = sourceToHoop(placement, 0, 0);
  const x = sourceToHoop(placement, 1, 0);
  const y = sourceToHoop(placement, 0, 1);
  return {
    a: (x.x - o.x) / widthMm,
    b: (x.y - o.y) / widthMm,
    c: (y.x - o.x) / heightMm,
    d: (y.y - o.y) / heightMm,
    e: o.x,
    f: o.y,
  };
}

/** Nothing far beyond the page is sewn, however far a shape reaches: half the page's longer side around it. */
function pageOf({ widthMm, heightMm }: Artwork, map: Matrix): Rings {
  const rim = Math.max(widthMm, heightMm) / 2;
  const corners = [
    [-rim, -rim],
    [widthMm + rim, -rim],
    [widthMm + rim, heightMm + rim],
    [-rim, heightMm + rim],
  ];
  return fillRings([corners.flatMap(([x, y]) => mapPoint(map, x, y))], 'nonzero');
}

function reachesBeyond(rings: Rings, { left, right, top, bottom }: Bounds): boolean {
  if (rings.length === 0) return false;
  const own = boundsOf(rings);
  return own.left < left || own.right > right || own.top < top || own.bottom > bottom;
}

/** Outline of what is used of the picture, around the hoop's middle. */
function maskRings(placement: Placement): readonly Rings[] {
  if (!placement.mask) return [];
  const frame = placedFrame(placement);
  const [cx, cy] = [(frame.left + frame.right) / 2, (frame.top + frame.bottom) / 2];
  const ring = flattenRing(maskCurve(placement.mask), FLATNESS);
  return [fillRings([ring.map((v, i) => v - (i % 2 === 0 ? cx : cy))], 'nonzero')];
}

function placeFill(shape: ArtShape, map: Matrix, problems: ArtProblem[]): PlacedShape {
  const curves = shape.curves.map((curve) => closeCurve(mapCurve(curve, map)));
  const raw = curves.map((curve) => flattenRing(curve, FLATNESS)).filter((ring) => ring.length >= 6);
  if (crossingsOf(raw) > MOST_CROSSINGS) {
    const [x, y] = raw[0];
    problems.push({ text: `The outline of ${shape.name} crosses itself thousands of times; it is left out.`, x, y });
    return { shape, rings: [], outline: [] };
  }
  const rings = fillRings(raw, shape.rule);
  for (const ring of raw) {
    const at = crossing(ring);
    if (!at) continue;
    const rule = shape.rule === 'evenodd' ? 'what it crosses twice is left open' : 'it is filled throughout';
    problems.push({
      text: `The outline of ${shape.name} crosses itself; it was repaired: ${rule}.`,
      x: at[0],
      y: at[1],
    });
    break;
  }
  return { shape, rings, outline: keepCurves(curves, raw, rings) ?? polygonCurves(rings) };
}

/** The curves themselves, where they already are the shape's outline; holes run the other way round. */
function keepCurves(curves: readonly Curve[], raw: readonly Points[], rings: Rings): Curve[] | undefined {
  if (raw.length !== rings.length || curves.length !== raw.length) return undefined;
  const left = rings.map((ring) => ({ area: signedArea(ring), used: false }));
  const out: { curve: Curve; area: number }[] = [];
  for (const [i, ring] of raw.entries()) {
    const area = signedArea(ring);
    const twin = left.find(
      (r) => !r.used && Math.abs(Math.abs(r.area) - Math.abs(area)) <= Math.abs(area) * SAME_AREA + 1e-4,
    );
    if (!twin) return undefined;
    twin.used = true;
    out.push({ curve: twin.area > 0 === area > 0 ? curves[i] : reverseCurve(curves[i]), area: twin.area });
  }
  return out.sort((a, b) => b.area - a.area).map(({ curve }) => curve);
}

function closeCurve(curve: Curve): Curve {
  const { points, kinds } = curve;
  const n = points.length;
  if (points[0] === points[n - 2] && points[1] === points[n - 1]) return curve;
  return { points: [...points, points[0], points[1]], kinds: [...kinds, 'L'] };
}

const polygonCurves = (rings: Rings): Curve[] => rings.map((ring) => curveThrough([...ring, ring[0], ring[1]]));

/** A place where a ring crosses itself: a corner of what it encloses that is none of its own. */
function crossing(ring: Points): [number, number] | undefined {
  const rings = fillRings([ring], 'evenodd');
  if (rings.length <= 1) return undefined;
  const own = new Set<string>();
  const key = (x: number, y: number): string => `${Math.round(x * 100)} ${Math.round(y * 100)}`;
  for (let i = 0; i < ring.length; i += 2) own.add(key(ring[i], ring[i + 1]));
  for (const part of rings) {
    // Specks come from rounding, not from a drawing.
    if (Math.abs(signedArea(part)) < 0.01) continue;
    for (let i = 0; i < part.length; i += 2) {
      if (!own.has(key(part[i], part[i + 1]))) return [part[i], part[i + 1]];
    }
  }
  return undefined;
}

function placeLine(shape: ArtShape, map: Matrix): PlacedShape {
  const style = shape.stroke as NonNullable<ArtShape['stroke']>;
  const widthMm = style.width * scaleOf(map);
  const paths = shape.curves.map((curve) => mapCurve(curve, map));
  const runs = paths.map((curve) => flatten(curve, FLATNESS));
  const ringsOf = (closed: boolean): Rings => {
    const chosen = runs.filter((run, i) => shape.closed[i] === closed && run.length >= 4);
    return chosen.length > 0 ? thicken(chosen, widthMm, closed, style) : [];
  };
  const parts = [...ringsOf(false), ...ringsOf(true)];
  const rings = shape.closed.includes(true) && shape.closed.includes(false) ? fillRings(parts, 'nonzero') : parts;
  return { shape, rings, outline: polygonCurves(rings), line: { paths, widthMm } };
}

function clip(placed: PlacedShape, shape: ArtShape, map: Matrix, masks: readonly Rings[]): PlacedShape {
  if (shape.clips.length === 0 && masks.length === 0) return placed;
  let { rings } = placed;
  const whole = areaWithin(rings);
  for (const region of shape.clips) {
    const curves = region.curves.map((curve) => flattenRing(closeCurve(mapCurve(curve, map)), FLATNESS));
    rings = common(rings, fillRings(curves, region.rule));
  }
  for (const mask of masks) rings = common(rings, mask);
  // A shape that lies wholly inside keeps its own curves.
  if (Math.abs(areaWithin(rings) - whole) <= whole * 1e-4) return placed;
  return { shape, rings, outline: polygonCurves(rings), gradient: placed.gradient };
}
