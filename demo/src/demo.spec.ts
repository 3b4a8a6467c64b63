import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { ciede2000, convert, figuresOf, findingsOf, fromHex, parseChart, parseRecipe, rgbToLab } from '@open-kite/core';
import { decodePicture, CHART_FOLDER, readCharts } from '@open-kite/server';
import { makeArtwork } from './artwork/make-artwork.js';
import { lantern, monogram, nameBadge } from './lettered.js';
import { CHART_PLANS, chartCsv, chartGaps, makeChart } from './charts/make-charts.js';

const demo = fileURLToPath(new URL('..', import.meta.url));
const pixelsOf = (bytes: Buffer): Promise<Buffer> => sharp(bytes).ensureAlpha().raw().toBuffer();

describe('demo artwork', () => {
  it('is what its scripts draw', async () => {
    for (const [name, drawn] of await makeArtwork()) {
      const shipped = readFileSync(join(demo, 'artwork', name));
      if (name.endsWith('.svg')) expect(shipped.equals(drawn)).withContext(name).toBeTrue();
      else
        expect((await pixelsOf(shipped)).equals(await pixelsOf(drawn)))
          .withContext(name)
          .toBeTrue();
    }
  }, 180_000);

  it('can be read as any upload', async () => {
    const sizes: Record<string, [number, number]> = {
      'crest.png': [1000, 1000],
      'box-kite.jpg': [1200, 1200],
      'harbour.jpg': [1600, 1200],
      'quilt-block.png': [60, 60],
    };
    for (const [name, size] of Object.entries(sizes)) {
      const { raster } = await decodePicture(readFileSync(join(demo, 'artwork', name)));
      expect([raster.width, raster.height]).withContext(name).toEqual(size);
    }
    expect((await decodePicture(readFileSync(join(demo, 'artwork', 'pennant.svg')))).kind).toBe('svg');
  });
});

describe('demo charts', () => {
  const charts = readCharts(CHART_FOLDER);

  it('have the planned number of threads, each with a code of its own', () => {
    for (const plan of CHART_PLANS) {
      const chart = charts.find((c) => c.id === plan.id);
      expect(chart?.threads.length).toBe(plan.count);
      expect(new Set(chart?.threads.map((t) => t.code)).size).toBe(plan.count);
      expect(new Set(chart?.threads.map((t) => t.hex)).size).toBe(plan.count);
    }
  });

  it('leave every thread a neighbour within CIEDE2000 20, and most colours of the screen one within 6', () => {
    for (const { threads } of charts) {
      const labs = threads.map((t) => rgbToLab(fromHex(t.hex)));
      labs.forEach((lab, i) => {
        const best = labs.reduce(
          (least, other, k) => (k === i ? least : Math.min(least, ciede2000(lab, other))),
          Infinity,
        );
        expect(best).withContext(threads[i].code).toBeLessThan(20);
      });
    }
    const all = charts.flatMap((c) => c.threads);
    expect(chartGaps(all, 1500).within6).toBeGreaterThan(0.95);
  });

  it('are what their script makes', () => {
    const plan = CHART_PLANS[1];
    const shipped = readFileSync(join(CHART_FOLDER, `${plan.id}.csv`), 'utf8');
    expect(chartCsv(makeChart(plan))).toBe(shipped);
    expect(parseChart(shipped).bad).toEqual([]);
  }, 180_000);
});

describe('demo designs without a picture', () => {
  for (const [name, make, least] of [
    ['badge', nameBadge, 2500],
    ['monogram', monogram, 1200],
    ['lantern', lantern, 1500],
  ] as const) {
    it(`are sewn as they stand, and nothing of them would fail: ${name}`, async () => {
      const recipe = parseRecipe(make());
      const design = await convert({ recipe, pictures: {}, charts: [] });
      expect(figuresOf(design.stitches, design.threads.length).stitches).toBeGreaterThan(least);
      expect(findingsOf(design, design, recipe).filter(({ level }) => level === 'problem')).toEqual([]);
    });
  }
});
