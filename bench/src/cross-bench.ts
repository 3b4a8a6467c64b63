import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { convert, defaultRecipe, figuresOf, type Raster, type Recipe } from '@open-kite/core';
import { drawSmooth, flatScene } from '@open-kite/core/testing';
import { decodePicture } from '@open-kite/server';
import { heading, line } from './print.js';

/** A recipe of counted crosses with so many cells along each side. */
function recipeFor({ width, height }: Raster, cells: number, cellMm: number, colours: number | 'auto'): Recipe {
  const base = defaultRecipe(width, height);
  return {
    ...base,
    method: 'cross',
    picture: { ...base.picture, widthMm: cells * cellMm, heightMm: cells * cellMm, dropGround: false },
    colours: { ...base.colours, count: colours },
    rendering: { ...base.rendering, values: { cross: { cellMm } } },
  };
}

/** Counted cross: how many stitches a cell takes, and how long a large grid. */
export async function crossBench(root: string): Promise<void> {
  heading(
    'Counted cross',
    '30 scripted flat pictures at 60 x 60 cells; a photograph at 100 x 100 and 200 x 200, 20 colours',
  );
  let [stitches, trims, changes, threads, longest] = [0, 0, 0, 0, 0];
  for (let k = 0; k < 30; k++) {
    const { scene, palette } = flatScene(600, 3 + (k % 6), 900 + k);
    const { raster } = drawSmooth(scene, palette, 600, 600);
    const design = await convert({
      raster,
      pictureKey: `flat ${k}`,
      recipe: recipeFor(raster, 60, 2.5, 'auto'),
      charts: [],
    });
    const figures = figuresOf(design.stitches, design.threads.length);
    stitches += figures.stitches;
    trims += figures.trims;
    changes += figures.threadChanges;
    threads += figures.threads.filter((thread) => thread.stitches > 0).length - 1;
    longest = Math.max(longest, figures.longestStitchMm);
  }
  line('flat pictures: stitches a cell', (stitches / (30 * 3600)).toFixed(2), '3.3');
  line('flat pictures: thread changes, threads less one each; cuts', `${changes}, ${threads}; ${trims}`, 'the same');
  line('longest float', `${longest.toFixed(1)} mm`, '7.5 mm');
  const { raster } = await decodePicture(readFileSync(join(root, 'demo/artwork/still-life.jpg')));
  for (const cells of [100, 200]) {
    const since = performance.now();
    const design = await convert({
      raster,
      pictureKey: `photo ${cells}`,
      recipe: recipeFor(raster, cells, 2, 20),
      charts: [],
    });
    const seconds = (performance.now() - since) / 1000;
    const figures = figuresOf(design.stitches, design.threads.length);
    line(
      `photograph, ${cells} x ${cells} cells: stitches a cell; cuts; whole conversion`,
      `${(figures.stitches / cells ** 2).toFixed(2)}; ${figures.trims}; ${seconds.toFixed(1)} s`,
      '3.9; -; 3 s at 200 x 200',
    );
  }
}
