import { convert } from '../convert.js';
import type { ConvertInput } from './input.js';
import { figuresOf, stitchCount, threadRunsOf } from '../sequence/figures.js';
import { STOP } from '../sequence/stitch-list.js';
import { RENDER_METHODS, renderMethodOf, renderValues } from '../photo/methods/index.js';
import { defaultRecipe, parseRecipe, type Recipe } from '../recipe/recipe.js';
import { flatRecipe, onePicture, type FlatRecipe } from '../test/flat-recipe.js';
import { StepCache } from './step.js';
import { softScene } from '../test/photo-like.js';

/** Painting takes seconds in a busy browser. */
const LONG_MS = 90_000;
const raster = softScene(240, 180);

const recipeFor = (method: string, more: Partial<FlatRecipe> = {}): FlatRecipe => {
  const base = flatRecipe(240, 180);
  return { ...base, method, picture: { ...base.picture, widthMm: 40, heightMm: 30, dropGround: false }, ...more };
};
const inputFor = (recipe: FlatRecipe, picture = raster, pictureKey = 'soft'): ConvertInput =>
  onePicture({ raster: picture, pictureKey, recipe, charts: [] });

describe('renderings', () => {
  for (const { id } of RENDER_METHODS) {
    it(
      `convert a picture by ${id}, with a report of progress, the same each time`,
      async () => {
        const shares: number[] = [];
        const recipe = recipeFor(id);
        const design = await convert(inputFor(recipe), { progress: (_, share) => shares.push(share) });
        expect(design.pictures.map(({ method }) => method)).toEqual([id]);
        expect(stitchCount(design.stitches)).toBeGreaterThan(500);
        expect(shares).toEqual([...shares].sort((a, b) => a - b));
        expect(shares.at(-1)).toBe(1);
        const { longestStitchMm, threads } = figuresOf(design.stitches, design.threads.length);
        expect(longestStitchMm).toBeLessThanOrEqual(12.01);
        expect(threads.every(({ stitches }) => stitches > 0)).toBeTrue();
        const again = await convert(inputFor(recipe));
        expect(again.stitches.x).toEqual(design.stitches.x);
        expect(design.pieceIds.length).toBeGreaterThan(0);
      },
      LONG_MS,
    );

    it(
      `meet a budget of stitches by ${id}, within three in a hundred and never over`,
      async () => {
        const cache = new StepCache();
        const full = await convert(inputFor(recipeFor(id)), { cache });
        const budget = Math.round(stitchCount(full.stitches) * 0.6);
        const design = await convert(inputFor(recipeFor(id, { budget })), { cache });
        const count = stitchCount(design.stitches);
        expect(count).toBeLessThanOrEqual(budget);
        expect(count).toBeGreaterThanOrEqual(budget * 0.97);
        expect(design.gaveUp).not.toBe('');
        // A budget that is not needed changes nothing.
        const easy = await convert(inputFor(recipeFor(id, { budget: 300_000 })), { cache });
        expect(stitchCount(easy.stitches)).toBe(stitchCount(full.stitches));
        expect(easy.gaveUp).toBe('');
      },
      LONG_MS,
    );
  }

  it(
    'mix their threads once, whatever is said of single ones afterwards',
    async () => {
      const cache = new StepCache();
      const recipe = recipeFor('painting', { colours: { ...recipeFor('painting').colours, count: 6 } });
      const { threads } = await convert(inputFor(recipe), { cache });
      const hex = '#336699';
      const mix = [{ kind: 'swap' as const, hex: threads[0].hex, to: { hex } }];
      const changed = { ...recipe, rendering: { ...recipe.rendering, mix } };
      const swapped = await convert(inputFor(changed), { cache });
      expect(cache.computed.get('mixed threads')).toBe(1);
      expect(swapped.threads.map((thread) => thread.hex)).toContain(hex);
      // From nothing it is the same.
      const anew = await convert(inputFor(changed));
      expect(anew.threads).toEqual(swapped.threads);
      expect(anew.stitches.x).toEqual(swapped.stitches.x);
      // One that is kept in any case changes what the others are.
      const kept = { ...recipe, rendering: { ...recipe.rendering, mix: [{ kind: 'keep' as const, thread: { hex } }] } };
      await convert(inputFor(kept), { cache });
      expect(cache.computed.get('mixed threads')).toBe(2);
    },
    LONG_MS,
  );

  it(
    'choose their threads for what matters most, and say where rows are too wide for it',
    async () => {
      const area = [0.6, 0.1, 0.95, 0.1, 0.95, 0.5, 0.6, 0.5];
      const favoured = (method: string, count: number): FlatRecipe => {
        const recipe = recipeFor(method, { colours: { ...recipeFor(method).colours, count } });
        return { ...recipe, rendering: { ...recipe.rendering, lines: [{ kind: 'favour', threads: [], area }] } };
      };
      const recipe = favoured('painting', 4);
      const plain = { ...recipe, rendering: { ...recipe.rendering, lines: [] } };
      const [all, most] = [await convert(inputFor(plain)), await convert(inputFor(recipe))];
      const hexes = ({ threads }: typeof all): string[] => threads.map(({ hex }) => hex).sort();
      expect(hexes(most)).not.toEqual(hexes(all));
      // No line is taken away for it.
      expect(stitchCount(most.stitches)).toBeGreaterThan(stitchCount(all.stitches) / 2);
      const rows = await convert(inputFor(favoured('rows', 4)));
      expect(rows.problems.map(({ text }) => text).join()).toContain('12 mm high');
      expect((await convert(inputFor(recipeFor('rows')))).problems).toEqual([]);
    },
    LONG_MS,
  );

  it(
    'say how many stitches are needed at least',
    async () => {
      await expectAsync(convert(inputFor(recipeFor('rows', { budget: 20 })))).toBeRejectedWithError(
        RangeError,
        /20 stitches are too few/,
      );
    },
    LONG_MS,
  );

  it(
    'meet a budget with pieces as well',
    async () => {
      const full = await convert(inputFor(recipeFor('pieces')));
      const budget = Math.round(stitchCount(full.stitches) * 0.7);
      const design = await convert(inputFor(recipeFor('pieces', { budget })));
      expect(stitchCount(design.stitches)).toBeLessThanOrEqual(budget);
      expect(design.gaveUp).toMatch(/rows .* mm apart/);
    },
    LONG_MS,
  );

  it(
    'replace each other: one design never lies on another',
    async () => {
      const cache = new StepCache();
      const first = await convert(inputFor(recipeFor('rows')), { cache });
      await convert(inputFor(recipeFor('inks')), { cache });
      const back = await convert(inputFor(recipeFor('rows')), { cache });
      expect(back.stitches.x).toEqual(first.stitches.x);
    },
    LONG_MS,
  );

  it(
    'leave bare what is bare',
    async () => {
      const holed = softScene(240, 180);
      for (let i = 0; i < 240 * 180; i++) if (i % 240 < 120) holed.data[i * 4 + 3] = 0;
      for (const { id } of RENDER_METHODS) {
        const design = await convert(inputFor(recipeFor(id), holed, 'holed'));
        const { x, command, count } = design.stitches;
        for (let i = 0; i < count; i++) if (command[i] === 0) expect(x[i]).withContext(id).toBeGreaterThan(-1.2);
      }
    },
    LONG_MS,
  );

  it(
    'sew a border over themselves, and stop for the patch of an applique',
    async () => {
      const base = recipeFor('rows');
      const withBorder = (kind: 'satin' | 'applique'): FlatRecipe => ({
        ...base,
        rendering: { ...base.rendering, border: { kind, widthMm: 3, hex: '#aa2211' } },
      });
      const satin = await convert(inputFor(withBorder('satin')));
      expect(satin.threads.map(({ hex }) => hex)).toContain('#aa2211');
      expect(satin.pieces.map(({ kind }) => kind)).toEqual(['satin']);
      const applique = await convert(inputFor(withBorder('applique')));
      expect(applique.order.map((i) => applique.pieces[i].kind)).toEqual(['running', 'zigzag', 'satin']);
      const stops = applique.stitches.command.filter((c) => c === STOP).length;
      expect(stops).toBe(2);
    },
    LONG_MS,
  );

  it(
    'drop, exchange and keep threads of a mix',
    async () => {
      const base = recipeFor('painting', {});
      const few = { ...base, colours: { ...base.colours, count: 4 } };
      const before = await convert(inputFor(few));
      const [first, second] = before.threads.map(({ hex }) => hex);
      const said = await convert(
        inputFor({
          ...few,
          rendering: {
            ...few.rendering,
            mix: [
              { kind: 'drop', hex: first },
              { kind: 'swap', hex: second, to: { hex: '#123456' } },
            ],
          },
        }),
      );
      const hexes = said.threads.map(({ hex }) => hex);
      expect(hexes.length).toBe(3);
      expect(hexes).not.toContain(first);
      expect(hexes).toContain('#123456');
      const kept = await convert(
        inputFor({ ...few, rendering: { ...few.rendering, mix: [{ kind: 'keep', thread: { hex: '#00aa00' } }] } }),
      );
      expect(kept.threads.map(({ hex }) => hex)).toContain('#00aa00');
    },
    LONG_MS,
  );

  it(
    'sew threads of a mix before or after the others, who spoke last the farthest',
    async () => {
      const base = recipeFor('painting', {});
      const few = { ...base, colours: { ...base.colours, count: 4 } };
      const sewnIn = async (mix: FlatRecipe['rendering']['mix']): Promise<string[]> => {
        const { stitches, threads } = await convert(inputFor({ ...few, rendering: { ...few.rendering, mix } }));
        return threadRunsOf(stitches).map(({ thread }) => threads[thread].hex);
      };
      const plain = await sewnIn([]);
      expect(plain.length).toBe(4);
      const [a, b, c, d] = plain;
      expect(await sewnIn([{ kind: 'first', hex: c }])).toEqual([c, a, b, d]);
      const both = await sewnIn([
        { kind: 'last', hex: a },
        { kind: 'last', hex: b },
        { kind: 'first', hex: c },
        { kind: 'first', hex: d },
      ]);
      expect(both).toEqual([d, c, a, b]);
      // A thread that is not in the mix is no matter.
      expect(await sewnIn([{ kind: 'last', hex: '#010203' }])).toEqual(plain);
    },
    LONG_MS,
  );

  it(
    'run as they are told: straight, along forms, crossing, as drawn',
    async () => {
      const lists = new Set<string>();
      for (const direction of ['straight', 'forms', 'crossing', 'drawn']) {
        const base = recipeFor('painting');
        const design = await convert(
          inputFor({
            ...base,
            colours: { ...base.colours, count: 4 },
            rendering: { ...base.rendering, values: { painting: { direction } }, strokes: [[0.1, 0.1, 0.9, 0.8]] },
          }),
          { quality: 'rough' },
        );
        lists.add(design.stitches.x.slice(0, 400).join());
      }
      expect(lists.size).toBe(4);
    },
    LONG_MS,
  );

  it(
    'lose lines, or give them another thread, where that was said',
    async () => {
      const base = recipeFor('rows');
      const area = [-0.2, -0.2, 0.5, -0.2, 0.5, 1.2, -0.2, 1.2];
      const lines = (line: FlatRecipe['rendering']['lines'][number]): FlatRecipe => ({
        ...base,
        rendering: { ...base.rendering, lines: [line] },
      });
      const cut = await convert(inputFor(lines({ kind: 'delete', threads: [], area })));
      const { x, command, count } = cut.stitches;
      for (let i = 0; i < count; i++) if (command[i] === 0) expect(x[i]).toBeGreaterThan(-1.5);
      const red = await convert(inputFor(lines({ kind: 'recolour', threads: [], area, to: { hex: '#cc0011' } })));
      expect(red.threads.map(({ hex }) => hex)).toContain('#cc0011');
      expect(figuresOf(red.stitches, red.threads.length).threads.every(({ stitches }) => stitches > 0)).toBeTrue();
      expect(() => parseRecipe(lines({ kind: 'recolour', threads: [], area }))).toThrowError(
        /objects\[0\].rendering.lines\[0\].to/,
      );
      expect(() => parseRecipe(lines({ kind: 'thin', threads: ['red'], area: [] }))).toThrowError(
        /rendering: a thread must be a colour/,
      );
    },
    LONG_MS,
  );

  it(
    'stop when they are asked to',
    async () => {
      let calls = 0;
      const stop = convert(inputFor(recipeFor('painting')), {
        checkpoint: () => {
          if (++calls > 6) throw new Error('stopped');
        },
      });
      await expectAsync(stop).toBeRejectedWithError('stopped');
    },
    LONG_MS,
  );

  it(
    'may be stopped at every step on the way to the first stitch, and go on as if nothing had been',
    async () => {
      const input = inputFor(recipeFor('rows'));
      const whole = await convert(input);
      let stops = 0;
      for (let stopped = true; stopped; stops++) {
        const cache = new StepCache();
        let calls = 0;
        stopped = await convert(input, {
          cache,
          checkpoint: () => {
            if (++calls > stops) throw new Error('stopped');
          },
        }).then(
          () => false,
          () => true,
        );
        const after = await convert(input, { cache });
        expect([after.stitches.x, after.stitches.y]).toEqual([whole.stitches.x, whole.stitches.y]);
      }
      // Placing, measuring, colours, the plate: none of them is one long step.
      expect(stops).toBeGreaterThan(12);
    },
    LONG_MS,
  );
});

describe('methods of a recipe', () => {
  it(
    'are known by name, and their options kept within limits',
    () => {
      expect(() => renderMethodOf('knitting')).toThrowError(/there is no "knitting"/);
      const rows = renderMethodOf('rows');
      if (!rows) throw new Error('no rows');
      expect(renderValues(rows, { angle: 999, vary: 'closeness' })).toEqual({
        ...renderValues(rows, {}),
        vary: 'closeness',
      });
      const base = flatRecipe(100, 100);
      const bad = (rendering: object): (() => Recipe) => {
        return () => parseRecipe({ ...base, rendering: { ...base.rendering, ...rendering } });
      };
      expect(bad({ values: { rows: { angle: 999 } } })).toThrowError(/rendering: angle of rows is not within/);
      expect(bad({ values: { weaving: {} } })).toThrowError(/rendering: a method is not known/);
      expect(bad({ threads: { inks: [{ hex: 'red' }] } })).toThrowError(/thread is not as it must be/);
      expect(bad({ mix: [{ kind: 'eat', hex: '#000000' }] })).toThrowError(/rendering: a decision/);
      expect(bad({ strokes: [[1, 2, 3]] })).toThrowError(/rendering: a line must be pairs/);
      expect(() => parseRecipe({ ...base, method: 'weaving' })).toThrowError(/method: there is no "weaving"/);
      expect(() => parseRecipe({ ...base, budget: 0 })).toThrowError(/budget must be at least/);
    },
    LONG_MS,
  );

  it(
    'come into recipes of earlier versions',
    () => {
      const { method, rendering, budget, ...old } = flatRecipe(100, 100);
      expect(parseRecipe({ ...old, version: 4 })).toEqual(defaultRecipe(100, 100));
      expect([method, budget, rendering.mix]).toEqual(['pieces', null, []]);
    },
    LONG_MS,
  );
});
