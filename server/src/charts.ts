import { readdirSync, readFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseChart, type Chart } from '@open-kite/core';

/** Folder of the whole project, and of the charts that ship with it. */
export const ROOT = fileURLToPath(new URL('../..', import.meta.url));
export const CHART_FOLDER = join(ROOT, 'server', 'charts');

/** Names of the charts that ship with the application. */
const NAMES: Readonly<Record<string, string>> = {
  saltline: 'Saltline polyester',
  dunegrass: 'Dunegrass cotton',
  lanternsilk: 'Lanternsilk rayon',
};

/**
 * Reads all thread charts (.csv) of a folder.
 * @throws Error that names the file and line of the first bad entry: shipped charts have none.
 */
export function readCharts(folder: string): Chart[] {
  return readdirSync(folder)
    .filter((name) => name.endsWith('.csv'))
    .sort()
    .map((name) => {
      const id = basename(name, '.csv');
      const { threads, bad } = parseChart(readFileSync(join(folder, name), 'utf8'));
      const [first] = bad;
      if (first) throw new Error(`chart ${name}: line ${first.line}: ${first.message}`);
      return { id, name: NAMES[id] ?? id, threads };
    });
}
