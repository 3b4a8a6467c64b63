import { convert } from '../convert.js';
import { defaultRecipe, type Recipe } from '../recipe/recipe.js';
import { areaWithin, boundsOf } from '../geometry/polyline.js';
import { findingsOf } from '../findings/findings.js';
import { softScene } from '../test/photo-like.js';
import type { PictureObject } from './design-object.js';
import { colourBelow, fillBelow, groundBelow } from './fill-below.js';
import { edgeOf } from './frames.js';

describe('a fill below a picture', () => {
  const raster = softScene(240, 180);
  const base = defaultRecipe(240, 180);
  const [first] = base.objects;
  const picture = { ...first, method: 'rows' } as PictureObject;
  const placed = (place: Partial<PictureObject['picture']>): PictureObject => ({
    ...picture,
    picture: { ...picture.picture, widthMm: 40, heightMm: 30, dropGround: false, ...place },
  });
  const withFill = (under: PictureObject, hex = '#d8602a'): Recipe => ({
    ...base,
    objects: [fillBelow([under], under, 'd1', { hex }), under],
  });

  it('covers what is used of the picture, wherever it lies', () => {
    const mask = { shape: 'heart', x: 3, y: -2, widthMm: 20, heightMm: 18, turn: 0 } as const;
    for (const place of [{}, { turn: 30, xMm: 12, yMm: -7 }, { mirror: true, xMm: -4 }, { mask, xMm: 5 }]) {
      const under = placed(place);
      const { objects } = withFill(under);
      const [fill] = edgeOf(objects, 'd1') ?? [];
      const [edge] = edgeOf(objects, under.id) ?? [];
      expect(areaWithin([fill]) / areaWithin([edge])).toBeCloseTo(1, 2);
      const [a, b] = [boundsOf([fill]), boundsOf([edge])];
      expect(Math.max(Math.abs(a.left - b.left), Math.abs(a.bottom - b.bottom))).toBeLessThan(0.1);
      expect(groundBelow(objects, under)?.id).toBe('d1');
    }
  });

  it('is ground only where it lies below, is shown and covers all', () => {
    const under = placed({});
    const [fill] = withFill(under).objects;
    expect(groundBelow([under, fill], under)).toBeUndefined();
    expect(groundBelow([{ ...fill, hidden: true }, under], under)).toBeUndefined();
    const half = { ...fill, place: [0.5, 0, 0, 0.5, 0, 0] } as unknown as typeof fill;
    expect(groundBelow([half, under], under)).toBeUndefined();
  });

  it('has of the colours the picture has much of that on which the threads are seen', () => {
    const colours = [
      { hex: '#6f785f', share: 0.6 },
      { hex: '#f4e0c0', share: 0.2 },
      { hex: '#221a14', share: 0.17 },
      { hex: '#000000', share: 0.03 },
    ];
    expect(colourBelow(colours, ['#efe6d2'])).toBe('#221a14');
    expect(colourBelow(colours, ['#1a1e26'])).toBe('#f4e0c0');
    expect(colourBelow([], ['#1a1e26'])).toMatch(/^#[0-9a-f]{6}$/);
  });

  it('is sewn first, and rows count its colour as what lies below them', async () => {
    const under = placed({});
    const pictures = { [under.source]: { key: 'soft', raster } };
    const bare = await convert({ pictures, recipe: { ...base, objects: [under] }, charts: [] });
    const light = await convert({ pictures, recipe: withFill(under, base.cloth.hex), charts: [] });
    const dark = await convert({ pictures, recipe: withFill(under, '#7a4a2a'), charts: [] });
    const rowsOf = (design: typeof bare): number =>
      design.stitches.x.reduce((n, _, i) => n + (design.stitches.piece[i] >= design.pieces.length ? 1 : 0), 0);
    expect(dark.pieces.map(({ object }) => object)).toEqual(['d1']);
    expect(dark.threads[dark.stitches.thread[0]].hex).toBe('#7a4a2a');
    // In the colour of the cloth it changes nothing; a dark ground leaves less to be sewn dark.
    expect(Math.abs(rowsOf(light) - rowsOf(bare))).toBeLessThan(10);
    expect(rowsOf(dark)).toBeLessThan(0.9 * rowsOf(bare));
    // Rows on a fill are no thread of another colour where they should not be.
    const found = findingsOf(dark, dark, withFill(under, '#7a4a2a')).map(({ kind }) => kind);
    expect(found).not.toContain('wrong-colour');
    // The same rows are, where the fill is meant to lie above them.
    const { objects, ...rest } = withFill(under, '#7a4a2a');
    const above = findingsOf(dark, dark, { ...rest, objects: [...objects].reverse() }).map(({ kind }) => kind);
    expect(above).toContain('wrong-colour');
  });
});
