import { mm, type Check } from '../check.js';

/** Letters of satin are at least so high; below, their openings close. */
const LEAST_MM = 5;

/** Words that are too small for how they are sewn. */
export const SMALL_LETTERS: Check = {
  id: 'small-letters',
  name: 'Letters too small',
  why: 'Letters of satin need 5 mm, or thread of weight 60: else their openings close.',
  find: ({ design }) => {
    const words = new Map<number, NonNullable<typeof design>['pieces'][number][]>();
    for (const piece of design?.pieces ?? []) {
      if (piece.word !== undefined) words.set(piece.word, [...(words.get(piece.word) ?? []), piece]);
    }
    return [...words.values()].flatMap((letters) => {
      const high = Math.max(...letters.map(({ bounds }) => bounds.bottom - bounds.top));
      if (high >= LEAST_MM || letters[0].kind !== 'satin') return [];
      return [
        {
          level: 'advice' as const,
          text: `A word ${mm(high)} high.`,
          at: letters[0].anchor,
          pieces: letters.map(({ id }) => id),
          harm: LEAST_MM / high,
          repairs: [],
        },
      ];
    });
  },
};
