import { convert } from '../convert.js';
import type { Design } from '../design/design.js';
import { seededRandom } from '../geometry/chance.js';
import { isInside } from '../geometry/polyline.js';
import { objectFrame, wholeMm2Of } from '../objects/frames.js';
import { onePicture } from '../test/flat-recipe.js';
import { drawSmooth, flatScene } from '../test/draw.js';
import { defaultRecipe, FIRST_PICTURE, parseRecipe, type Recipe } from '../recipe/recipe.js';
import { refOfPiece } from './find-again.js';
import { ringsOf, type Piece } from './piece.js';

/** Sequences drawn by each run; more are drawn where somebody asks for them. */
const SEQUENCES = 24;
const SIDE = 200;

type Random = () => number;
type Change = (recipe: Mutable, random: Random) => void;
/** A recipe that may be changed in place. */
interface Mutable {
  objects: {
    id: string;
    picture: { widthMm: number; heightMm: number; turn: number; mirror: boolean; xMm: number; yMm: number };
    colours: { count: number | 'auto' };
    pieces: { strictnessMm: number };
    light: { brightness: number };
  }[];
}
const first = (recipe: Mutable): Mutable['objects'][number] => {
  const found = recipe.objects.find(({ id }) => id === FIRST_PICTURE);
  if (!found) throw new Error('no picture');
  return found;
};

const CHANGES: Readonly<Record<string, Change>> = {
  scale: (recipe, random) => {
    const { picture } = first(recipe);
    const factor = 0.75 + random() * 0.6;
    picture.widthMm *= factor;
    picture.heightMm *= factor;
  },
  turn: (recipe, random) => void (first(recipe).picture.turn = Math.round(random() * 358) - 179),
  mirror: (recipe) => void (first(recipe).picture.mirror = !first(recipe).picture.mirror),
  move: (recipe, random) => void (first(recipe).picture.xMm = Math.round(random() * 20)),
  strictness: (recipe, random) => void (first(recipe).pieces.strictnessMm = 0.06 + random() * 0.3),
  colours: (recipe, random) => void (first(recipe).colours.count = 4 + Math.floor(random() * 3)),
  light: (recipe, random) => void (first(recipe).light.brightness = Math.round((random() - 0.5) * 20)),
  drawing: (recipe, random) => {
    const at = 0.02 + random() * 0.05;
    const shape = {
      kind: 'shape',
      id: `d${recipe.objects.length}`,
      name: '',
      on: FIRST_PICTURE,
      hidden: false,
      locked: false,
      place: { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 },
      role: 'piece',
      paths: [
        {
          closed: true,
          nodes: [
            [at, at, 0, 0, 0, 0],
            [at + 0.06, at, 0, 0, 0, 0],
            [at, at + 0.06, 0, 0, 0, 0],
          ],
        },
      ],
      widthMm: 0.8,
      as: 'auto',
      passes: 0,
      paint: { hex: '#123456' },
      copies: { count: 1, radius: 0.1 },
      replaces: null,
    };
    recipe.objects.push(shape as never);
  },
};

interface Tally {
  said: number;
  /** Swallowed by a larger piece or cut into smaller ones: there is no such piece any more. */
  gone: number;
  found: number;
  /** Not found, and not told to the user either. */
  silent: number;
  readonly misses: string[];
}

async function runSequence(seed: number, tally: Tally): Promise<void> {
  const random = seededRandom(seed);
  const { scene, palette } = flatScene(SIDE, 4 + Math.floor(random() * 4), seed);
  const { raster } = drawSmooth(scene, palette, SIDE, SIDE);
  const design = (recipe: Recipe): Promise<Design> =>
    convert(onePicture({ raster, pictureKey: `fuzz ${seed}`, recipe, charts: [] }), { quality: 'rough' });
  const start = defaultRecipe(SIDE, SIDE);
  const before = await design(start);
  const { toFrame } = objectFrame(start.objects, FIRST_PICTURE);
  const refOf = (piece: Piece) =>
    refOfPiece(piece, { wholeMm2: (id) => wholeMm2Of(start.objects, id), colours: before.colours }, toFrame);
  const large = before.pieces.filter(({ areaMm2 }) => areaMm2 > 4);
  if (large.length < 2) return;
  const chosen = Array.from({ length: 3 }, () => large[Math.floor(random() * large.length)]);
  const decisions = [
    { kind: 'thread', at: refOf(chosen[0]), to: { hex: '#a01030' } },
    { kind: 'stitch', at: refOf(chosen[1]), set: { compensationMm: 0.3 } },
    { kind: 'order', at: refOf(chosen[2]), before: 'first' },
  ];
  const recipe = JSON.parse(JSON.stringify({ ...start, decisions })) as Mutable & Recipe;
  const names = Object.keys(CHANGES);
  const done: string[] = [];
  for (let i = 0; i < 3; i++) {
    const name = names[Math.floor(random() * names.length)];
    CHANGES[name](recipe, random);
    done.push(name);
  }
  const after = await design(parseRecipe(recipe));
  const { toHoop } = objectFrame(recipe.objects, FIRST_PICTURE);
  chosen.forEach((piece, index) => {
    const { u, v } = toFrame(piece.anchor.x, piece.anchor.y);
    const { x, y } = toHoop(u, v);
    const there = after.pieces.find((p) => p.object === FIRST_PICTURE && isInside(ringsOf(p), x, y));
    tally.said++;
    const share = (p: Piece, whole: number): number => p.areaMm2 / whole;
    const size =
      there &&
      share(there, wholeMm2Of(recipe.objects, FIRST_PICTURE)) / share(piece, wholeMm2Of(start.objects, FIRST_PICTURE));
    if (size === undefined || size > 2 || size < 0.5) tally.gone++;
    else if (there?.decisions.includes(index)) tally.found++;
    else {
      tally.misses.push(`${seed}: ${decisions[index].kind} after ${done.join(', ')}`);
    }
    const lost = after.lostPieceDecisions.includes(index);
    if (!lost && !after.pieces.some((p) => p.decisions.includes(index))) tally.silent++;
  });
}

describe('decisions after edits', () => {
  it('find their pieces again where those are still there, and are listed where they find none', async () => {
    const tally: Tally = { said: 0, gone: 0, found: 0, silent: 0, misses: [] };
    for (let seed = 1; seed <= SEQUENCES; seed++) await runSequence(4000 + seed, tally);
    expect(tally.said).toBeGreaterThan(60);
    expect(tally.found)
      .withContext(tally.misses.join('; '))
      .toBeGreaterThanOrEqual(0.98 * (tally.said - tally.gone));
    expect(tally.gone).toBeLessThan(0.1 * tally.said);
    expect(tally.silent).withContext(tally.misses.join('; ')).toBe(0);
  });
});
