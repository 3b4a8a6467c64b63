import type { Design } from '../design/design.js';
import type { Recipe } from '../recipe/recipe.js';
import type { Finding } from './finding.js';
import { findingsOf, repaired } from './findings.js';

/** Which repairs are carried out unasked: none, only those that change no shape that can be seen, or all. */
export const REPAIR_ASKS = ['none', 'safe', 'all'] as const;
export type RepairAsk = (typeof REPAIR_ASKS)[number];

/** A repair may bring up another finding; after so many rounds it is left at that. */
const ROUNDS = 4;

const WEIGHTS: Readonly<Record<Finding['level'], number>> = { problem: 10, advice: 3, waste: 1 };

/** How bad findings are altogether. */
const badness = (found: readonly Finding[]): number =>
  found.reduce((sum, { level, harm }) => sum + WEIGHTS[level] * Math.min(4, harm), 0);

/**
 * Carries out the first repair of every finding that has one, all of a kind together, as long as the design gets better by it.
 * @param convert makes the design of a recipe
 */
export async function repairAll(
  first: Design,
  recipe: Recipe,
  ask: RepairAsk,
  convert: (recipe: Recipe) => Promise<Design>,
): Promise<{ design: Design; recipe: Recipe }> {
  let best = { design: first, recipe };
  if (ask === 'none') return best;
  let found = findingsOf(first, first, recipe);
  const vain = new Set<string>();
  for (let round = 0; round < ROUNDS; round++) {
    const kinds = [...new Set(found.map(({ kind }) => kind))].filter((kind) => !vain.has(kind));
    let better = false;
    for (const kind of kinds) {
      const repairs = found
        .filter((finding) => finding.kind === kind)
        .flatMap((finding) => finding.repairs.find(({ safe }) => safe || ask === 'all') ?? []);
      vain.add(kind);
      if (repairs.length === 0) continue;
      const next = repairs.reduce(repaired, best.recipe);
      const design = await convert(next);
      const after = findingsOf(design, design, next);
      if (badness(after) >= badness(found)) continue;
      best = { design, recipe: next };
      found = after;
      better = true;
    }
    if (!better) break;
    vain.clear();
  }
  return best;
}
