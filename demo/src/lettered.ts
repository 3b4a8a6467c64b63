import {
  emptyRecipe,
  newLetters,
  newOutline,
  newShape,
  USUAL_APPLIQUE,
  fabricOf,
  type CopiesObject,
  type CurveNode,
  type DesignObject,
  type DrawnPath,
  type OutlineObject,
  type Recipe,
  type ShapeObject,
} from '@open-kite/core';

const INK = '#22304a';
const EMBER = '#c8481f';
const AMBER = '#d9a441';
const GLASS = '#2f756e';

/** A design made of objects alone, without a picture. */
const of = (fabric: string, hex: string, objects: readonly DesignObject[]): Recipe => ({
  ...emptyRecipe(),
  cloth: { fabric, hex },
  objects,
});

/** A closed path through points, some of them with handles. */
const closed = (...points: readonly (readonly number[])[]): DrawnPath => ({
  closed: true,
  nodes: points.map(([x = 0, y = 0, a = 0, b = 0, c = 0, d = 0]): CurveNode => [x, y, a, b, c, d]),
});

const shape = (
  id: string,
  name: string,
  hex: string,
  paths: readonly DrawnPath[],
  more: Partial<ShapeObject> = {},
) => ({
  ...newShape(id, null, paths, { hex }),
  name,
  ...more,
});

const edge = (id: string, name: string, of: string, hex: string, more: Partial<OutlineObject>): OutlineObject => ({
  ...newOutline(id, of, { hex }),
  name,
  ...more,
});

/** A box with round corners around the middle. */
function roundBox(halfWidth: number, halfHeight: number, r: number): DrawnPath {
  const k = r * 0.5523;
  const [x, y] = [halfWidth, halfHeight];
  return closed(
    [-x + r, -y, -k, 0, 0, 0],
    [x - r, -y, 0, 0, k, 0],
    [x, -y + r, 0, -k, 0, 0],
    [x, y - r, 0, 0, 0, k],
    [x - r, y, k, 0, 0, 0],
    [-x + r, y, 0, 0, -k, 0],
    [-x, y - r, 0, k, 0, 0],
    [-x, -y + r, 0, 0, 0, -k],
  );
}

/** A little kite of two colours. */
const kite = (x: number, y: number, s: number): readonly ShapeObject[] => [
  shape('shape-1', 'Kite, left half', EMBER, [closed([x, y - s], [x, y + 1.5 * s], [x - 0.75 * s, y])], {
    as: 'satin',
  }),
  shape('shape-2', 'Kite, right half', AMBER, [closed([x, y - s], [x + 0.75 * s, y], [x, y + 1.5 * s])], {
    as: 'satin',
  }),
];

/** A badge for a helper of the fair: a name, the place below it, a satin border. */
export function nameBadge(): Recipe {
  const at = (x: number, y: number) => ({ a: 1, b: 0, c: 0, d: 1, e: x, f: y });
  return of('felt', fabricOf('felt').hex, [
    shape('shape-3', 'Badge', INK, [roundBox(41, 17, 6)], { hidden: true }),
    ...kite(-28, -3, 8),
    { ...newLetters('letters-1', { text: 'IMKE', heightMm: 12, align: 'left' }, { hex: INK }), place: at(-14, 3) },
    {
      ...newLetters('letters-2', { text: 'LANTERN BAY', heightMm: 5, align: 'left' }, { hex: GLASS }),
      place: at(-14, 11.5),
    },
    edge('outline-1', 'Border', 'shape-3', INK, { widthMm: 3.5, corners: 'round' }),
  ]);
}

/** A monogram in a ring of leaves, for a bath towel. */
export function monogram(): Recipe {
  const ring: CopiesObject = {
    kind: 'copies',
    id: 'copies-1',
    name: 'Ring',
    on: null,
    hidden: false,
    locked: false,
    of: ['shape-1'],
    layout: { kind: 'ring', count: 16, radiusMm: 31, turned: true },
  };
  const letters = newLetters('letters-1', { text: 'LB', font: 'line-script', heightMm: 26 }, { hex: INK });
  return of('towelling', '#dfe7e3', [
    shape('shape-1', 'Leaf', GLASS, [closed([0, -36, -3, 3, 3, 3], [0, -26, 3, -3, -3, -3])], { as: 'satin' }),
    ring,
    { ...letters, place: { a: 1, b: 0, c: 0, d: 1, e: 0, f: 12 } },
  ]);
}

/** A lantern whose glass is a cloth of its own: an applique with its frame sewn over it. */
export function lantern(): Recipe {
  const body = closed([-15, -14], [15, -14], [21, 2], [15, 20], [-15, 20], [-21, 2]);
  const bar = (id: string, name: string, y: number, half: number): ShapeObject =>
    shape(id, name, INK, [closed([-half, y - 2.4], [half, y - 2.4], [half, y + 2.4], [-half, y + 2.4])], {
      as: 'satin',
    });
  const flame = closed([0, -6, -1, -2, 5, 5], [5, 8, 2, -5, 0, 3.2], [0, 13.5, 3, 0, -3, 0], [-5, 8, 0, 3.2, -2, -5]);
  return of('canvas', fabricOf('canvas').hex, [
    shape('shape-1', 'Glass', AMBER, [body], { hidden: true }),
    edge('outline-1', 'Glass, applique', 'shape-1', INK, {
      as: 'applique',
      widthMm: 3.5,
      applique: { ...USUAL_APPLIQUE, inside: 0.66, cloth: { look: 'felt', hex: AMBER } },
    }),
    shape('shape-2', 'Flame', EMBER, [flame]),
    bar('shape-3', 'Lid', -16.5, 13),
    bar('shape-4', 'Foot', 22.5, 13),
    shape(
      'shape-5',
      'Handle',
      INK,
      [
        {
          closed: false,
          nodes: [
            [-9, -19.6, 0, 0, 0, -14],
            [9, -19.6, 0, -14, 0, 0],
          ],
        },
      ],
      { widthMm: 2.2, as: 'satin' },
    ),
  ]);
}
