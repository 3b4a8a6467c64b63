import { TestBed } from '@angular/core/testing';
import { defaultRecipe } from '@open-kite/core';
import { Unsent, type UnsentChanges } from './unsent';

describe('Unsent', () => {
  const changes: UnsentChanges = {
    revision: 3,
    base: 0,
    name: 'Kite',
    recipe: defaultRecipe(100, 80),
    entries: [{ label: 'row angle', patches: [], inverse: [] }],
    position: 1,
    shared: 0,
  };

  it('keeps changes until they are dropped, each project by itself', async () => {
    const unsent = TestBed.inject(Unsent);
    await unsent.keep('one', changes);
    await unsent.keep('two', { ...changes, name: 'Other' });
    expect(await unsent.find('one')).toEqual(changes);
    await unsent.drop('one');
    expect(await unsent.find('one')).toBeUndefined();
    expect((await unsent.find('two'))?.name).toBe('Other');
    await unsent.drop('two');
  });

  it('does without where the browser keeps nothing', async () => {
    spyOn(indexedDB, 'open').and.throwError('not allowed here');
    const unsent = TestBed.inject(Unsent);
    await expectAsync(unsent.keep('one', changes)).toBeResolved();
    expect(await unsent.find('one')).toBeUndefined();
  });
});
