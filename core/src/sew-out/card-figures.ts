import type { Measurement } from './measure.js';
import { COLUMN_MM, CARD_FIELDS, CARD_WIDTHS } from './test-card.js';

/** Something on the test card that is measured with a gauge. */
export interface CardFigure {
  readonly id: string;
  readonly kind: Measurement['kind'];
  /** Which way its rows run; a length and a gap have one way. */
  readonly way: 'across' | 'down' | 'slant';
  /** How wide it is as drawn, or how long; 0 for the gap. */
  readonly drawnMm: number;
  readonly rowMm: number;
}

/** What is measured on a sewn card with a gauge, the narrowest first. */
export const CARD_FIGURES: readonly CardFigure[] = [
  ...CARD_WIDTHS.flatMap((mm): CardFigure[] =>
    (['across', 'down', 'slant'] as const).map((way) => ({
      id: `column-${mm}-${way}`,
      kind: 'width',
      way,
      drawnMm: mm,
      rowMm: mm,
    })),
  ),
  ...CARD_FIELDS.map(({ mm, way }): CardFigure => ({
    id: `field-${mm}-${way}`,
    kind: 'width',
    way,
    drawnMm: mm,
    rowMm: mm,
  })),
  { id: 'length', kind: 'length', way: 'across', drawnMm: COLUMN_MM, rowMm: 4 },
  { id: 'gap', kind: 'gap', way: 'across', drawnMm: 0, rowMm: 8 },
];

/** A figure of the card as somebody measured it with a gauge. */
export function gauged({ kind, way, drawnMm, rowMm }: CardFigure, sewnMm: number): Measurement {
  const [ux, uy] = way === 'across' ? [1, 0] : way === 'down' ? [0, 1] : [Math.SQRT1_2, Math.SQRT1_2];
  return { kind, piece: -1, x: 0, y: 0, ux, uy, drawnMm, rowMm, bandMm: 0, asDrawnMm: drawnMm, asSewnMm: sewnMm };
}
