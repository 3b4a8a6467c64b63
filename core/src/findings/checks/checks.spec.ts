import type { Design } from '../../design/design.js';
import { thicken } from '../../geometry/polygons.js';
import type { Piece } from '../../pieces/piece.js';
import { NO_CHOICES } from '../../pieces/sewn-as.js';
import { defaultRecipe, type Recipe } from '../../recipe/recipe.js';
import { CHANGE, END, JUMP, STITCH, StitchWriter, TRIM } from '../../sequence/stitch-list.js';
import { fabricOf } from '../../stitches/fabrics.js';
import { linePieceOf, pieceOf, satinPieceOf } from '../../test/pieces.js';
import { rectangle } from '../../test/regions.js';
import { examine } from '../examined.js';
import type { Finding } from '../finding.js';
import { CHECKS } from './index.js';

/** Rows of a stitch list: a run of places, or a command. */
type Rows = readonly (
  | { readonly run: readonly (readonly [number, number])[]; readonly thread?: number; readonly piece?: number }
  | 'trim'
  | 'change'
)[];

interface Given {
  readonly rows?: Rows;
  readonly pieces?: readonly Piece[];
  readonly fabric?: string;
  readonly threads?: readonly string[];
  readonly recipe?: (recipe: Recipe) => Recipe;
  readonly rowAngles?: readonly number[];
  readonly plainGround?: boolean;
}

/** A tied run from left to right. */
const tied = (x: number, y: number, length: number): [number, number][] => {
  const out: [number, number][] = [
    [x, y],
    [x + 0.7, y],
    [x, y + 0.2],
    [x + 0.7, y + 0.2],
  ];
  for (let at = 2; at <= length; at += 2) out.push([x + at, y]);
  out.push([x + length - 0.7, y], [x + length, y + 0.2], [x + length - 0.7, y + 0.2]);
  return out;
};

function check(id: string, given: Given): Omit<Finding, 'kind' | 'why'>[] {
  const writer = new StitchWriter();
  let thread = 0;
  let fresh = true;
  let [x, y] = [0, 0];
  for (const row of given.rows ?? []) {
    if (row === 'trim') {
      writer.add(x, y, TRIM, thread, 0xffff);
      fresh = true;
    } else if (row === 'change') {
      writer.add(x, y, CHANGE, ++thread, 0xffff);
      fresh = true;
    } else {
      if (fresh) writer.add(row.run[0][0], row.run[0][1], JUMP, thread, row.piece ?? 0);
      for (const place of row.run) {
        [x, y] = place;
        writer.add(x, y, STITCH, thread, row.piece ?? 0);
      }
      fresh = false;
    }
  }
  writer.add(0, 0, END, thread, 0xffff);
  const pieces = (given.pieces ?? [pieceOf([rectangle(0, 0, 10, 10)])]).map((piece, i) => ({
    ...piece,
    id: `p${i + 1}`,
    object: 'picture-1',
    partOf: i,
  }));
  const threads = (given.threads ?? ['#204060', '#c03020', '#e0b040']).map((hex) => ({
    code: hex,
    name: hex,
    hex,
    chart: 'own',
    deltaE: 0,
  }));
  const { id: fabric, hex } = fabricOf(given.fabric ?? 'quilting-cotton');
  const design = {
    fabric: { id: fabric, hex },
    threads,
    stitches: writer.finish(),
    pieceIds: pieces.map((piece) => piece.id),
    pieces,
    order: pieces.map((_, i) => i),
    rowAngles: given.rowAngles ?? pieces.map(() => 20),
    colours: [{ anchor: { hex: '#204060', u: 0.5, v: 0.5 } }],
    pictures: [{ object: 'picture-1', method: 'pieces', plainGround: given.plainGround ?? false, groundColour: 0 }],
  } as unknown as Design;
  const plain = defaultRecipe(400, 400);
  const recipe = given.recipe ? given.recipe(plain) : plain;
  const found = CHECKS.find((each) => each.id === id);
  if (!found) throw new RangeError(id);
  return found.find(examine(design, design, recipe));
}

/** What each check finds, and what lies just inside its limit. */
const CASES: Readonly<Record<string, { has: Given; hasNot: Given; repair?: string }>> = {
  'nothing-to-sew': { has: {}, hasNot: { rows: [{ run: tied(0, 0, 20) }] } },
  'too-large': { has: { rows: [{ run: tied(0, 0, 420) }] }, hasNot: { rows: [{ run: tied(0, 0, 396) }] } },
  'out-of-hoop': {
    has: {
      rows: [{ run: tied(0, 0, 52) }],
      recipe: (r) => ({ ...r, hoop: { widthMm: 100, heightMm: 100, round: false } }),
    },
    hasNot: {
      rows: [{ run: tied(0, 0, 49) }],
      recipe: (r) => ({ ...r, hoop: { widthMm: 100, heightMm: 100, round: true } }),
    },
  },
  'more-threads-than-needles': {
    has: {
      rows: ['change', { run: tied(0, 0, 10) }, 'change', { run: tied(0, 0, 10) }, 'change', { run: tied(0, 0, 9) }],
      threads: ['#102030', '#405060', '#708090', '#a0b0c0'],
      recipe: (r) => ({ ...r, order: { ...r.order, needles: 2 } }),
    },
    hasNot: {
      rows: [{ run: tied(0, 0, 10) }, 'change', { run: tied(0, 0, 10) }],
      threads: ['#102030', '#405060'],
      recipe: (r) => ({ ...r, order: { ...r.order, needles: 2 } }),
    },
  },
  'long-stitch': {
    has: {
      rows: [
        {
          run: [
            [0, 0],
            [12.1, 0],
          ],
        },
      ],
    },
    hasNot: {
      rows: [
        {
          run: [
            [0, 0],
            [11.9, 0],
          ],
        },
      ],
    },
  },
  'short-stitches': {
    has: { rows: [{ run: Array.from({ length: 50 }, (_, i): [number, number] => [i * 0.28, 0]) }] },
    hasNot: { rows: [{ run: Array.from({ length: 50 }, (_, i): [number, number] => [i * 0.31, 0]) }] },
  },
  covers: {
    has: {
      rows: [{ run: layered(2) }, { run: layered(1), piece: 1 }],
      pieces: [pieceOf([rectangle(0, 0, 4, 4)]), pieceOf([rectangle(0, 0, 4, 4)], { layer: 1 })],
    },
    hasNot: { rows: [{ run: layered(2) }] },
  },
  'crowded-points': {
    has: { rows: [{ run: star(9) }] },
    hasNot: { rows: [{ run: star(7) }] },
  },
  'missing-tie': {
    has: {
      rows: [
        {
          run: [
            [0, 0],
            [3, 0],
            [6, 0],
            [9, 0],
            [12, 0],
          ],
        },
      ],
    },
    hasNot: { rows: [{ run: tied(0, 0, 20) }] },
  },
  'satin-width': {
    has: { pieces: [satinPieceOf([rectangle(0, 0, 20, 0.7)], { widthMm: 0.7 })] },
    hasNot: { pieces: [satinPieceOf([rectangle(0, 0, 20, 0.9)], { widthMm: 0.9 })] },
    repair: 'Sew it as a line',
  },
  'rows-along-edge': {
    has: { pieces: [pieceOf([rectangle(0, 0, 40, 9)])], rowAngles: [19] },
    hasNot: { pieces: [pieceOf([rectangle(0, 0, 40, 9)])], rowAngles: [21] },
    repair: 'Turn its rows',
  },
  'small-letters': {
    has: { pieces: [0, 1, 2].map((i) => satinPieceOf([rectangle(i * 4, 0, 1, 4.8)], { word: 0 })) },
    hasNot: { pieces: [0, 1, 2].map((i) => satinPieceOf([rectangle(i * 4, 0, 1, 5.1)], { word: 0 })) },
  },
  'thin-line-sinks': {
    has: { pieces: [linePieceOf([0, 0, 20, 0], 0.5)], fabric: 'towelling' },
    hasNot: { pieces: [linePieceOf([0, 0, 20, 0], 0.5)], fabric: 'felt' },
    repair: 'three times',
  },
  density: { has: { rows: [{ run: dots(0.5) }] }, hasNot: { rows: [{ run: dots(0.66) }] } },
  'like-the-cloth': {
    has: { rows: [{ run: tied(0, 0, 20) }], threads: ['#f2efe8'] },
    hasNot: { rows: [{ run: tied(0, 0, 20) }], threads: ['#dcd6c8'] },
  },
  'sewn-ground': {
    has: {
      rows: [{ run: tied(0, 0, 40) }],
      plainGround: true,
      recipe: (recipe) => dropGround(recipe, false),
    },
    hasNot: { rows: [{ run: tied(0, 0, 40) }], plainGround: true, recipe: (recipe) => dropGround(recipe, true) },
    repair: 'ground bare',
  },
  'hidden-piece': {
    has: { pieces: [pieceOf([rectangle(0, 0, 10, 10)]), pieceOf([rectangle(0, 0, 10, 9)], { layer: 1 })] },
    hasNot: { pieces: [pieceOf([rectangle(0, 0, 10, 10)]), pieceOf([rectangle(0, 0, 10, 8.5)], { layer: 1 })] },
    repair: 'bare',
  },
  fringe: {
    has: { pieces: [pieceOf([rectangle(0, 0, 60, 60)], { thread: 1 }), ...strips(5)] },
    hasNot: { pieces: [pieceOf([rectangle(0, 0, 60, 60)], { thread: 1 }), ...strips(3)] },
    repair: 'bare',
  },
  'short-run': {
    has: { rows: [{ run: tied(0, 0, 6) }, 'trim', { run: tied(40, 0, 60) }] },
    hasNot: { rows: [{ run: tied(0, 0, 12) }, 'trim', { run: tied(40, 0, 60) }] },
    repair: 'bare',
  },
  'needless-trim': {
    has: { rows: hops(1.2) },
    hasNot: { rows: hops(1.4) },
    repair: 'Cut beyond',
  },
  'thread-changes': {
    has: {
      rows: [
        { run: tied(0, 0, 20) },
        'trim',
        'change',
        { run: tied(0, 4, 20) },
        'trim',
        'change',
        { run: tied(0, 8, 20) },
      ],
      pieces: [pieceOf([rectangle(0, 0, 4, 4)]), pieceOf([rectangle(9, 0, 4, 4)], { thread: 1 })],
    },
    hasNot: {
      rows: [{ run: tied(0, 0, 20) }, 'trim', 'change', { run: tied(0, 4, 20) }],
      pieces: [pieceOf([rectangle(0, 0, 4, 4)]), pieceOf([rectangle(9, 0, 4, 4)], { thread: 1 })],
    },
  },
  'gap-opens': {
    has: { pieces: halves(), rows: [{ run: rowsOver(0, 9.3) }, { run: rowsOver(10, 20) }] },
    hasNot: { pieces: halves(), rows: [{ run: rowsOver(0, 10.5) }, { run: rowsOver(9.6, 20) }] },
    repair: 'Close the gap',
  },
  hole: {
    has: { rows: [{ run: rowsOver(0, 4) }, { run: rowsOver(5, 10) }] },
    hasNot: { rows: [{ run: rowsOver(0, 4.7) }, { run: rowsOver(5, 10) }] },
  },
  'wrong-colour': {
    has: {
      rows: [
        { run: rowsOver(0, 10) },
        'change',
        { run: [0, 1, 2, 3, 4].map((k): [number, number] => [k % 2 === 0 ? 3 : 7, 4 + 0.4 * k]) },
      ],
    },
    hasNot: {
      rows: [
        { run: rowsOver(0, 10) },
        'change',
        {
          run: [
            [1, 5],
            [9, 5],
          ],
        },
      ],
    },
  },
  'column-end': {
    has: {
      rows: [{ run: [...upright(0, 18.4, 4), ...upright(18.4, 20, 2.2)] }],
      pieces: [satinPieceOf([rectangle(0, 0, 20, 4)])],
    },
    hasNot: { rows: [{ run: upright(0, 19.6, 4) }], pieces: [satinPieceOf([rectangle(0, 0, 20, 4)])] },
  },
  'visible-way': {
    has: {
      rows: [{ run: rowsOver(0, 10) }, { run: tied(13.4, 9.8, 20), piece: 1 }],
      pieces: [pieceOf([rectangle(0, 0, 10, 10)]), pieceOf([rectangle(13.4, 0, 20, 10)])],
    },
    hasNot: {
      rows: [{ run: rowsOver(0, 10) }, { run: tied(12.8, 9.8, 20), piece: 1 }],
      pieces: [pieceOf([rectangle(0, 0, 10, 10)]), pieceOf([rectangle(12.8, 0, 20, 10)])],
    },
    repair: 'Cut',
  },
  'trims-in-a-heap': {
    has: { rows: heap(5), pieces: [pieceOf([rectangle(0, 0, 1.5, 1.5)])] },
    hasNot: { rows: heap(4), pieces: [pieceOf([rectangle(0, 0, 1.5, 1.5)])] },
    repair: 'smallest bare',
  },
  'doubled-outline': {
    has: { pieces: [0, 0.3].map((y) => linePieceOf([0, y, 20, y], 0.5)) },
    hasNot: { pieces: [0, 0.5].map((y) => linePieceOf([0, y, 20, y], 0.5)) },
    repair: 'second one bare',
  },
  'broken-outline': {
    has: { pieces: [linePieceOf([0, 0, 20, 0], 0.5), linePieceOf([21.4, 0, 40, 0], 0.5)] },
    hasNot: { pieces: [linePieceOf([0, 0, 20, 0], 0.5), linePieceOf([21.6, 0, 40, 0], 0.5)] },
  },
  'self-crossing': {
    has: { pieces: [pieceOf([[0, 0, 10, 10, 10, 0, 0, 10]], { origin: 'drawn' })] },
    hasNot: { pieces: [pieceOf([[0, 0, 10, 0, 10, 10, 0, 10]], { origin: 'drawn' })] },
  },
  'small-opening': {
    has: { pieces: [pieceOf([rectangle(0, 0, 10, 10), rectangle(5, 5, 0.7, 0.7)])] },
    hasNot: { pieces: [pieceOf([rectangle(0, 0, 10, 10), rectangle(5, 5, 0.72, 0.72)])] },
  },
  'mixed-word': {
    has: {
      pieces: [0, 1, 2, 3].map((i) =>
        i === 3
          ? pieceOf([rectangle(i * 9, 0, 4, 9)], { word: 0 })
          : satinPieceOf([rectangle(i * 9, 0, 2, 9)], { word: 0 }),
      ),
    },
    hasNot: { pieces: [0, 1, 2].map((i) => satinPieceOf([rectangle(i * 9, 0, 2, 9)], { word: 0 })) },
    repair: 'Sew the whole word as satin',
  },
  'own-stroke': { has: { pieces: withFrame(0) }, hasNot: { pieces: withFrame(1) }, repair: 'Leave the stroke bare' },
  'late-outline': { has: lateOutline('jersey'), hasNot: lateOutline('felt'), repair: 'right after' },
};

/** So many short runs beside each other, each cut off. */
function heap(trims: number): Rows {
  return Array.from({ length: trims }, (_, i) => [{ run: tied(0, i * 0.8, 3) }, 'trim' as const]).flat();
}

/** Vertical stitches beside each other. */
function upright(from: number, to: number, high: number): [number, number][] {
  const out: [number, number][] = [];
  for (let x = from, k = 0; x <= to; x += 0.2, k++) out.push([x, k % 2 === 0 ? 0 : high]);
  return out;
}

/** A fill, a stroke around it, and what is sewn between them. */
function withFrame(thread: number): Piece[] {
  return [
    pieceOf([rectangle(0, 0, 20, 20)]),
    satinPieceOf([rectangle(-0.5, -0.5, 21, 21), rectangle(0.5, 0.5, 19, 19)], { thread, widthMm: 1 }),
  ];
}

function lateOutline(fabric: string): Given {
  const many = Array.from({ length: 3000 }, (_, i): [number, number] => [30 + (i % 60), Math.floor(i / 60)]);
  return {
    fabric,
    rows: [{ run: tied(0, 0, 20) }, { run: many, piece: 1 }, { run: tied(0, 2, 20), piece: 2 }],
    pieces: [
      pieceOf([rectangle(0, 0, 20, 20)]),
      pieceOf([rectangle(30, 0, 60, 50)]),
      linePieceOf([0, 0, 20, 0, 20, 20], 1, { neighbours: [{ piece: 0, borderMm: 40 }] }),
    ],
  };
}

function layered(layers: number): [number, number][] {
  const out: [number, number][] = [];
  for (let k = 0; k < layers; k++)
    for (let y = 0; y < 4; y += 0.4) out.push([k % 2 === 0 ? 0 : 4, y], [k % 2 === 0 ? 4 : 0, y]);
  return out;
}

/** So many times to the same place. */
function star(times: number): [number, number][] {
  const out: [number, number][] = [];
  for (let i = 0; i < times; i++) out.push([0.03 * (i % 3), 0], [2 * Math.cos(i), 2 * Math.sin(i)]);
  return out;
}

function dots(step: number): [number, number][] {
  const out: [number, number][] = [];
  for (let y = 0; y < 12; y += step) for (let x = 0; x < 12; x += step) out.push([x, y]);
  return out;
}

function strips(count: number): Piece[] {
  return Array.from({ length: count }, (_, i) =>
    pieceOf([rectangle(i * 8, 2, 6, 0.7)], {
      origin: 'traced',
      neighbours: [
        { piece: 0, borderMm: 6 },
        { piece: 1, borderMm: 6 },
      ],
    }),
  );
}

function hops(gap: number): Rows {
  return Array.from({ length: 5 }, (_, i) => [{ run: tied(i * (20 + gap), 0, 20) }, 'trim' as const])
    .flat()
    .slice(0, -1);
}

function halves(): Piece[] {
  return [pieceOf([rectangle(0, 0, 10, 10)]), pieceOf([rectangle(10, 0, 10, 10)], { thread: 1 })];
}

function rowsOver(from: number, to: number): [number, number][] {
  const out: [number, number][] = [];
  for (let y = 0.2, k = 0; y < 10; y += 0.4, k++)
    out.push(k % 2 === 0 ? [from, y] : [to, y], k % 2 === 0 ? [to, y] : [from, y]);
  return out;
}

function dropGround(recipe: Recipe, drop: boolean): Recipe {
  return {
    ...recipe,
    objects: recipe.objects.map((object) =>
      object.kind === 'picture' ? { ...object, picture: { ...object.picture, dropGround: drop } } : object,
    ),
  };
}

describe('checks', () => {
  it('each have a case', () => {
    expect(Object.keys(CASES).sort()).toEqual(CHECKS.map(({ id }) => id).sort());
    expect(new Set(CHECKS.map(({ name }) => name)).size).toBe(CHECKS.length);
  });

  for (const [id, { has, hasNot, repair }] of Object.entries(CASES)) {
    it(`find ${id}, and not what is just inside the limit`, () => {
      const [found] = check(id, has);
      expect(found).toBeDefined();
      expect(found.harm).toBeGreaterThanOrEqual(1);
      expect(found.text.length).toBeGreaterThan(8);
      if (repair) expect(found.repairs.map(({ label }) => label).join()).toContain(repair);
      expect(check(id, hasNot)).toEqual([]);
    });
  }

  it('close a gap by the one piece below it, as wide as its widest gap, whatever else was said of it', () => {
    const [left, right] = halves();
    const said = { ...left, choices: { ...left.choices, values: { angle: 30, overlapMm: 0.5 } } };
    const [first] = check('gap-opens', { ...CASES['gap-opens'].has, pieces: [said, right] });
    const decision = first.repairs.at(0)?.decisions?.at(0);
    expect(first.repairs.length).toBe(1);
    expect(decision?.kind === 'stitch' && decision.set['angle']).toBe(30);
    const overlap = decision?.kind === 'stitch' ? Number(decision.set['overlapMm']) : 0;
    const width = Number(/([\d.]+) mm/.exec(first.text)?.[1]);
    expect(overlap).toBeCloseTo(0.5 + width + 0.15, 1);
  });

  it('offer to cut only what lies below something', () => {
    expect(check('covers', CASES['covers'].has)[0].repairs.length).toBe(1);
    expect(check('covers', { ...CASES['covers'].has, pieces: [pieceOf([rectangle(0, 0, 4, 4)])] })[0].repairs).toEqual(
      [],
    );
  });

  it('offer no repair of a part that cannot be named without the other parts of its shape', () => {
    const part = (y: number, more: Partial<Piece> = {}): Piece =>
      satinPieceOf([rectangle(0, y, 20, 0.7)], { widthMm: 0.7, shapeMm2: 400, ...more });
    const repairs = (...pieces: Piece[]): number[] =>
      check('satin-width', { pieces }).map((finding) => finding.repairs.length);
    const area = pieceOf([rectangle(0, 12, 10, 10)], { shapeMm2: 400 });
    expect(repairs(part(0), area)).toEqual([0]);
    expect(repairs(part(0), part(9, { widthMm: 3 }))).toEqual([0]);
    // Parts that are sewn alike, and about as wide, are told together.
    expect(repairs(part(0), part(9))).toEqual([1, 1]);
    expect(repairs(part(0))).toEqual([1]);
  });

  it('sew a line three times over that is part of a shape with areas, those as they were', () => {
    const line = linePieceOf([0, 0, 20, 0], 0.5, { shapeMm2: 400 });
    const area = pieceOf([rectangle(0, 12, 10, 10)], { shapeMm2: 400 });
    const thin = { pieces: [line, area], fabric: 'towelling' };
    const [decision] = check('thin-line-sinks', thin)[0].repairs[0].decisions ?? [];
    expect(decision).toEqual(jasmine.objectContaining({ kind: 'stitch', set: { passes: 3 } }));
    // Where a kind was said of it, that holds for all parts: it is said anew only of a line by itself.
    expect(check('thin-line-sinks', { ...thin, pieces: [{ ...line, chosen: true }, area] })[0].repairs).toEqual([]);
    const [anew] = check('thin-line-sinks', { ...thin, pieces: [{ ...line, chosen: true }] })[0].repairs;
    expect(anew.decisions?.[0]).toEqual(jasmine.objectContaining({ kind: 'sew', as: 'running', passes: 3 }));
  });

  it('know rows that follow guide lines, wide satin and lines three times over', () => {
    const bar = pieceOf([rectangle(0, 0, 40, 9)], { choices: { ...NO_CHOICES, guides: [[0, 0, 40, 0]] } });
    expect(check('rows-along-edge', { pieces: [bar], rowAngles: [0] })).toEqual([]);
    const wide = satinPieceOf(thicken([[0, 0, 30, 0]], 8, false, { cap: 'butt', join: 'miter', miterLimit: 2 }), {
      widthMm: 8,
    });
    expect(check('satin-width', { pieces: [wide] })[0].repairs[0].label).toContain('tatami');
    const line = linePieceOf([0, 0, 20, 0], 0.5, { passes: 3 });
    expect(check('thin-line-sinks', { pieces: [line], fabric: 'towelling' })).toEqual([]);
  });
});
