import { convert } from '../convert.js';
import type { Design } from '../design/design.js';
import { hoopToSource } from '../picture/frame.js';
import { readSvg } from '../artwork/read-svg.js';
import { parseRecipe } from '../recipe/recipe.js';
import { StepCache } from '../pipeline/step.js';
import { drawSmooth } from '../test/draw.js';
import { flatRecipe, flatShape, onePicture, type FlatShape } from '../test/flat-recipe.js';
import type { PieceAnchor } from './piece-ref.js';

const PALETTE = [
  { r: 250, g: 248, b: 240 },
  { r: 20, g: 60, b: 90 },
  { r: 210, g: 60, b: 40 },
];
/** Two discs that touch, a third apart, and a cross of lines. */
const { raster } = drawSmooth(
  (x, y) => {
    if ((x - 90) ** 2 + (y - 90) ** 2 < 2500) return 1;
    if ((x - 190) ** 2 + (y - 90) ** 2 < 2500) return 2;
    if ((x - 90) ** 2 + (y - 230) ** 2 < 900) return 1;
    if ((Math.abs(x - 220) < 3 && y > 180 && y < 280) || (Math.abs(y - 230) < 3 && x > 170 && x < 270)) return 1;
    return 0;
  },
  PALETTE,
  320,
  320,
);
const base = flatRecipe(320, 320);
const cache = new StepCache();
const run = (decisions: readonly object[], drawn: readonly FlatShape[] = [], change = {}): Promise<Design> =>
  convert(
    onePicture({
      raster,
      pictureKey: 'k',
      charts: [],
      recipe: { ...base, pieces: { ...base.pieces, decisions, drawn, ...change } },
    }),
    { cache },
  );

describe('decisions on pieces of every kind', () => {
  let plain: Design;
  let at: PieceAnchor[];
  let big: number;
  let red: number;
  let small: number;
  let cross: number;

  beforeAll(async () => {
    plain = await run([]);
    at = plain.pieces.map((piece) => {
      const { u, v } = hoopToSource(base.picture, piece.anchor.x, piece.anchor.y);
      return { hex: plain.colours[piece.colour].anchor.hex, u, v, share: piece.areaMm2 / 10_000 };
    });
    const bySize = plain.pieces.map((_, i) => i).sort((a, b) => plain.pieces[b].areaMm2 - plain.pieces[a].areaMm2);
    cross = plain.pieces.findIndex((p) => p.kind !== 'tatami');
    red = plain.pieces.findIndex((p) => plain.colours[p.colour].hex.startsWith('#d2'));
    [big] = bySize.filter((i) => i !== red);
    small = bySize.find((i) => i !== red && i !== big && i !== cross) as number;
  });

  it('sews lines as often as was said, and other pieces as they were', async () => {
    const passes = async (...said: object[]): Promise<number[]> =>
      (await run(said)).pieces.map((piece) => piece.passes);
    expect(await passes({ kind: 'stitch', at: at[small], set: { passes: 3 } })).toEqual(
      plain.pieces.map((_, i) => (i === small ? 3 : 0)),
    );
    // A stitch kind that was chosen says it by itself.
    const chosen = { kind: 'sew', at: at[small], as: 'running', passes: 1 };
    expect((await passes({ kind: 'stitch', at: at[small], set: { passes: 3 } }, chosen))[small]).toBe(1);
  });

  it('starts from four pieces', () => {
    expect(plain.pieces.length).toBe(4);
    expect(new Set([big, red, small, cross]).size).toBe(4);
  });

  it('sews a piece in another way, and says so', async () => {
    const after = await run([{ kind: 'sew', at: at[cross], as: 'tatami', passes: 0 }]);
    expect(after.pieces[cross].kind).toBe('tatami');
    expect(after.pieces[cross].chosen).toBeTrue();
    expect(after.pieces[cross].decisions).toEqual([0]);
    const line = await run([{ kind: 'sew', at: at[small], as: 'running', passes: 2 }]);
    expect(line.pieces[small].kind).toBe('running');
    expect(line.pieces[small].passes).toBe(2);
    expect(line.pieces[small].paths.length).toBeGreaterThan(0);
  });

  it('gives a piece the thread of another colour, of a chart, or a colour of its own', async () => {
    const like = await run([
      { kind: 'thread', at: at[small], to: { like: plain.colours[plain.pieces[red].colour].anchor } },
    ]);
    expect(like.pieces[small].thread).toBe(like.pieces[red].thread);
    expect(like.threads.length).toBe(2);
    const own = await run([{ kind: 'thread', at: at[small], to: { hex: '#00aa55' } }]);
    expect(own.threads.map((t) => t.hex)).toContain('#00aa55');
    expect(own.threads[own.pieces[small].thread].hex).toBe('#00aa55');
    const gone = await run([{ kind: 'thread', at: at[small], to: { like: { hex: '#00ff00', u: 0.9, v: 0.9 } } }]);
    expect(gone.lostPieceDecisions).toEqual([0]);
  });

  it('sews pieces in the order the user wants', async () => {
    expect(plain.order.indexOf(red)).not.toBe(0);
    const first = await run([{ kind: 'order', at: at[red], before: 'first' }]);
    expect(first.order[0]).toBe(red);
    const last = await run([{ kind: 'order', at: at[big], before: 'last' }]);
    expect(last.order.at(-1)).toBe(big);
    const before = await run([{ kind: 'order', at: at[cross], before: at[big] }]);
    expect(before.order.indexOf(cross)).toBe(before.order.indexOf(big) - 1);
    expect([...before.order].sort()).toEqual([...plain.order].sort());
  });

  it('combines pieces and takes them apart again', async () => {
    const joined = await run([{ kind: 'join', at: at[small], to: at[big] }]);
    expect(joined.pieces.length).toBe(3);
    const one = joined.pieces.find((p) => p.decisions.includes(0));
    expect(one?.areaMm2).toBeCloseTo(plain.pieces[small].areaMm2 + plain.pieces[big].areaMm2, 1);
    // What was said of either still finds the piece they became.
    const said = await run([
      { kind: 'join', at: at[small], to: at[big] },
      { kind: 'sew', at: at[small], as: 'tatami', passes: 0 },
    ]);
    expect(said.lostPieceDecisions).toEqual([]);
    const apart = await run([
      { kind: 'join', at: at[small], to: at[big] },
      { kind: 'apart', at: at[big] },
    ]);
    expect(apart.pieces.length).toBe(4);
  });

  it('takes a net of lines apart into its branches', async () => {
    const after = await run([{ kind: 'apart', at: at[cross] }]);
    expect(after.pieces.length).toBe(3 + 4);
  });

  it('sews what is too small where it is asked to', async () => {
    const artwork = readSvg(
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><rect x="10" y="10" width="60" height="60" fill="#143c5a"/><circle cx="85" cy="85" r="2" fill="#d23c28"/></svg>',
    );
    const sew = (decisions: readonly object[]): Promise<Design> =>
      convert(
        onePicture({
          raster,
          artwork,
          pictureKey: 'art',
          charts: [],
          recipe: { ...base, pieces: { ...base.pieces, smallestMm2: 40, decisions } },
        }),
      );
    const without = await sew([]);
    expect(without.pieces.length).toBe(1);
    expect(without.tooSmall.length).toBe(1);
    expect(without.tooSmall[0].x).toBeCloseTo(35, 0);
    const kept = await sew([{ kind: 'keep', at: { hex: '#d23c28', u: 0.85, v: 0.85, share: 0.00126 } }]);
    expect(kept.pieces.length).toBe(2);
    expect(kept.tooSmall.length).toBe(0);
  });

  describe('drawn pieces', () => {
    const square = (x: number, y: number, side: number): FlatShape['paths'] => [
      {
        closed: true,
        nodes: [
          [x, y, 0, 0, 0, 0],
          [x + side, y, 0, 0, 0, 0],
          [x + side, y + side, 0, 0, 0, 0],
          [x, y + side, 0, 0, 0, 0],
        ],
      },
    ];

    it('lie on top, in the thread they were given', async () => {
      const after = await run([], [flatShape('d1', square(0.6, 0.05, 0.1), { hex: '#884400' })]);
      const piece = after.pieces.find((p) => p.object === 'd1');
      expect(piece?.areaMm2).toBeCloseTo(100, 0);
      expect(piece?.bounds.left).toBeCloseTo(10, 1);
      expect(after.threads[piece?.thread ?? 0].hex).toBe('#884400');
      expect(piece?.origin).toBe('drawn');
    });

    it('cut away what lies below where they are wide, and are sewn over it where they are narrow', async () => {
      const over = flatShape('d1', square(0.22, 0.22, 0.1), { hex: '#884400' });
      const cut = await run([], [over]);
      const whole = await run([], [over], { keepBelowMm: 50 });
      const below = (d: Design): number => d.pieces.find((p) => p.origin === 'traced' && p.areaMm2 > 500)?.areaMm2 ?? 0;
      expect(below(whole) - below(cut)).toBeCloseTo(100, 0);
      const asked = await run([{ kind: 'hidden', at: at[big], cut: true }], [over], { keepBelowMm: 50 });
      expect(below(asked)).toBeCloseTo(below(cut), 0);
      const order = whole.order.map((i) => whole.pieces[i].object);
      expect(order.indexOf('d1')).toBeGreaterThan(whole.order.findIndex((i) => whole.pieces[i].areaMm2 > 500));
    });

    it('are lines where they are open, with copies in a ring', async () => {
      const line: FlatShape = {
        ...flatShape(
          'd1',
          [
            {
              closed: false,
              nodes: [
                [0.5, 0.9, 0, 0, 0.02, 0.02],
                [0.6, 0.9, -0.02, 0.02, 0, 0],
              ],
            },
          ],
          { hex: '#884400' },
        ),
        copies: { count: 5, radiusMm: 12 },
      };
      const after = await run([], [line]);
      const own = after.pieces.filter((p) => p.origin === 'drawn');
      expect(own.map((p) => p.part)).toEqual([undefined, '2', '3', '4', '5']);
      expect(own.every((p) => p.object === 'd1')).toBeTrue();
      expect(own.every((p) => p.kind === 'running' && p.paths.length === 1)).toBeTrue();
    });

    it('cut holes, and take the place of the piece they were made from', async () => {
      const hole: FlatShape = { ...flatShape('d1', square(0.22, 0.22, 0.1), { hex: '#000000' }), role: 'hole' };
      const holed = await run([], [hole]);
      const sum = (d: Design): number => d.pieces.reduce((total, p) => total + p.areaMm2, 0);
      expect(sum(plain) - sum(holed)).toBeCloseTo(100, 0);
      const instead: FlatShape = {
        ...flatShape('d1', square(0.2, 0.2, 0.05), { hex: '#000000' }),
        replaces: at[big],
      };
      const after = await run([], [instead]);
      expect(after.pieces.length).toBe(4);
      expect(
        after.pieces.some((p) => p.areaMm2 > 0.99 * plain.pieces[big].areaMm2 && p.colour === plain.pieces[big].colour),
      ).toBeFalse();
    });

    it('go with the picture when it is turned and scaled', async () => {
      const own = flatShape('d1', square(0.6, 0.05, 0.1), { hex: '#884400' });
      const recipe = {
        ...base,
        picture: { ...base.picture, widthMm: 50, heightMm: 50, turn: 90 },
        pieces: { ...base.pieces, drawn: [own] },
      };
      const turned = await convert(onePicture({ raster, pictureKey: 'k', charts: [], recipe }), { cache });
      const piece = turned.pieces.find((p) => p.object === 'd1');
      expect(piece?.areaMm2).toBeCloseTo(25, 0);
      expect(piece?.bounds.right).toBeCloseTo(22.5, 1);
      expect(piece?.bounds.top).toBeCloseTo(5, 1);
    });
  });

  it('are checked when they are read', () => {
    const withPieces = (pieces: object): unknown => ({ ...base, pieces: { ...base.pieces, ...pieces } });
    const good: object[] = [
      { kind: 'order', at: at[big], before: { drawn: 'd1' } },
      { kind: 'thread', at: at[big], to: { chart: 'a', code: 'b' } },
      { kind: 'join', at: at[big], to: at[red] },
    ];
    expect(() => parseRecipe(withPieces({ decisions: good }))).not.toThrow();
    for (const bad of [
      { kind: 'order', at: at[big], before: 'middle' },
      { kind: 'sew', at: at[big], as: 'glue', passes: 0 },
      { kind: 'thread', at: at[big], to: at[red] },
      { kind: 'hidden', at: at[big] },
      { kind: 'bare', at: at[big], more: 1 },
    ]) {
      expect(() => parseRecipe(withPieces({ decisions: [bad] })))
        .withContext(bad.kind)
        .toThrowError(/recipe: (decision|pieces|order|stitch kind|thread|decisions)/);
    }
    const own = flatShape(
      'd1',
      [
        {
          closed: true,
          nodes: [
            [0, 0, 0, 0, 0, 0],
            [1, 1, 0, 0, 0, 0],
          ],
        },
      ],
      { hex: '#000000' },
    );
    expect(() => parseRecipe(withPieces({ drawn: [own] }))).not.toThrow();
    expect(() => parseRecipe(withPieces({ drawn: [{ ...own, widthMm: 900 }] }))).toThrowError(
      /lineWidthMm must be a number from 0.1 to 20/,
    );
    expect(() =>
      parseRecipe(withPieces({ drawn: [{ ...own, paths: [{ closed: true, nodes: [[0, 0]] }] }] })),
    ).toThrowError(/lists of six numbers/);
  });
});
