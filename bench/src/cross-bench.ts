import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  ciede2000,
  distanceToSegment,
  endsOfStep,
  figuresOf,
  fromHex,
  latticeStride,
  LINEAR,
  linearToLab,
  octantAt,
  threadAtOctant,
  unpackCell,
  type Design,
  type GridChart,
  type Raster,
} from '@open-kite/core';
import { flatRecipe, type FlatRecipe } from '@open-kite/core/testing';
import { convertOne } from './one-picture.js';
import { drawSmooth, flatScene, lineDrawing } from '@open-kite/core/testing';
import { decodePicture } from '@open-kite/server';
import { heading, line } from './print.js';

/** A recipe of counted crosses with so many cells along each side. */
function recipeFor(
  { width, height }: Raster,
  cells: number,
  cellMm: number,
  colours: number | 'auto',
  more: Readonly<Record<string, string>> = {},
): FlatRecipe {
  const base = flatRecipe(width, height);
  return {
    ...base,
    method: 'cross',
    picture: { ...base.picture, widthMm: cells * cellMm, heightMm: cells * cellMm, dropGround: false },
    colours: { ...base.colours, count: colours },
    rendering: { ...base.rendering, values: { cross: { cellMm, ...more } } },
  };
}

/** Share of the picture's pixels that show another thread than they should. */
function areaError(
  chart: GridChart,
  design: Design,
  truth: Uint8Array,
  side: number,
  hexes: readonly string[],
): number {
  const { grid, cells } = chart;
  const want = hexes.map((hex) => nearest(design, hex));
  let wrong = 0;
  for (let i = 0; i < truth.length; i++) {
    const u = (((i % side) + 0.5) / side) * grid.cols;
    const v = ((Math.floor(i / side) + 0.5) / side) * grid.rows;
    const code = cells[Math.floor(v) * grid.cols + Math.floor(u)];
    if (threadAtOctant(code, octantAt((u % 1) - 0.5, (v % 1) - 0.5)) !== want[truth[i]]) wrong++;
  }
  return wrong / truth.length;
}

const labOf = (hex: string): ReturnType<typeof linearToLab> => {
  const { r, g, b } = fromHex(hex);
  return linearToLab(LINEAR[r], LINEAR[g], LINEAR[b]);
};

function nearest({ threads }: Design, hex: string): number {
  const lab = labOf(hex);
  const all = threads.map((thread) => ciede2000(lab, labOf(thread.hex)));
  return all.indexOf(Math.min(...all));
}

/** Groups of one or two like cells. */
function strayComponents({ grid: { cols, rows }, cells }: GridChart): number {
  const main = Int32Array.from(cells, (code) => unpackCell(code)[0]?.thread ?? -1);
  const seen = new Uint8Array(main.length);
  let strays = 0;
  for (let start = 0; start < main.length; start++) {
    if (seen[start]) continue;
    const group = [start];
    seen[start] = 1;
    for (const cell of group) {
      const [x, y] = [cell % cols, Math.floor(cell / cols)];
      for (let dy = -1; dy <= 1; dy++) {
        for (let dx = -1; dx <= 1; dx++) {
          const next = (y + dy) * cols + x + dx;
          if (x + dx < 0 || y + dy < 0 || x + dx >= cols || y + dy >= rows) continue;
          if (seen[next] || main[next] !== main[start]) continue;
          seen[next] = 1;
          group.push(next);
        }
      }
    }
    if (group.length <= 2) strays++;
  }
  return strays;
}

/** How much of the thin lines of a drawing has a back stitch beside it, and how far away that is, in cells. */
function linesFound(
  chart: GridChart,
  drawing: ReturnType<typeof lineDrawing>,
  side: number,
): readonly [number, number, number] {
  const { grid, backs } = chart;
  const stride = latticeStride(grid);
  const px = side / grid.cols / 2;
  const steps = [...backs.keys()].map((step) => endsOfStep(stride, step).map((v) => v * px));
  const widest = 0.84 * px * 2;
  let [all, found, away] = [0, 0, 0];
  for (const { points, width } of drawing.lines) {
    if (width >= widest) continue;
    for (let i = 0; i + 3 < points.length; i += 2) {
      const [x, y] = [(points[i] + points[i + 2]) / 2, (points[i + 1] + points[i + 3]) / 2];
      const length = Math.hypot(points[i + 2] - points[i], points[i + 3] - points[i + 1]);
      const { solid } = drawing;
      if (Math.hypot(x - solid.x, y - solid.y) < solid.r + px * 2) continue;
      let least = Infinity;
      for (const [x0, y0, x1, y1] of steps) least = Math.min(least, distanceToSegment(x, y, x0, y0, x1, y1));
      all += length;
      if (least <= 0.35 * px * 2) {
        found += length;
        away += (least / px / 2) * length;
      }
    }
  }
  return [all, found, away];
}

const SIGMA_CELLS = 1;

/** Mean CIEDE2000 of the cells against the picture, both blurred over a cell, and the share of cells without a like neighbour. */
function photoLikeness(chart: GridChart, design: Design, raster: Raster): readonly [number, number] {
  const { cols, rows } = chart.grid;
  const main = Int32Array.from(chart.cells, (code) => unpackCell(code)[0]?.thread ?? -1);
  const [sewn, asked] = [new Float64Array(cols * rows * 3), new Float64Array(cols * rows * 3)];
  const linear = design.threads.map(({ hex }) => fromHex(hex)).map(({ r, g, b }) => [LINEAR[r], LINEAR[g], LINEAR[b]]);
  const sums = new Float64Array(cols * rows);
  for (let y = 0; y < raster.height; y++) {
    const row = Math.min(rows - 1, Math.floor((y / raster.height) * rows));
    for (let x = 0; x < raster.width; x++) {
      const cell = row * cols + Math.min(cols - 1, Math.floor((x / raster.width) * cols));
      sums[cell]++;
      for (let k = 0; k < 3; k++) asked[cell * 3 + k] += LINEAR[raster.data[(y * raster.width + x) * 4 + k]];
    }
  }
  for (let i = 0; i < cols * rows; i++) {
    for (let k = 0; k < 3; k++) {
      asked[i * 3 + k] /= sums[i];
      sewn[i * 3 + k] = linear[main[i]]?.[k] ?? 1;
    }
  }
  const [a, b] = [blurred(sewn, cols, rows), blurred(asked, cols, rows)];
  let sum = 0;
  let alone = 0;
  for (let i = 0; i < cols * rows; i++) {
    sum += ciede2000(
      linearToLab(a[i * 3], a[i * 3 + 1], a[i * 3 + 2]),
      linearToLab(b[i * 3], b[i * 3 + 1], b[i * 3 + 2]),
    );
    const [x, y] = [i % cols, Math.floor(i / cols)];
    let like = false;
    for (let dy = -1; dy <= 1 && !like; dy++) {
      for (let dx = -1; dx <= 1 && !like; dx++) {
        const [nx, ny] = [x + dx, y + dy];
        if ((dx === 0 && dy === 0) || nx < 0 || ny < 0 || nx >= cols || ny >= rows) continue;
        like = main[ny * cols + nx] === main[i];
      }
    }
    if (!like) alone++;
  }
  return [sum / (cols * rows), alone / (cols * rows)];
}

function blurred(data: Float64Array, cols: number, rows: number): Float64Array {
  const taps = Array.from({ length: 7 }, (_, k) => Math.exp(-((k - 3) ** 2) / (2 * SIGMA_CELLS ** 2)));
  const pass = (from: Float64Array, dx: number, dy: number): Float64Array => {
    const to = new Float64Array(from.length);
    for (let i = 0; i < cols * rows; i++) {
      const [x, y] = [i % cols, Math.floor(i / cols)];
      let weight = 0;
      for (let k = -3; k <= 3; k++) {
        const [nx, ny] = [x + dx * k, y + dy * k];
        if (nx < 0 || ny < 0 || nx >= cols || ny >= rows) continue;
        weight += taps[k + 3];
        for (let c = 0; c < 3; c++) to[i * 3 + c] += from[(ny * cols + nx) * 3 + c] * taps[k + 3];
      }
      for (let c = 0; c < 3; c++) to[i * 3 + c] /= weight;
    }
    return to;
  };
  return pass(pass(data, 1, 0), 0, 1);
}

/** Counted cross: how true it is, how many stitches a cell takes, and how long a large grid. */
export async function crossBench(root: string): Promise<void> {
  heading(
    'Counted cross',
    '30 scripted flat pictures and 20 line drawings at 60 x 60 cells; photographs at 100 x 100 and 200 x 200, 20 colours',
  );
  let [stitches, trims, changes, threads, longest, cells] = [0, 0, 0, 0, 0, 0];
  let [whole, shared, parts, strays] = [0, 0, 0, 0];
  for (let k = 0; k < 30; k++) {
    const { scene, palette } = flatScene(600, 3 + (k % 6), 900 + k);
    const { raster, truth } = drawSmooth(scene, palette, 600, 600);
    const hexes = palette.map(({ r, g, b }) => `#${[r, g, b].map((v) => v.toString(16).padStart(2, '0')).join('')}`);
    for (const which of ['no', 'yes']) {
      const design = await convertOne({
        raster,
        pictureKey: `flat ${k}`,
        recipe: recipeFor(raster, 60, 2.5, 'auto', { parts: which }),
        charts: [],
      });
      const chart = design.pictures[0].chart as GridChart;
      const error = areaError(chart, design, truth, 600, hexes);
      if (which === 'no') {
        whole += error;
        continue;
      }
      shared += error;
      for (const code of chart.cells) if (unpackCell(code).some(({ part }) => part !== 'full')) parts++;
      strays += strayComponents(chart);
      cells += chart.cells.length;
      const figures = figuresOf(design.stitches, design.threads.length);
      stitches += figures.stitches;
      trims += figures.trims;
      changes += figures.threadChanges;
      threads += figures.threads.filter((thread) => thread.stitches > 0).length - 1;
      longest = Math.max(longest, figures.longestStitchMm);
    }
  }
  const percent = (v: number): string => `${(v * 100).toFixed(2)} %`;
  line(
    'flat pictures: area error, full cells; with parts; share of cells with parts',
    `${percent(whole / 30)}; ${percent(shared / 30)}; ${percent(parts / cells)}`,
    '3.5 %; 2.0 %; 6 %',
  );
  line('flat pictures: groups of one or two cells, a picture', (strays / 30).toFixed(2), '1');
  line('flat pictures: stitches a cell', (stitches / cells).toFixed(2), '3.3');
  line('flat pictures: thread changes, threads less one each; cuts', `${changes}, ${threads}; ${trims}`, 'the same');
  line('longest float', `${longest.toFixed(1)} mm`, '7.5 mm');
  let [all, found, away] = [0, 0, 0];
  for (let k = 0; k < 20; k++) {
    const drawing = lineDrawing(600, 300 + k);
    const palette = [fromHex('#faf6ec'), fromHex('#1d3557')];
    const { raster } = drawSmooth(drawing.scene, palette, 600, 600);
    const design = await convertOne({
      raster,
      pictureKey: `lines ${k}`,
      recipe: recipeFor(raster, 60, 2.5, 'auto'),
      charts: [],
    });
    const [a, f, d] = linesFound(design.pictures[0].chart as GridChart, drawing, 600);
    all += a;
    found += f;
    away += d;
  }
  line(
    'thin lines of 20 drawings: back stitch within 0.35 cell; deviation',
    `${percent(found / all)}; ${(away / found).toFixed(3)} cell`,
    '93 %; 0.2 cell',
  );
  for (const name of ['still-life', 'harbour', 'carved-mask']) {
    const { raster } = await decodePicture(readFileSync(join(root, `demo/artwork/${name}.jpg`)));
    for (const side of name === 'still-life' ? [100, 200] : [100]) {
      const since = performance.now();
      const design = await convertOne({
        raster,
        pictureKey: `photo ${name} ${side}`,
        recipe: recipeFor(raster, side, 2, 20),
        charts: [],
      });
      const seconds = (performance.now() - since) / 1000;
      const figures = figuresOf(design.stitches, design.threads.length);
      const [difference, alone] = photoLikeness(design.pictures[0].chart as GridChart, design, raster);
      line(
        `${name}, ${side} x ${side} cells: CIEDE2000 over a cell; cells alone; stitches a cell; cuts; whole conversion`,
        `${difference.toFixed(2)}; ${percent(alone)}; ${(figures.stitches / side ** 2).toFixed(2)}; ${figures.trims}; ${seconds.toFixed(1)} s`,
        '1.9; 1.5 %; 3.9; -; 3 s at 200 x 200',
      );
    }
  }
}
