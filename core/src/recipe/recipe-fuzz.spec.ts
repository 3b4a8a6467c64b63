import { seededRandom } from '../geometry/chance.js';
import { flatRecipe } from '../test/flat-recipe.js';
import { defaultRecipe, parseRecipe } from './recipe.js';

type Plain = Record<string, unknown>;

/** Values nobody should put into a recipe, and some that are fine. */
const VALUES: readonly unknown[] = [
  null,
  undefined,
  NaN,
  Infinity,
  -1,
  0,
  1e9,
  '',
  '12',
  'auto',
  '#fff',
  '#ff0000',
  [],
  {},
  [[]],
  [{}],
  true,
  { kind: 'merge' },
  { shape: 'heart' },
  [{ kind: 'bare', at: { hex: '#000000', u: 0, v: 0 } }],
];

const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Sets a value somewhere in a copy of a recipe, by chance. */
function spoil(recipe: Plain, random: () => number): Plain {
  const copy = JSON.parse(JSON.stringify(recipe)) as Plain;
  let at = copy;
  for (;;) {
    const keys = Object.keys(at);
    const key = keys[Math.floor(random() * keys.length)];
    const list = at[key];
    const inner: unknown = Array.isArray(list) && list.length > 0 ? list[0] : list;
    if (isPlain(inner) && random() < 0.85) {
      at = inner;
      continue;
    }
    if (random() < 0.15) delete at[key];
    else if (random() < 0.1) at[`${key}2`] = 1;
    else at[key] = VALUES[Math.floor(random() * VALUES.length)];
    return copy;
  }
}

describe('parseRecipe with spoilt recipes', () => {
  for (const [version, fresh] of [
    [6, flatRecipe(600, 400)],
    [7, defaultRecipe(600, 400)],
  ] as unknown as [number, Plain][]) {
    it(`gives a recipe or a RangeError of one sentence, never anything else, from version ${version}`, () =>
      spoilAll(fresh));
  }

  function spoilAll(fresh: Plain): void {
    const random = seededRandom(77);
    let refused = 0;
    for (let i = 0; i < 600; i++) {
      const spoilt = spoil(fresh, random);
      try {
        const recipe = parseRecipe(spoilt);
        // What is let through is complete, and is let through again.
        expect(parseRecipe(JSON.parse(JSON.stringify(recipe)))).toEqual(recipe);
      } catch (error) {
        refused++;
        expect(error).withContext(JSON.stringify(spoilt)).toBeInstanceOf(RangeError);
        const { message } = error as RangeError;
        expect(message).toMatch(/^recipe: /);
        expect(message).not.toContain('\n');
      }
    }
    expect(refused).toBeGreaterThan(400);
  }
});
