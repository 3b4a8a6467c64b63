import { boundsOf } from '../geometry/polyline.js';
import { distanceMap } from '../trace/distance-map.js';
import type { Trace } from '../trace/trace.js';
import { applyDecisions } from './apply-decisions.js';
import { isSamePaint, type Area, type Paint } from './area.js';
import { cutHidden } from './cut-hidden.js';
import { addDrawn } from './drawn-areas.js';
import type { DrawnPiece } from './drawn.js';
import { branchesOf, seenFaces, sewnAs, widthOf, type TraceMeasure, type WidthSettings } from './measure.js';
import { neighboursByArcs, neighboursByPainting } from './neighbours.js';
import { candidateOf, type Candidate, type PieceDecision, type ThreadChoice, type ToHoop } from './piece-decisions.js';
import { expandGradients } from './gradient-areas.js';
import { NO_CHOICES, type BarePiece, type Neighbour, type Piece } from './piece.js';
import type { TracePlace } from './traced-areas.js';

export interface PieceSettings extends WidthSettings {
  /** Areas smaller than this are not sewn. */
  readonly smallestMm2: number;
  /** Pieces below others are cut away, except under what is narrower than this. */
  readonly keepBelowMm: number;
  /** What was said about single pieces. */
  readonly decisions: readonly PieceDecision[];
  readonly drawn: readonly DrawnPiece[];
  readonly toHoop: ToHoop;
  /** Area of the whole picture. */
  readonly wholeMm2: number;
  /** Label of the colour that a choice of thread means, 0 where it is gone. */
  readonly labelOf: (choice: ThreadChoice) => number;
  /** Colour of a label before the light is changed. */
  readonly hexOf: (label: number) => string;
  /** Colour that a paint is seen in; that of the cloth where there is none. */
  readonly seenHexOf: (paint: Paint | undefined) => string;
  /** Pieces at most; of more, the largest are sewn. */
  readonly most?: number;
}

/** The trace that areas are faces of. */
export type Traced = TracePlace & { readonly trace: Trace };

/** A piece to be sewn before another, or before or after all others; indices of pieces. */
export interface PieceMove {
  readonly piece: number;
  readonly before: number | 'first' | 'last';
}

/** An area that is not sewn because it is too small. */
export interface SmallArea {
  readonly x: number;
  readonly y: number;
  readonly areaMm2: number;
  readonly hex: string;
}

/** Pieces found, and what was left out. */
export interface FoundPieces {
  readonly pieces: readonly Piece[];
  /** What decisions on each piece are matched with. */
  readonly candidates: readonly Candidate[];
  /** What each thread of the pieces is to be, in thread order: colours of the picture first. */
  readonly paints: readonly Paint[];
  readonly tooSmall: readonly SmallArea[];
  /** Pieces left bare, each with the decision that did it. */
  readonly bare: readonly BarePiece[];
  /** Decisions that found no piece, by their place in the list. */
  readonly lost: readonly number[];
  readonly moves: readonly PieceMove[];
}

/** Smaller rests of cutting are nothing anybody would miss. */
const SPECK_MM2 = 0.05;
/** More than a machine will ever sew, and fewer than the stitch list can number. */
const MOST_PIECES = 20_000;

/** Turns areas into pieces: what was said about them, what hides what, size, width, kind, lines and neighbours. */
export function findPieces(found: readonly Area[], traced: Traced | undefined, settings: PieceSettings): FoundPieces {
  const { toHoop, wholeMm2, labelOf, hexOf } = settings;
  const measureOf = measureTrace(traced);
  const paintOf = (choice: ThreadChoice): Paint | undefined => {
    const label = labelOf(choice);
    return label > 0 ? { label } : 'like' in choice ? undefined : choice;
  };
  // Small areas count only where somebody asked for one: a photograph has thousands.
  const keepsSmall = settings.decisions.some(({ kind }) => kind === 'keep');
  const isLarge = (area: Area): boolean => area.areaMm2 >= settings.smallestMm2;
  const kept = keepsSmall ? found : found.filter(isLarge);
  const decided = applyDecisions(
    addDrawn(kept, settings.drawn, {
      toHoop,
      wholeMm2,
      paintOf: (choice) => {
        const paint = paintOf(choice) ?? { hex: 'like' in choice ? choice.like.hex : '#000000' };
        return { paint, hex: 'label' in paint ? hexOf(paint.label) : 'hex' in paint ? paint.hex : '#000000' };
      },
    }),
    settings.decisions,
    {
      toHoop,
      wholeMm2,
      paintOf,
      hexOf: settings.seenHexOf,
      branchesOf: (area) => branchesOf(area, measureOf),
    },
  );
  const shown = cutHidden(decided.areas, settings.keepBelowMm, (area) => widthOf(area, measureOf));
  const plain = largest(
    shown.filter((area) => area.keep === true || isLarge(area)),
    settings.most ?? MOST_PIECES,
  );
  const taken = new Set(plain);
  const small = [...(keepsSmall ? [] : found.filter((a) => !isLarge(a))), ...shown.filter((a) => !taken.has(a))];

  const { areas, from } = expandGradients(plain);
  const paints = paintsOf(areas);
  const exact = traced !== undefined && plain.every(({ face }) => face !== undefined);
  const beside = exact ? neighboursByArcs(plain, traced.trace, traced.pixelsPerMm) : neighboursByPainting(plain);
  const neighbours = areas.length === plain.length ? beside : amongParts(beside, areas, from);
  const pieces = areas.map((area, i): Piece => {
    const sewn = sewnAs(area, settings, measureOf);
    return {
      id: `p${i + 1}`,
      origin: area.origin,
      drawn: area.drawn,
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
      bounds: boundsOf(area.rings),
      anchor: sewn.anchor,
      neighbours: neighbours[i],
      layer: area.layer,
      decisions: area.decisions,
      part: area.part,
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
    candidates: areas.map((area, i) =>
      candidateOf(
        area.rings,
        area.hex,
        area.areaMm2 / wholeMm2,
        from.indexOf(from[i]) === i ? area.drawn : `part of ${from.indexOf(from[i])}`,
      ),
    ),
    paints,
    tooSmall: small
      .filter(({ areaMm2 }) => areaMm2 >= SPECK_MM2)
      .map((area) => ({ ...middleOf(area), areaMm2: area.areaMm2, hex: area.hex })),
    bare: decided.bare,
    lost: decided.lost,
    moves: decided.moves.flatMap(({ area, before }): PieceMove[] => {
      const piece = indexOf(area);
      const other = typeof before === 'string' ? before : indexOf(before);
      return piece < 0 || other === -1 ? [] : [{ piece, before: other }];
    }),
  };
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

function measureTrace(traced: Traced | undefined): TraceMeasure | undefined {
  if (!traced) return undefined;
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
