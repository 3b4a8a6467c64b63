import { mapPoint, type Matrix } from '../artwork/matrix.js';
import { defaultRecipe } from '../recipe/recipe.js';
import type { DesignObject, PictureObject, ShapeObject } from './design-object.js';
import { objectFrame } from './frames.js';
import { placeChosen } from './place-chosen.js';

const about = (x: number, y: number, a: number, b: number, c: number, d: number): Matrix => ({
  a,
  b,
  c,
  d,
  e: x - a * x - c * y,
  f: y - b * x - d * y,
});
const turn = (degrees: number, scale = 1): Matrix => {
  const t = (degrees * Math.PI) / 180;
  return about(7, -4, scale * Math.cos(t), scale * Math.sin(t), -scale * Math.sin(t), scale * Math.cos(t));
};
const MIRROR = about(3, 0, -1, 0, 0, 1);

const [picture] = defaultRecipe(400, 300).objects as readonly PictureObject[];
const shape = (id: string, on: string | null): ShapeObject => ({
  kind: 'shape',
  id,
  name: '',
  on,
  hidden: false,
  locked: false,
  place: { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 },
  role: 'piece',
  paths: [
    {
      closed: true,
      nodes: [
        [0.1, 0.1, 0, 0, 0, 0],
        [0.4, 0.1, 0, 0, 0, 0],
        [0.2, 0.3, 0, 0, 0, 0],
      ],
    },
  ],
  widthMm: 1,
  as: 'auto',
  passes: 0,
  paint: { hex: '#204060' },
  copies: { count: 1, radius: 0 },
  replaces: null,
});
const run = (objects: readonly DesignObject[], chosen: readonly string[], by: Matrix): readonly DesignObject[] => {
  const made = placeChosen({ objects, decisions: [] }, { objects: chosen, pieces: [] }, by);
  if (!made) throw new Error('nothing was made');
  return made.objects;
};

/** Whether places of an object lie where the map takes them. */
function follows(before: readonly DesignObject[], after: readonly DesignObject[], id: string, by: Matrix): void {
  const [from, to] = [objectFrame(before, id), objectFrame(after, id)];
  for (const [u, v] of [
    [0, 0],
    [1, 0.2],
    [0.3, 1],
  ]) {
    const was = from.toHoop(u, v);
    const [x, y] = mapPoint(by, was.x, was.y);
    const is = to.toHoop(u, v);
    expect(is.x).toBeCloseTo(x, 1);
    expect(is.y).toBeCloseTo(y, 1);
  }
}

describe('placeChosen', () => {
  const moves: readonly Matrix[] = [
    { a: 1, b: 0, c: 0, d: 1, e: 12.5, f: -8 },
    turn(33),
    turn(-120, 0.6),
    about(10, 5, 1.4, 0, 0, 1.4),
    MIRROR,
  ];

  it('takes pictures where a map takes them, turned and mirrored ones too', () => {
    const starts: Partial<PictureObject['picture']>[] = [
      {},
      { turn: 20, xMm: 11, yMm: -6 },
      { turn: -70, mirror: true },
      { mask: { shape: 'oval', x: 8, y: -5, widthMm: 40, heightMm: 30, turn: 10 }, turn: 15 },
    ];
    for (const start of starts) {
      const before = [{ ...picture, picture: { ...picture.picture, ...start } }];
      for (const by of moves) follows(before, run(before, [picture.id], by), picture.id, by);
    }
  });

  it('scales the sides of an upright picture apart', () => {
    const by = about(0, 0, 1.5, 0, 0, 0.8);
    const before = [picture];
    follows(before, run(before, [picture.id], by), picture.id, by);
  });

  it('turns a mask with its picture, so that the same part of it is used', () => {
    const masked: PictureObject = {
      ...picture,
      picture: { ...picture.picture, mask: { shape: 'oval', x: 12, y: 4, widthMm: 30, heightMm: 20, turn: 0 } },
    };
    const [made] = run([masked], [masked.id], turn(90)) as readonly PictureObject[];
    const { mask } = made.picture;
    expect(mask?.turn).toBeCloseTo(90, 3);
    expect([mask?.x, mask?.y].map((v) => Math.round(v ?? 0))).toEqual([-4, 12]);
    expect(mask?.widthMm).toBeCloseTo(30, 3);
  });

  it('moves what lies on a picture once, with the picture', () => {
    const before = [picture, shape('s1', picture.id), shape('s2', null)];
    const [by] = moves;
    const after = run(before, [picture.id, 's1', 's2'], by);
    for (const id of [picture.id, 's1', 's2']) follows(before, after, id, by);
    expect(after[1]).toBe(before[1]);
    const alone = run(before, ['s1'], by);
    follows(before, alone, 's1', by);
    expect(alone[0]).toBe(picture);
  });

  it('makes lines of a scaled shape wider, and leaves what is locked', () => {
    const line = shape('s1', null);
    const [made] = run([line], ['s1'], about(0, 0, 2, 0, 0, 2)) as readonly ShapeObject[];
    expect(made.widthMm).toBe(2);
    const locked = { ...line, locked: true };
    expect(run([locked], ['s1'], moves[0])).toEqual([locked]);
  });

  it('refuses what would be larger than a hoop or too small to sew', () => {
    const by = (scale: number) => about(0, 0, scale, 0, 0, scale);
    const chosen = { objects: [picture.id], pieces: [] };
    for (const scale of [5, 0.01]) {
      expect(placeChosen({ objects: [picture], decisions: [] }, chosen, by(scale))).toBeUndefined();
    }
  });

  it('keeps one decision for a piece however often it is moved', () => {
    const at = { object: picture.id, anchor: { hex: '#204060', u: 0.4, v: 0.6, share: 0.1 } };
    const first = placeChosen({ objects: [picture], decisions: [] }, { objects: [], pieces: [at] }, moves[1]);
    const second = first && placeChosen(first, { objects: [], pieces: [at] }, moves[0]);
    expect(second?.decisions.length).toBe(1);
    const [said] = second?.decisions ?? [];
    const { toHoop, toFrame } = objectFrame([picture], picture.id);
    const [u, v] = said?.kind === 'place' ? mapPoint(said.by, 0.2, 0.7) : [0, 0];
    const [mx, my] = mapPoint(moves[1], toHoop(0.2, 0.7).x, toHoop(0.2, 0.7).y);
    const wanted = toFrame(mx + 12.5, my - 8);
    expect(u).toBeCloseTo(wanted.u, 6);
    expect(v).toBeCloseTo(wanted.v, 6);
    const both = placeChosen({ objects: [picture], decisions: [] }, { objects: [picture.id], pieces: [at] }, moves[0]);
    expect(both?.decisions).toEqual([]);
  });
});
