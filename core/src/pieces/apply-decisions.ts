import { groupRings, unite } from '../geometry/polygons.js';
import { boundsOf } from '../geometry/polyline.js';
import { fromRings, movedArea, type Area } from './area.js';
import type { Paint } from './paint.js';
import type { AreaGradient } from './area-gradient.js';
import type { GradientChoice } from './gradient-choice.js';
import type { BarePiece } from './piece.js';
import { NO_CHOICES } from './sewn-as.js';
import { candidateOf, findAgain, movedFrame, onCloth, type Candidate, type ToHoop } from './find-again.js';
import type { PieceDecision } from './piece-decisions.js';
import type { PieceRef, ThreadChoice } from './piece-ref.js';
import { choicesWith, shapesPieces } from './stitch-choices.js';

/** What decisions are matched with. */
export interface DecisionPlace {
  /** Frame of an object. */
  readonly toHoopOf: (object: string) => ToHoop;
  /** Area of a whole object in mm². */
  readonly wholeMm2: (object: string) => number;
  /** Paint of a chosen thread; undefined where its colour is gone. */
  readonly paintOf: (choice: ThreadChoice, object: string) => Paint | undefined;
  /** Colour of a paint; that of the cloth where there is none. */
  readonly hexOf: (paint: Paint | undefined) => string;
  /** Branches of an area that is a net of lines. */
  readonly branchesOf: (area: Area) => readonly Area[];
}

/** A piece moved in the sewing order: areas by their place in the list, or before or after all. */
export interface Move {
  readonly area: Area;
  readonly before: Area | 'first' | 'last';
}

export interface Decided {
  readonly areas: readonly Area[];
  readonly bare: readonly BarePiece[];
  readonly moves: readonly Move[];
  /** Decisions that found no piece, by their place in the list. */
  readonly lost: readonly number[];
}

/** Carries out what was said about single pieces, in the order it was said. */
export function applyDecisions(
  found: readonly Area[],
  decisions: readonly (PieceDecision | null)[],
  place: DecisionPlace,
): Decided {
  const areas: (Area | undefined)[] = found.slice();
  const bare: BarePiece[] = [];
  const moves: { at: number; before: number | 'first' | 'last' }[] = [];
  const lost: number[] = [];
  // Pieces go by the shape they had before they were joined, so that what was said then still finds them.
  const candidates: Candidate[] = [];
  const owner: number[] = [];
  const list = (area: Area, index: number): void => {
    candidates.push(candidateOf(area, place.wholeMm2(area.object)));
    owner.push(index);
  };
  found.forEach(list);
  const find = (ref: PieceRef): number => {
    const at = findAgain(candidates, ref, place.toHoopOf(ref.object));
    return at < 0 ? -1 : owner[at];
  };
  const replace = (at: number, parts: readonly Area[]): void => {
    areas[at] = undefined;
    for (let i = owner.length - 1; i >= 0; i--) {
      if (owner[i] !== at) continue;
      owner.splice(i, 1);
      candidates.splice(i, 1);
    }
    for (const part of parts) {
      list(part, areas.length);
      areas.push(part);
    }
  };
  decisions.forEach((decision, index) => {
    if (!decision || !shapesPieces(decision)) return;
    const at = find(decision.at);
    const area = areas[at];
    if (!area) {
      lost.push(index);
      return;
    }
    const said = { ...area, decisions: [...area.decisions, index] };
    switch (decision.kind) {
      case 'bare':
        replace(at, []);
        bare.push(bareOf(area, index));
        return;
      case 'keep':
        areas[at] = { ...said, keep: true };
        return;
      case 'sew':
        areas[at] = { ...said, as: decision.as, passes: decision.passes };
        return;
      case 'hidden':
        areas[at] = { ...said, cut: decision.cut };
        return;
      case 'place':
        areas[at] = lifted(movedArea(said, onCloth(decision.by, place.toHoopOf(decision.at.object))));
        return;
      case 'stitch':
      case 'guides':
      case 'entry':
      case 'exit':
      case 'connect':
      case 'stop':
      case 'rows':
        areas[at] = {
          ...said,
          choices: choicesWith(area.choices ?? NO_CHOICES, decision, frameOf(area, place)),
        };
        return;
      case 'thread': {
        const paint = place.paintOf(decision.to, area.object);
        if (paint) areas[at] = { ...said, paint };
        else lost.push(index);
        return;
      }
      case 'gradient':
        areas[at] = { ...said, fill: decision.fill ? fillOf(decision.fill, area, place) : undefined };
        return;
      case 'order': {
        const before = typeof decision.before === 'string' ? decision.before : find(decision.before);
        if (before === -1) lost.push(index);
        else if (before !== at) moves.push({ at, before });
        areas[at] = said;
        return;
      }
      case 'join': {
        const to = find(decision.to);
        const other = areas[to];
        if (!other) lost.push(index);
        else if (to !== at) {
          areas[to] = join(other, said);
          areas[at] = undefined;
          owner.forEach((o, i) => o === at && (owner[i] = to));
          for (const move of moves) if (move.at === at) move.at = to;
        }
        return;
      }
      case 'apart': {
        const parts = apart(said, place);
        if (parts.length > 1) replace(at, parts);
        else areas[at] = said;
        return;
      }
    }
  });
  return {
    areas: areas.filter((area) => area !== undefined),
    bare,
    moves: moves.flatMap(({ at, before }): Move[] => {
      const area = areas[at];
      const other = typeof before === 'number' ? areas[before] : before;
      return area && other ? [{ area, before: other }] : [];
    }),
    lost,
  };
}

/** A gradient as it was chosen, on the cloth. */
function fillOf({ id, shape, way, stops, layers }: GradientChoice, area: Area, decisions: DecisionPlace): AreaGradient {
  const { paintOf, hexOf } = decisions;
  const { object } = area;
  const toHoop = frameOf(area, decisions);
  const [start, end] = [toHoop(way[0], way[1]), toHoop(way[2], way[3])];
  return {
    id,
    shape,
    x1: start.x,
    y1: start.y,
    x2: end.x,
    y2: end.y,
    layers,
    stops: stops.map(({ at, paint }) => {
      const chosen = 'bare' in paint ? undefined : paintOf(paint, object);
      return { at, paint: chosen, hex: hexOf(chosen) };
    }),
  };
}

/** Frame of an area: that of its object, moved as it was moved itself. */
const frameOf = ({ object, moved }: Area, { toHoopOf }: DecisionPlace): ToHoop => movedFrame(toHoopOf(object), moved);

/** What was moved lies over what was found beside it. */
const lifted = (area: Area): Area => (area.origin === 'traced' ? { ...area, layer: area.layer + 1 } : area);

function bareOf(area: Area, decision: number): BarePiece {
  return {
    object: area.object,
    outline: area.outline,
    bounds: boundsOf(area.rings),
    areaMm2: area.areaMm2,
    colour: 'label' in area.paint ? area.paint.label - 1 : -1,
    decision,
  };
}

/** Two areas as one; where they touch the border between them goes. */
function join(into: Area, other: Area): Area {
  const shape = fromRings(unite(into.rings, other.rings));
  return {
    ...into,
    ...shape,
    face: undefined,
    line: into.line && other.line && { ...into.line, paths: [...into.line.paths, ...other.line.paths] },
    keep: into.keep === true || other.keep === true,
    layer: Math.max(into.layer, other.layer),
    decisions: [...new Set([...into.decisions, ...other.decisions])].sort((a, b) => a - b),
  };
}

/** An area as the parts of it that do not touch; a net of lines as its branches. */
function apart(area: Area, place: DecisionPlace): readonly Area[] {
  const groups = groupRings(area.rings);
  if (groups.length > 1) {
    return groups.map((rings) => ({ ...area, ...fromRings(rings), face: undefined, line: undefined }));
  }
  return place.branchesOf(area);
}
