import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { ChartThread } from '@open-kite/core';
import { CHART_FOLDER } from '@open-kite/server';
import { writeArtwork } from './artwork/make-artwork.js';
import { CHART_PLANS, chartCsv, chartGaps, makeChart } from './charts/make-charts.js';

// Draws the demo pictures and makes the thread charts anew: node demo/dist/make.js
const demo = fileURLToPath(new URL('..', import.meta.url));
await writeArtwork(join(demo, 'artwork'));
const tell = (name: string, threads: readonly ChartThread[]): void => {
  const { mean, worst, within6 } = chartGaps(threads, 4000);
  const share = `${(within6 * 100).toFixed(1)} % within 6`;
  console.log(
    `${name}: ${threads.length} threads; any colour to its nearest: mean ${mean.toFixed(2)}, worst ${worst.toFixed(2)}, ${share}`,
  );
};
const all: ChartThread[] = [];
for (const plan of CHART_PLANS) {
  const threads = makeChart(plan);
  await writeFile(join(CHART_FOLDER, `${plan.id}.csv`), chartCsv(threads));
  tell(plan.id, threads);
  all.push(...threads);
}
tell('all charts', all);
