import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { countThreads, latticeStride, stepsOfLine, unpackCell, type Design, type GridChart } from '@open-kite/core';
import { fakeConversion, fakeStore, smallDesign, studioProviders, pickIn } from '../../test/rig';
import { GridActs } from './grid-acts';
import { GridChoice } from './grid-choice';
import { GridPane } from './grid-pane';
import { GridPainter } from './grid-painter';
import { GridSheet } from './grid-sheet';

const SIZE = { width: 500, height: 400 };

describe('the grid by hand', () => {
  let design: Design;
  let store: ReturnType<typeof fakeStore>;
  let acts: GridActs;
  let conversion: ReturnType<typeof fakeConversion>;

  beforeAll(async () => {
    design = await smallDesign((recipe) => (recipe.method = 'cross'));
  });

  beforeEach(() => {
    store = fakeStore();
    store.change('method', (recipe) => (recipe.method = 'cross'));
    TestBed.configureTestingModule({ providers: studioProviders((conversion = fakeConversion(design)), store) });
    acts = TestBed.inject(GridActs);
    acts.start();
  });

  const cellOf = (x: number, y: number) => unpackCell(acts.model()?.cells[y * (acts.grid()?.cols ?? 0) + x] ?? 0);
  const changes = () => store.view().rendering.grid?.edits.length ?? 0;

  describe('pane', () => {
    let fixture: ComponentFixture<GridPane>;
    let canvas: HTMLCanvasElement;

    beforeEach(async () => {
      fixture = TestBed.createComponent(GridPane);
      const host = fixture.nativeElement as HTMLElement;
      Object.assign(host.style, { position: 'fixed', left: '0', top: '0', width: '500px', height: '400px' });
      document.body.append(host);
      fixture.componentRef.setInput('camera', { x: 0, y: 0, scale: 4 });
      fixture.componentRef.setInput('size', SIZE);
      await fixture.whenStable();
      canvas = host.querySelector('canvas') as HTMLCanvasElement;
      // Pointers of a test are none a canvas could hold on to.
      spyOn(canvas, 'setPointerCapture');
      spyOn(canvas, 'releasePointerCapture');
    });

    /** Place on the pane of a place in the grid, in cells. */
    const at = (u: number, v: number): { clientX: number; clientY: number } => {
      const grid = acts.grid();
      if (!grid) throw new Error('no grid');
      const box = canvas.getBoundingClientRect();
      return {
        clientX: box.left + (grid.left + u * grid.cellMm) * 4 + SIZE.width / 2,
        clientY: box.top + (grid.top + v * grid.cellMm) * 4 + SIZE.height / 2,
      };
    };
    const pull = (...places: [number, number][]): void => {
      const fire = (type: string, [u, v]: [number, number], more: PointerEventInit = {}): void => {
        canvas.dispatchEvent(new PointerEvent(type, { bubbles: true, pointerId: 1, button: 0, ...at(u, v), ...more }));
      };
      fire('pointerdown', places[0]);
      for (const place of places.slice(1)) fire('pointermove', place);
      fire('pointerup', places[places.length - 1]);
    };
    const key = (name: string, more: KeyboardEventInit = {}): void => {
      canvas.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, ...more }));
    };

    it('stitches the cells the pointer is pulled over, as one change', () => {
      acts.useThread(1);
      pull([4.5, 3.5], [9.5, 3.5]);
      for (let x = 4; x <= 9; x++) expect(cellOf(x, 3)).toEqual([{ thread: 1, part: 'full', corner: 0 }]);
      expect(changes()).toBe(1);
      acts.take('bare');
      pull([6.5, 3.5]);
      expect(cellOf(6, 3)).toEqual([]);
      expect(changes()).toBe(2);
    });

    it('lets no result arrive in the middle of a gesture, and goes on sewing after it', async () => {
      const fire = (type: string, u: number): void => {
        canvas.dispatchEvent(new PointerEvent(type, { bubbles: true, pointerId: 1, button: 0, ...at(u, 3.5) }));
      };
      fire('pointerdown', 4.5);
      expect(conversion.hold).toHaveBeenCalledTimes(1);
      fire('pointermove', 6.5);
      expect(conversion.resume).not.toHaveBeenCalled();
      fire('pointerup', 6.5);
      await new Promise((resolve) => setTimeout(resolve));
      expect(conversion.resume).toHaveBeenCalled();
    });

    it('lays parts at the corner that is pointed at, and keeps the rest of what was there', () => {
      acts.useThread(0);
      pull([5.5, 5.5]);
      acts.useThread(1);
      acts.part.set('quarter');
      pull([5.8, 5.2]);
      expect(cellOf(5, 5)).toEqual([
        { thread: 1, part: 'quarter', corner: 1 },
        { thread: 0, part: 'three-quarter', corner: 3 },
      ]);
      acts.part.set('side');
      pull([5.5, 5.9]);
      expect(cellOf(5, 5)[0]).toEqual({ thread: 1, part: 'side', corner: 2 });
    });

    it('draws back stitches along the grid, and unpicks them', () => {
      const before = acts.model()?.backs.size ?? 0;
      acts.take('back');
      pull([2, 12], [5.1, 12.2]);
      expect(acts.model()?.backs.size).toBe(before + 6);
      acts.take('unpick');
      pull([3, 12], [3.6, 12]);
      expect(acts.model()?.backs.size).toBeLessThan(before + 6);
    });

    it('chooses cells, moves them and leaves copies', () => {
      acts.useThread(1);
      pull([2.5, 2.5]);
      acts.take('choose');
      pull([2.5, 2.5], [3.5, 3.5]);
      expect(acts.chosen()).toEqual({ x: 2, y: 2, cols: 2, rows: 2 });
      pull([2.5, 2.5], [6.5, 4.5]);
      expect(acts.chosen()).toEqual({ x: 6, y: 4, cols: 2, rows: 2 });
      expect(cellOf(6, 4)[0]?.thread).toBe(1);
      expect(cellOf(2, 2)).toEqual([]);
      key('ArrowRight', { altKey: true });
      expect(acts.chosen()?.x).toBe(7);
      expect(cellOf(6, 4)[0]?.thread).toBe(1);
      key('Delete');
      expect(cellOf(7, 4)).toEqual([]);
    });

    it('is worked by the keyboard alone', () => {
      acts.take('bare');
      key('ArrowRight');
      key('ArrowDown');
      const grid = acts.grid();
      const [x, y] = [((grid?.cols ?? 0) >> 1) + 1, ((grid?.rows ?? 0) >> 1) + 1];
      acts.take('stitch');
      key('Enter');
      expect(cellOf(x, y)[0]?.thread).toBe(0);
      acts.take('back');
      key('Enter');
      expect(
        acts
          .model()
          ?.backs.has(stepsOfLine(latticeStride({ cols: grid?.cols ?? 0 }), x * 2, y * 2, x * 2 + 2, y * 2)[0]),
      ).toBeTrue();
    });

    it('hands on presses that are not its own', () => {
      const passed = jasmine.createSpy('passed');
      fixture.componentInstance.passed.subscribe(passed);
      canvas.dispatchEvent(new PointerEvent('pointerdown', { button: 1, pointerId: 1, ...at(3, 3) }));
      expect(passed).toHaveBeenCalledTimes(1);
      expect(changes()).toBe(0);
    });
  });

  it('fills areas, replaces threads and takes threads up', () => {
    const grid = acts.grid();
    const model = acts.model();
    if (!grid || !model) throw new Error('no grid');
    const cell = model.cells.findIndex((code) => code !== 0);
    const [{ thread: from }] = unpackCell(model.cells[cell]);
    const to = acts.threads().findIndex((_, i) => i !== from);
    const has = (code: number, wanted: number): boolean => unpackCell(code).some(({ thread }) => thread === wanted);
    expect(model.cells.filter((code) => has(code, from)).length).toBeGreaterThan(4);
    acts.useThread(to);
    acts.replaceAt(cell);
    expect(acts.model()?.cells.filter((code) => has(code, from)).length).toBe(0);
    acts.useThread(from);
    acts.takeUp(cell);
    expect(acts.thread()).toBe(to);
    acts.fill(0);
    expect(cellOf(0, 0)[0]?.thread).toBe(to);
  });

  it('takes up threads of charts, which the change then names', () => {
    acts.takeThread({ hex: '#123456' });
    acts.useThread(0);
    acts.commit('nothing', acts.model() ?? { cells: new Uint32Array(), backs: new Map() });
    expect(changes()).toBe(0);
  });

  it('turns and repeats what is chosen', () => {
    acts.take('choose');
    acts.chosen.set({ x: 1, y: 1, cols: 3, rows: 2 });
    acts.turn('turn');
    expect(acts.chosen()).toEqual({ x: 1, y: 1, cols: 2, rows: 3 });
    acts.useThread(1);
    acts.chosen.set({ x: 3, y: 3, cols: 2, rows: 1 });
    acts.fill(3 * (acts.grid()?.cols ?? 0) + 3);
    expect(acts.repeatAround()).toBeGreaterThan(4);
    acts.chosen.set({ x: 0, y: 0, cols: 400, rows: 400 });
    expect(acts.repeatAround()).toBe(0);
  });

  it('puts many changes together, and forgets them all', () => {
    for (let k = 0; k < 305; k++) {
      const model = acts.model();
      if (!model) throw new Error('no grid');
      const cells = model.cells.slice();
      cells[k % 40] = cells[k % 40] === 0 ? 32 : 0;
      acts.commit('cells', { cells, backs: model.backs });
    }
    expect(changes()).toBeLessThanOrEqual(300);
    acts.clearChanges();
    expect(store.view().rendering.grid).toBeNull();
  });

  it('asks what becomes of changes made on other cells', async () => {
    store.change('older grid', ({ rendering }) => {
      rendering.grid = {
        cols: 5,
        rows: 4,
        cellMm: 20,
        threads: [{ hex: '#000000' }],
        edits: [{ cells: [{ put: 32, runs: [0, 2] }], backs: [] }],
      };
    });
    expect(acts.misfit()).toBeTrue();
    const fixture = TestBed.createComponent(GridChoice);
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    expect(host.querySelectorAll('canvas').length).toBe(2);
    expect(host.innerText).toContain('What becomes of your 1 changes by hand?');
    const carry = [...host.querySelectorAll('button')].find((b) => b.innerText === 'Carry them over');
    carry?.click();
    await fixture.whenStable();
    expect(acts.misfit()).toBeFalse();
    expect(store.view().rendering.grid?.cols).toBe(acts.grid()?.cols);
    expect(host.querySelectorAll('canvas').length).toBe(0);
  });

  it('fits the picture to a hoop so that whole cells fill it', async () => {
    const fixture = TestBed.createComponent(GridChoice);
    await fixture.whenStable();
    await pickIn(fixture, 'Fit it to a hoop', '130x180');
    const { widthMm, heightMm } = store.view().picture;
    expect(widthMm / 2.5).toBeCloseTo(Math.round(widthMm / 2.5), 6);
    expect(widthMm).toBeLessThanOrEqual(180);
    expect(heightMm).toBeLessThanOrEqual(130.01);
    expect(widthMm).toBeGreaterThan(165);
  });

  it('has a sheet with tools, threads and their counts', async () => {
    const fixture = TestBed.createComponent(GridSheet);
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const tool = [...host.querySelectorAll<HTMLElement>('.tools button')].find((b) => b.innerText === 'Choose');
    tool?.click();
    await fixture.whenStable();
    expect(acts.tool()).toBe('choose');
    expect(host.innerText).toContain('Pull a frame');
    expect(host.querySelectorAll('.thread').length).toBe(design.threads.length);
    const { grid, cells } = design.pictures[0].chart as GridChart;
    const counts = countThreads(grid, cells, new Map(), design.threads.length);
    const said = [...host.querySelectorAll('.thread small')].map((small) => small.textContent?.split(' cells')[0]);
    const cellsOf = (thread: number) => counts.filter((c) => c.thread === thread).map((c) => c.cells + c.parts);
    expect(said).toEqual(design.threads.map((_, thread) => String(cellsOf(thread)[0] ?? 0)));
    expect(Math.max(...counts.map((c) => c.cells))).toBeGreaterThan(20);
    const views = [...host.querySelectorAll<HTMLElement>('.segments button')];
    views.find((b) => b.innerText === 'Symbols')?.click();
    expect(acts.view()).toBe('symbols');
  });

  it('paints every view at every size', () => {
    const [grid, model] = [acts.grid(), acts.model()];
    if (!grid || !model) throw new Error('no grid');
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [500, 400];
    const context = canvas.getContext('2d', { willReadFrequently: true }) as CanvasRenderingContext2D;
    const painter = new GridPainter();
    for (const view of ['crosses', 'colours', 'symbols'] as const) {
      for (const scale of [1, 4, 12]) {
        painter.paint(context, { x: grid.left + 12, y: grid.top + 12, scale }, SIZE, 1, {
          grid,
          model,
          threads: acts.threads(),
          clothHex: '#ffffff',
          view,
          chosen: { x: 1, y: 1, cols: 2, rows: 2 },
          cursor: { x: 3, y: 3 },
          line: [0, 0, 4, 4],
        });
        const { data } = context.getImageData(20, 20, 480, 380);
        const shades = new Set<number>();
        for (let i = 0; i < data.length; i += 4) shades.add((data[i] << 16) | (data[i + 1] << 8) | data[i + 2]);
        expect(shades.size).withContext(`${view} ${scale}`).toBeGreaterThan(4);
      }
    }
  });

  it('paints what a stroke changed as a painter that begins anew does', () => {
    const [grid, model] = [acts.grid(), acts.model()];
    if (!grid || !model) throw new Error('no grid');
    const picture = (painter: GridPainter, cells: Uint32Array): number[] => {
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = [500, 400];
      const context = canvas.getContext('2d', { willReadFrequently: true }) as CanvasRenderingContext2D;
      painter.paint(context, { x: grid.left + 12, y: grid.top + 12, scale: 4 }, SIZE, 1, {
        grid,
        model: { ...model, cells },
        threads: acts.threads(),
        clothHex: '#ffffff',
        view: 'colours',
        chosen: undefined,
        cursor: undefined,
        line: undefined,
      });
      return [...context.getImageData(0, 0, 500, 400).data];
    };
    const painter = new GridPainter();
    const before = picture(painter, model.cells);
    const other = [...model.cells].find((code) => code !== 0 && code !== model.cells[grid.cols + 1]);
    const cells = model.cells.slice();
    cells.fill(other ?? 0, grid.cols + 1, grid.cols + 4);
    const after = picture(painter, cells);
    expect(after).not.toEqual(before);
    expect(after).toEqual(picture(new GridPainter(), cells));
    expect(picture(painter, model.cells)).toEqual(before);
  });
});
