import { toEnd } from '../geometry/pauses.js';
import type { Design } from '../design/design.js';
import type { PieceDecision } from '../pieces/piece-decisions.js';
import type { Recipe } from '../recipe/recipe.js';
import type { Sewing } from '../sequence/sewing.js';
import { CHECKS } from './checks/index.js';
import { examine } from './examined.js';
import { LEVELS, type Finding, type Repair } from './finding.js';

/**
 * Checks a design against what machines, threads and the fabric bear.
 * @param design what is known beyond the stitches; repairs need it, and the recipe
 * @returns what was found, the most harmful first: by level, then by how far it is over its limit
 */
export function findingsOf(sewing: Sewing, design?: Design, recipe?: Recipe): Finding[] {
  return toEnd(findingSteps(sewing, design, recipe));
}

/** The same, check by check: whoever has other work as well does it in between. */
export function* findingSteps(sewing: Sewing, design?: Design, recipe?: Recipe): Generator<void, Finding[]> {
  const examined = examine(sewing, design, recipe);
  const empty = examined.figures().stitches === 0;
  // Nothing can be said of stitches that are not there.
  const checks = empty ? CHECKS.slice(0, 1) : CHECKS;
  const found: Finding[] = [];
  for (const { id, why, find } of checks) {
    found.push(...find(examined).map((finding): Finding => ({ kind: id, why, ...finding })));
    yield;
  }
  return found.sort((a, b) => LEVELS.indexOf(a.level) - LEVELS.indexOf(b.level) || b.harm - a.harm);
}

/** What a check is called. */
export const checkName = (kind: string): string => CHECKS.find(({ id }) => id === kind)?.name ?? kind;

/** A recipe after a repair; it is one more thing that was said, and can be taken back like everything else. */
export function repaired(recipe: Recipe, repair: Repair): Recipe {
  const { decisions, stitches, order, bareGround } = repair;
  return {
    ...recipe,
    decisions: decisions ? withDecisions(recipe.decisions, decisions) : recipe.decisions,
    stitches: stitches ? { ...recipe.stitches, ...stitches } : recipe.stitches,
    order: order ? { ...recipe.order, ...order } : recipe.order,
    objects: bareGround
      ? recipe.objects.map((object) =>
          object.kind === 'picture' && bareGround.includes(object.id)
            ? { ...object, picture: { ...object.picture, dropGround: true } }
            : object,
        )
      : recipe.objects,
  };
}

/** The same said twice is said once. */
function withDecisions(before: readonly PieceDecision[], more: readonly PieceDecision[]): PieceDecision[] {
  const known = new Set(before.map((decision) => JSON.stringify(decision)));
  return [...before, ...more.filter((decision) => !known.has(JSON.stringify(decision)))];
}
