import { TestBed } from '@angular/core/testing';
import {
  areaWithin,
  flattenRing,
  mapPoint,
  newShape,
  pathCurve,
  type Design,
  type Matrix,
  type ShapeObject,
} from '@open-kite/core';
import { pieceOf, rectangle } from '@open-kite/core/testing';
import { Conversion } from '../../convert/conversion';
import type { Draft } from '../../project/history';
import { fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { StudioState } from '../studio-state';
import { CopyActs } from './copy-acts';
import { cornersOf, middleOf, mirrored, pulled, turned } from './gesture';
import { PlaceActs } from './place-acts';
import { ShapeActs } from './shape-acts';

const BOX = { left: 0, top: 0, right: 20, bottom: 10 };
const at = (m: Matrix, x: number, y: number): number[] => mapPoint(m, x, y).map((v) => Number(v.toFixed(6)) + 0);

describe('gestures', () => {
  it('move, along one direction with Shift', () => {
    const from = { x: 5, y: 5 };
    expect(at(pulled('inside', BOX, from, { x: 8, y: 6 }, false, false), 0, 0)).toEqual([3, 1]);
    expect(at(pulled('inside', BOX, from, { x: 8, y: 6 }, true, false), 0, 0)).toEqual([3, 0]);
  });

  it('scale from a corner, the opposite one staying', () => {
    const { se } = cornersOf(BOX);
    const both = pulled('se', BOX, se, { x: 40, y: 20 }, false, false);
    expect(at(both, 0, 0)).toEqual([0, 0]);
    expect(at(both, 20, 10)).toEqual([40, 20]);
    const loose = pulled('se', BOX, se, { x: 40, y: 10 }, false, true);
    expect(at(loose, 20, 10)).toEqual([40, 10]);
    // Nothing is turned inside out, however far the corner is pulled.
    expect(at(pulled('se', BOX, se, { x: -90, y: -90 }, false, false), 20, 10)[0]).toBeGreaterThan(0);
  });

  it('turn around the middle, by steps with Shift', () => {
    const by = pulled('turn', BOX, { x: 10, y: -9 }, { x: 24, y: 5 }, false, false);
    expect(at(by, 10, -9)).toEqual([24, 5]);
    const steps = pulled('turn', BOX, { x: 10, y: -9 }, { x: 23.6, y: 3 }, true, false);
    expect(Math.round((Math.atan2(steps.b, steps.a) * 180) / Math.PI) % 15).toBe(0);
    expect(turned({ x: 0, y: 0 }, 90)).toEqual({ a: 0, b: 1, c: -1, d: 0, e: 0, f: 0 });
    expect(at(mirrored(middleOf(BOX), 'x'), 0, 3)).toEqual([20, 3]);
  });
});

describe('what is chosen', () => {
  let design: Design;
  let store: ReturnType<typeof fakeStore>;
  let state: StudioState;
  let place: PlaceActs;
  let copies: CopyActs;

  beforeAll(async () => (design = await smallDesign()));
  beforeEach(() => {
    localStorage.clear();
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion(design), store) });
    state = TestBed.inject(StudioState);
    place = TestBed.inject(PlaceActs);
    copies = TestBed.inject(CopyActs);
  });

  const placed = () => store.recipe().decisions.filter(({ kind }) => kind === 'place');
  const shape = (id: string): ShapeObject => newShape(id, null, [], { hex: '#204060' });
  const chooseShapes = (...objects: string[]): void => {
    Object.defineProperty(place, 'things', { value: () => ({ objects, pieces: [] }) });
  };
  const addShapes = (...ids: string[]): void =>
    store.changeWhole('test', ({ objects }) => void objects.push(...(ids.map(shape) as Draft<ShapeObject>[])));

  it('is moved as one decision for each found piece, however often', () => {
    state.selectAll([0, 1]);
    expect(place.count()).toBe(2);
    place.nudge(1, 0);
    place.nudge(0, 2);
    expect(placed().length).toBe(2);
    const [first] = store.line().entries.slice(-1);
    expect(first.label).toBe('moved');
  });

  it('is a whole picture where that is chosen, which moves itself', () => {
    state.chooseWhole('picture-1');
    const before = place.box();
    place.nudge(5, -3);
    const [object] = store.recipe().objects;
    expect(object.kind === 'picture' && [object.picture.xMm, object.picture.yMm]).toEqual([5, -3]);
    expect(place.box()?.left).toBeCloseTo((before?.left ?? 0) + 5, 3);
    expect(placed().length).toBe(0);
  });

  it('takes typed places, sizes and turns, and refuses what cannot be sewn', () => {
    state.chooseWhole('picture-1');
    place.moveTo('x', 12);
    place.resize('width', 50, true);
    place.turn(90);
    const [object] = store.recipe().objects;
    if (object.kind !== 'picture') throw new Error('no picture');
    expect(object.picture.widthMm).toBeCloseTo(50, 1);
    expect(object.picture.turn).toBe(90);
    expect(middleOf(place.box() ?? BOX).x).toBeCloseTo(12, 1);
    const say = spyOn(place, 'say');
    place.resize('width', 5000, true);
    expect(say).toHaveBeenCalledTimes(1);
  });

  it('is lined up and spread as one step of undo', () => {
    state.selectAll([0, 1, 2]);
    const before = store.line().entries.length;
    place.align('left');
    place.spread('y');
    expect(store.line().entries.length).toBe(before + 2);
    expect(placed().length).toBeGreaterThan(0);
  });

  it('becomes shapes of its own when it is duplicated, beside where it lies', () => {
    state.selectAll([0]);
    copies.duplicate();
    const made = store.recipe().objects.at(-1);
    expect(made?.kind).toBe('shape');
    expect(made?.kind === 'shape' && made.place.e).toBe(5);
    expect(made?.kind === 'shape' && 'hex' in made.paint).toBe(true);
  });

  it('takes in another project as one group, with its pictures and what was said of its pieces', () => {
    const own = store.recipe();
    const before = own.objects.length;
    const other = {
      ...own,
      objects: [...own.objects, shape('shape-1')],
      decisions: [{ kind: 'bare' as const, at: { object: 'picture-1', hex: '#204060', u: 0.5, v: 0.5, share: 0.1 } }],
    };
    const picture = { ...store.pictures()['picture-1'], hash: 'f'.repeat(64) };
    copies.addProject({ name: 'Other kite', recipe: other, pictures: { 'picture-1': picture } });
    const added = store.recipe().objects.slice(before);
    expect(added.length).toBe(before + 1);
    expect(new Set(added.map(({ group }) => group))).toEqual(new Set(['group-1']));
    expect(new Set(store.recipe().objects.map(({ id }) => id)).size).toBe(store.recipe().objects.length);
    const [first] = added;
    expect(first.kind === 'picture' && first.source).not.toBe('picture-1');
    expect(store.recipe().decisions.at(-1)?.at.object).toBe(first.id);
    copies.addProject({ name: 'Empty', recipe: { ...other, objects: [] }, pictures: {} });
    expect(store.recipe().objects.length).toBe(before + added.length);
  });

  it('is copied into another project, and nothing that is damaged is', () => {
    state.selectAll([0]);
    expect(copies.copy()).toBe(true);
    const count = store.recipe().objects.length;
    copies.paste();
    expect(store.recipe().objects.length).toBe(count + 1);
    localStorage.setItem(
      'open-kite copied',
      '{"kind":"open-kite copied","objects":[{"kind":"bomb"}],"decisions":[],"pictures":{}}',
    );
    copies.paste();
    expect(store.recipe().objects.length).toBe(count + 1);
  });

  it('is grouped only where there are two objects', () => {
    addShapes('d1', 'd2');
    const say = spyOn(place, 'say');
    state.selectAll([0, 1]);
    copies.group();
    expect(say).toHaveBeenCalledTimes(1);
    chooseShapes('d1', 'd2');
    copies.group();
    expect(store.recipe().objects.map(({ group }) => group)).toEqual([undefined, 'group-1', 'group-1']);
    expect(copies.isGrouped()).toBe(true);
    copies.ungroup();
    expect(copies.isGrouped()).toBe(false);
  });

  it('goes up and down the stack together', () => {
    addShapes('d1', 'd2', 'd3');
    chooseShapes('d1', 'd2');
    copies.step(1);
    expect(store.recipe().objects.map(({ id }) => id)).toEqual(['picture-1', 'd3', 'd1', 'd2']);
    copies.step(-1);
    expect(store.recipe().objects.map(({ id }) => id)).toEqual(['picture-1', 'd1', 'd2', 'd3']);
  });

  it('chooses what is alike', () => {
    state.selectAll([0]);
    copies.chooseAlike('thread');
    const thread = design.pieces[0].thread;
    for (const i of state.selected()) expect(design.pieces[i].thread).toBe(thread);
    expect(state.selected().size).toBe(design.pieces.filter((piece) => piece.thread === thread).length);
  });

  it('becomes one shape of several, the pieces it was made of staying bare', () => {
    const shapes = TestBed.inject(ShapeActs);
    state.selectAll([0, 1]);
    expect(shapes.can()).toBe(true);
    shapes.make('combine');
    expect(store.recipe().objects.at(-1)?.kind).toBe('shape');
    expect(store.recipe().decisions.filter(({ kind }) => kind === 'bare').length).toBe(2);
  });

  it('reckons with whole shapes, also where what lies over one is cut out of it', () => {
    const shapes = TestBed.inject(ShapeActs);
    const lower = { ...pieceOf([rectangle(0, 0, 6, 10)]), object: 'low', layer: 0 };
    const upper = { ...pieceOf([rectangle(6, 0, 10, 10)]), object: 'high', layer: 1 };
    const drawn = (id: string, left: number): ShapeObject => {
      const corners = [
        [left, 0],
        [left + 10, 0],
        [left + 10, 10],
        [left, 10],
      ];
      const nodes = corners.map(([x, y]): [number, number, number, number, number, number] => [x, y, 0, 0, 0, 0]);
      return newShape(id, null, [{ closed: true, nodes }], { hex: '#22304a' });
    };
    store.changeWhole('two squares', ({ objects }) => {
      objects.push(...([drawn('low', 0), drawn('high', 6)] as Draft<ShapeObject>[]));
    });
    TestBed.inject(Conversion).design.set({ ...design, pieces: [lower, upper] });
    state.selectAll([0, 1]);
    shapes.make('cut');
    const made = store.recipe().objects.at(-1);
    expect(made?.kind === 'shape' ? areaOfPaths(made) : 0).toBeCloseTo(40, 0);
    expect(store.recipe().objects.some(({ id }) => id === 'low' || id === 'high')).toBeFalse();
  });

  it('lets the lowest reach under the others by a width, and keeps those as they are', () => {
    const shapes = TestBed.inject(ShapeActs);
    const square = (left: number, layer: number) => ({ ...pieceOf([rectangle(left, 0, 10, 10)]), layer });
    TestBed.inject(Conversion).design.set({ ...design, pieces: [square(0, 0), square(10, 1)] });
    state.selectAll([0, 1]);
    shapes.overlapMm.set(1);
    shapes.make('overlap');
    const { objects, decisions } = store.recipe();
    // Below the picture whose pieces they are, whole, the one piece it was made of bare.
    expect(objects.map(({ kind }) => kind)).toEqual(['shape', 'picture']);
    const [made] = objects;
    expect(decisions.map(({ kind }) => kind)).toEqual(['bare', 'hidden']);
    expect(decisions[1].at.object).toBe(made.id);
    // One millimetre of the other's side; nothing where there is nothing above.
    expect(made.kind === 'shape' ? areaOfPaths(made) : 0).toBeCloseTo(110, 0);
  });
});

const areaOfPaths = (shape: ShapeObject): number =>
  areaWithin(
    shape.paths.map((path) =>
      flattenRing(
        pathCurve(path, (u, v) => ({ x: u, y: v })),
        0.02,
      ),
    ),
  );
