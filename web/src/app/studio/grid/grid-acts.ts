import { computed, inject, Injectable, signal } from '@angular/core';
import {
  applyEdits,
  carryEdits,
  clearBlock,
  editBetween,
  endsOfStep,
  findThread,
  floodCells,
  fromHex,
  isNoEdit,
  isSameGrid,
  latticeStride,
  layBorder,
  layPatch,
  mergeEdits,
  nearestThread,
  packCell,
  replaceThread,
  takeBlock,
  turnPatch,
  unpackCell,
  type CellBlock,
  type CellPatch,
  type GridEdits,
  type NamedThread,
  type Part,
  type StitchedGrid,
  type Turning,
} from '@open-kite/core';
import { Conversion } from '../../convert/conversion';
import { Cupboard } from '../../cupboard/cupboard';
import type { Draft } from '../../project/history';
import { ProjectStore } from '../../project/project-store';
import { OpenPicture } from '../open-picture';

/** What the pointer does on the grid. */
export type GridTool = 'stitch' | 'bare' | 'take' | 'fill' | 'replace' | 'back' | 'unpick' | 'choose';

/** Keys that take up a tool while the grid is open. */
export const GRID_KEYS: Readonly<Record<string, GridTool>> = {
  x: 'stitch',
  e: 'bare',
  q: 'take',
  a: 'fill',
  r: 'replace',
  n: 'back',
  u: 'unpick',
  m: 'choose',
};

/** How the grid is shown. */
export type GridView = 'crosses' | 'colours' | 'symbols';

/** A thread the grid can be stitched with. */
export interface GridThread {
  readonly code: string;
  readonly name: string;
  readonly hex: string;
}

/** More changes than this are put together into one. */
const MOST_CHANGES = 300;

/** Changes of the grid by hand: tools, what is chosen, and what they add to the recipe. */
@Injectable()
export class GridActs {
  private readonly conversion = inject(Conversion);
  private readonly store = inject(ProjectStore);
  private readonly picture = inject(OpenPicture);
  private readonly cupboard = inject(Cupboard);

  /** The grid is being changed by hand. */
  readonly open = signal(false);
  readonly tool = signal<GridTool>('stitch');
  readonly part = signal<Part>('full');
  readonly view = signal<GridView>('crosses');
  private readonly inHand = signal<GridThread | undefined>(undefined);
  /** Thread that is stitched with, by its index. */
  readonly thread = computed(() => {
    const hand = this.inHand();
    const at = hand ? this.threads().findIndex(({ code, hex }) => code === hand.code && hex === hand.hex) : 0;
    return Math.max(0, at);
  });
  readonly chosen = signal<CellBlock | undefined>(undefined);
  /** The next move of what is chosen leaves a copy behind. */
  readonly copying = signal(false);
  /** Threads somebody took up that no change names yet. */
  private readonly taken = signal<readonly NamedThread[]>([]);

  readonly chart = computed(() => this.picture.result()?.chart);
  readonly grid = computed(() => this.chart()?.grid);
  private readonly edits = computed(() => this.store.view()?.rendering.grid ?? undefined);
  /** Changes were made on cells of another size: first somebody has to say what becomes of them. */
  readonly misfit = computed(() => {
    const edits = this.edits();
    const grid = this.grid();
    return edits !== undefined && edits.edits.length > 0 && grid !== undefined && !isSameGrid(edits, grid);
  });
  readonly changes = computed(() => this.edits()?.edits.length ?? 0);

  private readonly names = computed((): readonly NamedThread[] => [...(this.edits()?.threads ?? []), ...this.taken()]);

  /** Threads of the design, then those that were taken up since it was made. */
  private readonly resolved = computed(() => {
    const all = this.conversion.design()?.threads ?? [];
    const threads = (this.picture.result()?.threads ?? []).map((i): GridThread => {
      const { code, name, hex } = all[i];
      return { code, name, hex };
    });
    const known = this.chart()?.threadOfEdits ?? [];
    const count = this.edits()?.threads.length ?? 0;
    const threadOf = this.names().map((named, i) => {
      if (i < known.length && i < count) return known[i];
      if ('hex' in named) return nearestThread(threads, fromHex(named.hex));
      const same = threads.findIndex(({ code }) => code === named.code);
      if (same >= 0) return same;
      const found = findThread(this.cupboard.all(), named);
      return threads.push({ code: named.code, name: found?.name ?? '', hex: found?.hex ?? '#808080' }) - 1;
    });
    return { threads, threadOf };
  });
  readonly threads = computed(() => this.resolved().threads);

  /** The grid as it stands, with all changes, before it is sewn anew. */
  readonly model = computed((): StitchedGrid | undefined => {
    const chart = this.chart();
    const edits = this.edits();
    if (!chart) return undefined;
    if (!edits) return chart.base;
    return applyEdits(chart.base, carryEdits(edits, chart.grid).edits, this.resolved().threadOf);
  });

  start(): void {
    this.open.set(true);
    this.conversion.unseen = true;
    this.chosen.set(undefined);
  }

  leave(): void {
    this.open.set(false);
    this.conversion.unseen = false;
    this.chosen.set(undefined);
    this.copying.set(false);
    this.lift = undefined;
  }

  take(tool: GridTool): void {
    this.tool.set(tool);
    if (tool !== 'choose') this.chosen.set(undefined);
    this.lift = undefined;
  }

  /** Takes up a thread of a chart, or a colour. */
  takeThread(named: NamedThread): void {
    this.taken.update((before) => [...before, named]);
    this.useThread(this.resolved().threadOf[this.names().length - 1]);
  }

  /** Takes a thread of the grid in hand. */
  useThread(index: number): void {
    this.inHand.set(this.threads()[index]);
  }

  /**
   * Makes a grid the one there is; what differs becomes one change.
   * @param within cells that may differ, where that is known: on a large grid it saves looking at all others
   */
  commit(label: string, after: StitchedGrid, within?: ReadonlySet<number>): void {
    const before = this.model();
    const grid = this.grid();
    if (!before || !grid || this.misfit()) return;
    const names = this.names().slice();
    const { threadOf, threads } = this.resolved();
    const nameOf = (thread: number): number => {
      const at = threadOf.indexOf(thread);
      if (at >= 0) return at;
      threadOf.push(thread);
      return names.push({ hex: threads[thread].hex }) - 1;
    };
    const edit = editBetween(before, after, nameOf, within);
    if (isNoEdit(edit)) return;
    this.taken.set([]);
    this.store.change(
      label,
      ({ rendering }) => {
        const { cols, rows, cellMm } = grid;
        const now = rendering.grid as Draft<GridEdits> | null;
        if (now && now.edits.length < MOST_CHANGES) {
          now.threads = names;
          now.edits.push(edit as Draft<typeof edit>);
          return;
        }
        const edits = now ? [mergeEdits({ cols, rows, edits: [...(now.edits as GridEdits['edits']), edit] })] : [edit];
        rendering.grid = { cols, rows, cellMm, threads: names, edits };
      },
      true,
    );
  }

  /** Fills what hangs together with a cell. */
  fill(cell: number): void {
    const [model, grid] = [this.model(), this.grid()];
    if (!model || !grid) return;
    const cells = model.cells.slice();
    const code = packCell([{ thread: this.thread(), part: 'full', corner: 0 }]);
    for (const at of floodCells(grid, cells, cell)) cells[at] = code;
    this.commit('area filled', { cells, backs: model.backs });
  }

  /** Everything of the thread of a cell gets the chosen thread; only within what is chosen, where something is. */
  replaceAt(cell: number): void {
    const model = this.model();
    const thread = model && unpackCell(model.cells[cell])[0]?.thread;
    if (thread !== undefined) this.replace(thread);
  }

  replace(from: number): void {
    const [model, grid, block] = [this.model(), this.grid(), this.chosen()];
    if (!model || !grid) return;
    const inBlock = (x: number, y: number): boolean =>
      !block || (x >= block.x && y >= block.y && x < block.x + block.cols && y < block.y + block.rows);
    const after = replaceThread(model, from, this.thread(), {
      cell: (cell) => inBlock(cell % grid.cols, Math.floor(cell / grid.cols)),
      step: (step) => {
        const [x0, y0] = endsOfStep(latticeStride(grid), step);
        return inBlock(Math.floor(x0 / 2), Math.floor(y0 / 2));
      },
    });
    this.commit('thread replaced', after);
  }

  /** Takes up the thread and the part of a cell. */
  takeUp(cell: number): void {
    const [first] = unpackCell(this.model()?.cells[cell] ?? 0);
    if (!first) return;
    this.useThread(first.thread);
    this.part.set(first.part);
    this.tool.set('stitch');
  }

  /** What is chosen, taken up from the grid, while it is moved about. */
  private lift: { patch: CellPatch; ground: StitchedGrid; result: StitchedGrid } | undefined;

  /** Moves what is chosen so that its upper left cell lies at a place. */
  moveTo(x: number, y: number): void {
    const [model, grid, block] = [this.model(), this.grid(), this.chosen()];
    if (!model || !grid || !block || (x === block.x && y === block.y)) return;
    if (!this.lift || !isSameStitching(this.lift.result, model) || this.copying()) {
      const patch = takeBlock(grid, model, block);
      const ground = loose(model);
      if (!this.copying()) clearBlock(grid, ground, block);
      this.lift = { patch, ground, result: model };
      this.copying.set(false);
    }
    const after = loose(this.lift.ground);
    layPatch(grid, after, this.lift.patch, x, y);
    this.lift.result = after;
    this.commit('cells moved', after);
    this.chosen.set({ ...block, x, y });
  }

  /** Turns or mirrors what is chosen, in its place. */
  turn(how: Turning): void {
    const [model, grid, block] = [this.model(), this.grid(), this.chosen()];
    if (!model || !grid || !block) return;
    const patch = turnPatch(takeBlock(grid, model, block), how);
    const after = loose(model);
    clearBlock(grid, after, block);
    layPatch(grid, after, patch, block.x, block.y);
    this.lift = undefined;
    this.commit(how === 'turn' ? 'cells turned' : 'cells mirrored', after);
    this.chosen.set({ ...block, cols: patch.cols, rows: patch.rows });
  }

  /** Repeats what is chosen around the edge of the grid; returns how often. */
  repeatAround(): number {
    const [model, grid, block] = [this.model(), this.grid(), this.chosen()];
    if (!model || !grid || !block) return 0;
    const after = loose(model);
    const patch = takeBlock(grid, model, block);
    clearBlock(grid, after, block);
    const count = layBorder(grid, after, patch);
    this.lift = undefined;
    if (count > 0) this.commit('border repeated', after);
    return count;
  }

  /** Repeats what is chosen to the right and down, over the whole grid. */
  repeatAcross(): void {
    const [model, grid, block] = [this.model(), this.grid(), this.chosen()];
    if (!model || !grid || !block) return;
    const after = loose(model);
    const patch = takeBlock(grid, model, block);
    for (let x = block.x % block.cols; x < grid.cols; x += block.cols) layPatch(grid, after, patch, x, block.y);
    this.lift = undefined;
    this.commit('row repeated', after);
  }

  clearChosen(): void {
    const [model, grid, block] = [this.model(), this.grid(), this.chosen()];
    if (!model || !grid || !block) return;
    const after = loose(model);
    clearBlock(grid, after, block);
    this.lift = undefined;
    this.commit('cells made bare', after);
  }

  /** Takes all changes back. */
  clearChanges(): void {
    this.store.change('changes by hand taken back', ({ rendering }) => (rendering.grid = null), true);
  }

  /** Changes made on other cells go over to the ones there are now. */
  carry(): void {
    const [edits, grid] = [this.edits(), this.grid()];
    if (!edits || !grid) return;
    const carried = carryEdits(edits, grid);
    this.store.change('changes carried over', ({ rendering }) => (rendering.grid = carried as Draft<GridEdits>), true);
  }
}

/** A grid whose cells and back stitches can be changed. */
export function loose({ cells, backs }: StitchedGrid): { cells: Uint32Array; backs: Map<number, number> } {
  return { cells: cells.slice(), backs: new Map(backs) };
}

function isSameStitching(a: StitchedGrid, b: StitchedGrid): boolean {
  return (
    a.backs.size === b.backs.size &&
    a.cells.length === b.cells.length &&
    a.cells.every((code, i) => code === b.cells[i])
  );
}
