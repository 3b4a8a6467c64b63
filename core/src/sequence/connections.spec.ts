import { convert } from '../convert.js';
import type { Design } from '../design/design.js';
import type { ShapeObject } from '../objects/design-object.js';
import type { PieceDecision } from '../pieces/piece-decisions.js';
import { emptyRecipe, parseRecipe, type Recipe } from '../recipe/recipe.js';
import { CHANGE, COMMANDS, JUMP, STITCH, STOP, TRIM } from './stitch-list.js';
import { TIES, tieOf } from './ties.js';

/** A square on the cloth. */
const square = (id: string, x: number, y: number, side: number, hex = '#204060'): ShapeObject => ({
  kind: 'shape',
  id,
  name: '',
  on: null,
  hidden: false,
  locked: false,
  place: { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 },
  role: 'piece',
  paths: [
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
  widthMm: 1,
  as: 'tatami',
  passes: 0,
  paint: { hex },
  copies: { count: 1, radius: 0 },
  replaces: null,
});
const NEAR = [square('a', -12, 0, 8), square('b', -3, 0, 8)];
const FAR = [square('a', -40, 0, 8), square('b', 20, 0, 8)];

const sewn = (
  objects: readonly ShapeObject[],
  order: Partial<Recipe['order']> = {},
  decisions: readonly PieceDecision[] = [],
): Promise<Design> => {
  const recipe = emptyRecipe();
  const whole = parseRecipe({ ...recipe, objects, decisions, order: { ...recipe.order, ...order } });
  return convert({ pictures: {}, recipe: whole, charts: [] });
};
const count = ({ stitches }: Design, command: number): number =>
  stitches.command.reduce((sum, c) => sum + (c === command ? 1 : 0), 0);
/** Rows between the last stitch of one piece and the first of the next. */
const between = (design: Design): number[] => {
  const { stitches, order } = design;
  const [from, to] = order;
  const last = stitches.piece.lastIndexOf(from);
  const first = stitches.piece.indexOf(to);
  return [...stitches.command.slice(last + 1, first + 1)];
};
const longest = ({ stitches: { x, y, command, count: rows } }: Design): number => {
  let most = 0;
  for (let i = 1; i < rows; i++) {
    if (command[i] !== STITCH || command[i - 1] !== STITCH) continue;
    most = Math.max(most, Math.sqrt((x[i] - x[i - 1]) ** 2 + (y[i] - y[i - 1]) ** 2));
  }
  return most;
};

describe('a design of shapes alone', () => {
  it('is sewn without any picture', async () => {
    const design = await sewn(NEAR);
    expect(design.pieces.length).toBe(2);
    expect(design.pictures).toEqual([]);
    expect(design.stitches.count).toBeGreaterThan(200);
  });
});

describe('trims', () => {
  it('go beyond the distance, always or never', async () => {
    const near = await sewn(NEAR, { trimOverMm: 12 });
    const far = await sewn(FAR, { trimOverMm: 12 });
    expect(count(near, TRIM)).toBe(1);
    expect(count(far, TRIM)).toBe(2);
    expect(count(await sewn(NEAR, { trimOverMm: 12, trims: 'always' }), TRIM)).toBe(2);
    const never = await sewn(FAR, { trims: 'never' });
    expect(count(never, TRIM)).toBe(1);
    expect(between(never)).toContain(JUMP);
    expect(between(never)).not.toContain(TRIM);
  });

  it('are left out before a thread change where nothing is cut', async () => {
    const design = await sewn([square('a', 0, 0, 8), square('b', 20, 0, 8, '#c84820')], { trims: 'never' });
    expect(count(design, CHANGE)).toBe(1);
    expect(count(design, TRIM)).toBe(1);
  });
});

describe('the way to a piece', () => {
  const to = (design: Design): string => design.pieces[design.order[1]].object;

  it('is cut, kept or led as somebody says', async () => {
    const plain = await sewn(NEAR, { trimOverMm: 12 });
    const at = { object: to(plain) };
    const cut = await sewn(NEAR, { trimOverMm: 12 }, [{ kind: 'connect', at, how: 'cut', line: [] }]);
    expect(between(plain)).not.toContain(TRIM);
    expect(between(cut)).toContain(TRIM);
    const far = await sewn(FAR);
    const whole: PieceDecision = { kind: 'connect', at: { object: to(far) }, how: 'keep', line: [] };
    const kept = await sewn(FAR, {}, [whole]);
    expect(count(kept, TRIM)).toBe(1);
    expect(longest(kept)).toBeLessThan(5);
    const led = await sewn(FAR, {}, [{ ...whole, how: 'lead', line: [0, 25] }]);
    const { x, y, count: rows } = led.stitches;
    const passes = Array.from({ length: rows }, (_, i) => i).some((i) => x[i] === 0 && y[i] === 25);
    expect(passes).toBe(true);
    expect(count(led, TRIM)).toBe(1);
  });

  it('waits for the operator where somebody asks for it', async () => {
    const second = to(await sewn(NEAR));
    const design = await sewn(NEAR, {}, [{ kind: 'stop', at: { object: second }, stop: true }]);
    expect(count(design, STOP)).toBe(1);
    const stop = design.stitches.command.indexOf(STOP);
    expect(design.pieces[design.stitches.piece[stop + 1]].object).toBe(second);
  });
});

describe('ties', () => {
  it('hold a thread without a needle point in the hole of another', () => {
    for (const { points } of TIES) {
      const run = [0, 0, 3, 0, 6, 0];
      const made = points(run);
      for (const [i, [x, y]] of made.entries()) {
        expect(Math.sqrt(x * x + y * y)).toBeLessThan(1.6);
        for (const [u, v] of made.slice(i + 1)) expect(Math.sqrt((x - u) ** 2 + (y - v) ** 2)).toBeGreaterThan(0.2);
      }
    }
    expect(tieOf('nothing of the kind').id).toBe('line');
  });

  it('end on the run where they are a line, so that the next stitch leaves no slit beside it', () => {
    for (const run of [
      [0, 0, 6, 0, 6, 0.4, 0, 0.4],
      [0, 0, 6, 0, 6, -0.4, 0, -0.4],
    ]) {
      const made = TIES[0].points(run);
      expect(made[made.length - 1]).toEqual([jasmine.any(Number), 0]);
      expect(made[made.length - 1][0]).toBeCloseTo(0.84, 6);
      // What lies beside is on the side to which the run goes on.
      for (const [, y] of made.slice(0, -1)) expect(y * run[5]).toBeGreaterThan(0);
    }
  });

  it('are chosen for the whole design, and for single pieces', async () => {
    const rows = async (tie: string, decisions: readonly PieceDecision[] = []): Promise<number> =>
      (await sewn(FAR, { tie }, decisions)).stitches.count;
    const [line, star, none] = [await rows('line'), await rows('star'), await rows('none')];
    expect(star).toBeGreaterThan(line);
    expect(none).toBeLessThan(line);
    const one = await rows('none', [{ kind: 'stitch', at: { object: 'a' }, set: { tie: 'star' } }]);
    expect(one).toBeGreaterThan(none);
    expect(one).toBeLessThan(star);
  });
});

describe('needle points by hand', () => {
  const numbers = [0, 0, 0, 3, 0, 0, 6, 0, 0, 6, 0, 2, 6, 5, 0, 3, 5, 0, 3, 5, 1, 0, 9, 0, 0, 12, 0];

  it('are sewn as they are, with the cuts between them', async () => {
    const design = await sewn([square('a', 0, 0, 8)], { tie: 'none' }, [
      { kind: 'rows', at: { object: 'a' }, rows: numbers },
    ]);
    const { stitches } = design;
    const rows = Array.from({ length: stitches.count }, (_, i) => i).map(
      (i) => `${stitches.x[i]} ${stitches.y[i]} ${COMMANDS[stitches.command[i]]}`,
    );
    expect(rows).toEqual([
      '0 0 jump',
      '0 0 stitch',
      '3 0 stitch',
      '6 0 stitch',
      '6 0 trim',
      '6 5 jump',
      '6 5 stitch',
      '3 5 stitch',
      '0 9 jump',
      '0 9 stitch',
      '0 12 stitch',
      '0 12 trim',
      '0 0 end',
    ]);
  });

  it('go with their piece, and give it back when there are none', async () => {
    const rows: PieceDecision = { kind: 'rows', at: { object: 'a' }, rows: numbers };
    const moved = { ...square('a', 0, 0, 8), place: { a: 1, b: 0, c: 0, d: 1, e: 10, f: 0 } };
    const design = await sewn([moved], { tie: 'none' }, [rows]);
    expect(design.stitches.x[0]).toBe(10);
    const plain = await sewn([square('a', 0, 0, 8)]);
    const back = await sewn([square('a', 0, 0, 8)], {}, [rows, { ...rows, rows: [] }]);
    expect(back.stitches.count).toBe(plain.stitches.count);
  });
});
