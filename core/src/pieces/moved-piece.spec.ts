import type { Matrix } from '../artwork/matrix.js';
import { convert } from '../convert.js';
import type { Design } from '../design/design.js';
import type { PictureObject } from '../objects/design-object.js';
import { objectFrame, wholeMm2Of } from '../objects/frames.js';
import { placeChosen } from '../objects/place-chosen.js';
import { defaultRecipe, type Recipe } from '../recipe/recipe.js';
import { drawSmooth } from '../test/draw.js';
import { onePicture } from '../test/flat-recipe.js';
import { findAgain, refOfPiece, candidatesOf } from './find-again.js';
import type { Piece } from './piece.js';

const PALETTE = [
  { r: 250, g: 248, b: 240 },
  { r: 20, g: 60, b: 90 },
  { r: 210, g: 60, b: 40 },
  { r: 222, g: 74, b: 52 },
  { r: 34, g: 72, b: 104 },
];
const disc = (x: number, y: number, cx: number, cy: number, r: number): boolean =>
  (x - cx) ** 2 + (y - cy) ** 2 < r * r;
/** A blue disc, a red one, and two smaller ones of nearly the same colours. */
const { raster } = drawSmooth(
  (x, y) => {
    if (disc(x, y, 80, 90, 50)) return 1;
    if (disc(x, y, 220, 90, 44)) return 2;
    if (disc(x, y, 80, 230, 36)) return 3;
    if (disc(x, y, 220, 230, 36)) return 4;
    return 0;
  },
  PALETTE,
  320,
  320,
);
const run = (recipe: Recipe): Promise<Design> =>
  convert(onePicture({ raster, pictureKey: 'discs', recipe, charts: [] }));

const refOf = (design: Design, recipe: Recipe, piece: Piece) =>
  refOfPiece(
    piece,
    { wholeMm2: (id) => wholeMm2Of(recipe.objects, id), colours: design.colours },
    objectFrame(recipe.objects, piece.object).toFrame,
  );
const BY: Matrix = { a: 0, b: 0.7, c: -0.7, d: 0, e: 30, f: 5 };
const middle = ({ bounds }: Piece): { x: number; y: number } => ({
  x: (bounds.left + bounds.right) / 2,
  y: (bounds.top + bounds.bottom) / 2,
});

describe('a found piece that was moved, scaled and given another thread', () => {
  const start = { ...defaultRecipe(320, 320) };
  let recipe: Recipe;
  let before: Piece;
  let after: Piece;
  let design: Design;

  const ownIn = (made: Design, now: Recipe): Piece | undefined => {
    const ref = refOf(design, recipe, after);
    const candidates = candidatesOf(made.pieces, {
      wholeMm2: (id) => wholeMm2Of(now.objects, id),
      colours: made.colours,
    });
    const at = findAgain(candidates, ref, objectFrame(now.objects, ref.object).toHoop);
    return made.pieces[at];
  };

  beforeAll(async () => {
    const plain = await run(start);
    before = plain.pieces.reduce((most, piece) => (piece.bounds.left < most.bounds.left ? piece : most));
    const at = refOf(plain, start, before);
    const placed = placeChosen(start, { objects: [], pieces: [at] }, BY);
    if (!placed) throw new Error('not placed');
    recipe = { ...start, ...placed, decisions: [...placed.decisions, { kind: 'thread', at, to: { hex: '#11aa66' } }] };
    design = await run(recipe);
    after = design.pieces.find(({ moved }) => moved) as Piece;
  });

  it('lies where it was moved to, over what it meets', () => {
    const { x, y } = middle(before);
    expect(middle(after).x).toBeCloseTo(-0.7 * y + 30, 1);
    expect(middle(after).y).toBeCloseTo(0.7 * x + 5, 1);
    expect(after.areaMm2).toBeCloseTo(before.areaMm2 * 0.49, 0);
    expect(design.threads[after.thread].hex).toBe('#11aa66');
    const rows = design.stitches;
    const own = design.pieces.indexOf(after);
    let far = 0;
    for (let i = 0; i < rows.count; i++) {
      if (rows.piece[i] !== own || rows.command[i] !== 0) continue;
      far = Math.max(far, Math.abs(rows.x[i] - middle(after).x), Math.abs(rows.y[i] - middle(after).y));
    }
    expect(far).toBeLessThan((after.bounds.right - after.bounds.left) / 2 + 1.5);
  });

  it('is the same piece as before to whoever looks for it', () => {
    expect(design.lostPieceDecisions).toEqual([]);
    expect(ownIn(design, recipe)).toBe(after);
  });

  it('stays so with fewer colours, a stricter outline and a picture of half the size', async () => {
    const picture = recipe.objects[0] as PictureObject;
    const changes: Partial<PictureObject>[] = [
      { colours: { ...picture.colours, count: 3 } },
      { pieces: { ...picture.pieces, strictnessMm: 0.3 } },
      { picture: { ...picture.picture, widthMm: 50, heightMm: 50 } },
    ];
    for (const change of changes) {
      const changed = { ...recipe, objects: [{ ...picture, ...change }] };
      const made = await run(changed);
      expect(made.lostPieceDecisions).toEqual([]);
      const own = ownIn(made, changed);
      expect(own && made.threads[own.thread].hex).toBe('#11aa66');
      const half = change.picture ? 0.5 : 1;
      expect(own && middle(own).x).toBeCloseTo(middle(after).x * half, 0);
      expect(own && middle(own).y).toBeCloseTo(middle(after).y * half, 0);
    }
  });

  it('keeps what is said of its stitches before and after, in its own place', async () => {
    const at = refOf(design, recipe, after);
    const { u, v } = objectFrame(recipe.objects, after.object).toFrame(before.anchor.x, before.anchor.y);
    const said = { ...recipe, decisions: [{ kind: 'entry' as const, at, u, v }, ...recipe.decisions] };
    const made = await run(said);
    const entry = made.pieces.find(({ moved }) => moved)?.choices.entry;
    expect(entry?.x).toBeCloseTo(-0.7 * before.anchor.y + 30, 3);
    expect(entry?.y).toBeCloseTo(0.7 * before.anchor.x + 5, 3);
  });
});
