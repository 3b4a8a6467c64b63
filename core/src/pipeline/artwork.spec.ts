import { readSvg } from '../artwork/read-svg.js';
import { convert } from '../convert.js';
import type { Design } from '../design/design.js';
import { outlineAt, pictureOfInput, whereColour } from './picture-questions.js';
import { createRaster } from '../picture/raster.js';
import { parseRecipe } from '../recipe/recipe.js';
import { pictureOf } from '../recipe/view.js';
import { flatRecipe, onePicture, type FlatRecipe } from '../test/flat-recipe.js';
import { STITCH } from '../sequence/stitch-list.js';
import { StepCache } from './step.js';

const ART = readSvg(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">
<rect width="100" height="100" fill="#f0ead8"/><rect x="10" y="10" width="50" height="50" fill="#204060"/>
<circle cx="60" cy="60" r="20" fill="#c04020"/><path d="M10 85H90" stroke="#208040" stroke-width="0.6"/>
<circle cx="88" cy="12" r="5" fill="#000000" opacity="0.5"/></svg>`);
const raster = createRaster(200, 200);
raster.data.fill(255);
const base = flatRecipe(200, 200);

describe('converting vector artwork', () => {
  const cache = new StepCache();
  const run = (
    change: (recipe: FlatRecipe) => FlatRecipe = (r) => r,
    quality: 'rough' | 'full' = 'full',
  ): Promise<Design> =>
    convert(onePicture({ raster, artwork: ART, pictureKey: 'art', charts: [], recipe: change(base) }), {
      cache,
      quality,
    });
  let plain: Design;
  beforeAll(async () => (plain = await run()));

  it('takes shapes as pieces, without the plain ground', () => {
    expect(plain.pictures[0].vector).toBeTrue();
    expect(plain.pictures[0].plainGround).toBeTrue();
    expect(plain.pieces.map((p) => p.origin)).toEqual(['artwork', 'artwork', 'artwork', 'artwork']);
    expect(plain.pieces.map((p) => p.kind)).toEqual(['tatami', 'tatami', 'running', 'tatami']);
    // The circle keeps its four curves: it never was pixels.
    expect(plain.pieces[1].outline[0].kinds).toEqual(['C', 'C', 'C', 'C']);
    // Measured on points 0.02 mm off the curve at most.
    expect(Math.abs(plain.pieces[1].areaMm2 - Math.PI * 400)).toBeLessThan(2);
  });

  it('keeps every colour, those that let the cloth through mixed with it', async () => {
    expect(plain.threads.map((t) => t.hex).sort()).toEqual(['#204060', '#208040', '#7a7975', '#c04020']);
    const white = await run((r) => ({ ...r, clothHex: '#ffffff' }));
    expect(white.threads.map((t) => t.hex)).toContain('#808080');
  });

  it('cuts away what is hidden, and sews the upper shape later', async () => {
    expect(plain.pieces[0].areaMm2).toBeLessThan(2500);
    expect(plain.order.indexOf(0)).toBeLessThan(plain.order.indexOf(1));
    const kept = await run((r) => ({ ...r, pieces: { ...r.pieces, keepBelowMm: 100 } }));
    expect(kept.pieces[0].areaMm2).toBeCloseTo(2500, 3);
  });

  it('obeys decisions on colours and the ground as pictures do', async () => {
    const { anchor } = plain.colours[plain.pieces[1].colour];
    const bare = await run((r) => ({ ...r, colours: { ...r.colours, decisions: [{ kind: 'bare', at: anchor }] } }));
    expect(bare.pieces.length).toBe(3);
    const ground = await run((r) => ({ ...r, picture: { ...r.picture, dropGround: false } }));
    expect(ground.pieces.length).toBe(5);
    const few = await run((r) => ({ ...r, colours: { ...r.colours, count: 3 } }));
    expect(few.threads.length).toBeLessThanOrEqual(3);
  });

  it('goes with the picture when it is turned, mirrored, cut and lit', async () => {
    const turned = await run((r) => ({ ...r, picture: { ...r.picture, turn: 90 } }));
    expect(turned.pieces[0].bounds.right).toBeCloseTo(40, 1);
    const mask = { shape: 'circle', x: 0, y: 0, widthMm: 40, heightMm: 40, turn: 0 } as const;
    const cut = await run((r) => ({ ...r, picture: { ...r.picture, mask } }));
    for (const { bounds } of cut.pieces) expect(Math.max(bounds.right, -bounds.left)).toBeLessThan(20.1);
    const grey = await run((r) => ({ ...r, light: { ...r.light, tone: 'grey' } }));
    for (const { hex } of grey.threads) expect(hex.slice(1, 3)).toBe(hex.slice(3, 5));
  });

  it('gives the same pieces roughly and finely', async () => {
    const rough = await run((r) => r, 'rough');
    expect(rough.pieces.map((p) => p.areaMm2.toFixed(3))).toEqual(plain.pieces.map((p) => p.areaMm2.toFixed(3)));
  });

  it('sews every piece, and no needle point far outside', () => {
    const { stitches } = plain;
    const sewn = new Set<number>();
    for (let i = 0; i < stitches.count; i++) {
      if (stitches.command[i] !== STITCH) continue;
      sewn.add(stitches.piece[i]);
      expect(Math.abs(stitches.x[i])).toBeLessThan(46);
    }
    for (const piece of plain.pieces.keys()) expect(sewn.has(piece)).toBeTrue();
  });

  it('sews a ring within a ring of one path each on its own line', async () => {
    const rings = readSvg(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">
      <path fill="none" stroke="#c04020" stroke-width="0.8"
        d="M30 50a20 20 0 1 0 40 0a20 20 0 1 0 -40 0ZM40 50a10 10 0 1 0 20 0a10 10 0 1 0 -20 0Z"/></svg>`);
    const { pieces, stitches } = await convert(
      onePicture({ raster, artwork: rings, pictureKey: 'rings', charts: [], recipe: base }),
    );
    expect(pieces.map(({ paths }) => paths.length)).toEqual([1, 1]);
    for (const [k, { bounds }] of pieces.entries()) {
      const xs = [...stitches.x.keys()].filter((i) => stitches.piece[i] === k).map((i) => stitches.x[i]);
      expect(Math.min(...xs) - bounds.left).toBeLessThan(1);
      expect(bounds.right - Math.max(...xs)).toBeLessThan(1);
    }
  });

  it('says where a colour shows, and gives the outline of a shape', async () => {
    const input = pictureOfInput(onePicture({ raster, artwork: ART, pictureKey: 'art', charts: [], recipe: base }));
    const where = await whereColour(input, cache, plain.pieces[1].colour);
    const share = (where?.inside.reduce((a, b) => a + b, 0) ?? 0) / (where?.inside.length ?? 1);
    expect(share).toBeCloseTo((Math.PI * 400) / 10_000, 2);
    const outline = await outlineAt(input, cache, 0.6, 0.6);
    expect(outline?.paths.map((p) => [p.closed, p.nodes.length])).toEqual([[true, 4]]);
    expect(outline?.like.hex).toBe('#c04020');
    expect(await outlineAt(input, cache, 5, 5)).toBeUndefined();
  });
});

describe('outlineAt', () => {
  it('takes the outline of a colour of a picture, with its holes', async () => {
    const picture = createRaster(120, 120);
    for (let i = 0; i < 120 * 120; i++) {
      const d = Math.hypot((i % 120) - 60, Math.floor(i / 120) - 60);
      picture.data.set(d < 40 && d > 20 ? [32, 64, 96, 255] : [255, 255, 255, 255], i * 4);
    }
    const input = pictureOfInput(
      onePicture({ raster: picture, pictureKey: 'ring', charts: [], recipe: flatRecipe(120, 120) }),
    );
    const outline = await outlineAt(input, new StepCache(), 0.75, 0.5);
    expect(outline?.paths.length).toBe(2);
    expect(outline?.like.hex).toBe('#204060');
    for (const [u, v] of outline?.paths[0].nodes ?? []) {
      expect(Math.hypot(u - 0.5, v - 0.5)).toBeCloseTo(1 / 3, 1);
    }
  });

  it('takes by a tolerance what is nearly of the colour it was pointed at, whatever colours the design has', async () => {
    // Shades from dark on the left to light on the right, with a grain of single pixels.
    const picture = createRaster(120, 80);
    for (let i = 0; i < 120 * 80; i++) {
      const shade = 40 + (i % 120) + (i % 31 === 0 ? 60 : 0);
      picture.data.set([shade, shade, shade, 255], i * 4);
    }
    const recipe = flatRecipe(120, 80);
    const input = pictureOfInput(onePicture({ raster: picture, pictureKey: 'shades', charts: [], recipe }));
    const widths: number[] = [];
    for (const tolerance of [4, 8, 16]) {
      const outline = await outlineAt(input, new StepCache(), 0.5, 0.5, tolerance);
      expect(outline?.paths.length).toBe(1);
      const across = (outline?.paths[0].nodes ?? []).map(([u]) => u);
      const [left, right] = [Math.min(...across), Math.max(...across)];
      expect(left).toBeLessThan(0.5);
      expect(right).toBeGreaterThan(0.5);
      widths.push(right - left);
    }
    expect(widths[1]).toBeGreaterThan(widths[0] * 1.6);
    expect(widths[2]).toBeGreaterThan(widths[1] * 1.6);
    expect(await outlineAt(input, new StepCache(), 0.5, 2, 8)).toBeUndefined();
  });
});

describe('recipes of the second version', () => {
  it('sew what they sewed: without satin, nothing drawn', () => {
    const { satinBelowMm, keepBelowMm, drawn, ...pieces } = base.pieces;
    expect([satinBelowMm > 0, keepBelowMm > 0, drawn.length]).toEqual([true, true, 0]);
    const old = parseRecipe({ ...base, version: 2, pieces });
    expect(old.version).toBe(7);
    expect(pictureOf(old)?.pieces.satinBelowMm).toBe(0);
    expect(old.objects.length).toBe(1);
  });
});
