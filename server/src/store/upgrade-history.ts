import { createRequire } from 'node:module';
import type * as JsonPatch from 'fast-json-patch';
import { applyPatches, enablePatches, type Patch as ImmerPatch } from 'immer';
import type { HistoryEntry, Patch } from '@open-kite/contract';
import { parseRecipe, upgradeRecipeTo, type Recipe } from '@open-kite/core';

// The package has no named exports that Node could see.
const { compare } = createRequire(import.meta.url)('fast-json-patch') as typeof JsonPatch;

enablePatches();

/** The version whose patches are replayed: earlier ones only added fields, which a later recipe has already. */
const PATCHED_VERSION = 6;

export interface Timeline {
  readonly recipe: Recipe;
  readonly history: readonly HistoryEntry[];
  readonly position: number;
}

/**
 * Brings a project's recipe and its whole history up to date: every state it ever had is made from its patches, brought to
 * the new version, and new patches are made between them. Where a patch does not fit, the history begins or ends there.
 * @throws RangeError where the recipe itself is none
 */
export function upgradeTimeline(stored: unknown, history: readonly HistoryEntry[], position: number): Timeline {
  const now = upgradeRecipeTo(stored, PATCHED_VERSION);
  const before: unknown[] = [];
  for (let k = position - 1, state = now; k >= 0; k--) {
    const earlier = patched(state, history[k]?.inverse);
    if (earlier === undefined) break;
    before.unshift((state = earlier));
  }
  const after: unknown[] = [];
  for (let k = position, state = now; k < history.length; k++) {
    const later = patched(state, history[k]?.patches);
    if (later === undefined) break;
    after.push((state = later));
  }
  const recipe = parseRecipe(now);
  const earlier = recipes(before.reverse()).reverse();
  const states = [...earlier, recipe, ...recipes(after)];
  const first = position - earlier.length;
  return {
    recipe,
    position: earlier.length,
    history: states.slice(1).map((state, k) => ({
      label: history[first + k]?.label ?? '',
      patches: between(states[k], state),
      inverse: between(state, states[k]),
    })),
  };
}

/** States as recipes of the new version, up to the first that is none; nearest to now first. */
function recipes(states: readonly unknown[]): Recipe[] {
  const out: Recipe[] = [];
  for (const state of states) {
    try {
      out.push(parseRecipe(state));
    } catch {
      break;
    }
  }
  return out;
}

function patched(state: unknown, patches: readonly Patch[] = []): unknown {
  try {
    return applyPatches(
      state as object,
      patches.map((patch): ImmerPatch => ({ ...patch, path: [...patch.path] })),
    );
  } catch {
    return undefined;
  }
}

/** What leads from one state to another. */
function between(from: unknown, to: unknown): Patch[] {
  return compare(from as object, to as object).flatMap((operation): Patch[] => {
    if (operation.op !== 'add' && operation.op !== 'remove' && operation.op !== 'replace') return [];
    const path = operation.path
      .split('/')
      .slice(1)
      .map((part) => part.replaceAll('~1', '/').replaceAll('~0', '~'))
      .map((part) => (/^(0|[1-9]\d*)$/.test(part) ? Number(part) : part));
    return [operation.op === 'remove' ? { op: 'remove', path } : { op: operation.op, path, value: operation.value }];
  });
}
