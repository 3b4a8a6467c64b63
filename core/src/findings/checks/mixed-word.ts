import type { Piece } from '../../pieces/piece.js';
import { sewAs, type Check } from '../check.js';
import { stitchKindOf } from '../../stitches/kinds/index.js';

/** Dots and commas may be sewn as they like. */
const LEAST_MM2 = 2;

/** A word whose letters are sewn in more than one technique. */
export const MIXED_WORD: Check = {
  id: 'mixed-word',
  name: 'One word, two techniques',
  why: 'Letters of one word that shine differently look like a mistake.',
  find: (examined) => {
    const words = new Map<number, Piece[]>();
    for (const piece of examined.design?.pieces ?? []) {
      if (piece.word === undefined || piece.areaMm2 < LEAST_MM2) continue;
      words.set(piece.word, [...(words.get(piece.word) ?? []), piece]);
    }
    return [...words.values()].flatMap((letters) => {
      const counts = new Map<string, number>();
      for (const { kind } of letters) counts.set(kind, (counts.get(kind) ?? 0) + 1);
      if (counts.size < 2) return [];
      const [usual] = [...counts].sort((a, b) => b[1] - a[1])[0];
      const others = letters.filter(({ kind }) => kind !== usual);
      const name = stitchKindOf(usual).name.toLowerCase();
      const decisions = others.flatMap((piece) => sewAs(examined, piece, usual, name)[0]?.decisions ?? []);
      return [
        {
          level: 'advice' as const,
          text: `${others.length} of ${letters.length} letters are not sewn as the others: ${name}.`,
          at: others[0].anchor,
          pieces: others.map(({ id }) => id),
          harm: 1 + others.length / letters.length,
          repairs:
            decisions.length === others.length
              ? [{ id: usual, label: `Sew the whole word as ${name}`, safe: false, decisions }]
              : [],
        },
      ];
    });
  },
};
