import { seededRandom } from '../geometry/chance.js';
import { stepsOfLine, latticeStride } from './back-stitch.js';
import { layPart } from './grid-brush.js';
import { cellGrid, isPackedCell, packCell, packCells, packPart, unpackCell, unpackCells, withThreads } from './grid.js';
import { applyEdits, carryEdits, editBetween, isNoEdit, mergeEdits, type GridEdits } from './grid-edits.js';
import { borderPlaces, floodCells, layBorder, takeBlock, turnPatch } from './grid-moves.js';

const grid = cellGrid({ left: 0, top: 0, width: 50, height: 40 }, 2.5);
const { cols, rows } = grid;
const bare = { cells: new Uint32Array(cols * rows), backs: new Map<number, number>() };
const full = (thread: number): number => packPart({ thread, part: 'full', corner: 0 });
const same = (thread: number): number => thread;
const edits = (list: GridEdits['edits']): GridEdits => ({
  cols,
  rows,
  cellMm: 2.5,
  threads: [{ hex: '#203040' }, { hex: '#d8602a' }],
  edits: list,
});

describe('packed cells', () => {
  it('hold two parts and give them back', () => {
    const parts = [
      { thread: 3, part: 'three-quarter' as const, corner: 2 },
      { thread: 249, part: 'quarter' as const, corner: 0 },
    ];
    const code = packCell(parts);
    expect(unpackCell(code)).toEqual(parts);
    expect(unpackCell(0)).toEqual([]);
    expect(isPackedCell(code, 250)).toBeTrue();
    expect(isPackedCell(code, 249)).toBeFalse();
    expect(isPackedCell(31, 5)).toBeFalse();
    expect(unpackCell(withThreads(code, (t) => t - 2)).map(({ thread }) => thread)).toEqual([1, 247]);
    expect(
      unpackCells(
        packCells(grid, [
          { cell: 7, ...parts[0] },
          { cell: 7, ...parts[1] },
        ]),
      ),
    ).toEqual([
      { cell: 7, ...parts[0] },
      { cell: 7, ...parts[1] },
    ]);
  });

  it('keep the rest of what a part is laid into', () => {
    const quarter = { thread: 1, part: 'quarter' as const, corner: 1 };
    expect(unpackCell(layPart(full(0), quarter))).toEqual([quarter, { thread: 0, part: 'three-quarter', corner: 3 }]);
    expect(unpackCell(layPart(0, quarter))).toEqual([quarter]);
    const side = { thread: 1, part: 'side' as const, corner: 0 };
    expect(unpackCell(layPart(full(0), side))[1]).toEqual({ thread: 0, part: 'side', corner: 2 });
    expect(unpackCell(layPart(full(0), { thread: 1, part: 'full', corner: 0 })).length).toBe(1);
  });
});

describe('changes of a grid by hand', () => {
  it('lead from any grid to any other, and several of them to the same as one', () => {
    const random = seededRandom(5);
    const list = [];
    let now = bare;
    for (let round = 0; round < 6; round++) {
      const cells = now.cells.slice();
      const backs = new Map(now.backs);
      const touched = new Set<number>();
      for (let k = 0; k < 40; k++) {
        const at = Math.floor(random() * cells.length);
        cells[at] = random() < 0.3 ? 0 : full(Math.floor(random() * 2));
        touched.add(at);
      }
      const x = Math.floor(random() * cols);
      for (const step of stepsOfLine(latticeStride(grid), x, 3, x, 9)) {
        if (random() < 0.3) backs.delete(step);
        else backs.set(step, 1);
      }
      const edit = editBetween(now, { cells, backs }, same);
      expect(editBetween(now, { cells, backs }, same, touched)).toEqual(edit);
      list.push(edit);
      const reached = applyEdits(now, [edit], [0, 1]);
      expect(reached.cells).toEqual(cells);
      expect([...reached.backs].sort()).toEqual([...backs].sort());
      now = { cells, backs };
    }
    const merged = mergeEdits({ cols, rows, edits: list });
    expect(applyEdits(bare, [merged], [0, 1]).cells).toEqual(now.cells);
    expect(isNoEdit(editBetween(now, now, same))).toBeTrue();
  });

  it('take the threads the design has for the names they carry', () => {
    const edit = { cells: [{ put: full(1), runs: [4, 3] }], backs: [] };
    const { cells } = applyEdits(bare, [edit], [5, 9]);
    expect(unpackCell(cells[5])[0].thread).toBe(9);
    expect(cells[7]).toBe(0);
  });

  it('are carried to a grid of another size by place', () => {
    const edit = {
      cells: [{ put: full(0), runs: [0, cols] }],
      backs: [{ thread: 1, steps: stepsOfLine(latticeStride(grid), 0, 2, cols * 2, 2) }],
    };
    const finer = cellGrid({ left: 0, top: 0, width: 50, height: 40 }, 1.25);
    const carried = carryEdits(edits([edit]), finer);
    expect([carried.cols, carried.rows]).toEqual([finer.cols, finer.rows]);
    const { cells, backs } = applyEdits(
      { cells: new Uint32Array(finer.cols * finer.rows), backs: new Map() },
      carried.edits,
      [0, 1],
    );
    // The first row of cells is two rows of half the size.
    expect(cells.subarray(0, finer.cols * 2).every((code) => code !== 0)).toBeTrue();
    expect(cells.subarray(finer.cols * 2).every((code) => code === 0)).toBeTrue();
    expect(backs.size).toBe(finer.cols * 2);
    expect(carryEdits(carried, finer)).toBe(carried);
  });
});

describe('blocks of cells', () => {
  const cells = bare.cells.slice();
  cells[2 * cols + 3] = packCell([{ thread: 0, part: 'quarter', corner: 0 }]);
  cells[2 * cols + 4] = packCell([{ thread: 1, part: 'side', corner: 1 }]);
  cells[3 * cols + 3] = packCell([{ thread: 1, part: 'half', corner: 1 }]);
  const backs = new Map(stepsOfLine(latticeStride(grid), 6, 4, 8, 6).map((step) => [step, 1]));
  const patch = takeBlock(grid, { cells, backs }, { x: 3, y: 2, cols: 2, rows: 3 });

  it('mirrored or flipped twice, or turned four times, are as they were', () => {
    for (const [how, times] of [
      ['mirror', 2],
      ['flip', 2],
      ['turn', 4],
    ] as const) {
      let now = patch;
      for (let k = 0; k < times; k++) {
        now = turnPatch(now, how);
        if (k === 0) expect(now.cells).not.toEqual(patch.cells);
        expect(now.backs.size).toBe(patch.backs.size);
      }
      expect(now.cells).withContext(how).toEqual(patch.cells);
      expect([...now.backs].sort())
        .withContext(how)
        .toEqual([...patch.backs].sort());
    }
  });

  it('are repeated around the edge without leaving the grid or lying over each other', () => {
    const places = borderPlaces(grid, patch);
    const taken = new Set<number>();
    for (const { x, y, turns } of places) {
      const [w, h] = turns % 2 === 0 ? [patch.cols, patch.rows] : [patch.rows, patch.cols];
      for (let dy = 0; dy < h; dy++) {
        for (let dx = 0; dx < w; dx++) {
          const cell = (y + dy) * cols + x + dx;
          expect(x + dx >= 0 && x + dx < cols && y + dy >= 0 && y + dy < rows).toBeTrue();
          expect(taken.has(cell)).withContext(`${x} ${y} ${turns}`).toBeFalse();
          taken.add(cell);
        }
      }
    }
    const on = { cells: bare.cells.slice(), backs: new Map<number, number>() };
    expect(layBorder(grid, on, patch)).toBe(places.length);
    expect(places.length).toBeGreaterThan(20);
    expect(on.cells.filter((code) => code !== 0).length).toBe(3 * places.length);
  });

  it('flood to like cells by their edges only', () => {
    const maze = bare.cells.slice();
    for (let y = 0; y < rows; y++) maze[y * cols + 5] = full(1);
    expect(floodCells(grid, maze, 0).length).toBe(5 * rows);
    expect(floodCells(grid, maze, 5).length).toBe(rows);
  });
});
