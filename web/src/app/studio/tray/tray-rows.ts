import type { Design } from '@open-kite/core';

/** What of the design the tray shows. */
export const FILTERS = ['all', 'tiny', 'lines', 'satin', 'fills', 'bare'] as const;
export type Filter = (typeof FILTERS)[number];

/** Smaller pieces are tiny. */
const TINY_MM2 = 2;

/** Rows of the tray: all are of one height, so that only those in sight need be drawn. */
export type Row =
  | { readonly kind: 'thread'; readonly thread: number; readonly key: string; readonly count: number }
  | { readonly kind: 'pieces'; readonly thread: number; readonly key: string; readonly pieces: readonly number[] }
  | { readonly kind: 'bare'; readonly key: string; readonly pieces: readonly number[] };

export const ACROSS = 4;

/** Whether a piece passes a filter. */
export function passes(design: Design, piece: number, filter: Filter): boolean {
  const { family, areaMm2 } = design.pieces[piece];
  switch (filter) {
    case 'all':
      return true;
    case 'tiny':
      return areaMm2 < TINY_MM2;
    case 'lines':
      return family === 'line';
    case 'satin':
      return family === 'column';
    case 'fills':
      return family === 'area';
    case 'bare':
      return false;
  }
}

/** How many pieces each filter shows. */
export function filterCounts(design: Design | undefined): Record<Filter, number> {
  const counts = { all: 0, tiny: 0, lines: 0, satin: 0, fills: 0, bare: design?.barePieces.length ?? 0 };
  design?.pieces.forEach((_, i) => {
    for (const filter of FILTERS) if (passes(design, i, filter)) counts[filter]++;
  });
  return counts;
}

/** Threads and under each its pieces in sewing order, cut into rows. */
export function rowsOf(design: Design, filter: Filter): Row[] {
  if (filter === 'bare') {
    const all = design.barePieces.map((_, i) => i);
    return chunks(all).map((pieces, i) => ({ kind: 'bare', key: `bare ${i}`, pieces }));
  }
  const byThread = design.threads.map((): number[] => []);
  for (const index of design.order)
    if (passes(design, index, filter)) byThread[design.pieces[index].thread].push(index);
  return byThread.flatMap((pieces, thread): Row[] => {
    if (pieces.length === 0 && filter !== 'all') return [];
    const head: Row = { kind: 'thread', thread, key: `thread ${thread}`, count: pieces.length };
    return [
      head,
      ...chunks(pieces).map((part, i): Row => ({ kind: 'pieces', thread, key: `${thread} ${i}`, pieces: part })),
    ];
  });
}

function chunks(list: readonly number[]): number[][] {
  const out: number[][] = [];
  for (let i = 0; i < list.length; i += ACROSS) out.push(list.slice(i, i + ACROSS));
  return out;
}
