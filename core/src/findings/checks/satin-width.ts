import { mm, sewAs, type Check } from '../check.js';

const NARROWEST_MM = 0.8;
const WIDEST_MM = 7.5;

/** Satin that is too narrow to hold, or so wide that it snags. */
export const SATIN_WIDTH: Check = {
  id: 'satin-width',
  name: 'Satin width',
  why: 'Narrow satin pulls through the cloth; long stitches snag.',
  find: (examined) =>
    (examined.design?.pieces ?? []).flatMap((piece) => {
      if (piece.kind !== 'satin' || piece.role !== 'plain') return [];
      const { widthMm } = piece;
      const common = { at: piece.anchor, pieces: [piece.id] };
      if (widthMm < NARROWEST_MM) {
        return [
          {
            ...common,
            level: 'advice' as const,
            text: `A column ${mm(widthMm)} wide: too narrow.`,
            harm: NARROWEST_MM / widthMm,
            repairs: sewAs(examined, piece, 'running', 'Sew it as a line'),
          },
        ];
      }
      if (widthMm <= WIDEST_MM) return [];
      return [
        {
          ...common,
          level: 'advice' as const,
          text: `A column ${mm(widthMm)} wide: too wide.`,
          harm: widthMm / WIDEST_MM,
          repairs: sewAs(examined, piece, 'tatami', 'Sew it as tatami'),
        },
      ];
    }),
};
