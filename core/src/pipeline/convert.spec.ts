import { svgPath, type Curve } from '../geometry/curve.js';
import { hoopToSource } from '../picture/frame.js';
import type { PieceAnchor } from '../pieces/piece-ref.js';
import { convert } from '../convert.js';
import { STEPS, type StepName } from './input.js';
import { pictureOfInput, pictureShades, preparedPicture, reducedPicture, whereColour } from './picture-questions.js';
import { writeStitchList } from '../formats/stitch-list-csv.js';
import { pictureTones, sampleColour, wholePicture } from './picture-views.js';
import { defaultRecipe, parseRecipe } from '../recipe/recipe.js';
import { pictureOf } from '../recipe/view.js';
import { flatRecipe, onePicture, type FlatRecipe } from '../test/flat-recipe.js';
import { upgradeRecipe } from '../recipe/upgrade.js';
import { createRaster } from '../picture/raster.js';
import { figuresOf } from '../sequence/figures.js';
import { likenessOf } from '../sewn-look/likeness.js';
import { step, StepCache } from './step.js';
import { distanceToRings, isInside } from '../geometry/polyline.js';
import { coverageOf } from '../test/coverage.js';
import { drawSmooth, flatScene } from '../test/draw.js';
import { ringsOf } from '../pieces/piece.js';
import { JUMP, STITCH } from '../sequence/stitch-list.js';

const { scene, palette } = flatScene(320, 5, 77);
const { raster } = drawSmooth(scene, palette, 320, 320);
type Given = Parameters<typeof onePicture>[0] & { readonly recipe: FlatRecipe };
const given: Given = { raster, pictureKey: 'k', recipe: flatRecipe(320, 320), charts: [] };
/** The picture with something else said of it. */
const inputOf = (more: Partial<Given> = {}) => onePicture({ ...given, ...more });
const input = inputOf();
const ofPicture = (more: Partial<Given> = {}) => pictureOfInput(inputOf(more));

describe('convert', () => {
  it('gives the same stitches every time, cached or not', async () => {
    const cache = new StepCache();
    const first = await convert(input, { cache });
    const again = await convert(input, { cache });
    const fresh = await convert(input);
    expect(writeStitchList(again)).toBe(writeStitchList(first));
    expect(writeStitchList(fresh)).toBe(writeStitchList(first));
  });

  it('gives the full result as it is whether a rough one came before or not', async () => {
    const cache = new StepCache();
    const rough = await convert(input, { cache, quality: 'rough' });
    const full = await convert(input, { cache });
    expect(writeStitchList(full)).toBe(writeStitchList(await convert(input)));
    // Nothing reaches under its neighbours in what is only looked at for a moment.
    expect(rough.pieces.length).toBe(full.pieces.length);
    expect(rough.stitches.count).toBeLessThan(full.stitches.count);
  });

  it('computes only the steps a change touches', async () => {
    const cache = new StepCache();
    await convert(input, { cache });
    const count = (): number[] => STEPS.map((step) => cache.computed.get(step) ?? 0);
    expect(count()).toEqual([1, 1, 1, 1, 1, 1]);
    const { recipe } = given;
    await convert(inputOf({ recipe: { ...recipe, stitches: { ...recipe.stitches, angle: 50 } } }), { cache });
    expect(count()).toEqual([1, 1, 1, 1, 1, 2]);
    await convert(inputOf({ recipe: { ...recipe, pieces: { ...recipe.pieces, strictnessMm: 0.3 } } }), { cache });
    expect(count()).toEqual([1, 1, 2, 2, 2, 3]);
    await convert(inputOf({ recipe: { ...recipe, clothHex: '#123456' } }), { cache });
    expect(count()).toEqual([1, 1, 2, 2, 2, 3]);
    await convert(input, { cache, quality: 'rough' });
    expect(count()).toEqual([2, 2, 3, 3, 3, 4]);
  });

  it('tells its steps in order and stops when its checkpoint throws', async () => {
    const told: StepName[] = [];
    await convert(input, { progress: (step) => told.at(-1) !== step && told.push(step) });
    expect(told).toEqual([...STEPS]);
    let turns = 0;
    const stopped = convert(input, {
      checkpoint: () => {
        if (++turns === 3) throw new Error('stop');
      },
    });
    await expectAsync(stopped).toBeRejectedWithError('stop');
  });

  it('sews pieces that keep to the rules of the trade', async () => {
    const design = await convert(input);
    const figures = figuresOf(design.stitches, design.threads.length);
    expect(figures.longestStitchMm).toBeLessThanOrEqual(12);
    expect(figures.shortStitchShare).toBeLessThan(0.01);
    const { stitches: list } = design;
    design.pieces.forEach((piece, index) => {
      const rows = [...list.piece.keys()].filter((i) => list.piece[i] === index);
      expect(rows.filter((i) => list.command[i] === JUMP).length)
        .withContext(piece.id)
        .toBeLessThanOrEqual(1);
      if (piece.kind !== 'tatami' || piece.areaMm2 < 20) return;
      const run = rows.filter((i) => list.command[i] === STITCH).flatMap((i) => [list.x[i], list.y[i]]);
      const rings = ringsOf(piece);
      expect(coverageOf(rings, [run]).covered)
        .withContext(piece.id)
        .toBeGreaterThan(0.98);
      // Under neighbours sewn later it may reach; elsewhere it keeps to its outline.
      const later = design.order.slice(design.order.indexOf(index) + 1).map((i) => ringsOf(design.pieces[i]));
      for (let i = 0; i < run.length; i += 2) {
        if (isInside(rings, run[i], run[i + 1])) continue;
        const under = later.some(
          (shape) => isInside(shape, run[i], run[i + 1]) || distanceToRings(shape, run[i], run[i + 1]) < 0.25,
        );
        if (under) continue;
        expect(distanceToRings(rings, run[i], run[i + 1]))
          .withContext(piece.id)
          .toBeLessThan(0.4);
      }
    });
  });

  it('leaves the plain ground bare or sews it, as the recipe says', async () => {
    const { recipe } = given;
    const kept = await convert(inputOf({ recipe: { ...recipe, picture: { ...recipe.picture, dropGround: false } } }));
    const dropped = await convert(input);
    expect(dropped.pictures[0].plainGround).toBeTrue();
    expect(kept.pieces.length).toBe(dropped.pieces.length + 1);
    expect(figuresOf(kept.stitches, 60).stitches).toBeGreaterThan(figuresOf(dropped.stitches, 60).stitches * 1.3);
  });

  it('compares with the cloth where the ground is left bare, whatever its colour', async () => {
    const green = createRaster(300, 300);
    for (let i = 0; i < 90000; i++) {
      const inside = Math.abs((i % 300) - 150) < 75 && Math.abs(i / 300 - 150) < 75;
      green.data.set(inside ? [44, 110, 128, 255] : [0, 220, 0, 255], i * 4);
    }
    const cache = new StepCache();
    const asked = { raster: green, pictureKey: 'green', recipe: flatRecipe(300, 300) };
    const design = await convert(inputOf(asked), { cache });
    const prepared = await preparedPicture(ofPicture(asked), cache);
    expect(cache.computed.get('colours')).toBe(1);
    expect(prepared.data[3]).toBe(0);
    expect(prepared.data[(150 * 300 + 150) * 4 + 3]).toBe(255);
    expect(likenessOf(design, prepared)?.deltaE).toBeLessThan(4);
    expect(likenessOf(design, green)?.deltaE).toBeGreaterThan(20);
    const kept = { ...asked, recipe: { ...asked.recipe, picture: { ...asked.recipe.picture, dropGround: false } } };
    expect((await preparedPicture(ofPicture(kept), cache)).data[3]).toBe(255);
  });

  it('matches threads of a chart, each colour to one of its own', async () => {
    const { recipe } = given;
    const threads = ['#ff0000', '#fe0000', '#00ff00', '#0000ff', '#808080', '#101010'].map((hex, i) => ({
      code: `T${i}`,
      name: `T ${i}`,
      hex,
      weight: 40,
      finish: 'matt',
    }));
    const charts = [{ id: 'test', name: 'Test', threads }];
    const chosen = { ...recipe, colours: { ...recipe.colours, charts: ['test'] } };
    const design = await convert(inputOf({ recipe: chosen, charts }));
    expect(new Set(design.threads.map((t) => t.code)).size).toBe(design.threads.length);
    expect(design.threads.every((t) => t.chart === 'test')).toBeTrue();
    await expectAsync(convert(inputOf({ recipe: chosen }))).toBeRejectedWithError(
      RangeError,
      /there is no "test"; known are none/,
    );
  });

  it('gives an empty design for a picture that is bare', async () => {
    const bare = { ...raster, data: new Uint8ClampedArray(raster.data.length) };
    const design = await convert(inputOf({ raster: bare }));
    expect(design.pieces).toEqual([]);
    expect(design.stitches.count).toBe(1);
  });
});

describe('decisions on colours', () => {
  const { recipe } = given;
  const cache = new StepCache();
  const say = (colours: Partial<FlatRecipe['colours']>, more: Partial<FlatRecipe> = {}, threads: Partial<Given> = {}) =>
    inputOf({ ...threads, recipe: { ...recipe, ...more, colours: { ...recipe.colours, ...colours } } });

  it('leave a colour bare without moving a boundary of any other', async () => {
    const cache = new StepCache();
    const before = await convert(input, { cache });
    const shapes = (design: typeof before, but: number): string[] =>
      design.pieces
        .filter((p) => p.colour !== but)
        .map((p) => `${p.colour} ${p.outline.map((curve) => svgPath(curve, 6, true)).join('')}`);
    for (const [index, colour] of before.colours.entries()) {
      if (colour.bare) continue;
      const after = await convert(say({ decisions: [{ kind: 'bare', at: colour.anchor }] }), { cache });
      expect(after.colours[index].bare).toBe('chosen');
      expect(after.colours[index].thread).toBe(-1);
      expect(after.pieces.some((p) => p.colour === index)).toBeFalse();
      expect(shapes(after, index)).toEqual(shapes(before, index));
    }
    expect(cache.computed.get('trace')).toBe(1);
  });

  it('merge a colour away: its pieces become part of the other', async () => {
    const before = await convert(input, { cache });
    const [a, b] = before.colours.filter((c) => !c.bare);
    const after = await convert(say({ decisions: [{ kind: 'merge', at: b.anchor, into: a.anchor }] }), { cache });
    const share = (hex: string): number => after.colours.find((c) => c.hex === hex)?.share ?? 0;
    expect(share(b.hex)).toBe(0);
    expect(share(a.hex)).toBeCloseTo(a.share + b.share, 2);
    expect(after.threads.length).toBe(before.threads.length - 1);
  });

  it('stay when the number of colours, the light, the turn and the mask change', async () => {
    const before = await convert(say({ count: 6 }), { cache });
    const [a, b] = before.colours.filter((c) => !c.bare);
    const decisions: FlatRecipe['colours']['decisions'] = [
      { kind: 'pin', at: a.anchor },
      { kind: 'bare', at: b.anchor },
    ];
    const mask = { shape: 'ellipse', x: 0, y: 0, widthMm: 90, heightMm: 90, turn: 0 } as const;
    for (const changed of [
      say({ count: 8, decisions }),
      say({ count: 6, decisions }),
      say({ count: 6, decisions }, { light: { ...recipe.light, brightness: 20, warmth: 20 } }),
      say({ count: 6, decisions }, { picture: { ...recipe.picture, turn: 20, mirror: true } }),
      say({ count: 6, decisions }, { picture: { ...recipe.picture, mask } }),
    ]) {
      const design = await convert(changed, { cache });
      expect(design.pictures[0].lostDecisions).toEqual([]);
      expect(design.colours.filter((c) => c.bare === 'chosen').length).toBe(1);
      expect(design.colours.filter((c) => c.pinned).length).toBeGreaterThan(0);
    }
    const lost = await convert(say({ decisions: [{ kind: 'bare', at: { hex: '#00ff00', u: 0, v: 0 } }] }), { cache });
    expect(lost.pictures[0].lostDecisions).toEqual([0]);
  });

  it('choose a thread for one colour, match to the drawer, and let colours share', async () => {
    const thread = (code: string, hex: string) => ({ code, name: code, hex, weight: 40, finish: 'plain' });
    const charts = [
      { id: 'c', name: 'C', threads: [thread('A', '#204080'), thread('B', '#208040'), thread('C', '#808080')] },
    ];
    const before = await convert(input, { cache });
    const [a] = before.colours.filter((c) => !c.bare);
    const chosen = await convert(
      say({ decisions: [{ kind: 'thread', at: a.anchor, chart: 'c', code: 'B' }] }, {}, { charts }),
      { cache },
    );
    expect(chosen.threads.map((t) => t.chart).sort()).toEqual(
      ['c', 'own', 'own', 'own'].slice(0, chosen.threads.length),
    );
    const stash = new Set(['c C']);
    const drawer = await convert(say({ charts: ['c'], stashOnly: true, distinct: false }, {}, { charts, stash }), {
      cache,
    });
    expect(drawer.threads.map((t) => t.code)).toEqual(['C']);
    expect(drawer.pieces.every((p) => p.thread === 0)).toBeTrue();
    expect(figuresOf(drawer.stitches, 1).threadChanges).toBe(0);
    await expectAsync(
      convert(say({ charts: ['c'], stashOnly: true }, {}, { charts }), { cache }),
    ).toBeRejectedWithError(RangeError, /stash: only threads of the drawer/);
  });

  it('show where a colour is, and what shades there are', async () => {
    const design = await convert(input, { cache });
    const where = await whereColour(ofPicture(), cache, 1);
    const inside = where?.inside.reduce((sum, v) => sum + v, 0) ?? 0;
    expect(inside / (320 * 320)).toBeCloseTo(design.colours[1].share, 3);
    expect((await whereColour(ofPicture(), cache, 1, 0))?.width).toBe(320);
    expect(await whereColour(ofPicture(), cache, 99)).toBeUndefined();
    expect((await pictureShades(ofPicture(), cache)).count).toBe(5);
  });
});

describe('a placed picture', () => {
  const { recipe } = given;

  it('is sewn where its mask is, in the size of the mask', async () => {
    const mask = { shape: 'circle', x: 8, y: -5, widthMm: 40, heightMm: 40, turn: 0 } as const;
    const design = await convert(
      inputOf({ recipe: { ...recipe, picture: { ...recipe.picture, mask, dropGround: false } } }),
    );
    const figures = figuresOf(design.stitches, design.threads.length);
    expect(figures.widthMm).toBeCloseTo(40, 0);
    expect(figures.heightMm).toBeCloseTo(40, 0);
    for (const { bounds } of design.pieces) {
      expect(Math.max(-bounds.left, bounds.right, -bounds.top, bounds.bottom)).toBeLessThan(20.3);
    }
  });

  it('costs the same work whether it is cut before or after it is converted', async () => {
    const cache = new StepCache();
    const mask = { shape: 'heart', x: 0, y: 0, widthMm: 70, heightMm: 70, turn: 0 } as const;
    const cut = inputOf({ recipe: { ...recipe, picture: { ...recipe.picture, mask } } });
    await convert(input, { cache });
    const after = await convert(cut, { cache });
    expect(writeStitchList(after)).toBe(writeStitchList(await convert(cut)));
  });

  it('shows its own colours to those who ask: tones, a sample, the whole of it in its light', async () => {
    const cache = new StepCache();
    const tones = await pictureTones(ofPicture(), cache);
    expect(tones.reduce((a, b) => a + b, 0)).toBe(250 * 250);
    const { hex } = sampleColour(raster, 0.005, 0.005) ?? { hex: '' };
    expect(hex).toBe('#faf6ec');
    expect(sampleColour(raster, 1.2, 0.5)).toBeUndefined();
    const grey = await wholePicture(
      ofPicture({ recipe: { ...recipe, light: { ...recipe.light, tone: 'grey' } } }),
      cache,
      1e4,
    );
    expect(grey.width * grey.height).toBeLessThanOrEqual(1e4);
    expect(grey.data[0]).toBe(grey.data[2]);
    expect(await wholePicture(ofPicture(), cache, 1e6)).toBe(raster);
  });

  it('can be reduced to ink and paper', async () => {
    const one = { ...recipe, light: { ...recipe.light, tone: 'one' as const, threshold: 150 } };
    const reduced = await reducedPicture(ofPicture({ recipe: one }));
    const colours = new Set<number>();
    for (let i = 0; i < reduced.data.length; i += 4) colours.add(reduced.data[i] * 256 + reduced.data[i + 1]);
    expect(colours.size).toBe(2);
    const design = await convert(inputOf({ recipe: one }));
    expect(design.colours.map((c) => c.bare === 'ground').filter(Boolean).length).toBe(1);
    expect(design.threads.map((t) => t.hex)).toEqual(['#1f2d2c']);
    // Paper without a drop of ink: there is nothing to sew.
    const blank = await convert(inputOf({ recipe: { ...one, light: { ...one.light, threshold: 0 } } }));
    expect(blank.pieces).toEqual([]);
  });
});

describe('decisions on pieces', () => {
  const { recipe } = given;
  const anchorOf = (design: Awaited<ReturnType<typeof convert>>, i: number): PieceAnchor => {
    const piece = design.pieces[i];
    const { u, v } = hoopToSource(recipe.picture, piece.anchor.x, piece.anchor.y);
    return { hex: design.colours[piece.colour].anchor.hex, u, v, share: piece.areaMm2 / 1e4 };
  };
  const outlines = (pieces: readonly { outline: readonly Curve[] }[]): string[] =>
    pieces.map((p) => p.outline.map((curve) => svgPath(curve, 4, true)).join('')).sort();

  it('leave a single piece bare without changing any other, and find it again', async () => {
    const cache = new StepCache();
    const before = await convert(input, { cache });
    const first = { ...recipe.pieces, decisions: [{ kind: 'bare' as const, at: anchorOf(before, 0) }] };
    await convert(inputOf({ recipe: { ...recipe, pieces: first } }), { cache });
    expect(cache.computed.get('trace')).toBe(1);
    for (let i = 0; i < before.pieces.length; i += 3) {
      const decisions = [{ kind: 'bare' as const, at: anchorOf(before, i) }];
      const said = { ...recipe, pieces: { ...recipe.pieces, decisions } };
      const after = await convert(inputOf({ recipe: said }), { cache });
      expect(after.lostPieceDecisions).toEqual([]);
      expect(after.barePieces.length).toBe(1);
      expect(after.pieces.length).toBe(before.pieces.length - 1);
      expect(outlines([...after.pieces, ...after.barePieces])).toEqual(outlines(before.pieces));
      for (const changed of [
        { ...said, pieces: { ...said.pieces, strictnessMm: 0.4 } },
        { ...said, picture: { ...said.picture, widthMm: 60, heightMm: 60 } },
        { ...said, picture: { ...said.picture, turn: 30 } },
        { ...said, light: { ...said.light, brightness: 15 } },
        { ...said, colours: { ...said.colours, count: 6 } },
      ]) {
        const again = await convert(inputOf({ recipe: changed }), { cache });
        expect(again.barePieces.length).withContext(`${before.pieces[i].id}`).toBe(1);
      }
    }
  });

  it('say which piece is no longer there', async () => {
    const gone = { kind: 'bare' as const, at: { hex: '#00ff00', u: 0.5, v: 0.5, share: 0.1 } };
    const design = await convert(inputOf({ recipe: { ...recipe, pieces: { ...recipe.pieces, decisions: [gone] } } }));
    expect(design.lostPieceDecisions).toEqual([0]);
    expect(design.barePieces).toEqual([]);
  });
});

describe('recipes of the first version', () => {
  it('are brought up to date, everything they said kept', () => {
    const now = flatRecipe(300, 200);
    const { widthMm, heightMm } = now.picture;
    const old = {
      version: 1,
      picture: { widthMm, heightMm, dropGround: false },
      colours: { count: 4, charts: ['saltline'], smallestSpotMm2: 1 },
      pieces: { strictnessMm: 0.2, cornerSharpness: 1, smallestMm2: 0.6, lineBelowMm: 1.2 },
      stitches: now.stitches,
      order: now.order,
      clothHex: '#123456',
    };
    const recipe = parseRecipe(old);
    expect([recipe.version, recipe.cloth.hex]).toEqual([7, '#123456']);
    const picture = pictureOf(recipe);
    expect(picture?.picture.dropGround).toBeFalse();
    expect(picture?.picture.mask).toBeNull();
    expect(picture?.colours).toEqual(jasmine.objectContaining({ count: 4, charts: ['saltline'], decisions: [] }));
    expect(upgradeRecipe(recipe)).toBe(recipe);
    expect(() => parseRecipe({ version: 1 })).toThrowError(RangeError);
    expect(defaultRecipe(300, 200)).toEqual(parseRecipe(flatRecipe(300, 200)));
  });

  it('and of this one are refused with what is wrong in them', () => {
    const now = flatRecipe(300, 200);
    const bad: [object, RegExp][] = [
      [{ turn: 500 }, /turn must be a number from -180 to 180, got 500/],
      [{ widthMm: 900 }, /widthMm must be a number from 5 to 400, got 900/],
      [{ mask: { shape: 'star', x: 0, y: 0, widthMm: 9, heightMm: 9, turn: 0 } }, /there is no shape "star"/],
      [
        { mask: { shape: 'free', x: 0, y: 0, widthMm: 9, heightMm: 9, turn: 0, nodes: [[1, 2]] } },
        /lists of six numbers/,
      ],
    ];
    for (const [picture, message] of bad) {
      expect(() => parseRecipe({ ...now, picture: { ...now.picture, ...picture } })).toThrowError(RangeError, message);
    }
    const decisions = [{ kind: 'paint', at: { hex: '#000000', u: 0, v: 0 } }];
    expect(() => parseRecipe({ ...now, colours: { ...now.colours, decisions } })).toThrowError(/a decision is not one/);
  });
});

describe('StepCache', () => {
  it('forgets the output unused for longest', async () => {
    const cache = new StepCache(2);
    const made: string[] = [];
    const letter = step('letter', ({ key }: { key: string }) => {
      made.push(key);
      return { key };
    });
    for (const key of ['a', 'b', 'a', 'c', 'a', 'b']) await cache.run(letter, { key });
    expect(made).toEqual(['a', 'b', 'c', 'b']);
  });

  it('keeps the outputs of several objects apart', async () => {
    const cache = new StepCache(1);
    let made = 0;
    const count = step('count', ({ key }: { key: string }) => ({ key, made: ++made }));
    for (const scope of ['a', 'b', 'a', 'b']) await cache.run(count, { key: scope }, undefined, scope);
    expect(made).toBe(2);
  });

  it('tells inputs by their content, and refuses those that have none', async () => {
    const cache = new StepCache();
    const same = step('same', ({ value }: { value: unknown }) => ({ value }));
    const first = await cache.run(same, { value: { a: [1, NaN], b: null } });
    expect(await cache.run(same, { value: { a: [1, NaN], b: null } })).toBe(first);
    expect(await cache.run(same, { value: { a: [1, null], b: null } })).not.toBe(first);
    // The output of a step is known by what it was made from.
    const next = await cache.run(same, { value: first });
    expect(await cache.run(same, { value: first })).toBe(next);
    await expectAsync(cache.run(same, { value: new Uint8Array(3) })).toBeRejectedWithError(TypeError, /has no name/);
    await expectAsync(cache.run(same, { value: () => 1 })).toBeRejectedWithError(TypeError, /is a function/);
  });
});
