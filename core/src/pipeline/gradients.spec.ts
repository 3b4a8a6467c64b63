import { readSvg } from '../artwork/read-svg.js';
import { convert } from '../convert.js';
import { coverCurve, mixHex, mixMisfit } from '../colour/cover-curve.js';
import { rampOf } from './gradient-ramps.js';
import { isInside } from '../geometry/polyline.js';
import { distance, type Points } from '../geometry/vector.js';
import { levelsOf } from '../pieces/gradient-areas.js';
import { createRaster } from '../picture/raster.js';
import { parseRecipe } from '../recipe/recipe.js';
import { flatRecipe, onePicture, type FlatRecipe } from '../test/flat-recipe.js';
import { figuresOf, threadRunsOf } from '../sequence/figures.js';
import { rampFill } from '../stitches/ramp-fill.js';
import { thresholdOf, type Ramp } from '../geometry/ramp.js';

const SETTINGS = { spacingMm: 0.4, stitchLengthMm: 4, compensationMm: 0 };
const square = (side: number): Points => [0, 0, side, 0, side, side, 0, side];
const ramp = (cover: readonly number[], more: Partial<Ramp> = {}): Ramp => ({
  shape: 'linear',
  x1: 0,
  y1: 0,
  x2: 40,
  y2: 0,
  cover,
  rows: 'even',
  from: -1000,
  to: 1000,
  ...more,
});

/** Places across the way at which rows lie. */
function rowsOf(runs: readonly Points[]): number[] {
  const out = new Set<number>();
  for (const run of runs) {
    for (let i = 2; i < run.length; i += 2) {
      const long = Math.abs(run[i + 1] - run[i - 1]) > 2;
      if (long && Math.abs(run[i] - run[i - 2]) < 0.01) out.add(Number(run[i].toFixed(3)));
    }
  }
  return [...out].sort((a, b) => a - b);
}

describe('rows of a ramp', () => {
  it('open as the share falls, and lie where its integral passes a whole number and a half', () => {
    const rows = rowsOf(rampFill([square(40)], ramp([1, 0]), SETTINGS));
    // The integral of 1 - x / 40 over 0.4 mm is (x - x² / 80) / 0.4.
    const integral = (x: number): number => (x - (x * x) / 80) / 0.4;
    expect(rows.length).toBe(50);
    rows.forEach((x, k) =>
      expect(integral(x))
        .withContext(String(x))
        .toBeCloseTo(k + 0.5, 0),
    );
    expect(rows[1] - rows[0]).toBeLessThan(0.45);
    expect(rows[49] - rows[48]).toBeGreaterThan(1.5);
  });

  it('of two threads leave no cloth bare where the lower one is left out under the upper', () => {
    const falling = Array.from({ length: 33 }, (_, i) => Math.min(1, Math.max(0, 1.1 - i / 26)));
    const over = rowsOf(rampFill([square(40)], ramp(falling, { rows: 'bundled' }), SETTINGS));
    const lower = ramp([1, 1], { rows: 'bundled', over: [falling], to: 0.9 });
    const under = rowsOf(rampFill([square(40)], lower, SETTINGS));
    expect(under.length).toBeLessThan(75);
    const all = [...over, ...under].sort((a, b) => a - b);
    for (let i = 1; i < all.length; i++) {
      if (all[i] < 35.5)
        expect(all[i] - all[i - 1])
          .withContext(String(all[i]))
          .toBeLessThan(0.45);
    }
    // Rows of the upper thread never lie on each other, and its share is what was asked.
    for (let i = 1; i < over.length; i++) expect(over[i] - over[i - 1]).toBeGreaterThan(0.399);
    const share = falling.reduce((sum, v, i) => sum + (i === 0 || i === 32 ? v / 2 : v), 0) / 32;
    expect(Math.abs(over.length * 0.4 - share * 40)).toBeLessThan(0.9);
  });

  it('of two threads in one layer never lie on each other and leave nothing out', () => {
    const rising = Array.from({ length: 9 }, (_, i) => i / 8);
    const none = [0, 0];
    const over = rowsOf(rampFill([square(40)], ramp(rising, { rows: 'lattice', over: [none] }), SETTINGS));
    const under = rowsOf(rampFill([square(40)], ramp([1, 1], { rows: 'lattice', over: [rising] }), SETTINGS));
    const all = [...over, ...under].sort((a, b) => a - b);
    expect(all.length).toBe(100);
    for (let i = 1; i < all.length; i++) expect(Math.abs(all[i] - all[i - 1] - 0.4)).toBeLessThan(0.02);
  });

  it('stay inside shapes with holes, and no way lies across', () => {
    const hole = [14, 14, 26, 14, 26, 26, 14, 26];
    const runs = rampFill([square(40), hole], ramp([0.1, 1]), SETTINGS);
    for (const run of runs) {
      for (let i = 2; i < run.length; i += 2) {
        const [mx, my] = [(run[i] + run[i - 2]) / 2, (run[i + 1] + run[i - 1]) / 2];
        const inHole = mx > 14.5 && mx < 25.5 && my > 14.5 && my < 25.5;
        expect(inHole).withContext(`${mx} ${my}`).toBeFalse();
        expect(distance(run[i - 2], run[i - 1], run[i], run[i + 1])).toBeLessThan(7);
      }
    }
  });

  it('around a middle are as dense as the share', () => {
    const radial = ramp([0.25, 0.25], { shape: 'radial', x1: 20, y1: 20, x2: 40, y2: 20 });
    let length = 0;
    for (const run of rampFill([square(40)], radial, SETTINGS)) {
      const seen = new Set<string>();
      for (let i = 2; i < run.length; i += 2) {
        const key = [run[i - 2], run[i - 1], run[i], run[i + 1]].map((v) => v.toFixed(2)).join();
        if (!seen.has(key)) length += distance(run[i - 2], run[i - 1], run[i], run[i + 1]);
        seen.add(key);
      }
    }
    expect((length * 0.4) / 1600).toBeGreaterThan(0.22);
    expect((length * 0.4) / 1600).toBeLessThan(0.32);
    const five = Array.from({ length: 5 }, (_, k) => thresholdOf(k));
    expect([...five].sort((a, b) => a - b)).toEqual([0.1, 0.3, 0.5, 0.7, 0.9]);
    for (let k = 0; k < 5; k++) expect(Math.abs(five[k] - five[(k + 1) % 5])).toBeGreaterThan(0.3);
    expect(thresholdOf(-3)).toBe(thresholdOf(2));
  });
});

describe('the share of a thread', () => {
  it('never falls, and is calibrated to colour rather than to the place', () => {
    const curve = coverCurve('#101820', '#f6f4ee', '#101820', '#f6f4ee');
    expect(curve[0]).toBe(0);
    expect(curve.at(-1)).toBe(1);
    for (let i = 1; i < curve.length; i++) expect(curve[i]).toBeGreaterThanOrEqual(curve[i - 1]);
    // Half way in sRGB is about a fifth of the light.
    expect(curve[32]).toBeGreaterThan(0.15);
    expect(curve[32]).toBeLessThan(0.3);
  });

  it('minds that rows far apart are seen one by one', () => {
    const cut = coverCurve('#203040', '#d8c8a0', '#203040', '#d8c8a0', 'cut');
    const even = coverCurve('#203040', '#d8c8a0', '#203040', '#d8c8a0');
    // A single light row on the dark thread is further from the colour than none.
    expect(even[8]).toBeLessThan(cut[8]);
    expect(even[60]).toBeCloseTo(cut[60], 1);
  });

  it('can be told beforehand to be not enough, and what a thread between would do', () => {
    const [a, b] = ['#203040', '#d8c8a0'];
    expect(mixMisfit('#808080', '#c0c0c0', '#808080', '#c0c0c0')).toBeLessThan(0.5);
    const two = mixMisfit(a, b, a, b);
    const middle = mixHex(a, b, 0.5);
    const three = (mixMisfit(a, middle, a, middle) + mixMisfit(middle, b, middle, b)) / 2;
    expect(two).toBeGreaterThan(2);
    expect(three).toBeLessThan(two / 2);
  });

  it('of three stops lies over lighter neighbours and solid under darker ones', () => {
    const stops = ['#203040', '#f6f4ee', '#c8481f'].map((hex, i) => ({ at: i / 2, hex, paint: { hex } }));
    const gradient = { id: 'g', shape: 'linear' as const, x1: 0, y1: 0, x2: 40, y2: 0, stops, layers: 'over' as const };
    const hexes = stops.map(({ hex }) => hex);
    expect(levelsOf(gradient)).toEqual([2, 0, 1]);
    const [dark, light, red] = stops.map((_, i) => rampOf(gradient, i, hexes));
    expect([dark.from < -100, dark.to]).toEqual([true, 0.5]);
    expect([dark.cover[0], dark.cover[64], dark.cover[128]]).toEqual([1, 0, 0]);
    expect([red.cover[0], red.cover[64], red.cover[128]]).toEqual([0, 0, 1]);
    expect([light.from, light.to]).toEqual([0, 1]);
    expect(light.cover.every((share) => share === 1)).toBeTrue();
    expect(light.over).toEqual([dark.cover, red.cover]);
    const fading = rampOf({ ...gradient, stops: [stops[0], { ...stops[2], paint: undefined }] }, 0, hexes);
    expect([fading.cover[0], fading.cover[128], fading.rows]).toEqual([1, 0, 'even']);
  });

  it('around a middle, or in one layer, goes by the order of the stops', () => {
    const stops = ['#203040', '#f6f4ee'].map((hex, i) => ({ at: i, hex, paint: { hex } }));
    expect(levelsOf({ shape: 'linear', layers: 'over', stops })).toEqual([1, 0]);
    expect(levelsOf({ shape: 'radial', layers: 'over', stops })).toEqual([0, 1]);
    expect(levelsOf({ shape: 'linear', layers: 'beside', stops })).toEqual([0, 1]);
    // A thread never lies over bare cloth as over another.
    expect(levelsOf({ shape: 'radial', layers: 'over', stops: [{ ...stops[0], paint: undefined }, stops[1]] })[1]).toBe(
      0,
    );
  });
});

describe('gradients of artwork', () => {
  const svg = (body: string, extra = ''): string =>
    `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40"><defs>
    <linearGradient id="g"><stop offset="0" stop-color="#203040"/><stop offset="1" stop-color="#e0b040"/></linearGradient>
    <radialGradient id="r"><stop offset="0" stop-color="#c8481f"/><stop offset="1" stop-color="#f6f4ee" stop-opacity="0"/></radialGradient>
    ${extra}</defs>${body}</svg>`;

  async function sew(text: string, edit: (recipe: FlatRecipe) => FlatRecipe = (r) => r) {
    const raster = createRaster(240, 160);
    raster.data.fill(255);
    const recipe = edit(flatRecipe(240, 160, { widthMm: 60, heightMm: 40 }));
    return convert(onePicture({ raster, artwork: readSvg(text), pictureKey: text, recipe, charts: [] }));
  }

  it('arrive by themselves as one piece for each thread, the darker over the lighter', async () => {
    const design = await sew(svg('<path d="M5 5H55V35H5Z" fill="url(#g)"/>'));
    expect(design.pieces.map(({ kind, thread }) => [kind, thread])).toEqual([
      ['gradient', 0],
      ['gradient', 1],
    ]);
    expect(design.threads.map(({ hex }) => hex)).toEqual(['#203040', '#e0b040']);
    expect(design.order).toEqual([1, 0]);
    expect(design.pieces[1].partOf).toBe(0);
    expect(design.colours.every(({ thread }) => thread >= 0)).toBeTrue();
  });

  it('fade to the cloth where a stop is not seen', async () => {
    const design = await sew(svg('<circle cx="30" cy="20" r="15" fill="url(#r)"/>'));
    expect(design.threads.length).toBe(1);
    expect(design.pieces.length).toBe(1);
    const rings = [
      Array.from({ length: 120 }, (_, i) => i).flatMap((k) => [15.4 * Math.cos(k / 19.1), 15.4 * Math.sin(k / 19.1)]),
    ];
    const { stitches } = design;
    for (let i = 0; i < stitches.count - 1; i++) expect(isInside(rings, stitches.x[i], stitches.y[i])).toBeTrue();
  });

  it('cost one thread change for three shapes, and stay one colour where their stops become one', async () => {
    const three = '<path d="M5 5H18V35H5Z M23 5H36V35H23Z M41 5H54V35H41Z" fill="url(#g)"/>';
    const design = await sew(svg(three));
    expect(design.pieces.length).toBe(6);
    expect(figuresOf(design.stitches, 2).threadChanges).toBe(1);
    expect(threadRunsOf(design.stitches).length).toBe(2);
    const merged = await sew(svg(three), (r) => ({ ...r, colours: { ...r.colours, count: 1 } }));
    expect(merged.pieces.every(({ part }) => part === undefined)).toBeTrue();
    expect(merged.threads.length).toBe(1);
  });

  it('can be laid over pieces by hand, changed, and taken away', async () => {
    const text = svg('<path d="M5 5H25V35H5Z M35 5H55V35H35Z" fill="#2f5d50"/>');
    const plain = await sew(text);
    expect(plain.pieces.length).toBe(2);
    const fill = {
      id: 'g1',
      shape: 'linear' as const,
      way: [5 / 60, 0.5, 55 / 60, 0.5] as [number, number, number, number],
      stops: [
        { at: 0, paint: { hex: '#2f5d50' } },
        { at: 1, paint: { hex: '#f6f4ee' } },
      ],
      layers: 'over' as const,
    };
    const at = (x: number) => ({ hex: '#2f5d50', u: x / 60, v: 0.5, share: 600 / 2400 });
    const laid: object[] = [15, 45].map((x) => ({ kind: 'gradient', at: at(x), fill }));
    const said = (decisions: readonly object[]) => (r: FlatRecipe) => ({ ...r, pieces: { ...r.pieces, decisions } });
    const design = await sew(text, said(laid));
    expect(design.lostPieceDecisions).toEqual([]);
    expect(design.pieces.map(({ gradient }) => gradient?.gradient.id)).toEqual(['g1', 'g1', 'g1', 'g1']);
    // One gradient over both: of the dark thread the left piece has most, the right one the last rows.
    const stitchesOf = (piece: number): number => {
      let n = 0;
      for (let i = 0; i < design.stitches.count; i++) if (design.stitches.piece[i] === piece) n++;
      return n;
    };
    const dark = design.pieces.flatMap(({ gradient, bounds }, i) =>
      gradient?.stop === 0 ? [{ i, left: bounds.left }] : [],
    );
    dark.sort((p, q) => p.left - q.left);
    expect(stitchesOf(dark[0].i)).toBeGreaterThan(stitchesOf(dark[1].i) * 1.3);
    expect(design.pieces.map(({ gradient }) => gradient?.stop)[design.order[0]]).toBe(1);
    const gone = await sew(text, said(laid.map((d) => ({ ...d, fill: null }))));
    expect(gone.pieces.every(({ gradient }) => !gradient)).toBeTrue();
  });

  it('are refused by the recipe where they are not as they must be', () => {
    const at = { hex: '#2f5d50', u: 0.5, v: 0.5, share: 0.2 };
    const fill = {
      id: 'g',
      shape: 'linear',
      way: [0, 0, 1, 1],
      stops: [
        { at: 0, paint: { bare: true } },
        { at: 1, paint: { hex: '#ffffff' } },
      ],
      layers: 'over',
    };
    const check = (value: unknown) => () =>
      parseRecipe({
        ...flatRecipe(10, 10),
        pieces: { ...flatRecipe(10, 10).pieces, decisions: [{ kind: 'gradient', at, fill: value }] },
      });
    expect(check(fill)).not.toThrow();
    for (const bad of [
      { ...fill, shape: 'cone' },
      { ...fill, way: [0, 0, 1] },
      { ...fill, stops: [fill.stops[0]] },
      { ...fill, stops: [fill.stops[1], fill.stops[0]] },
      { ...fill, layers: 'under' },
      { ...fill, stops: Array.from({ length: 7 }, (_, i) => ({ at: i / 6, paint: { hex: '#ffffff' } })) },
    ]) {
      expect(check(bad)).toThrowError(RangeError);
    }
  });
});
