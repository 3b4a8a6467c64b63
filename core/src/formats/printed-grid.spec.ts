import { convert } from '../convert.js';
import { flatRecipe, onePicture } from '../test/flat-recipe.js';
import { drawSmooth, flatScene } from '../test/draw.js';
import { parsePrintedGrid, printedGridOf, readPrintedGrid } from './printed-grid.js';

describe('a printed grid', () => {
  it('is handed over whole, and checked', async () => {
    const { scene, palette } = flatScene(200, 4, 12);
    const { raster } = drawSmooth(scene, palette, 200, 200);
    const base = flatRecipe(200, 200);
    const design = await convert(
      onePicture({ raster, pictureKey: 'g', recipe: { ...base, method: 'cross' }, charts: [] }),
    );
    const file = printedGridOf(design, 'Lantern');
    expect(parsePrintedGrid(JSON.parse(JSON.stringify(file)))).toEqual(file);
    const read = readPrintedGrid(file);
    expect(read.cells).toEqual(design.pictures[0].chart?.cells as Uint32Array);
    expect(read.backs).toEqual(new Map(design.pictures[0].chart?.backs));
    const bad: [unknown, RegExp][] = [
      [null, /object/],
      [{ ...file, cols: 0 }, /columns must be at least 1/],
      [{ ...file, clothHex: 'white' }, /cloth/],
      [{ ...file, threads: file.threads.map(() => ({ code: 1 })) }, /thread/],
      [{ ...file, cells: file.cells.slice(2) }, /must have 1600 cells/],
      [{ ...file, cells: [2 ** 31, 1600] }, /its cells/],
      [{ ...file, backs: [0, 99] }, /back stitch/],
    ];
    for (const [value, message] of bad) expect(() => parsePrintedGrid(value)).toThrowError(RangeError, message);
    const pieces = await convert(onePicture({ raster, pictureKey: 'g', recipe: base, charts: [] }));
    expect(() => printedGridOf(pieces, 'x')).toThrowError(RangeError, /counted crosses/);
  });
});
