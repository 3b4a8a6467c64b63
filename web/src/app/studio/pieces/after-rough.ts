import { effect, inject, untracked } from '@angular/core';
import { findAgain, objectFrame, type PieceRef } from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { ProjectStore } from '../../project/project-store';
import { candidatesIn, refIn } from './piece-refs';

/** What is done to pieces, by their index; -1 is one that has not become anything. */
type Act = (pieces: readonly number[]) => void;

/**
 * What is done to pieces of a rough result is done to those they become, as soon as these are there: rough ones are about
 * to be replaced. To be called where things are injected.
 * @returns takes an act on pieces, and says whether it waits; where nothing is rough it is to be done at once
 */
export function afterRough(): (pieces: Iterable<number>, act: Act) => boolean {
  const conversion = inject(Conversion);
  const store = inject(ProjectStore);
  let waiting: { readonly refs: readonly PieceRef[]; readonly act: Act }[] = [];
  effect(() => {
    const design = conversion.design();
    if (!design || conversion.rough()) return;
    untracked(() => {
      const due = waiting;
      waiting = [];
      for (const { refs, act } of due) {
        const objects = store.recipe()?.objects ?? [];
        const candidates = candidatesIn(design, design.pieces, objects);
        act(refs.map((ref) => findAgain(candidates, ref, objectFrame(objects, ref.object).toHoop, true)));
      }
    });
  });
  return (pieces, act) => {
    const rough = conversion.rough() ? conversion.design() : undefined;
    if (!rough) return false;
    const objects = store.recipe()?.objects ?? [];
    const refs = [...pieces].filter((i) => i in rough.pieces).map((i) => refIn(rough, rough.pieces[i], objects));
    if (refs.length > 0) waiting.push({ refs, act });
    // What was stopped halfway goes on: otherwise it would wait for ever.
    const [recipe, state] = [store.recipe(), conversion.state()];
    if (recipe && (state === 'cancelled' || state === 'failed')) void conversion.convert(recipe);
    return true;
  };
}
