import type { DesignThread } from '../colour/design-thread.js';
import type { Paint } from '../pieces/paint.js';
import { chooseThreads, type ColourChoices } from './choose-threads.js';
import type { PictureInput } from './input.js';
import type { LabelMap } from '../trace/labels.js';

/** A picture whose colours pieces may be painted with. */
export interface PaintSource {
  readonly input: PictureInput;
  readonly base: number;
  readonly map: LabelMap;
  readonly choices: ColourChoices;
}

export interface ChosenThreads {
  readonly threads: readonly DesignThread[];
  /** Thread of each paint. */
  readonly threadOf: readonly number[];
}

const LOOSE = { charts: [], stashOnly: false, distinct: false };

/**
 * Threads of a design: those of its renderings first, then those its pieces are painted with. Colours of a picture are
 * matched as that picture wants it; paints of no picture go with the lowest.
 */
export function designThreads(
  own: readonly DesignThread[],
  paints: readonly Paint[],
  sources: readonly PaintSource[],
  charts: PictureInput['charts'],
): ChosenThreads {
  const sourceOf = (paint: Paint): number =>
    'label' in paint ? sources.findLastIndex(({ base }) => paint.label > base) : 0;
  const threadOf: number[] = paints.map(() => -1);
  let threads: readonly DesignThread[] = own;
  for (let s = 0; s < Math.max(1, sources.length); s++) {
    const source = sources.at(s);
    const mine = paints.flatMap((paint, i) => (sourceOf(paint) === s ? [i] : []));
    if (mine.length === 0) continue;
    const local = mine.map((i): Paint => {
      const paint = paints[i];
      return 'label' in paint ? { label: paint.label - (source?.base ?? 0) } : paint;
    });
    const chosen = source
      ? chooseThreads(local, source.map, source.choices, source.input)
      : chooseThreads(local, undefined, undefined, { view: { colours: LOOSE }, charts, stash: [] });
    const merged = mergeThreads(threads, chosen);
    threads = merged.threads;
    mine.forEach((i, k) => (threadOf[i] = merged.threadOf[k]));
  }
  return { threads, threadOf };
}

/** Threads and more of them; equal ones are one. */
export function mergeThreads(own: readonly DesignThread[], more: ChosenThreads): ChosenThreads {
  if (own.length === 0) return more;
  const threads = own.slice();
  const at = more.threads.map((thread) => {
    const same = threads.findIndex((t) => t.hex === thread.hex && t.chart === thread.chart);
    return same >= 0 ? same : threads.push({ ...thread, code: freshCode(thread, threads) }) - 1;
  });
  return { threads, threadOf: more.threadOf.map((i) => at[i]) };
}

/** A code no other thread has: colours of one's own are numbered anew. */
function freshCode({ code, chart }: DesignThread, taken: readonly DesignThread[]): string {
  if (chart !== 'own') return code;
  let n = taken.length + 1;
  const name = (k: number): string => `OWN-${String(k).padStart(2, '0')}`;
  while (taken.some((t) => t.code === name(n))) n++;
  return name(n);
}
