import { TestBed } from '@angular/core/testing';
import { STITCH, TRIM, type Design } from '@open-kite/core';
import { fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { StudioState } from '../studio-state';
import { rowsOf } from './hand-rows';
import { NeedleActs } from './needle-acts';

describe('needle points of the chosen piece', () => {
  let design: Design;
  let store: ReturnType<typeof fakeStore>;
  let acts: NeedleActs;

  beforeAll(async () => (design = await smallDesign()));
  beforeEach(() => {
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion(design), store) });
    const state = TestBed.inject(StudioState);
    acts = TestBed.inject(NeedleActs);
    state.knot.set('stitches');
    state.selectAll([0]);
    acts.toggle();
    TestBed.tick();
  });

  const said = () => store.recipe().decisions.find(({ kind }) => kind === 'rows');

  it('are those of the stitch list, and the list looks like a needle list', () => {
    expect(acts.rows()).toEqual(rowsOf(design, 0));
    expect(TestBed.inject(StudioState).look()).toBe('line');
  });

  it('are moved, added and taken away, and the ties are among them from then on', () => {
    const count = acts.rows().length;
    acts.chosen.set(new Set([1, 2]));
    acts.move(1, 1);
    const rows = said();
    expect(rows?.kind === 'rows' && rows.rows.length).toBe(count * 3);
    const tie = store.recipe().decisions.find(({ kind }) => kind === 'stitch');
    expect(tie?.kind === 'stitch' && tie.set['tie']).toBe('none');
    acts.chosen.set(new Set([1]));
    acts.add();
    expect(acts.rows().length).toBe(count + 1);
    acts.chosen.set(new Set([1]));
    expect(acts.remove()).toBe(true);
    expect(acts.rows().length).toBe(count);
    expect(acts.remove()).toBe(false);
  });

  it('get a trim after them, and sew themselves again when given back', () => {
    acts.chosen.set(new Set([3]));
    acts.toggleBetween('trim');
    expect(acts.rows().filter(([, , command]) => command === TRIM).length).toBe(1);
    expect(acts.rows().filter(([, , command]) => command === STITCH).length).toBe(rowsOf(design, 0).length);
    acts.giveBack();
    expect(said()).toBeUndefined();
  });
});
