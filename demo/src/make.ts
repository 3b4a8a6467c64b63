import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { writeArtwork } from './artwork/make-artwork.js';
import { CHART_PLANS, chartCsv, chartGaps, makeChart } from './charts/make-charts.js';

// Draws the demo pictures and makes the thread charts anew: node demo/dist/make.js
const demo = fileURLToPath(new URL('..', import.meta.url));
await writeArtwork(join(demo, 'artwork'));
await mkdir(join(demo, 'charts'), { recursive: true });
for (const plan of CHART_PLANS) {
  const threads = makeChart(plan);
  await writeFile(join(demo, 'charts', `${plan.id}.csv`), chartCsv(threads));
  const { mean, worst } = chartGaps(threads, 4000);
  console.log(`${plan.id}: ${threads.length} threads; any colour to its nearest: mean ${mean.toFixed(2)}, worst ${worst.toFixed(2)}`);
}
