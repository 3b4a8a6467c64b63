import { ciede2000, linearToLab, type Lab } from '../../colour/ciede2000.js';
import { linearOf } from '../../colour/srgb.js';
import { sewBackStitches } from '../../cross/back-stitch.js';
import { flatCrosses, photoCrosses, type ThreadPixels } from '../../cross/cells.js';
import { cellGrid, packCells, unpackCell, unpackCells, type CellGrid, type Cross } from '../../cross/grid.js';
import type { GridChart } from '../../cross/grid-chart.js';
import { applyEdits, carryEdits, isSameGrid, type StitchedGrid } from '../../cross/grid-edits.js';
import { smallLetters } from '../../cross/legible.js';
import { COVERED_LATER, STANDS_OUT } from '../../cross/links.js';
import type { RouteSettings } from '../../cross/route-settings.js';
import { walkCrosses, type Walk } from '../../cross/walk-crosses.js';
import { joinParts } from '../../cross/join-parts.js';
import { strongEdges } from '../../cross/strong-edges.js';
import { thinLines } from '../../cross/thin-lines.js';
import type { Points } from '../../geometry/vector.js';
import { OPTION } from '../../stitches/stitch-kind.js';
import { type Plate } from '../plate.js';
import { renderMethod, said, type Layer, type RenderInput, type RenderProblem } from './render-method.js';

const SMALLEST_CELL = 1;
const LARGEST_CELL = 6;
/** Cells along a side, at most. */
const MOST_CELLS = 400;
/** Letters that would need smaller cells than this need a larger picture. */
const USUAL_CELL = 1.5;

/** A grid of crosses. */
export const CROSS = renderMethod({
  id: 'cross',
  name: 'Counted cross',
  step: 'Grid',
  hint: 'A grid of crosses, each of one thread, with part crosses and back stitches where an edge or a line asks for them.',
  threads: { from: 'colours', usual: 12 },
  edited: true,
  options: {
    sizeBy: {
      type: 'choice',
      label: 'Grid',
      choices: [
        { id: 'cell', name: 'By the size of a cell' },
        { id: 'across', name: 'By cells across' },
      ],
      usual: 'cell',
    },
    cellMm: { ...OPTION.mm('Size of a cell', SMALLEST_CELL, LARGEST_CELL, 2.5), when: ['sizeBy', 'cell'] },
    across: {
      type: 'number',
      label: 'Cells across',
      least: 10,
      most: MOST_CELLS,
      step: 1,
      unit: '',
      usual: 60,
      when: ['sizeBy', 'across'],
      note: 'Counted over what is used of the picture: with a crop, from side to side of the crop.',
    },
    parts: {
      type: 'choice',
      label: 'Part crosses',
      choices: [
        { id: 'yes', name: 'Where an edge cuts' },
        { id: 'no', name: 'None' },
      ],
      usual: 'yes',
    },
    backs: {
      type: 'choice',
      label: 'Back stitch',
      choices: [
        { id: 'lines', name: 'Thin lines' },
        { id: 'edges', name: 'Thin lines and strong edges' },
        { id: 'none', name: 'None' },
      ],
      usual: 'lines',
    },
    edgeFrom: {
      type: 'number',
      label: 'Edges that differ by',
      least: 10,
      most: 90,
      step: 1,
      unit: '',
      usual: 40,
      when: ['backs', 'edges'],
    },
    strays: {
      type: 'number',
      label: 'Clean strays of up to',
      least: 0,
      most: 6,
      step: 1,
      unit: '',
      usual: 2,
      note: 'So few cells by themselves take the colour around them.',
    },
    blend: {
      type: 'number',
      label: 'Blend shades of photographs',
      least: 0,
      most: 1,
      step: 0.1,
      unit: '',
      usual: 0.8,
      note: 'How far neighbouring cells make up for each other, as the eye sees them from afar: softer faces, more single cells.',
    },
    passes: {
      type: 'choice',
      label: 'Each leg is sewn',
      choices: [
        { id: '1', name: 'Once' },
        { id: '2', name: 'Twice' },
        { id: '3', name: 'Three times' },
      ],
      usual: '1',
    },
    floatMm: OPTION.mm('Thread may float', 0, 7.5, 7.5),
  },
  ease: (values, share) => {
    const cellMm = values.cellMm + (LARGEST_CELL - values.cellMm) * share;
    const passes = share > 0 ? '1' : values.passes;
    const once = passes === values.passes ? '' : ', legs sewn once';
    return {
      values: { sizeBy: 'cell', cellMm, passes },
      gaveUp: `cells of ${said(cellMm)} mm instead of ${said(values.cellMm)}${once}`,
    };
  },
  *render(input, values) {
    const { plate, flat } = input;
    const box = {
      left: plate.left,
      top: plate.top,
      width: plate.width / plate.scale,
      height: plate.height / plate.scale,
    };
    const grid = cellGrid(box, cellSize(values, box));
    yield 0.05;
    const labs = input.threads.map(({ hex }) => labOf(hex));
    const pixels = threadPixels(input, box);
    const base = flat
      ? flatGrid(grid, pixels, values)
      : photoGrid(
          grid,
          plate,
          input.threads.map(({ hex }) => linearOf(hex)),
          values.strays > 0,
          values.blend,
        );
    if (values.backs === 'edges') {
      const cloth = labOf(input.clothHex);
      const lab = (thread: number): Lab => (thread < 0 ? cloth : labs[thread]);
      const edges = strongEdges(
        grid,
        base.cells,
        values.edgeFrom,
        (a, b) => ciede2000(lab(a), lab(b)),
        labs.map(({ l }) => l),
      );
      for (const [step, thread] of edges) if (!base.backs.has(step)) base.backs.set(step, thread);
    }
    yield 0.3;
    const { edits, threadOfEdits } = input.handmade;
    const carried = edits !== undefined && edits.edits.length > 0 && !isSameGrid(edits, grid);
    const sewn = edits ? applyEdits(base, carryEdits(edits, grid).edits, threadOfEdits) : base;
    const layers = yield* sewGrid(
      grid,
      sewn,
      { passes: Number(values.passes), floatMm: values.floatMm },
      [...labs, labOf(input.clothHex)],
      input.memo,
    );
    const chart: GridChart = { grid, ...sewn, base, threadOfEdits, carried };
    return { layers, chart, problems: flat ? tooSmallToRead(pixels, grid.cellMm) : [] };
  },
});

/** Size of a cell: as asked for, and never so small that there are too many. */
function cellSize(
  { sizeBy, cellMm, across }: { readonly sizeBy: string; readonly cellMm: number; readonly across: number },
  { width, height }: { readonly width: number; readonly height: number },
): number {
  const asked = sizeBy === 'across' ? Math.max(SMALLEST_CELL, width / across) : cellMm;
  return Math.max(asked, Math.max(width, height) / MOST_CELLS);
}

const labOf = (hex: string): Lab => linearToLab(...linearOf(hex));

function threadPixels(
  { map, isBare, threadOfLabel, pixelMm }: RenderInput,
  box: { left: number; top: number },
): ThreadPixels {
  const shown = Int16Array.from(threadOfLabel, (thread, label) => (isBare(label) ? -1 : thread));
  const thread = new Int16Array(map.labels.length);
  for (let i = 0; i < thread.length; i++) thread[i] = shown[map.labels[i]];
  return { width: map.width, height: map.height, thread, left: box.left, top: box.top, pixelMm };
}

interface Found extends StitchedGrid {
  readonly backs: Map<number, number>;
}

function flatGrid(
  grid: CellGrid,
  pixels: ThreadPixels,
  { parts, strays, backs }: { readonly parts: string; readonly strays: number; readonly backs: string },
): Found {
  const lines = backs === 'none' ? { backs: new Map<number, number>(), without: pixels } : thinLines(grid, pixels);
  const crosses = flatCrosses(grid, lines.without, parts === 'yes', strays);
  return { cells: packCells(grid, crosses), backs: lines.backs };
}

function photoGrid(
  grid: CellGrid,
  plate: Plate,
  threads: readonly (readonly [number, number, number])[],
  calm: boolean,
  blend: number,
): Found {
  return { cells: packCells(grid, photoCrosses(grid, cellMeans(grid, plate), threads, calm, blend)), backs: new Map() };
}

/** What is said of letters that cannot be read, largest first. */
function tooSmallToRead(pixels: ThreadPixels, cellMm: number): RenderProblem[] {
  return smallLetters(pixels, cellMm)
    .sort((a, b) => b.letters - a.letters)
    .slice(0, 4)
    .map(({ x, y, heightMm, letters, cellMm: fits }) => ({
      text:
        `Lettering ${said(heightMm, 1)} mm tall (${letters} letters) is too small for cells of ${said(cellMm)} mm. ` +
        (fits >= USUAL_CELL
          ? `Cells of ${said(fits, 1)} mm would do.`
          : `Make the picture ${said(Math.ceil((USUAL_CELL / Math.max(0.05, heightMm / 7)) * 10) / 10, 1)} times as large, with cells of ${USUAL_CELL} mm.`),
      x,
      y,
    }));
}

/**
 * Sews a grid: the most scattered threads first and the one of most cells after them, so that later ones hide the ways
 * between parts; threads that back stitch last, so that their lines lie on top.
 * @param colours those of the threads, and of the cloth at the end
 */
function* sewGrid(
  grid: CellGrid,
  { cells, backs }: StitchedGrid,
  settings: RouteSettings,
  colours: readonly Lab[],
  memo: Map<string, unknown>,
): Generator<number, Layer[]> {
  const { passes } = settings;
  const byThread = new Map<number, Cross[]>();
  const all = unpackCells(cells);
  for (const cross of all) {
    const list = byThread.get(cross.thread);
    if (list) list.push(cross);
    else byThread.set(cross.thread, [cross]);
  }
  const steps = new Map<number, number[]>();
  for (const [step, thread] of backs) {
    const list = steps.get(thread);
    if (list) list.push(step);
    else steps.set(thread, [step]);
  }
  const threads = [...new Set([...byThread.keys(), ...steps.keys()])];
  const walks = new Map<number, Walk[]>();
  for (const thread of threads) {
    const crosses = byThread.get(thread) ?? [];
    walks.set(
      thread,
      remembered(memo, `${thread} ${passes} ${keyOf(grid, crosses)}`, () => walkCrosses(grid, crosses, passes)),
    );
    yield 0.3 + (0.5 * walks.size) / threads.length;
  }
  const size = (thread: number): number => byThread.get(thread)?.length ?? 0;
  const ground = threads.reduce((most, thread) => (size(thread) > size(most) ? thread : most), threads[0]);
  // A few steps do not make a thread wait.
  const lines = (thread: number): number => {
    const count = steps.get(thread)?.length ?? 0;
    return count >= backs.size * LINES_SHARE ? count : 0;
  };
  const scattered = (thread: number): number => (thread === ground ? -1 : (walks.get(thread)?.length ?? 0));
  threads.sort((a, b) => lines(a) - lines(b) || scattered(b) - scattered(a) || a - b);
  const later = new Uint8Array(cells.length);
  for (const { cell, part } of all) if (part === 'full') later[cell] = COVERED_LATER;
  const cloth = colours.length - 1;
  const shown = Uint8Array.from(cells, (code) => unpackCell(code)[0]?.thread ?? cloth);
  const layers: Layer[] = [];
  for (const thread of threads) {
    for (const { cell } of byThread.get(thread) ?? []) later[cell] = 0;
    const far = colours.map((colour) => ciede2000(colours[thread], colour));
    const cover = later.map((flag, cell) => {
      const seen = far[shown[cell]] > (flag ? STANDS_OUT_BELOW : STANDS_OUT_FROM);
      return flag | (seen ? STANDS_OUT : 0);
    });
    const runs: Points[] = joinParts(grid, walks.get(thread) ?? [], settings, cover);
    runs.push(...sewBackStitches(grid, steps.get(thread) ?? []));
    layers.push({ thread, runs, openMm: 0 });
    yield 0.8 + (0.2 * layers.length) / threads.length;
  }
  return layers;
}

/** CIEDE2000 from which on a float stands out on what it lies on, and below crosses that are sewn over it. */
const STANDS_OUT_FROM = 12;
const STANDS_OUT_BELOW = 24;

/** Share of all back stitches from which on a thread is sewn late for the sake of its lines. */
const LINES_SHARE = 0.1;

/** Ways that were found for the same crosses before. */
function remembered<T>(memo: Map<string, unknown>, key: string, make: () => T): T {
  const known = memo.get(key) as T | undefined;
  if (known !== undefined) return known;
  if (memo.size >= MOST_REMEMBERED) memo.clear();
  const made = make();
  memo.set(key, made);
  return made;
}
const MOST_REMEMBERED = 200;

/** FNV-1a over the cells and parts of one thread. */
function keyOf(grid: CellGrid, crosses: readonly Cross[]): string {
  let a = 0x811c9dc5;
  let b = 0x1b873593;
  for (const { cell, part, corner } of crosses) {
    a = Math.imul(a ^ cell, 0x01000193);
    b = Math.imul(b ^ (cell * 32 + part.length * 4 + corner), 0x85ebca6b);
  }
  return [grid.cols, grid.rows, grid.left, grid.top, grid.cellMm, crosses.length, a >>> 0, b >>> 0].join();
}

/** Mean linear colour of every cell, and the share of it that is to be sewn. */
function cellMeans({ cols, rows, cellMm, left, top }: CellGrid, plate: Plate): Float32Array {
  const out = new Float32Array(cols * rows * 4);
  const { scale, width, height, data } = plate;
  for (let i = 0; i < cols * rows; i++) {
    const x0 = Math.max(0, Math.round((left + (i % cols) * cellMm - plate.left) * scale));
    const y0 = Math.max(0, Math.round((top + Math.floor(i / cols) * cellMm - plate.top) * scale));
    const x1 = Math.min(width, Math.max(x0 + 1, Math.round(x0 + cellMm * scale)));
    const y1 = Math.min(height, Math.max(y0 + 1, Math.round(y0 + cellMm * scale)));
    let [r, g, b, a, n] = [0, 0, 0, 0, 0];
    for (let y = y0; y < y1; y++) {
      for (let x = x0; x < x1; x++) {
        const at = (y * width + x) * 4;
        const share = data[at + 3];
        r += data[at] * share;
        g += data[at + 1] * share;
        b += data[at + 2] * share;
        a += share;
        n++;
      }
    }
    if (a > 0) out.set([r / a, g / a, b / a, a / n], i * 4);
  }
  return out;
}
