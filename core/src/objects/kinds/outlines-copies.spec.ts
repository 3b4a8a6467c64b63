import { convert } from '../../convert.js';
import type { Design } from '../../design/design.js';
import { boundsOf } from '../../geometry/polyline.js';
import type { Piece } from '../../pieces/piece.js';
import { createRaster } from '../../picture/raster.js';
import { packDesign, unpackDesign } from '../../formats/packed-design.js';
import { emptyRecipe, firstPicture, parseRecipe } from '../../recipe/recipe.js';
import { sourcesOf, sourcesOfObject, withSources } from '../../recipe/view.js';
import { STOP } from '../../sequence/stitch-list.js';
import {
  USUAL_APPLIQUE,
  type AppliqueChoices,
  type CopiesLayout,
  type CopiesObject,
  type DesignObject,
  type OutlineObject,
  type ShapeObject,
} from '../design-object.js';
import { brokenApplique } from '../applique-steps.js';
import { newLetters } from '../new-letters.js';
import { newOutline } from '../new-outline.js';
import { newShape } from '../shape-of-piece.js';
import { mapsOfCopies } from './copies.js';

const square = (id: string, x: number, y: number, side: number, hex = '#204060'): ShapeObject =>
  newShape(
    id,
    null,
    [
      {
        closed: true,
        nodes: [
          [x, y, 0, 0, 0, 0],
          [x + side, y, 0, 0, 0, 0],
          [x + side, y + side, 0, 0, 0, 0],
          [x, y + side, 0, 0, 0, 0],
        ],
      },
    ],
    { hex },
  );
const outline = (more: Partial<OutlineObject>): OutlineObject => ({
  ...newOutline('o', 'a', { hex: '#a03020' }),
  ...more,
});
const copies = (of: readonly string[], layout: CopiesLayout): CopiesObject => ({
  kind: 'copies',
  id: 'c',
  name: '',
  on: null,
  hidden: false,
  locked: false,
  of,
  layout,
});
const sewn = (objects: readonly DesignObject[]): Promise<Design> =>
  convert({ pictures: {}, recipe: parseRecipe({ ...emptyRecipe(), objects }), charts: [] });
const own = ({ pieces }: Design, object: string): Piece[] => pieces.filter((piece) => piece.object === object);
const boxOf = (pieces: readonly Piece[]) =>
  boundsOf(pieces.map(({ bounds: { left, top, right, bottom } }) => [left, top, right, bottom]));
const stopsIn = ({ stitches }: Design): number => stitches.command.filter((command) => command === STOP).length;

/** A bar across the right edge of a square of 20 mm that begins at the origin. */
const bar = square('b', 14, 8, 12, '#208060');
const barAcross: ShapeObject = {
  ...bar,
  paths: [
    {
      closed: true,
      nodes: [
        [14, 8, 0, 0, 0, 0],
        [26, 8, 0, 0, 0, 0],
        [26, 12, 0, 0, 0, 0],
        [14, 12, 0, 0, 0, 0],
      ],
    },
  ],
};

describe('outlines', () => {
  it('go over what crosses them, or leave a gap there', async () => {
    const base = [square('a', 0, 0, 20), barAcross];
    const heightOfGap = async (more: Partial<OutlineObject>): Promise<number> => {
      const design = await sewn([...base, outline({ ...more, widthMm: 2 })]);
      // Needle points on the edge itself, between the corners it crosses.
      const { stitches } = design;
      const number = design.pieces.flatMap(({ object }, i) => (object === 'o' ? [i] : []));
      const ys: number[] = [0, 20];
      for (let i = 0; i < stitches.count; i++)
        if (number.includes(stitches.piece[i]) && stitches.x[i] > 18.5 && stitches.x[i] < 21.5) ys.push(stitches.y[i]);
      ys.sort((a, b) => a - b);
      return Math.max(...ys.slice(1).map((y, i) => y - ys[i]));
    };
    expect(await heightOfGap({})).toBeLessThan(1);
    const butt = await heightOfGap({ gaps: true });
    expect(butt).toBeGreaterThan(3.4);
    expect(butt).toBeLessThan(4.6);
    const pointed = await heightOfGap({ gaps: true, ends: 'point' });
    expect(pointed).toBeGreaterThan(3);
    expect(pointed).toBeLessThan(5.4);
  });

  it('with gaps are whole where nothing crosses them, and end at once where it does', async () => {
    const beside = square('b', 30, 0, 10, '#208060');
    const alone = own(await sewn([square('a', 0, 0, 20), beside, outline({ gaps: true })]), 'o');
    expect(alone.length).toBe(1);
    const within = square('b', 5, 5, 8, '#208060');
    expect(own(await sewn([square('a', 0, 0, 20), within, outline({ gaps: true })]), 'o').length).toBe(1);
    const widths = { butt: 0, round: 0, point: 0 };
    for (const ends of ['butt', 'round', 'point'] as const) {
      const [part] = own(await sewn([square('a', 0, 0, 20), barAcross, outline({ gaps: true, ends })]), 'o');
      widths[ends] = part.areaMm2;
    }
    // Of one and the same way a square end covers most, a point least.
    expect(widths.butt).toBeGreaterThan(widths.round);
    expect(widths.round).toBeGreaterThan(widths.point);
  });

  it('between gaps begin where it is said only on the part that lies there', async () => {
    const design = await sewn([
      square('a', 0, 0, 20),
      barAcross,
      outline({ gaps: true, begins: 'left', as: 'running' }),
    ]);
    const [part] = own(design, 'o');
    expect(part.choices.entry?.x).toBeCloseTo(0, 1);
    // Lines keep no room for ends that satin would have.
    const { stitches } = design;
    const number = design.pieces.indexOf(part);
    let nearest = Infinity;
    for (let i = 0; i < stitches.count; i++)
      if (stitches.piece[i] === number && stitches.x[i] > 19) nearest = Math.min(nearest, Math.abs(stitches.y[i] - 10));
    expect(nearest).toBeLessThan(2.3);
  });

  it('begin at the side that is asked for', async () => {
    for (const [begins, isThere] of [
      ['top', (_x: number, y: number) => y < 2],
      ['right', (x: number) => x > 18],
      ['bottom', (_x: number, y: number) => y > 18],
      ['left', (x: number) => x < 2],
    ] as const) {
      const design = await sewn([square('a', 0, 0, 20), outline({ begins })]);
      const number = design.pieces.findIndex(({ object }) => object === 'o');
      const { piece, x, y } = design.stitches;
      const first = piece.indexOf(number);
      expect(isThere(x[first], y[first])).withContext(begins).toBeTrue();
    }
  });

  it('go around an object, and follow it', async () => {
    const around = async (side: number) => boxOf(own(await sewn([square('a', 0, 0, side), outline({})]), 'o'));
    const [small, large] = [await around(20), await around(30)];
    expect(small.right).toBeCloseTo(21.5, 0);
    expect(large.right).toBeCloseTo(31.5, 0);
  });

  it('go around letters by what they cover', async () => {
    const letters = newLetters('a', { text: 'O', heightMm: 20 }, { hex: '#204060' });
    const design = await sewn([letters, outline({ offsetMm: 2, closeMm: 0 })]);
    const [letter, edge] = [boxOf(own(design, 'a')), boxOf(own(design, 'o'))];
    expect(edge.left).toBeCloseTo(letter.left - 3.5, 0);
  });

  it('go around letters that are hidden, which are there for them alone', async () => {
    const letters = newLetters('a', { text: 'Kite', heightMm: 20 }, { hex: '#204060' });
    const shown = await sewn([letters, outline({ offsetMm: 3 })]);
    const alone = await sewn([{ ...letters, hidden: true }, outline({ offsetMm: 3 })]);
    expect(own(alone, 'a')).toEqual([]);
    expect(boxOf(own(alone, 'o'))).toEqual(boxOf(own(shown, 'o')));
  });

  it('are a patch of some form around the whole design, sewn last, which grows with it', async () => {
    const patch = outline({ of: null, form: 'shield', offsetMm: 3, widthMm: 3 });
    const around = async (side: number): Promise<Design> =>
      sewn([square('a', 0, 0, side), square('b', side + 4, 6, 10), patch]);
    const [small, large] = [await around(20), await around(40)];
    for (const design of [small, large]) {
      const [border, inside] = [boxOf(own(design, 'o')), boxOf([...own(design, 'a'), ...own(design, 'b')])];
      expect(own(design, 'o').length).toBe(1);
      expect(border.left).toBeLessThan(inside.left - 3);
      expect(border.bottom).toBeGreaterThan(inside.bottom + 3);
      expect(design.pieces[design.order.at(-1) ?? 0].object).toBe('o');
    }
    const wide = (design: Design): number => boxOf(own(design, 'o')).right - boxOf(own(design, 'o')).left;
    expect(wide(large)).toBeGreaterThan(wide(small) + 15);
    expect(() => parseRecipe({ ...emptyRecipe(), objects: [{ ...patch, form: 'cloud' as never }] })).toThrowError(
      /cloud/,
    );
  });

  it('go around the whole design as one edge, gaps closed up to a width', async () => {
    const parts = [square('a', 0, 0, 10), square('b', 12, 0, 10)];
    const apart = await sewn([...parts, outline({ of: null, closeMm: 0, as: 'running' })]);
    const closed = await sewn([...parts, outline({ of: null, closeMm: 4, as: 'running' })]);
    const runs = (design: Design): number => own(design, 'o').reduce((sum, { paths }) => sum + paths.length, 0);
    expect(runs(apart)).toBe(2);
    expect(runs(closed)).toBe(1);
    expect(boxOf(own(closed, 'o')).right).toBeGreaterThan(21);
  });

  it('have corners as asked: mitred, rounded, drawn to a point', async () => {
    const reach = async (corners: OutlineObject['corners']): Promise<number[]> => {
      const design = await sewn([square('a', 0, 0, 30), outline({ corners, widthMm: 4 })]);
      const [piece] = own(design, 'o');
      // How far stitches go towards the corner at (30, 30), whose tip lies at 32, 32.
      const ends = piece.columns.flatMap(({ rungs }) => rungs);
      const far = ends.flatMap((x, i) => (i % 2 === 0 ? [x + ends[i + 1]] : []));
      return [piece.columns.length, Math.max(...far)];
    };
    const [[mitred, tip], [rounded, round], [drawn, point]] = [
      await reach('mitre'),
      await reach('round'),
      await reach('point'),
    ];
    expect([mitred, rounded, drawn]).toEqual([4, 1, 4]);
    expect(tip).toBeGreaterThan(63.2);
    expect(round).toBeLessThan(63);
    expect(round).toBeGreaterThan(62.4);
    expect(point).toBeGreaterThan(63.2);
    // Where nothing is said, they are those of the design.
    expect(await reach(undefined)).toEqual([mitred, tip]);
  });

  it('go around chosen pieces alone', async () => {
    const parts = [square('a', 0, 0, 10), square('b', 40, 0, 10)];
    const design = await sewn([...parts, outline({ of: null, pieces: [{ object: 'b' }] })]);
    expect(boxOf(own(design, 'o')).left).toBeCloseTo(38.5, 0);
  });
});

describe('a picture that is only drawn over', () => {
  it('is not sewn, and what lies on it is', async () => {
    const raster = createRaster(60, 40);
    raster.data.fill(255);
    for (let i = 0; i < raster.data.length / 2; i += 4) raster.data.set([200, 40, 40], i);
    const picture = { ...firstPicture('picture-1', 60, 40), sketch: true as const };
    const drawn = { ...square('a', 0.2, 0.2, 0.3), on: 'picture-1' };
    const recipe = (sketch: boolean) =>
      parseRecipe({ ...emptyRecipe(), objects: [sketch ? picture : { ...picture, sketch: undefined }, drawn] });
    const pictures = { 'picture-1': { key: 'p', raster } };
    const over = await convert({ pictures, recipe: recipe(true), charts: [] });
    expect(over.pieces.map(({ object }) => object)).toEqual(['a']);
    expect(over.pictures).toEqual([]);
    const whole = await convert({ pictures, recipe: recipe(false), charts: [] });
    expect(whole.pieces.length).toBeGreaterThan(1);
    expect(own(whole, 'a')[0].bounds).toEqual(own(over, 'a')[0].bounds);
    expect(() => parseRecipe({ ...emptyRecipe(), objects: [{ ...picture, sketch: false }] })).toThrowError(/sketch/);
  });
});

describe('applique', () => {
  const applique = (change: Partial<AppliqueChoices>): Promise<Design> =>
    sewn([
      { ...square('a', 0, 0, 16), hidden: true },
      outline({ as: 'applique', applique: { ...USUAL_APPLIQUE, ...change } }),
    ]);

  it('has its steps, with a stop before each that needs the operator', async () => {
    const design = await applique({});
    const roles = design.order.map((i) => design.pieces[i]).filter(({ object }) => object === 'o');
    expect(roles.map(({ role }) => role)).toEqual(['placement', 'tack-down', 'cover']);
    expect(stopsIn(design)).toBe(2);
  });

  it('leaves out whichever steps are not wanted, stops among them', async () => {
    for (const placement of [true, false]) {
      for (const tackDown of ['zigzag', 'running', 'none'] as const) {
        for (const cut of [true, false]) {
          for (const cover of ['satin', 'zigzag', 'none']) {
            const design = await applique({ placement, tackDown, cut, cover });
            const steps = own(design, 'o').map(({ role }) => role);
            expect(steps.includes('placement')).toBe(placement);
            expect(steps.includes('tack-down')).toBe(tackDown !== 'none');
            expect(steps.includes('cover')).toBe(cover !== 'none');
            const first = tackDown !== 'none' || cover !== 'none';
            const stops =
              (placement && tackDown !== 'none' ? 1 : 0) + (cut && cover !== 'none' && steps.length > 1 ? 1 : 0);
            expect(stopsIn(design)).toBe(first ? stops : 0);
          }
        }
      }
    }
  });

  it('has cloth printed with a picture of the project, which is kept small and asked for with the others', async () => {
    const raster = createRaster(300, 150);
    for (let i = 0; i < raster.data.length; i += 4) {
      raster.data.set((i / 4) % 300 < 150 ? [200, 0, 0, 255] : [0, 0, 200, 0], i);
    }
    const cloth = { look: 'print', hex: '#112233', print: { source: 'picture-2', widthMm: 20 } } as const;
    const objects = [
      { ...square('a', 0, 0, 20), hidden: true },
      outline({ as: 'applique', applique: { ...USUAL_APPLIQUE, cloth } }),
    ];
    const recipe = parseRecipe({ ...emptyRecipe(), objects });
    expect(sourcesOf(recipe)).toEqual(['picture-2']);
    const renamed = withSources(recipe.objects[1], (source) => source + '0');
    expect(sourcesOfObject(renamed)).toEqual(['picture-20']);
    const design = await convert({ pictures: { 'picture-2': { key: 'p', raster } }, recipe, charts: [] });
    const [patch] = design.patches ?? [];
    expect([patch?.tile?.width, patch?.tile?.height]).toEqual([96, 48]);
    // What is transparent stays white.
    expect([patch?.tile?.pixels.slice(0, 6), patch?.tile?.pixels.slice(-6)]).toEqual(['c80000', 'ffffff']);
    expect(unpackDesign(packDesign(design)).patches).toEqual(design.patches);
    // Without its picture the cloth is plain.
    expect((await convert({ pictures: {}, recipe, charts: [] })).patches?.at(0)?.tile).toBeUndefined();
    const wrong = { ...cloth, print: { source: '../x', widthMm: 20 } };
    const bad = outline({ as: 'applique', applique: { ...USUAL_APPLIQUE, cloth: wrong } });
    expect(() => parseRecipe({ ...emptyRecipe(), objects: [objects[0], bad] })).toThrowError(/source/);
  });

  it('has its cloth laid on after the placement line, one for each copy as well', async () => {
    const objects = [
      square('a', 0, 0, 20),
      outline({ of: 'a', as: 'applique', applique: { ...USUAL_APPLIQUE, cloth: { look: 'dots', hex: '#112233' } } }),
    ];
    const design = await sewn(objects);
    const [patch, ...others] = design.patches ?? [];
    expect(others).toEqual([]);
    expect([patch?.look, patch?.hex]).toEqual(['dots', '#112233']);
    expect(boundsOf(patch?.rings ?? []).right).toBeCloseTo(20, 0);
    const { piece, command } = design.stitches;
    const roleAt = (row: number) => design.pieces[piece[row]]?.role;
    expect(roleAt(patch?.row ?? 0)).toBe('tack-down');
    expect(Array.from(command.subarray(0, patch?.row)).filter((each) => each === STOP).length).toBe(1);
    expect((await applique({ tackDown: 'none', cover: 'none' })).patches).toEqual([]);
    const layout: CopiesLayout = { kind: 'grid', columns: 3, rows: 1, stepXMm: 40, stepYMm: 0 };
    const copied = await sewn([...objects, copies(['a', 'o'], layout)]);
    expect(copied.patches?.map(({ rings }) => Math.round(boundsOf(rings).right)).sort((x, y) => x - y)).toEqual([
      20, 60, 100,
    ]);
  });

  it('is broken into steps of their own that are sewn as before, stops and cloth among it', async () => {
    const shape = square('a', 0, 0, 16);
    const whole = outline({ as: 'applique', name: 'Lantern' });
    const before = await sewn([shape, whole]);
    let n = 1;
    const { objects, decisions } = brokenApplique(whole, () => `step-${n++}`);
    // What went around the applique goes around its cover.
    expect(objects.map(({ id }) => id)).toEqual(['step-1', 'step-2', 'o']);
    expect(objects.map(({ name }) => name)).toEqual([
      'Lantern, placement line',
      'Lantern, tack-down',
      'Lantern, cover',
    ]);
    const recipe = { ...emptyRecipe(), objects: [shape, ...objects], decisions };
    const after = await convert({ pictures: {}, recipe: parseRecipe(recipe), charts: [] });
    expect(after.order.map((i) => after.pieces[i].role)).toEqual(before.order.map((i) => before.pieces[i].role));
    expect(stopsIn(after)).toBe(2);
    expect(after.patches?.length).toBe(1);
    expect(after.patches?.[0].row).toBe(before.patches?.[0].row);
    // Each has a thread of its own now.
    const cover = { ...objects[2], paint: { hex: '#2f756e' } };
    const other = { ...recipe, objects: [shape, objects[0], objects[1], cover] };
    const coloured = await convert({ pictures: {}, recipe: parseRecipe(other), charts: [] });
    expect(coloured.threads.length).toBe(before.threads.length + 1);
    // One that has nothing but a cover stays one.
    const alone = outline({ as: 'applique', applique: { ...USUAL_APPLIQUE, placement: false, tackDown: 'none' } });
    expect(brokenApplique(alone, () => 'x').decisions).toEqual([]);
  });

  it('moves its cover onto the cloth or off it', async () => {
    const right = async (inside: number): Promise<number> =>
      boxOf(own(await applique({ inside, placement: false, tackDown: 'none' }), 'o')).right;
    expect((await right(0)) - (await right(1))).toBeCloseTo(3, 0);
  });
});

describe('copies', () => {
  it('stand in a ring, a grid, or mirrored', () => {
    const box = { left: 0, top: 0, right: 10, bottom: 10 };
    expect(mapsOfCopies({ kind: 'ring', count: 6, radiusMm: 20, turned: true }, box).length).toBe(5);
    const grid = mapsOfCopies({ kind: 'grid', columns: 3, rows: 2, stepXMm: 12, stepYMm: 15 }, box);
    expect(grid.map(({ e, f }) => [e, f])).toEqual([
      [12, 0],
      [24, 0],
      [0, 15],
      [12, 15],
      [24, 15],
    ]);
    const [mirror] = mapsOfCopies({ kind: 'mirror', axis: 'x', gapMm: 2 }, box);
    expect([mirror.a, mirror.e]).toEqual([-1, 22]);
  });

  it('are sewn thread by thread, or each finished before the next', async () => {
    const two = [square('a', 0, 0, 8), { ...square('b', 2, 2, 4, '#c04030') }];
    const row: CopiesObject = copies(['a', 'b'], { kind: 'grid', columns: 4, rows: 1, stepXMm: 12, stepYMm: 0 });
    const columnsOf = ({ order, pieces }: Design): number[] => order.map((i) => Math.floor(pieces[i].bounds.left / 12));
    const changesOf = ({ order, pieces }: Design): number =>
      order.filter((i, k) => k > 0 && pieces[i].thread !== pieces[order[k - 1]].thread).length;
    const byThread = await sewn([...two, row]);
    expect(changesOf(byThread)).toBe(1);
    const byCopy = await sewn([...two, { ...row, oneByOne: true }]);
    expect(columnsOf(byCopy)).toEqual([0, 0, 1, 1, 2, 2, 3, 3]);
    expect(changesOf(byCopy)).toBeGreaterThan(2);
    // Copies that lie over each other keep to their turns as well.
    const near = await sewn([
      ...two,
      { ...row, layout: { ...row.layout, stepXMm: 5 } as CopiesLayout, oneByOne: true },
    ]);
    const turns = near.order.map((i) => near.pieces[i].turn?.at ?? -1);
    expect(turns).toEqual([...turns].sort((a, b) => a - b));
    expect(turns[0]).toBe(0);
  });

  it('stand along a line, turned with it or not, and follow it when it changes', async () => {
    const line = (id: string, points: readonly (readonly [number, number])[], hidden = true): ShapeObject => ({
      ...newShape(id, null, [{ closed: false, nodes: points.map(([x, y]) => [x, y, 0, 0, 0, 0]) }], { hex: '#000000' }),
      hidden,
    });
    const bar: ShapeObject = { ...square('a', 0, 0, 6), place: { a: 1, b: 0, c: 0, d: 0.5, e: 0, f: 0 } };
    const along = (turned: boolean, count = 3): CopiesObject =>
      copies(['a'], { kind: 'path', along: 'l', count, turned });
    const middles = (design: Design): [number, number][] =>
      own(design, 'c').map(({ bounds: { left, top, right, bottom } }) => [
        Math.round((left + right) / 2),
        Math.round((top + bottom) / 2),
      ]);
    const corner = line('l', [
      [0, 40],
      [40, 40],
      [40, 80],
    ]);
    const straight = await sewn([bar, corner, along(false)]);
    expect(middles(straight)).toEqual([
      [0, 40],
      [40, 40],
      [40, 80],
    ]);
    const sizes = own(await sewn([bar, corner, along(true)]), 'c').map(({ bounds: { left, right } }) =>
      Math.round(right - left),
    );
    expect(sizes[0]).toBe(6);
    expect(sizes[2]).toBe(3);
    const longer = line('l', [
      [0, 40],
      [80, 40],
    ]);
    expect(middles(await sewn([bar, longer, along(false)]))[1]).toEqual([40, 40]);
    expect(middles(await sewn([bar, longer, along(false, 1)]))).toEqual([[40, 40]]);
    // All the way round where it is closed; the line itself is sewn unless it is hidden.
    const ring = await sewn([bar, { ...square('l', 0, 30, 20), hidden: true }, along(false, 4)]);
    expect(new Set(middles(ring).map(String)).size).toBe(4);
    expect(own(ring, 'l')).toEqual([]);
    expect(() =>
      parseRecipe({
        ...emptyRecipe(),
        objects: [bar, copies(['a'], { kind: 'path', along: 'z', count: 3, turned: true })],
      }),
    ).toThrowError(/"z", which is not there/);
  });

  it('follow what they are copies of, thread by thread', async () => {
    const parts = [square('a', 0, 0, 6), square('b', 2, 2, 2, '#a03020')];
    const layout: CopiesLayout = { kind: 'grid', columns: 4, rows: 1, stepXMm: 10, stepYMm: 0 };
    const design = await sewn([...parts, copies(['a', 'b'], layout)]);
    expect(own(design, 'c').length).toBe(6);
    expect(boxOf(own(design, 'c')).right).toBeCloseTo(36, 1);
    const threads = design.order.map((i) => design.pieces[i].thread);
    expect(threads.filter((thread, i) => i > 0 && thread !== threads[i - 1]).length).toBe(1);
    const larger = await sewn([square('a', 0, 0, 8), copies(['a'], layout)]);
    for (const { areaMm2 } of own(larger, 'c')) expect(areaMm2).toBeCloseTo(64, 0);
  });

  it('take what was said of single pieces with them', async () => {
    const recipe = {
      ...emptyRecipe(),
      objects: [square('a', 0, 0, 6), copies(['a'], { kind: 'mirror', axis: 'y', gapMm: 4 })],
      decisions: [{ kind: 'sew', at: { object: 'a' }, as: 'contour', passes: 0 }],
    };
    const design = await convert({ pictures: {}, recipe: parseRecipe(recipe), charts: [] });
    expect(design.pieces.map(({ kind }) => kind)).toEqual(['contour', 'contour']);
  });

  it('are refused of nothing, of what is not there, and in hundreds', () => {
    const read = (object: object): unknown =>
      parseRecipe({ ...emptyRecipe(), objects: [square('a', 0, 0, 6), object] });
    const grid: CopiesLayout = { kind: 'grid', columns: 50, rows: 50, stepXMm: 1, stepYMm: 1 };
    expect(() => read(copies([], { kind: 'mirror', axis: 'x', gapMm: 0 }))).toThrowError(/of nothing/);
    expect(() => read(copies(['z'], { kind: 'mirror', axis: 'x', gapMm: 0 }))).toThrowError(/"z", which is not there/);
    expect(() => read(copies(['a'], grid))).toThrowError(/at most 200/);
    expect(() => read({ ...copies(['a'], grid), layout: { kind: 'spray' } })).toThrowError(/there is no "spray"/);
  });
});
