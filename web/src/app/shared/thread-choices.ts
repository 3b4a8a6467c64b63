import type { Choice } from './choice-field';
import { threadLabel } from './thread-label';

/** Threads of a design as choices, each by its number. */
export const threadChoices = (
  threads: readonly { readonly chart: string; readonly code: string; readonly name: string; readonly hex: string }[],
): Choice[] => threads.map((thread, i) => ({ id: `${i}`, name: threadLabel(thread), hex: thread.hex }));
