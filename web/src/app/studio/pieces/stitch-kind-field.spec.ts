import { TestBed } from '@angular/core/testing';
import { STITCH_KINDS } from '@open-kite/core';
import { choiceIn, fakeConversion, fakeStore, pickIn, smallDesign, studioProviders } from '../../test/rig';
import { StudioState } from '../studio-state';
import { StitchKindField } from './stitch-kind-field';

describe('StitchKindField', () => {
  const make = async (...pieces: number[]) => {
    const design = await smallDesign();
    const conversion = fakeConversion(design);
    const store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    const fixture = TestBed.createComponent(StitchKindField);
    fixture.componentRef.setInput('pieces', pieces);
    TestBed.inject(StudioState).selectAll(pieces);
    await fixture.whenStable();
    return { fixture, store, conversion, design, field: () => choiceIn(fixture, 'Stitch kind') };
  };

  it('has every kind once, in families, and a running line by its passes', async () => {
    const { field } = await make(0);
    const ids = field()
      .choices()
      .map(({ id }) => id);
    expect(new Set(ids).size).toBe(ids.length);
    for (const { id } of STITCH_KINDS)
      expect(ids.filter((each) => each.split(' ')[0] === id).length).toBe(id === 'running' ? 4 : 1);
    expect(
      new Set(
        field()
          .choices()
          .map(({ group }) => group),
      ),
    ).toEqual(new Set([undefined, 'Fills', 'Columns', 'Lines']));
  });

  it('says what the width came to, and what somebody chose', async () => {
    const { field, conversion, design, fixture } = await make(0);
    expect(field().value()).toBe('auto');
    expect(field().choices()[0].name).toMatch(/^By its width: tatami/);
    conversion.design.set({
      ...design,
      pieces: design.pieces.map((piece, i) =>
        i === 0 ? { ...piece, chosen: true, kind: 'running', passes: 3 } : piece,
      ),
    });
    await fixture.whenStable();
    expect(field().value()).toBe('running 3');
    expect(field().choices()[0].name).toBe('By its width');
  });

  it('says nothing where pieces differ, and sews all of them by what is chosen', async () => {
    const { field, conversion, design, fixture, store } = await make(0, 1);
    conversion.design.set({
      ...design,
      pieces: design.pieces.map((piece, i) => (i === 0 ? { ...piece, chosen: true } : piece)),
    });
    await fixture.whenStable();
    expect(field().value()).toBeUndefined();
    await pickIn(fixture, 'Stitch kind', 'running 2');
    expect(store.view().decisions.length).toBe(2);
    for (const decision of store.view().decisions) {
      expect(decision).toEqual(jasmine.objectContaining({ kind: 'sew', as: 'running', passes: 2 }));
    }
  });
});
