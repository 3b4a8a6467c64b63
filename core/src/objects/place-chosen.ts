import { chain, type Matrix } from '../artwork/matrix.js';
import type { PieceDecision } from '../pieces/piece-decisions.js';
import { inFrame, isSameRef } from '../pieces/find-again.js';
import type { PieceRef } from '../pieces/piece-ref.js';
import type { DesignObject } from './design-object.js';
import { objectFrame } from './frames.js';
import { kindOf } from './kinds/index.js';

/** What of a design is chosen: whole objects, and single pieces that a picture was found to have. */
export interface ChosenThings {
  readonly objects: readonly string[];
  readonly pieces: readonly PieceRef[];
}

/** What a change of place changes in a recipe. */
export interface PlacedDesign {
  readonly objects: readonly DesignObject[];
  readonly decisions: readonly PieceDecision[];
}

/** Whether an object can be moved by itself: others follow what they belong to. */
export const canBePlaced = (object: DesignObject): boolean => !object.locked && kindOf(object).placed !== undefined;

/**
 * Moves, scales, turns or mirrors what is chosen, by a map of the cloth. What lies on a chosen object moves with it, and
 * is not moved twice; what is locked stays.
 * @returns undefined where something would become smaller or larger than it may be
 */
export function placeChosen(recipe: PlacedDesign, chosen: ChosenThings, by: Matrix): PlacedDesign | undefined {
  const ids = new Set(chosen.objects);
  const carried = (object: DesignObject | undefined): boolean => {
    // A text goes along with the line it stands on.
    if (object?.kind === 'letters' && object.along !== undefined && ids.has(object.along)) return true;
    for (let at = object, steps = 0; at && at.on !== null && steps <= recipe.objects.length; steps++) {
      if (ids.has(at.on)) return true;
      const { on }: DesignObject = at;
      at = recipe.objects.find(({ id }) => id === on);
    }
    return false;
  };
  const objects: DesignObject[] = [];
  for (const object of recipe.objects) {
    const { placed } = kindOf(object);
    if (!ids.has(object.id) || !placed || object.locked || carried(object)) {
      objects.push(object);
      continue;
    }
    const made = placed(object, inFrame(by, objectFrame(recipe.objects, object.on).toHoop));
    if (!made) return undefined;
    objects.push(made);
  }
  let decisions = recipe.decisions;
  for (const at of chosen.pieces) {
    const owner = recipe.objects.find(({ id }) => id === at.object);
    if (!owner || owner.locked || ids.has(at.object) || carried(owner)) continue;
    decisions = withPlace(decisions, at, inFrame(by, objectFrame(recipe.objects, at.object).toHoop));
  }
  return { objects, decisions };
}

/** One decision says where a piece lies, however often it is moved. */
function withPlace(decisions: readonly PieceDecision[], at: PieceRef, by: Matrix): readonly PieceDecision[] {
  const known = decisions.findLastIndex((said) => said.kind === 'place' && isSameRef(said.at, at));
  const said = decisions[known];
  if (said?.kind !== 'place') return [...decisions, { kind: 'place', at, by }];
  return decisions.with(known, { ...said, by: chain(by, said.by) });
}
