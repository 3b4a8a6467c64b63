import { cellsOf, csvLine } from './csv.js';
import { parseSpools, type Spools } from './chart-schema.js';
import type { BadLine } from './charts.js';
import { threadKey } from './match.js';

/** A thread somebody owns, or owned. */
export interface StashEntry extends Spools {
  readonly chart: string;
  readonly code: string;
}

/** Whether it is time to buy more of a thread. */
export const isLow = ({ spools, lowAt }: Spools): boolean => spools <= lowAt;

/** Keys of the threads of which there is at least one spool. */
export function stashKeys(entries: readonly StashEntry[]): ReadonlySet<string> {
  return new Set(entries.filter((e) => e.spools > 0).map((e) => threadKey(e.chart, e.code)));
}

/** The drawer as CSV: `chart,code,spools,low_at`; `parseStash` reads it back. */
export function writeStash(entries: readonly StashEntry[]): string {
  return ['chart,code,spools,low_at', ...entries.map((e) => csvLine([e.chart, e.code, e.spools, e.lowAt])), ''].join(
    '\n',
  );
}

/** Reads `chart,code,spools,low_at`; the last two may be missing. Bad lines are listed, good ones kept. */
export function parseStash(text: string): { entries: StashEntry[]; bad: BadLine[] } {
  const entries: StashEntry[] = [];
  const bad: BadLine[] = [];
  text
    .replace(/^\uFEFF/, '')
    .split(/\r?\n/)
    .forEach((raw, index) => {
      const line = raw.trim();
      if (line === '' || line.startsWith('#') || (index === 0 && /^chart\s*,/i.test(line))) return;
      const [chart, code, spools, lowAt] = cellsOf(line);
      try {
        if (!chart || !code) throw new RangeError('chart and code are needed');
        const stock = parseSpools({ spools: spools ? Number(spools) : 1, lowAt: lowAt ? Number(lowAt) : 0 });
        entries.push({ chart, code, ...stock });
      } catch (error) {
        if (!(error instanceof RangeError)) throw error;
        bad.push({ line: index + 1, message: error.message });
      }
    });
  return { entries, bad };
}
