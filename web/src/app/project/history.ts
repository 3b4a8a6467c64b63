import { applyPatches, enablePatches, produceWithPatches, type Patch } from 'immer';
import type { Recipe } from '@open-kite/core';
import type { HistoryEntry } from '@open-kite/contract';

enablePatches();

/** A recipe with its changes, those undone included. */
export interface Timeline {
  readonly recipe: Recipe;
  readonly entries: readonly HistoryEntry[];
  /** How many entries are in force. */
  readonly position: number;
  /** How many entries from the start the server holds as they are here. */
  readonly shared: number;
}

/** A recipe whose fields can be set, inside a change. */
export type Draft<T> = { -readonly [K in keyof T]: T[K] extends object ? Draft<T[K]> : T[K] };

/**
 * Applies a change. Steps of one gesture (`joined`), such as a slider on its way, become one entry.
 * @returns the same timeline where the change changes nothing
 */
export function change(
  line: Timeline,
  label: string,
  edit: (recipe: Draft<Recipe>) => void,
  joined: boolean,
): Timeline {
  const [recipe, patches, inverse] = produceWithPatches(line.recipe, (draft) => {
    // What the edit gives back is dropped: it only changes the draft.
    edit(draft);
  });
  if (patches.length === 0) return line;
  const last = line.entries[line.position - 1] as HistoryEntry | undefined;
  if (joined && last && last.label === label && line.position === line.entries.length) {
    const entry = {
      label,
      patches: latest([...last.patches, ...patches]),
      inverse: latest([...inverse, ...last.inverse]),
    };
    const entries = [...line.entries.slice(0, -1), entry];
    return { recipe, entries, position: line.position, shared: Math.min(line.shared, line.position - 1) };
  }
  const entries = [...line.entries.slice(0, line.position), { label, patches, inverse }];
  return { recipe, entries, position: entries.length, shared: Math.min(line.shared, line.position) };
}

/** Of replacements of the same place only the last counts. */
function latest(patches: readonly Patch[]): Patch[] {
  return patches.filter(
    (patch, i) =>
      patch.op !== 'replace' ||
      !patches.some((other, k) => k > i && other.op === 'replace' && other.path.join('/') === patch.path.join('/')),
  );
}

/** Takes the last change back; the same timeline where there is none. */
export function undo(line: Timeline): Timeline {
  if (line.position === 0) return line;
  const entry = line.entries[line.position - 1];
  return { ...line, recipe: applyPatches(line.recipe, [...entry.inverse]), position: line.position - 1 };
}

/** Makes the last undone change again. */
export function redo(line: Timeline): Timeline {
  if (line.position === line.entries.length) return line;
  const entry = line.entries[line.position];
  return { ...line, recipe: applyPatches(line.recipe, [...entry.patches]), position: line.position + 1 };
}
