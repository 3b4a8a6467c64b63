import { curveThrough, flatten, type Curve } from '../geometry/curve.js';
import { thicken } from '../geometry/polygons.js';
import { lengthOf } from '../geometry/polyline.js';
import { distance, type Point, type Points } from '../geometry/vector.js';
import { deepest, fromMask, maskOfComponent, maskOfRings, type AreaMask } from '../trace/area-mask.js';
import { centreline } from '../trace/centreline.js';
import { columnsOf, type Columns } from '../trace/columns.js';
import { COLOUR_BITS } from '../trace/line-parts.js';
import { skeletonOf } from '../trace/skeleton.js';
import { strokeColumns } from '../trace/stroke-columns.js';
import { axisOf } from '../trace/spines.js';
import type { Face } from '../trace/faces.js';
import type { Trace } from '../trace/trace.js';
import { lineArea, type Area } from './area.js';
import { cornerParts } from './corner-parts.js';
import { measureGlyph } from './glyph-measures.js';
import { measureForm } from './kept-measures.js';
import { once, oncePer, type Measured } from './measured.js';
import { FLATNESS_MM } from './piece.js';
import type { KindFamily, PieceKind } from './sewn-as.js';
import { CORNERS, type Corners } from '../trace/spine-stretches.js';

/** By which widths areas are lines, satin or fills. */
export interface WidthSettings {
  /** Areas up to this mean width are sewn as lines. */
  readonly lineBelowMm: number;
  /** Areas up to this wide at their widest place are sewn as satin, if columns fill them. */
  readonly satinBelowMm: number;
  /** What is done at sharp corners of satin, unless something else is said of a piece. */
  readonly corners: Corners;
  /** What a stitch kind needs to know of a piece. */
  readonly familyOf: (kind: PieceKind) => KindFamily;
}

/** How an area is sewn, by its width or as the user said. */
export interface Sewn {
  readonly kind: PieceKind;
  readonly family: KindFamily;
  readonly widthMm: number;
  readonly anchor: Point;
  readonly paths: readonly Curve[];
  readonly columns: Columns['columns'];
}

/** Widest place of a line compared with its mean width: ends and junctions are wider than the middle. */
const LINE_BULGE = 2.2;
/** A shape that is as wide as this somewhere, and whose middle lines are not so many times as long, is no line. */
const STUB_MM = 1.2;
const STUB_LENGTHS = 5;
/** Half a thread: lines stop this far before the end of their shape. */
const HALF_THREAD_MM = 0.2;
/** Satin by itself must fill at least this share, of at most so many columns, with few rungs left out. */
const LEAST_COVERED = 0.965;
const MOST_COLUMNS_PER_MM2 = 0.12;
const MOST_DROPPED = 0.3;
/** It leaves no hole larger than this. */
const MOST_HOLE_MM2 = 0.15;
const MOST_BULK = 1.35;
/** Wider than this, what is less than so many times as long as wide is a fill and no satin, unless it is round. */
const DOT_MM = 3;
const LEAST_LONG = 1.4;
const LEAST_ROUND = 0.85;
/** A shape of one column may be so many times wider than one of several. */
const SINGLE_WIDER = 1.4;
/** Letters of a text are satin down to strokes of this width: they are drawn to be, and a line among them would not match. */
const LETTER_LINE_MM = 0.55;
/** Wider columns whose inner rail is shorter than this share of the outer one. */
const FAN_WIDTH_MM = 1.8;
const FAN_RATIO = 0.45;
/** Pixels to the millimetre at which shapes are measured that do not come from pixels. */
const FINEST = 12;

/** The areas of a trace, measured on its pixels. */
export interface TraceMeasure {
  readonly trace: Trace;
  readonly distances: Float32Array;
  readonly widest: Int32Array;
  readonly left: number;
  readonly top: number;
  readonly pixelsPerMm: number;
  /** Measures of faces seen before: they hold as long as the trace does. */
  readonly seen: Map<Face, Measured>;
}

const SEEN = new WeakMap<Trace, { readonly place: string; readonly seen: Map<Face, Measured> }>();

/** Measures of the faces of a trace, kept while the trace and its place are the same. */
export function seenFaces(trace: Trace, place: string): Map<Face, Measured> {
  const known = SEEN.get(trace);
  if (known?.place === place) return known.seen;
  const seen = new Map<Face, Measured>();
  SEEN.set(trace, { place, seen });
  return seen;
}

/** Says how an area is sewn. */
export function sewnAs(area: Area, widths: WidthSettings, trace: TraceMeasure | undefined): Sewn {
  const shape = measure(area, trace);
  const { anchor, widestMm } = shape;
  const corners = cornersOf(area, widths);
  const line = (kind: PieceKind): Sewn => {
    const lines = shape.line().paths.filter((path) => lengthOf(path) > 0);
    // What is left of a line has a middle and a width of its own; what is too round for one gets one along its longer axis.
    const drawn = area.shapeMm2 === undefined ? area.line : undefined;
    const width = drawn?.widthMm ?? Math.min(shape.line().width, widestMm);
    const paths = drawn?.paths ?? (lines.length > 0 ? lines : [shape.axis()]).map(curveThrough);
    return { kind, family: 'line', widthMm: width, anchor, paths, columns: [] };
  };
  const column = (kind: PieceKind): Sewn => {
    const { columns } = shape.columns(corners);
    return { kind, family: 'column', widthMm: meanWidth(columns, widestMm), anchor, paths: [], columns };
  };
  const fill = (kind: PieceKind): Sewn => ({ kind, family: 'area', widthMm: widestMm, anchor, paths: [], columns: [] });
  if (area.as !== undefined) {
    const family = widths.familyOf(area.as);
    if (family === 'line') return line(area.as);
    if (family === 'area') return fill(area.as);
    return shape.columns(corners).columns.length > 0 ? column(area.as) : fill('tatami');
  }
  const lineBelowMm = area.inText ? Math.min(LETTER_LINE_MM, widths.lineBelowMm) : widths.lineBelowMm;
  if (area.line && area.shapeMm2 === undefined) {
    if (area.line.widthMm <= lineBelowMm) return line('running');
  } else if (widestMm <= lineBelowMm * LINE_BULGE) {
    const middle = shape.line();
    const isLine = middle.width <= lineBelowMm && middle.paths.length > 0;
    if (isLine) return isStub(area, middle.paths, widestMm) ? fill('tatami') : line('running');
  }
  const width = area.line?.widthMm ?? widestMm;
  // Rungs of a single column may be longer: nothing else lies in their way.
  const isNarrow = width <= widths.satinBelowMm * SINGLE_WIDER;
  if (!isNarrow || !isSatin(area, shape, corners)) return fill('tatami');
  const { columns } = shape.columns(corners);
  return width <= widths.satinBelowMm || columns.length === 1 ? column('satin') : fill('tatami');
}

/** Whether what is thin on the whole is little more than its widest place: a line along it would leave that bare on both sides. */
function isStub(area: Area, paths: readonly Points[], widestMm: number): boolean {
  if (area.inText || widestMm < STUB_MM || isRound(area)) return false;
  return paths.reduce((sum, path) => sum + lengthOf(path), 0) < STUB_LENGTHS * widestMm;
}

function cornersOf({ choices }: Area, widths: WidthSettings): Corners {
  const own = choices?.values['corners'];
  return CORNERS.find(({ id }) => id === own)?.id ?? widths.corners;
}

/** A drawn line is satin along its own middle, unless it goes over itself again and again. */
const MOST_SCRIBBLE = 1.5;
/** Rungs fill at least this share of it, but for a hole of that size. */
const MOST_STROKE_HOLE_MM2 = 0.5;
const LEAST_STROKE_COVERED = 0.9;
/** Shorter than so many widths it is a dot. */
const LEAST_LINE = 1.5;

function isSatin(area: Area, shape: Measured, corners: Corners): boolean {
  if (area.line && area.areaMm2 > LEAST_LINE * area.line.widthMm ** 2) {
    const { columns, covered, hole, bulk } = shape.columns(corners);
    return (
      columns.length > 0 && covered >= LEAST_STROKE_COVERED && hole <= MOST_STROKE_HOLE_MM2 && bulk <= MOST_SCRIBBLE
    );
  }
  const { columns, covered, hole, bulk, dropped } = shape.columns(corners);
  if (columns.length === 0 || hole > MOST_HOLE_MM2) return false;
  if (covered < LEAST_COVERED || bulk > MOST_BULK || dropped > MOST_DROPPED) return false;
  if (columns.some(({ rungs }) => isFan(rungs))) return false;
  if (shape.widestMm > DOT_MM) {
    // A field as long as wide has no direction to lay satin across, unless it is round.
    const long =
      columns.length === 1
        ? lengthOf(columns[0].spine) / shape.widestMm
        : area.areaMm2 / (shape.widestMm * shape.widestMm);
    if (long < LEAST_LONG && !isRound(area)) return false;
  }
  return columns.length <= Math.max(6, area.areaMm2 * MOST_COLUMNS_PER_MM2);
}

/** Whether an area is as good as a circle: its area against that of the circle of its perimeter. */
function isRound({ rings, areaMm2 }: Area): boolean {
  if (rings.length !== 1) return false;
  const [ring] = rings;
  const around = lengthOf([...ring, ring[0], ring[1]]);
  return (4 * Math.PI * areaMm2) / (around * around) > LEAST_ROUND;
}

/** Whether stitches would crowd on the inner side: a wide column that turns tightly is a fan, and no satin. */
function isFan(rungs: Points): boolean {
  let [a, b, width] = [0, 0, 0];
  for (let i = 4; i < rungs.length; i += 4) {
    a += distance(rungs[i - 4], rungs[i - 3], rungs[i], rungs[i + 1]);
    b += distance(rungs[i - 2], rungs[i - 1], rungs[i + 2], rungs[i + 3]);
    width += distance(rungs[i], rungs[i + 1], rungs[i + 2], rungs[i + 3]);
  }
  const mean = width / Math.max(1, rungs.length / 4 - 1);
  return mean > FAN_WIDTH_MM && Math.min(a, b) < FAN_RATIO * Math.max(a, b);
}

function meanWidth(columns: Columns['columns'], fallback: number): number {
  let sum = 0;
  let count = 0;
  for (const { rungs } of columns) {
    for (let i = 0; i < rungs.length; i += 4) {
      sum += distance(rungs[i], rungs[i + 1], rungs[i + 2], rungs[i + 3]);
      count++;
    }
  }
  return count > 0 ? sum / count : fallback;
}

/** Measures of shapes that are no faces, by their rings: a piece is asked about its width before it is sewn. */
const BY_RINGS = new WeakMap<readonly Points[], Measured>();

function measure(area: Area, trace: TraceMeasure | undefined): Measured {
  if (area.face !== undefined && trace) return measureFace(area, trace, trace.trace.faces[area.face]);
  const known = BY_RINGS.get(area.rings);
  if (known) return known;
  const made = area.inText ? measureGlyph(area, measureRings) : measureForm(area, measureRings);
  BY_RINGS.set(area.rings, made);
  return made;
}

function measureRings(area: Pick<Area, 'rings' | 'line'>): Measured {
  const mask = maskOfRings(area.rings, FINEST);
  return measured(() => mask, area);
}

/** How wide an area is: a line as it was drawn, anything else at its widest place. */
export function widthOf(area: Area, trace: TraceMeasure | undefined): number {
  return area.line?.widthMm ?? measure(area, trace).widestMm;
}

function measureFace(area: Area, source: TraceMeasure, face: Face): Measured {
  const known = source.seen.get(face);
  if (known) return known;
  const { trace, distances, widest, left, top, pixelsPerMm } = source;
  const { bounds } = trace;
  const place = { left, top, scale: pixelsPerMm };
  const at = widest[face.component];
  const mask = once(() => maskOfComponent(bounds, face.component, distances, place));
  const beyond = (x: number, y: number): boolean => {
    // From the mask's pixels to those of the framed label map.
    const { components } = bounds;
    const px = Math.floor(x) + components.box[face.component * 4] - 1;
    const py = Math.floor(y) + components.box[face.component * 4 + 1] - 1;
    if (!face.linePart || px < 0 || py < 0 || px >= bounds.width || py >= bounds.height) return false;
    return (bounds.labels[py * bounds.width + px] & COLOUR_BITS) === face.label;
  };
  const made = measured(mask, area, beyond, {
    widestMm: (2 * distances[at]) / pixelsPerMm,
    anchor: {
      x: left + ((at % bounds.width) - 0.5) / pixelsPerMm,
      y: top + (Math.floor(at / bounds.width) - 0.5) / pixelsPerMm,
    },
  });
  source.seen.set(face, made);
  return made;
}

function measured(
  mask: () => AreaMask,
  area: Pick<Area, 'rings' | 'line'>,
  beyond: (x: number, y: number) => boolean = () => false,
  known?: Pick<Measured, 'widestMm' | 'anchor'>,
): Measured {
  const skeleton = once(() => skeletonOf(mask()));
  return {
    ...(known ?? middleOf(mask())),
    line: once(() => centreline(mask(), HALF_THREAD_MM * mask().scale, area.rings, skeleton(), beyond)),
    columns: oncePer((corners) =>
      area.line
        ? strokeColumns(area.line, area.rings, corners, mask())
        : columnsOf(mask(), area.rings, skeleton(), corners),
    ),
    axis: once(() => fromMask(mask(), axisOf(mask()).points)),
  };
}

/** Widest place of a mask, in its units. */
function middleOf(mask: AreaMask): Pick<Measured, 'widestMm' | 'anchor'> {
  const { x, y, radius } = deepest(mask);
  return {
    widestMm: (2 * radius) / mask.scale,
    anchor: { x: x / mask.scale + mask.left, y: y / mask.scale + mask.top },
  };
}

/** The parts of a drawn line between its corners, or the branches of an area that is a net of lines, each as an area. */
export function branchesOf(area: Area, trace: TraceMeasure | undefined): readonly Area[] {
  const drawn = area.shapeMm2 === undefined && area.line?.paths.length === 1 ? area.line : undefined;
  if (drawn) {
    const parts = cornerParts(flatten(drawn.paths[0], FLATNESS_MM), drawn.widthMm, area.rings);
    if (parts.length > 1) return parts.map(({ run, rings }) => lineArea(area, run, drawn.widthMm, [...rings]));
  }
  const shape = measure(area, trace);
  const line = shape.line();
  const width = area.line?.widthMm ?? line.width;
  const runs = line.paths.filter((path) => lengthOf(path) > 0).map((path): Points => path.slice());
  const style = { cap: 'round', join: 'round', miterLimit: 2 } as const;
  return runs.length < 2 ? [area] : runs.map((run) => lineArea(area, run, width, thicken([run], width, false, style)));
}
