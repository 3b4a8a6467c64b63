import { fromHex } from '../colour/srgb.js';
import type { CurveNode } from '../geometry/curve.js';
import { direction } from '../geometry/vector.js';
import type { ShapeObject } from '../objects/design-object.js';
import { newShape } from '../objects/shape-of-piece.js';
import type { DrawnPath } from '../pieces/drawn.js';
import type { PieceDecision } from '../pieces/piece-decisions.js';
import type { PieceKind } from '../pieces/sewn-as.js';
import { emptyRecipe, type DesignCloth, type Recipe } from '../recipe/recipe.js';
import { fabricOf } from '../stitches/fabrics.js';
import { circle, cornerMarks } from './corner-marks.js';

/** Widths of the columns in mm: what satin is sewn at. */
export const CARD_WIDTHS = [1, 2, 3, 4, 5, 6, 7] as const;
export const COLUMN_MM = 8;
/** Bare cloth between two columns. */
const BETWEEN_MM = 1.6;
const LONGEST_WAY_MM = 6;
const SIDE_MM = 80;
/** Middles of the marks: their rings end at the card's edge. */
const MARK_MM = SIDE_MM / 2 - 4;

/** Threads that are plainly told from the cloth. */
const DARK = '#22304a';
const LIGHT = '#f6f4ee';
/** Sum of the channels of a grey between both. */
const MIDDLE = 360;

/** Against what is not there nothing is done: neither rows nor ends of columns are sewn longer or shorter than drawn. */
const NOTHING_GIVES = { pull: [{ lengthMm: 1, acrossMm: 0, downMm: 0, slantMm: 0 }], pushMm: 0, gapMm: null } as const;

/** A bar around a place, as wide across its rows as it is long along them. */
interface Bar {
  readonly x: number;
  readonly y: number;
  readonly widthMm: number;
  readonly heightMm: number;
  /** Direction of its width in degrees. */
  readonly turn?: number;
  readonly as: PieceKind;
  /** Direction of the rows of a fill. */
  readonly rows?: number;
  readonly name: string;
}

/**
 * The test card of a fabric: columns of 1 to 7 mm in four directions, fields of three sizes, two that meet edge to edge, a ring, a ruler, and
 * four corner marks. Sewn without compensation, so that what the cloth does can be measured on it.
 */
export function testCard({ fabric, hex }: Pick<DesignCloth, 'fabric' | 'hex'>): Recipe {
  const { r, g, b } = fromHex(hex);
  const paint = { hex: r + g + b > MIDDLE ? DARK : LIGHT };
  const bars = [...columns(), ...fields()];
  const marks = cornerMarks(MARK_MM, MARK_MM, paint);
  const objects: ShapeObject[] = [
    ...bars.map((bar, k): ShapeObject => ({
      ...newShape(`bar-${k + 1}`, null, [pathOf(bar)], paint),
      name: bar.name,
      as: bar.as,
    })),
    ...RINGS.map(({ x, y, outer, inner }, k): ShapeObject => ({
      ...newShape(`ring-${k + 1}`, null, [circle(x, y, outer), circle(x, y, inner)], paint),
      name: `Ring of ${outer - inner} mm`,
      as: 'satin',
    })),
    { ...newShape('ruler', null, [ruler()], paint), name: 'Ruler of 50 mm', as: 'running', passes: 1 },
    ...marks.objects,
  ];
  const decisions = bars.flatMap((bar, k): PieceDecision[] => {
    const at = { object: `bar-${k + 1}` };
    if (bar.rows !== undefined) return [{ kind: 'stitch', at, set: { angle: bar.rows } }];
    // A thread that leads on holds an end back: the straight columns end freely.
    return bar.turn === 0 || bar.turn === 90 ? [{ kind: 'connect', at, how: 'cut', line: [] }] : [];
  });
  const { stitches, order, ...recipe } = emptyRecipe();
  return {
    ...recipe,
    cloth: { fabric, hex, measured: { ...NOTHING_GIVES, name: `${fabricOf(fabric).name}, nothing compensated` } },
    objects,
    decisions: [...decisions, ...marks.decisions],
    // Ways between columns lie at their ends, where nothing is measured: they cost less than cutting each.
    order: { ...order, trimOverMm: LONGEST_WAY_MM },
    stitches: { ...stitches, angle: 0, angleStep: 0, compensationMm: 0, overlapMm: 0 },
  };
}

/** Four groups of columns; their rows run across, down, and on both slants. */
function columns(): Bar[] {
  const bars: Bar[] = [];
  let at = -17.8;
  for (const widthMm of CARD_WIDTHS) {
    const column = { widthMm, heightMm: COLUMN_MM, as: 'satin', turn: 0 } as const;
    const middle = at + widthMm / 2;
    bars.push({ ...column, x: middle, y: -35.8, name: `Column of ${widthMm} mm, rows across` });
    bars.push({ ...column, x: -34.5, y: middle + 11.5, turn: 90, name: `Column of ${widthMm} mm, rows down` });
    at += widthMm + BETWEEN_MM;
  }
  for (const [turn, y] of [
    [45, -23.6],
    [-45, -11.4],
  ] as const) {
    let x = -28.5;
    for (const widthMm of CARD_WIDTHS) {
      const step = (widthMm + BETWEEN_MM) * Math.SQRT1_2;
      x += step;
      bars.push({
        x,
        y,
        widthMm,
        heightMm: COLUMN_MM,
        turn,
        as: 'satin',
        name: `Column of ${widthMm} mm, rows on the slant`,
      });
      x += step;
    }
  }
  return bars;
}

/** Fields of three sizes, the smaller ones also with rows down: their middles, and how wide they are. */
export const CARD_FIELDS = [
  { x: 18, y: 0, mm: 8, way: 'across' },
  { x: -8, y: 18, mm: 8, way: 'down' },
  { x: 3.5, y: 1.5, mm: 11, way: 'across' },
  { x: -21, y: 19.5, mm: 11, way: 'down' },
  { x: -19, y: 4, mm: 15, way: 'across' },
] as const;

/** The fields, and two that meet edge to edge. */
function fields(): Bar[] {
  const pair = { y: 17, widthMm: 8, heightMm: 9, as: 'tatami', rows: 0, name: 'Field that meets another' } as const;
  return [
    ...CARD_FIELDS.map(({ x, y, mm, way }): Bar => {
      const name = `Field of ${mm} mm, rows ${way}`;
      return { x, y, widthMm: mm, heightMm: mm, as: 'tatami', rows: way === 'down' ? 90 : 0, name };
    }),
    { ...pair, x: 2 },
    { ...pair, x: 10 },
  ];
}

const RINGS = [{ x: 24, y: 20, outer: 5.5, inner: 3.5 }] as const;

/** A line of 50 mm to lay a ruler beside. */
const ruler = (): DrawnPath => ({
  closed: false,
  nodes: [
    [-25, 38.5, 0, 0, 0, 0],
    [25, 38.5, 0, 0, 0, 0],
  ],
});

function pathOf({ x, y, widthMm, heightMm, turn = 0 }: Bar): DrawnPath {
  const u = direction(turn);
  const corner = (i: number, j: number): CurveNode => {
    const [a, b] = [(i * widthMm) / 2, (j * heightMm) / 2];
    return [x + a * u.x - b * u.y, y + a * u.y + b * u.x, 0, 0, 0, 0];
  };
  return { closed: true, nodes: [corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)] };
}
