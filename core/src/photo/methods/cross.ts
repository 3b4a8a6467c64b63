import { linearToLab } from '../../colour/ciede2000.js';
import { fromHex, LINEAR } from '../../colour/srgb.js';
import { cellGrid, flatCrosses, photoCrosses, type CellGrid, type Cross } from '../../cross/cells.js';
import { routeCrosses } from '../../cross/route.js';
import { OPTION } from '../../stitches/stitch-kind.js';
import { type Plate } from '../plate.js';
import { renderMethod, said, type Layer } from './render-method.js';

const LARGEST_CELL = 6;
/** Thread may lie open this far between crosses. */
const FLOAT_MM = 7.5;

/** A grid of crosses. */
export const CROSS = renderMethod({
  id: 'cross',
  name: 'Counted cross',
  step: 'Grid',
  hint: 'A grid of crosses, each of one thread, with part crosses where an edge cuts a cell.',
  threads: { from: 'colours', usual: 12 },
  options: {
    cellMm: OPTION.mm('Size of a cell', 1.5, LARGEST_CELL, 2.5),
    parts: {
      type: 'choice',
      label: 'Part crosses',
      choices: [
        { id: 'yes', name: 'Where an edge cuts' },
        { id: 'no', name: 'None' },
      ],
      usual: 'yes',
    },
    strays: { type: 'number', label: 'Clean strays of up to', least: 0, most: 6, step: 1, unit: '', usual: 2 },
    passes: {
      type: 'choice',
      label: 'Each leg is sewn',
      choices: [
        { id: '1', name: 'Once' },
        { id: '3', name: 'Three times' },
      ],
      usual: '1',
    },
  },
  ease: (values, share) => {
    const cellMm = values.cellMm + (LARGEST_CELL - values.cellMm) * share;
    const passes = share > 0 ? '1' : values.passes;
    const once = passes === values.passes ? '' : ', legs sewn once';
    return {
      values: { cellMm, passes },
      gaveUp: `cells of ${said(cellMm)} mm instead of ${said(values.cellMm)}${once}`,
    };
  },
  *render(input, values) {
    const { plate, map, threads, isBare, threadOfLabel, pixelMm, flat } = input;
    const box = {
      left: plate.left,
      top: plate.top,
      width: plate.width / plate.scale,
      height: plate.height / plate.scale,
    };
    const grid = cellGrid(box, values.cellMm);
    yield 0.05;
    const thread = Int16Array.from(map.labels, (label) => (isBare(label) ? -1 : threadOfLabel[label]));
    const crosses = flat
      ? flatCrosses(
          grid,
          { width: map.width, height: map.height, thread, left: box.left, top: box.top, pixelMm },
          values.parts === 'yes',
          values.strays,
        )
      : photoCrosses(
          grid,
          cellMeans(grid, plate),
          threads.map(({ hex }) => {
            const { r, g, b } = fromHex(hex);
            return linearToLab(LINEAR[r], LINEAR[g], LINEAR[b]);
          }),
          values.strays > 0,
        );
    yield 0.4;
    const settings = { passes: Number(values.passes), floatMm: FLOAT_MM };
    const byThread = new Map<number, Cross[]>();
    for (const cross of crosses) {
      const list = byThread.get(cross.thread);
      if (list) list.push(cross);
      else byThread.set(cross.thread, [cross]);
    }
    const layers: Layer[] = [];
    let done = 0;
    for (const [index, list] of byThread) {
      layers.push({ thread: index, runs: routeCrosses(grid, list, settings), openMm: 0 });
      yield 0.4 + (0.6 * ++done) / byThread.size;
    }
    // The most scattered threads first: later ones hide what lies open between their parts.
    return layers.sort((a, b) => b.runs.length - a.runs.length || a.thread - b.thread);
  },
});

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
