import { array, boolean, lazy, object, string, type Schema } from 'yup';
import { placesAlong } from '../../geometry/places-along.js';
import { IDENTITY, type Matrix } from '../../artwork/matrix.js';
import type { Bounds } from '../../geometry/polyline.js';
import { direction, type Points } from '../../geometry/vector.js';
import { flag, measure, oneOf, text, wholeNumber } from '../../settings/fields.js';
import { baseFields } from '../base-schema.js';
import type { CopiesLayout, CopiesObject } from '../design-object.js';
import { objectKind } from './object-kind.js';

/** Copies of one object at most, the object itself counted. */
const MOST_COPIES = 200;
const MOST_SIDE = 50;
const MOST_OF = 100;

const LAYOUTS: Readonly<Record<CopiesLayout['kind'], Schema>> = {
  ring: object({
    kind: string().required(),
    count: wholeNumber('copies', 2, MOST_COPIES),
    radiusMm: measure('radius', 0, 400),
    turned: flag(),
  }).noUnknown('copies: not known: ${unknown}'),
  grid: object({
    kind: string().required(),
    columns: wholeNumber('columns', 1, MOST_SIDE),
    rows: wholeNumber('rows', 1, MOST_SIDE),
    stepXMm: measure('step across', -400, 400),
    stepYMm: measure('step down', -400, 400),
  })
    .noUnknown('copies: not known: ${unknown}')
    .test('many', `copies: at most ${MOST_COPIES}`, ({ columns, rows }) => columns * rows <= MOST_COPIES),
  mirror: object({
    kind: string().required(),
    axis: oneOf('axis', ['x', 'y']),
    gapMm: measure('gap', -400, 400),
  }).noUnknown('copies: not known: ${unknown}'),
  path: object({
    kind: string().required(),
    along: text('copies along', 40),
    count: wholeNumber('copies', 1, MOST_COPIES),
    turned: flag(),
  }).noUnknown('copies: not known: ${unknown}'),
};

const NO_LAYOUT = object({ kind: oneOf('copies', Object.keys(LAYOUTS)) });

const schema = object({
  kind: string().required(),
  ...baseFields,
  of: array(text('copies of', 40)).required().min(1, 'copies: of nothing').max(MOST_OF),
  layout: lazy((value: unknown) => {
    const kind = (value as { kind?: unknown } | null)?.kind;
    return typeof kind === 'string' && Object.hasOwn(LAYOUTS, kind) ? LAYOUTS[kind as CopiesLayout['kind']] : NO_LAYOUT;
  }),
  oneByOne: boolean().strict(true).oneOf([true], 'oneByOne may only be true').optional(),
}).noUnknown('copies have settings that are not known: ${unknown}');

/** Copies of other objects: one to change, all follow. */
export const COPIES = objectKind<CopiesObject>({
  id: 'copies',
  name: 'Copies',
  hint: 'copies of objects in a ring, a grid, along a line or mirrored; they follow what they are copies of',
  schema: schema as never,
  needs: ({ of, layout }) => (layout.kind === 'path' ? [...of, layout.along] : of),
});

/**
 * Where copies stand, as maps of the cloth; the one that leaves everything where it is is not among them.
 * @param box what the copied objects cover together
 * @param line the line they stand along, where they do; the first point again at its end where it is closed
 */
export function mapsOfCopies(layout: CopiesLayout, box: Bounds, line?: Points): Matrix[] {
  const middle = { x: (box.left + box.right) / 2, y: (box.top + box.bottom) / 2 };
  switch (layout.kind) {
    case 'ring': {
      // The first stays where it is; the others stand around a place below it.
      const centre = { x: middle.x, y: middle.y + layout.radiusMm };
      return Array.from({ length: layout.count - 1 }, (_, i): Matrix => {
        const { x: cos, y: sin } = direction((360 * (i + 1)) / layout.count);
        const around = {
          a: cos,
          b: sin,
          c: -sin,
          d: cos,
          e: centre.x - cos * centre.x + sin * centre.y,
          f: centre.y - sin * centre.x - cos * centre.y,
        };
        if (layout.turned) return around;
        const x = around.a * middle.x + around.c * middle.y + around.e;
        const y = around.b * middle.x + around.d * middle.y + around.f;
        return { ...IDENTITY, e: x - middle.x, f: y - middle.y };
      });
    }
    case 'grid':
      return Array.from({ length: layout.columns * layout.rows }, (_, i): Matrix => ({
        ...IDENTITY,
        e: (i % layout.columns) * layout.stepXMm,
        f: Math.floor(i / layout.columns) * layout.stepYMm,
      })).slice(1);
    case 'mirror': {
      const { axis, gapMm } = layout;
      const at = axis === 'x' ? box.right + gapMm / 2 : box.bottom + gapMm / 2;
      return [axis === 'x' ? { ...IDENTITY, a: -1, e: 2 * at } : { ...IDENTITY, d: -1, f: 2 * at }];
    }
    case 'path':
      return placesAlong(line ?? [], layout.count).map(({ x, y, ux, uy }): Matrix => {
        const [cos, sin] = layout.turned ? [ux, uy] : [1, 0];
        const turned = { a: cos, b: sin, c: -sin, d: cos };
        return { ...turned, e: x - cos * middle.x + sin * middle.y, f: y - sin * middle.x - cos * middle.y };
      });
  }
}
