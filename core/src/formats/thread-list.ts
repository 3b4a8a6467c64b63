import { csvLine } from '../colour/csv.js';
import { figuresOf } from '../sequence/figures.js';
import type { Sewing } from '../sequence/sewing.js';

/** Threads of a design with what is used of each, as a table. */
export function writeThreadList({ stitches, threads }: Sewing): string {
  const used = figuresOf(stitches, threads.length).threads;
  const rows = threads.map(({ code, name, hex, chart }, i) =>
    csvLine([code, name, hex, chart, used[i].stitches, used[i].lengthM.toFixed(2)]),
  );
  return ['code,name,hex,chart,stitches,length_m', ...rows].join('\n') + '\n';
}
