import { TestBed } from '@angular/core/testing';
import { MatSnackBar } from '@angular/material/snack-bar';
import { curveThrough, newShape, type Curve, type Design, type PictureView } from '@open-kite/core';
import type { Draft } from '../../project/history';
import { fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { StudioState } from '../studio-state';
import { PieceActs } from './piece-acts';

describe('PieceActs', () => {
  let design: Design;
  let conversion: ReturnType<typeof fakeConversion>;
  let store: ReturnType<typeof fakeStore>;
  let state: StudioState;
  let acts: PieceActs;

  const reconvert = async (): Promise<void> => {
    const view = store.view();
    conversion.design.set(await smallDesign((draft) => void Object.assign(draft, view as Draft<PictureView>)));
    state.findChosen();
  };
  const said = (): string[] =>
    (TestBed.inject(MatSnackBar).open as jasmine.Spy).calls.allArgs().map(([text]) => String(text));

  beforeAll(async () => (design = await smallDesign()));

  beforeEach(() => {
    conversion = fakeConversion(design);
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    state = TestBed.inject(StudioState);
    acts = TestBed.inject(PieceActs);
    spyOn(TestBed.inject(MatSnackBar), 'open');
  });

  it('orders pieces where that changes something', () => {
    const [first, second] = design.order;
    acts.orderBefore([second], first);
    expect(store.view().decisions).toEqual([jasmine.objectContaining({ kind: 'order' })]);
    expect(said()).toEqual([]);
  });

  it('does what is done to pieces of a rough result to those they become', () => {
    const [first, second] = design.order;
    conversion.rough.set(true);
    TestBed.tick();
    acts.leaveBare([first]);
    acts.orderBefore([second], 'last');
    expect(store.view().decisions).toEqual([]);
    conversion.design.set({ ...design });
    conversion.rough.set(false);
    TestBed.tick();
    expect(store.view().decisions.map(({ kind }) => kind)).toEqual(['bare', 'order']);
    const [bare, order] = store.view().decisions;
    expect('at' in bare && bare.at).toEqual(acts.refOf(design.pieces[first]));
    expect('at' in order && order.at).toEqual(acts.refOf(design.pieces[second]));
  });

  it('has a conversion that was stopped halfway go on for what is done to its rough pieces', () => {
    conversion.rough.set(true);
    acts.leaveBare([design.order[0]]);
    expect(conversion.convert).not.toHaveBeenCalled();
    conversion.state.set('cancelled');
    acts.leaveBare([design.order[0]]);
    expect(conversion.convert).toHaveBeenCalledOnceWith(store.recipe());
  });

  it('says so where a piece is sewn at that place already, and leaves nothing to undo', () => {
    const [first, second] = design.order;
    acts.orderBefore([first], second);
    acts.orderBefore([first], 'first');
    expect(store.view().decisions).toEqual([]);
    expect(store.line().entries.length).toBe(0);
    expect(said()).toEqual(['It is sewn at this place already.', 'It is sewn at this place already.']);
  });

  it('says so where a painted picture lies between', () => {
    const [first, second] = design.order;
    conversion.design.set({
      ...design,
      pictures: design.pictures.map((picture) => ({ ...picture, method: 'painting' })),
      pieces: design.pieces.map((piece, i) => (i === second ? { ...piece, object: 'shape-1' } : piece)),
    });
    store.changeWhole('a shape below', ({ objects }) => objects.unshift({ ...objects[0], id: 'shape-1' }));
    const before = store.line().entries.length;
    acts.orderBefore([second], first);
    expect(store.line().entries.length).toBe(before);
    expect(said()).toEqual([jasmine.stringContaining('painted picture')]);
  });

  it('leaves just the chosen piece chosen when the picture becomes smaller', async () => {
    const [wanted] = design.order;
    state.selectAll([wanted]);
    store.change('size', ({ picture }) =>
      Object.assign(picture, { widthMm: picture.widthMm * 0.7, heightMm: picture.heightMm * 0.7 }),
    );
    await reconvert();
    const pieces = conversion.design()?.pieces ?? [];
    expect([...state.selected()].map((i) => pieces[i].colour)).toEqual([design.pieces[wanted].colour]);
  });

  it('leaves all pieces chosen that one was taken into', async () => {
    const all = design.pieces.map((_, i) => i);
    acts.join(all);
    await reconvert();
    const joined = conversion.design()?.pieces ?? [];
    expect(joined.length).toBe(1);
    state.selectAll([0]);
    acts.apart([0]);
    await reconvert();
    const parts = conversion.design()?.pieces.length ?? 0;
    expect(parts).toBeGreaterThan(1);
    expect(state.selected().size).toBe(parts);
  });

  it('says why a ring without corners is not broken apart', () => {
    const turns = [0, 1, 2, 3, 0].map((k) => (k * Math.PI) / 2);
    const nodes = turns.map((t) => {
      const [x, y, dx, dy] = [Math.cos(t), Math.sin(t), -Math.sin(t) * 0.5523, Math.cos(t) * 0.5523];
      return [9 * x, 9 * y, -9 * dx, -9 * dy, 9 * dx, 9 * dy].map((v) => Number(v.toFixed(9)) + 0);
    });
    const ring = newShape('ring', null, [{ closed: false, nodes: nodes as never }], { hex: '#204060' });
    store.changeWhole('ring', ({ objects }) => void objects.push(ring as never));
    conversion.design.set({ ...design, pieces: [{ ...design.pieces[0], object: 'ring', origin: 'drawn' }] } as never);
    acts.apart([0]);
    expect(said().at(-1)).toContain('cut it open first');
    expect(store.recipe().decisions.filter(({ kind }) => kind === 'apart')).toEqual([]);
  });

  it('says so of a disc that was found, and lets an oblong one fall apart', () => {
    const disc = (wide: number): Curve => {
      const turns = Array.from({ length: 65 }, (_, k) => (k * Math.PI) / 32);
      return curveThrough(turns.flatMap((t) => [wide * 9 * Math.cos(t), 9 * Math.sin(t)]));
    };
    const found = (wide: number): void =>
      conversion.design.set({ ...design, pieces: [{ ...design.pieces[0], outline: [disc(wide)] }] });
    found(1);
    acts.apart([0]);
    expect(said().at(-1)).toContain('cut it open first');
    expect(store.recipe().decisions).toEqual([]);
    found(4);
    acts.apart([0]);
    expect(store.recipe().decisions.map(({ kind }) => kind)).toEqual(['apart']);
  });
});
