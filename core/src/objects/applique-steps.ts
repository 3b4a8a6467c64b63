import type { PieceDecision } from '../pieces/piece-decisions.js';
import { USUAL_APPLIQUE, type AppliqueChoices, type OutlineObject } from './design-object.js';

/** Steps of an applique as objects of their own, and what is said of them. */
export interface BrokenApplique {
  readonly objects: readonly OutlineObject[];
  readonly decisions: readonly PieceDecision[];
}

const NAMES = { placement: 'Placement line', 'tack-down': 'Tack-down', cover: 'Cover' } as const;

/**
 * Breaks an applique into its steps: each goes along the same edge as an object of its own, with its own thread and its own place in the
 * order, and the machine waits where it did. The cloth is laid by the first that holds it.
 * What follows the applique goes on following its last step, which keeps its name among the objects.
 * @param freshId a name no object has yet, a new one each time
 */
export function brokenApplique(outline: OutlineObject, freshId: () => string): BrokenApplique {
  const all = outline.applique ?? USUAL_APPLIQUE;
  const { placement, tackDown, cut, cover } = all;
  const nothing = { ...all, placement: false, tackDown: 'none', cover: 'none' } as const;
  const steps: { readonly part: keyof typeof NAMES; readonly choices: AppliqueChoices; readonly stop: boolean }[] = [];
  if (placement) steps.push({ part: 'placement', choices: { ...nothing, placement }, stop: false });
  if (tackDown !== 'none') steps.push({ part: 'tack-down', choices: { ...nothing, tackDown }, stop: placement });
  if (cover !== 'none') steps.push({ part: 'cover', choices: { ...nothing, cover }, stop: cut && steps.length > 0 });
  const holds = steps.find(({ part }) => part !== 'placement');
  const objects: OutlineObject[] = [];
  const decisions: PieceDecision[] = [];
  for (const step of steps) {
    const id = step === steps.at(-1) ? outline.id : freshId();
    const name = outline.name === '' ? NAMES[step.part] : `${outline.name}, ${NAMES[step.part].toLowerCase()}`;
    const applique = step === holds ? step.choices : { ...step.choices, laid: false as const };
    objects.push({ ...outline, id, name, applique });
    if (step.stop) decisions.push({ kind: 'stop', at: { object: id, part: step.part }, stop: true });
  }
  return { objects, decisions };
}
