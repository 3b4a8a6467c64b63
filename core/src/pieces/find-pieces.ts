import { boundsOf } from '../geometry/polyline.js';
import { distanceMap } from '../trace/distance-map.js';
import type { Trace } from '../trace/trace.js';
import { applyDecisions } from './apply-decisions.js';
import type { Area } from './area.js';
import { isSamePaint, type Paint } from './paint.js';
import { cutHidden } from './cut-hidden.js';
import { branchesOf, seenFaces, sewnAs, widthOf, type TraceMeasure, type WidthSettings } from './measure.js';
import { withCopies, type AreaCopies } from './copied-areas.js';
import { neighboursByArcs, neighboursByPainting } from './neighbours.js';
import { candidateOf, FOLLOWS, type ToHoop } from './find-again.js';
import type { PieceDecision } from './piece-decisions.js';
import type { ThreadChoice } from './piece-ref.js';
import type { Corners } from '../trace/spine-stretches.js';
import { expandGradients } from './gradient-areas.js';
import type { Neighbour, Piece } from './piece.js';
import { NO_CHOICES } from './sewn-as.js';
import type { TracePlace } from './traced-areas.js';
import type { PieceMove, FoundPieces } from './found-pieces.js';
import { techniqueOf, textsOf, wordsOf } from './words.js';

/** What is known of an object whose areas become pieces. */
export interface ObjectFrame {
  /** Its own frame on the cloth. */
  readonly toHoop: ToHoop;
  /** Area of the whole object in mm². */
  readonly wholeMm2: number;
  /** Areas smaller than this are not sewn, unless somebody asks for them. */
  readonly smallestMm2: number;
  /** Widths by which its areas are lines, satin or fills. */
  readonly lineBelowMm: number;
  readonly satinBelowMm: number;
  /** Pieces below its own are cut away, except under what is narrower than this. */
  readonly keepBelowMm: number;
  /** The trace its areas are faces of. */
  readonly traced?: Traced;
}

export interface PieceSettings {
  readonly corners: Corners;
  readonly familyOf: WidthSettings['familyOf'];
  /** What was said about single pieces; null where it shapes none. */
  readonly decisions: readonly (PieceDecision | null)[];
  readonly frameOf: (object: string) => ObjectFrame;
  /** Label of the colour that a choice of thread for a piece of an object means, 0 where it is gone. */
  readonly labelOf: (choice: ThreadChoice, object: string) => number;
  /** Colour that a paint is seen in; that of the cloth where there is none. */
  readonly seenHexOf: (paint: Paint | undefined) => string;
  /** Objects that are copies of others, lowest first. */
  readonly copies?: readonly AreaCopies[];
  /** Pieces at most; of more, the largest are sewn. */
  readonly most?: number;
}

/** The trace that areas are faces of. */
export type Traced = TracePlace & { readonly trace: Trace };

/** What is narrower than this and lies on one piece alone is sewn on top of it. */
const DETAIL_MM = 3;
/** Smaller rests of cutting are nothing anybody would miss. */
const SPECK_MM2 = 0.05;
/** More than a machine will ever sew, and fewer than the stitch list can number. */
const MOST_PIECES = 20_000;

/**
 * Turns areas into pieces: what was said about them, what hides what, size, width, kind, lines and neighbours.
 * @param stack areas of all objects, those that are too small already taken out
 * @param tooSmall those that were taken out
 */
export function findPieces(
  stack: readonly Area[],
  settings: PieceSettings,
  tooSmall: readonly Area[] = [],
): FoundPieces {
  const { frameOf, labelOf } = settings;
  const measures = new Map<Trace, TraceMeasure>();
  const measureOf = ({ object }: Area): TraceMeasure | undefined => {
    const { traced } = frameOf(object);
    if (!traced) return undefined;
    const known = measures.get(traced.trace) ?? measureTrace(traced);
    measures.set(traced.trace, known);
    return known;
  };
  const wholeMm2 = (object: string): number => frameOf(object).wholeMm2;
  const paintOf = (choice: ThreadChoice, object: string): Paint | undefined => {
    const label = labelOf(choice, object);
    return label > 0 ? { label } : 'like' in choice ? undefined : choice;
  };
  const decided = applyDecisions(stack, settings.decisions, {
    toHoopOf: (object) => frameOf(object).toHoop,
    wholeMm2,
    paintOf,
    hexOf: settings.seenHexOf,
    branchesOf: (area) => branchesOf(area, measureOf(area)),
  });
  const shown = cutHidden(
    withCopies(decided.areas, settings.copies ?? []),
    (area) => widthOf(area, measureOf(area)) > frameOf(area.object).keepBelowMm,
    (area) => !area.fill && widthOf(area, measureOf(area)) < DETAIL_MM,
  );
  const plain = largest(
    shown.filter((area) => area.keep === true || area.areaMm2 >= frameOf(area.object).smallestMm2),
    settings.most ?? MOST_PIECES,
  );
  const taken = new Set(plain);
  const small = [...tooSmall, ...shown.filter((a) => !taken.has(a))];

  const { areas, from } = expandGradients(plain);
  const paints = paintsOf(areas);
  const widthsOf = ({ object }: Area): WidthSettings => {
    const { lineBelowMm, satinBelowMm } = frameOf(object);
    return { lineBelowMm, satinBelowMm, corners: settings.corners, familyOf: settings.familyOf };
  };
  const beside = besides(plain, frameOf);
  const neighbours = areas.length === plain.length ? beside : amongParts(beside, areas, from);
  const texts = textsOf(areas);
  const words = [...wordsOf(areas), ...texts.words];
  const wordOf = new Map(words.flatMap((word, k) => word.map((i) => [i, k] as const)));
  const alone = areas.map((area) => sewnAs(area, widthsOf(area), measureOf(area)));
  const together = [...words, ...texts.texts].flatMap((word) => {
    const as = techniqueOf(word.map((i) => ({ areaMm2: areas[i].areaMm2, kind: alone[i].kind })));
    return as === undefined ? [] : word.map((i) => [i, { ...areas[i], as }] as const);
  });
  for (const [i, area] of together) alone[i] = sewnAs(area, widthsOf(area), measureOf(areas[i]));
  const pieces = areas.map((area, i): Piece => {
    const sewn = alone[i];
    return {
      id: `p${i + 1}`,
      origin: area.origin,
      object: area.object,
      part: area.part,
      role: area.role ?? 'plain',
      stopBefore: area.stopBefore ?? false,
      cloth: area.cloth,
      thread: paints.findIndex((paint) => isSamePaint(paint, area.paint)),
      colour: (labelOfPaint(area.paint) || labelOfPaint(plain[from[i]].paint)) - 1,
      kind: sewn.kind,
      family: sewn.family,
      choices: area.choices ?? NO_CHOICES,
      chosen: area.as !== undefined,
      outline: area.outline,
      paths: sewn.paths,
      columns: sewn.columns,
      passes: area.passes ?? 0,
      widthMm: sewn.widthMm,
      areaMm2: area.areaMm2,
      shapeMm2: area.shapeMm2 ?? area.areaMm2,
      bounds: boundsOf(area.rings),
      moved: area.moved,
      anchor: sewn.anchor,
      neighbours: neighbours[i],
      word: wordOf.get(i),
      reading: area.inText?.place,
      turn: area.turn,
      layer: area.layer,
      decisions: area.decisions,
      gradient: area.gradient,
      partOf: from.indexOf(from[i]),
    };
  });
  // Cutting and measuring make new areas: what they were made of is told by the decisions they carry.
  const indexOf = (area: Area): number => {
    const at = areas.indexOf(area);
    return at >= 0 ? at : areas.findIndex((a) => a.decisions.length > 0 && a.decisions === area.decisions);
  };
  return {
    pieces,
    // Decisions find the first of the pieces that a gradient makes of an area.
    candidates: areas.map((area, i) => {
      const first = from.indexOf(from[i]);
      const part = first === i ? area.part : `${FOLLOWS}${first}`;
      return candidateOf(area, wholeMm2(area.object), part);
    }),
    paints,
    tooSmall: small
      .filter(({ areaMm2 }) => areaMm2 >= SPECK_MM2)
      .map((area) => ({ ...middleOf(area), areaMm2: area.areaMm2, hex: area.hex, object: area.object })),
    bare: decided.bare,
    lost: decided.lost,
    moves: decided.moves.flatMap(({ area, before }): PieceMove[] => {
      const piece = indexOf(area);
      const other = typeof before === 'string' ? before : indexOf(before);
      return piece < 0 || other === -1 ? [] : [{ piece, before: other }];
    }),
  };
}

/** Which areas meet: by the arcs of a trace where all are faces of one, else by painting them. */
function besides(areas: readonly Area[], frameOf: PieceSettings['frameOf']): Neighbour[][] {
  const traces = new Set(areas.map(({ object }) => frameOf(object).traced));
  const [traced] = traces;
  const exact = traced !== undefined && traces.size === 1 && areas.every(({ face }) => face !== undefined);
  return exact ? neighboursByArcs(areas, traced.trace, traced.pixelsPerMm) : neighboursByPainting(areas);
}

/** Label of a paint that is a colour of the picture, else 0. */
const labelOfPaint = (paint: Paint): number => ('label' in paint ? paint.label : 0);

/** Neighbours of areas as those of the pieces that gradients make of them; the threads of one gradient lie on each other. */
function amongParts(beside: readonly Neighbour[][], areas: readonly Area[], from: readonly number[]): Neighbour[][] {
  const partsOf = new Map<number, number[]>();
  from.forEach((area, i) => partsOf.set(area, [...(partsOf.get(area) ?? []), i]));
  return areas.map((area, i) => {
    const own = (partsOf.get(from[i]) ?? []).filter((j) => j !== i);
    const box = boundsOf(area.rings);
    const around = 2 * (box.right - box.left + box.bottom - box.top);
    return [
      ...own.map((piece) => ({ piece, borderMm: around })),
      ...beside[from[i]].flatMap(({ piece, borderMm }) =>
        (partsOf.get(piece) ?? []).map((j) => ({ piece: j, borderMm })),
      ),
    ].sort((a, b) => a.piece - b.piece);
  });
}

function measureTrace(traced: Traced): TraceMeasure {
  const { trace, left, top, pixelsPerMm } = traced;
  const { bounds } = trace;
  const distances = distanceMap(bounds.labels, bounds.width, bounds.height);
  const widest = widestPlaces(distances, bounds.components.of, bounds.components.count);
  const seen = seenFaces(trace, `${left} ${top} ${pixelsPerMm}`);
  return { trace, distances, widest, left, top, pixelsPerMm, seen };
}

/** For each component, the framed pixel farthest from its boundary. */
function widestPlaces(distances: Float32Array, of: Int32Array, count: number): Int32Array {
  const widest = new Int32Array(count).fill(-1);
  for (let i = 0; i < of.length; i++) {
    const at = widest[of[i]];
    if (at < 0 || distances[i] > distances[at]) widest[of[i]] = i;
  }
  return widest;
}

/** The largest of many areas, in the order they came. */
function largest(areas: Area[], most: number): Area[] {
  if (areas.length <= most) return areas;
  const least = areas.map((a) => a.areaMm2).sort((a, b) => b - a)[most - 1];
  return areas.filter((a) => a.areaMm2 >= least).slice(0, most);
}

function paintsOf(areas: readonly Area[]): Paint[] {
  const labels = new Set<number>();
  const others: Paint[] = [];
  for (const { paint } of areas) {
    if ('label' in paint) labels.add(paint.label);
    else if (!others.some((other) => isSamePaint(other, paint))) others.push(paint);
  }
  return [...[...labels].sort((a, b) => a - b).map((label) => ({ label })), ...others];
}

function middleOf({ rings }: Area): { x: number; y: number } {
  const { left, right, top, bottom } = boundsOf(rings);
  return { x: (left + right) / 2, y: (top + bottom) / 2 };
}
