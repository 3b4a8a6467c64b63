import type { Design } from '@open-kite/core';
import { smallDesign, until } from '../../test/rig';
import { Tiles } from './tiles';

const drawer = (): Worker => new Worker(new URL('./draw.worker', import.meta.url), { type: 'module' });

describe('Tiles', () => {
  const size = { width: 400, height: 300 };
  let design: Design;
  let tiles: Tiles;
  let context: CanvasRenderingContext2D;

  beforeAll(async () => (design = await smallDesign()));

  beforeEach(() => {
    const canvas = document.createElement('canvas');
    canvas.width = size.width;
    canvas.height = size.height;
    context = canvas.getContext('2d', { willReadFrequently: true }) as CanvasRenderingContext2D;
    tiles = new Tiles(() => undefined, drawer);
  });

  afterEach(() => tiles.close());

  const camera = { x: 0, y: 0, scale: 4 };
  /** Whether the last design has been drawn to the last tile since the marks were cleared. */
  const allThere = (): boolean => performance.getEntriesByName('kite-all-tiles').length > 0;
  const pixel = (x: number, y: number): number[] => [...context.getImageData(x, y, 1, 1).data];

  /** Paints until every place carries something, as the stage does whenever a tile arrives. */
  async function painted(view = camera, row?: number): Promise<void> {
    await until(() => {
      context.clearRect(0, 0, size.width, size.height);
      tiles.paint(context, view, size, 1, row);
      const corners = [pixel(1, 1), pixel(398, 1), pixel(1, 298), pixel(398, 298), pixel(200, 150)];
      return corners.every((c) => c[3] === 255);
    });
  }

  it('paints nothing before there is a design', () => {
    tiles.paint(context, camera, size, 1, undefined);
    expect(pixel(200, 150)[3]).toBe(0);
  });

  it('fills the stage with thread of the right colours on cloth', async () => {
    tiles.show(design, 'sewn');
    await painted();
    // Middle of the left block: teal, bluer than red; of the right one: orange; the corner: pale cloth.
    const place = (mmX: number, mmY: number): number[] => {
      const { data } = context.getImageData(200 + mmX * 4 - 8, 150 + mmY * 4 - 8, 16, 16);
      return [0, 1, 2].map((j) => data.reduce((sum, v, i) => (i % 4 === j ? sum + v : sum), 0) / 256);
    };
    const teal = place(-21, -9);
    expect(teal[2]).toBeGreaterThan(teal[0] + 40);
    const orange = place(21, -9);
    expect(orange[0]).toBeGreaterThan(orange[2] + 80);
    expect(pixel(3, 3)[0]).toBeGreaterThan(200);
  });

  it('shows a small picture of the whole until there is something better, and tells when all is there', async () => {
    let complete = 0;
    tiles.close();
    tiles = new Tiles(
      () => undefined,
      drawer,
      () => complete++,
    );
    const whole = document.createElement('canvas');
    [whole.width, whole.height] = [100, 75];
    const paint = whole.getContext('2d') as CanvasRenderingContext2D;
    paint.fillStyle = '#ff00ff';
    paint.fillRect(0, 0, 100, 75);
    tiles.show(design, 'sewn');
    tiles.standIn({ bitmap: await createImageBitmap(whole), scale: 1, left: -50, top: -37.5 });
    tiles.paint(context, camera, size, 1, undefined);
    expect(pixel(200, 150)).toEqual([255, 0, 255, 255]);
    expect(complete).toBe(0);
    await until(() => {
      tiles.paint(context, camera, size, 1, undefined);
      return complete > 0;
    });
    expect(complete).toBe(1);
    expect(pixel(200, 150)).not.toEqual([255, 0, 255, 255]);
  });

  it('shows the old design until the new one is drawn', async () => {
    tiles.show(design, 'sewn');
    await painted();
    tiles.show(await smallDesign((r) => (r.stitches.angle = 80)), 'sewn');
    context.clearRect(0, 0, size.width, size.height);
    tiles.paint(context, camera, size, 1, undefined);
    expect(pixel(200, 150)[3]).toBe(255);
    await painted();
  });

  it('shows a new design in one frame: never tiles of it beside those of the old one', async () => {
    const all = (): string => context.getImageData(0, 0, size.width, size.height).data.join(' ');
    const near = { ...camera, scale: 11 };
    const complete = async (): Promise<Set<string>> => {
      const seen = new Set<string>();
      performance.clearMarks('kite-all-tiles');
      await until(() => {
        tiles.paint(context, near, size, 1, undefined);
        seen.add(all());
        return allThere();
      });
      tiles.paint(context, near, size, 1, undefined);
      return seen.add(all());
    };
    tiles.show(design, 'sewn');
    await complete();
    const before = all();
    tiles.show(await smallDesign((r) => (r.stitches.angle = 80)), 'sewn');
    const seen = await complete();
    expect([...seen].map((picture) => (picture === before ? 'old' : picture === all() ? 'new' : 'both'))).toEqual([
      'old',
      'new',
    ]);
  });

  it('shows a moment of the sewing: later stitches are not there yet', async () => {
    tiles.show(design, 'sewn');
    await painted(camera, 0);
    const bare = pixel(200 - 21 * 4, 150 - 9 * 4);
    expect(bare[0]).toBeGreaterThan(180);
    tiles.paint(context, camera, size, 1, design.stitches.count - 1);
    await until(() => {
      tiles.paint(context, camera, size, 1, design.stitches.count - 1);
      return pixel(200 - 21 * 4, 150 - 9 * 4)[0] <= 150;
    });
    expect(pixel(200 - 21 * 4, 150 - 9 * 4)[0]).toBeLessThan(150);
  });

  it('stretches what it has while sharper tiles are on their way', async () => {
    tiles.show(design, 'sewn');
    await painted();
    context.clearRect(0, 0, size.width, size.height);
    tiles.paint(context, { ...camera, scale: 9 }, size, 1, undefined);
    expect(pixel(200, 150)[3]).toBe(255);
    await painted({ ...camera, scale: 9 });
  });

  it('asks for nothing more while a zoom goes on, also where tiles arrive, and for all when it rests', async () => {
    tiles.show(design, 'sewn');
    await painted();
    await new Promise((resolve) => setTimeout(resolve, 200));
    const posted = spyOn(Worker.prototype, 'postMessage').and.callThrough();
    const asked = (): number => posted.calls.all().filter(({ args: [request] }) => request.kind === 'tile').length;
    let scale = camera.scale;
    let longest = 0;
    do {
      posted.calls.reset();
      longest = 0;
      for (let i = 0; i < 30; i++) {
        const from = performance.now();
        tiles.paint(context, { ...camera, scale: (scale += 0.02) }, size, 1, undefined);
        await new Promise((resolve) => setTimeout(resolve, 5));
        longest = Math.max(longest, performance.now() - from);
      }
      // A machine that stands still for a while makes a rest of it.
    } while (longest > 45);
    // What was asked for at once after the first step.
    expect(asked()).toBeLessThanOrEqual(4);
    await until(() => {
      tiles.paint(context, { ...camera, scale }, size, 1, undefined);
      return asked() > 4;
    });
    expect(asked()).toBeGreaterThan(4);
  });

  it('tells of every tile, also where the picture of the whole is asked for meanwhile', async () => {
    const stage = new Tiles(() => stage.paint(context, camera, size, 1, undefined), drawer);
    stage.show(design, 'sewn');
    // Long enough that the picture of the whole is due as soon as all tiles are there.
    await new Promise((resolve) => setTimeout(resolve, 500));
    performance.clearMarks('kite-all-tiles');
    stage.paint(context, camera, size, 1, undefined);
    await until(allThere);
    expect(performance.getEntriesByName('kite-all-tiles').length).toBe(1);
    stage.close();
  });

  it('asks for a changed design before it is painted next', async () => {
    tiles.show(design, 'sewn');
    await painted();
    const changed = await smallDesign((r) => (r.stitches.angle = 80));
    await new Promise((resolve) => setTimeout(resolve, 100));
    const posted = spyOn(Worker.prototype, 'postMessage').and.callThrough();
    tiles.show(changed, 'sewn');
    const kinds = posted.calls.all().map(({ args: [request] }) => request.kind);
    expect(kinds.indexOf('tile')).toBeGreaterThan(kinds.indexOf('scene'));
  });

  it('draws anew only where a design has changed', async () => {
    // Far closer than the changed block is from the other.
    const near = { x: 0, y: 0, scale: 26 };
    tiles.show(design, 'sewn');
    await painted(near);
    // Stand-ins fill the stage as well: only the mark says that every tile is there.
    performance.clearMarks('kite-all-tiles');
    await until(() => {
      tiles.paint(context, { ...near, x: 30 }, size, 1, undefined);
      return allThere();
    });
    const posted = spyOn(Worker.prototype, 'postMessage').and.callThrough();
    const asked = (): string[] =>
      posted.calls.all().flatMap(({ args: [request] }) => (request.kind === 'tile' ? [String(request.key)] : []));
    tiles.show(design, 'sewn');
    context.clearRect(0, 0, size.width, size.height);
    tiles.paint(context, { ...near, x: 30 }, size, 1, undefined);
    expect(pixel(200, 150)[3]).toBe(255);
    expect(asked().filter((key) => key !== 'overview')).toEqual([]);
    tiles.show(await smallDesign((r) => (r.stitches.angle = 80)), 'sewn');
    const tilesAsked = (): number => asked().filter((key) => key !== 'overview').length;
    await until(() => {
      tiles.paint(context, { ...near, x: 30 }, size, 1, undefined);
      return tilesAsked() > 1;
    });
    expect(tilesAsked()).toBeGreaterThan(1);
  });

  it('draws only what has changed of a tile, and shows the same as a stage that begins anew', async () => {
    const complete = async (stage: Tiles): Promise<number[]> => {
      performance.clearMarks('kite-all-tiles');
      await until(() => {
        stage.paint(context, camera, size, 1, undefined);
        return allThere();
      });
      // The last stand-ins have gone once all tiles are there.
      stage.paint(context, camera, size, 1, undefined);
      return [...context.getImageData(0, 0, size.width, size.height).data];
    };
    tiles.show(design, 'sewn');
    const before = await complete(tiles);
    const { count } = design.stitches;
    const moved = { ...design.stitches, x: design.stitches.x.slice() };
    for (let i = count - 30; i < count - 25; i++) moved.x[i] += 0.6;
    const posted = spyOn(Worker.prototype, 'postMessage').and.callThrough();
    tiles.show({ ...design, stitches: moved }, 'sewn');
    const after = await complete(tiles);
    const views = posted.calls.all().flatMap(({ args: [request] }) => (request.kind === 'tile' ? [request] : []));
    const parts = views.filter(({ key }) => key !== 'overview').map(({ view }) => view);
    expect(parts.length).toBeGreaterThan(0);
    expect(parts.every(({ width, height }) => width * height < 256 * 256 * 0.3)).toBeTrue();
    expect(after).not.toEqual(before);
    const anew = new Tiles(() => undefined, drawer);
    anew.show({ ...design, stitches: moved }, 'sewn');
    expect(await complete(anew)).toEqual(after);
    anew.close();
  });
});
