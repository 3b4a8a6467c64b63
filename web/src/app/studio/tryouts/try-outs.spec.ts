import { type ComponentFixture, TestBed } from '@angular/core/testing';
import {
  defaultRecipe,
  parseRecipe,
  pictureOf,
  viewOf,
  withView,
  type Design,
  type PictureObject,
  type PictureView,
} from '@open-kite/core';
import { produce } from 'immer';
import { MatSelectHarness } from '@angular/material/select/testing';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router } from '@angular/router';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { of } from 'rxjs';
import { Api } from '../../api/api';
import { fakeConversion, fakeStore, smallDesign, studioProviders, pickIn, until } from '../../test/rig';
import { StudioState } from '../studio-state';
import { axesOf, firstChoices, parseValues, valuesAround, type ChoiceAxis, type NumberAxis } from './try-out-axes';
import { TryOutRunner, type TryOut } from './try-out-runner';
import { TryOuts } from './try-outs';

const AT_HAND = { suggestedColours: 8, charts: [{ id: 'harbour', name: 'Harbour 40' }] };

describe('settings of try-outs', () => {
  const whole = defaultRecipe(200, 200);
  const recipe: PictureView = { ...viewOf(whole, pictureOf(whole) as PictureObject), method: 'rows' };

  it('of another cloth do not keep what was measured on the one before', () => {
    const pull = [{ lengthMm: 8, acrossMm: 0.2, downMm: 0.3, slantMm: 0.2 }];
    const measured = { name: 'Counter jersey', pull, pushMm: 0.1, gapMm: 0.2 };
    const view: PictureView = { ...recipe, cloth: { ...recipe.cloth, measured } };
    const cloth = axesOf(view, AT_HAND).find(({ id }) => id === 'cloth') as ChoiceAxis;
    const other = firstChoices(cloth, view).find((id) => id !== view.cloth.fabric) as string;
    const changed = produce(view, (draft) => void cloth.write(draft as never, other));
    expect(view.cloth.measured).toBeDefined();
    expect(changed.cloth.fabric).toBe(other);
    expect(changed.cloth.measured).toBeUndefined();
  });

  it('are read and written by every axis, within its limits', () => {
    for (const method of ['pieces', 'rows', 'painting', 'inks', 'cross']) {
      const view = { ...recipe, method };
      const axes = axesOf(view, AT_HAND);
      expect(new Set(axes.map(({ id }) => id)).size).toBe(axes.length);
      for (const axis of axes) {
        if (axis.kind === 'choice') {
          const ids = firstChoices(axis, view);
          expect(ids.length).withContext(axis.label).toBeGreaterThan(1);
          for (const id of axis.choices.map((choice) => choice.id)) {
            const changed = produce(view, (draft) => void axis.write(draft as never, id));
            expect(axis.read(changed)).withContext(`${method} ${axis.label}`).toBe(id);
            expect(() => parseRecipe(withView(whole, changed)))
              .withContext(axis.label)
              .not.toThrow();
          }
          continue;
        }
        const values = valuesAround(axis, view);
        expect(values.length).toBe(3);
        for (const value of values) {
          expect(value).withContext(axis.label).toBeGreaterThanOrEqual(axis.least);
          expect(value).withContext(axis.label).toBeLessThanOrEqual(axis.most);
          const changed = produce(view, (draft) => void axis.write(draft as never, value));
          expect(axis.read(changed)).withContext(`${method} ${axis.label}`).toBeCloseTo(value, 6);
        }
      }
    }
  });

  it('are read as people type them', () => {
    const axis = axesOf({ ...recipe, method: 'painting' }, AT_HAND).find(({ id }) => id === 'count') as NumberAxis;
    expect(parseValues('8, 9; 10 10', axis)).toEqual([8, 9, 10]);
    expect(parseValues('8, many', axis)).toBeUndefined();
    expect(parseValues('8, 99', axis)).toBeUndefined();
    expect(parseValues('', axis)).toBeUndefined();
  });
});

describe('TryOuts', () => {
  let design: Design;
  let fixture: ComponentFixture<TryOuts>;
  let store: ReturnType<typeof fakeStore>;
  let start: jasmine.Spy<TryOutRunner['start']>;

  beforeAll(async () => (design = await smallDesign()));

  beforeEach(async () => {
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion(design), store) });
    TestBed.inject(StudioState).tryOuts.set(true);
    start = spyOn(TestBed.inject(TryOutRunner), 'start').and.resolveTo();
    fixture = TestBed.createComponent(TryOuts);
    await fixture.whenStable();
  });

  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const type = async (text: string): Promise<void> => {
    const field = host().querySelector<HTMLInputElement>('.plan input');
    if (!field) throw new Error('no field');
    field.value = text;
    field.dispatchEvent(new Event('input'));
    await fixture.whenStable();
  };
  const make = (): HTMLButtonElement => {
    const found = [...host().querySelectorAll('button')].find((b) => b.innerText.startsWith('Make'));
    if (!found) throw new Error('no button');
    return found;
  };

  it('says what it would make, what is wrong with a value, and when there are too many', async () => {
    await type('3, 4');
    expect(make().innerText).toBe('Make 2');
    await type('3, x');
    expect(host().querySelector('.fault')?.textContent).toContain('numbers from 1 to 60');
    expect(make().disabled).toBeTrue();
    await type('1 2 3 4 5 6 7 8 9 10');
    expect(host().querySelector('.fault')?.textContent).toContain('it holds 9');
  });

  it('begins with a first set, so that the board is not empty', () => {
    expect(start).toHaveBeenCalledTimes(1);
    expect(start.calls.mostRecent().args[0].map(({ label }) => label)).toEqual([
      'threads at most 2',
      'threads at most 3',
      'threads at most 4',
    ]);
  });

  it('varies what is one of several things, by name', async () => {
    await pickIn(fixture, 'Vary', 'method');
    expect(make().innerText).toBe('Make 5');
    make().click();
    const variants = start.calls.mostRecent().args[0];
    expect(variants.map(({ label }) => label)).toContain('Thread painting');
    expect(new Set(variants.map(({ recipe }) => pictureOf(recipe)?.method)).size).toBe(5);
    await pickIn(fixture, 'Vary', 'cloth');
    const list = await TestbedHarnessEnvironment.loader(fixture).getHarness(
      MatSelectHarness.with({ selector: '.picks *' }),
    );
    await list.open();
    for (const option of await list.getOptions({ isSelected: true })) await option.click();
    expect(host().querySelector('.fault')?.textContent).toContain('Cloth: pick at least one.');
    await list.clickOptions({ text: 'Denim' });
    expect(make().innerText).toBe('Make 1');
  });

  it('sorts what is done by what a shop decides by', async () => {
    const runner = TestBed.inject(TryOutRunner);
    const item = (id: number, stitches: number, deltaE: number): TryOut => ({
      id,
      recipe: store.recipe(),
      label: `variant ${id}`,
      state: 'done',
      share: 1,
      stitches,
      minutes: stitches / 100,
      threadChanges: 10 - id,
      deltaE,
    });
    runner.list.set([item(1, 300, 2), item(2, 100, 3), item(3, 200, 1)]);
    await fixture.whenStable();
    const labels = (): string[] =>
      [...host().querySelectorAll('.cards strong')].map((s) => s.textContent.trim().slice(-1));
    expect(labels()).toEqual(['1', '2', '3']);
    for (const [id, order] of [
      ['stitches', '231'],
      ['difference', '312'],
      ['minutes', '231'],
      ['changes', '321'],
      ['made', '123'],
    ]) {
      await pickIn(fixture, 'Sorted by', id);
      expect(labels().join('')).withContext(id).toBe(order);
    }
  });

  it('makes one a project of its own, with its pictures, and leaves this one as it is', async () => {
    const api = TestBed.inject(Api) as unknown as { createVariant: jasmine.Spy };
    api.createVariant = jasmine.createSpy().and.returnValue(of({ id: 'new' }));
    const said = spyOn(TestBed.inject(MatSnackBar), 'open').and.returnValue({ onAction: () => of(undefined) } as never);
    const went = spyOn(TestBed.inject(Router), 'navigate').and.resolveTo(true);
    const recipe = { ...store.recipe(), cloth: { fabric: 'denim', hex: '#123456' } };
    TestBed.inject(TryOutRunner).list.set([{ id: 1, recipe, label: 'on denim', state: 'done', share: 1 }]);
    await fixture.whenStable();
    host().querySelector<HTMLButtonElement>('button[aria-label="Make a project: on denim"]')?.click();
    await until(() => went.calls.count() > 0);
    const [name, sent, pictures] = api.createVariant.calls.mostRecent().args as [
      string,
      unknown,
      Record<string, string>,
    ];
    expect(name).toContain(', on denim');
    expect(sent).toBe(recipe);
    expect(Object.keys(pictures)).toEqual(Object.keys(store.pictures()));
    expect(said.calls.mostRecent().args[0]).toContain('lies on the shelf');
    expect(store.view().cloth.hex).not.toBe('#123456');
  });

  it('crosses two settings', async () => {
    await type('3, 4');
    await pickIn(fixture, 'and', 'angle');
    expect(make().innerText).toBe('Make 6');
  });

  it('keeps one as the project, and closes', async () => {
    const runner = TestBed.inject(TryOutRunner);
    const recipe = { ...store.recipe(), cloth: { fabric: 'denim', hex: '#123456' } };
    runner.list.set([
      { id: 1, recipe, label: 'cloth', state: 'done', share: 1, stitches: 10, minutes: 1, threadChanges: 0, deltaE: 2 },
    ]);
    await fixture.whenStable();
    host().querySelector<HTMLButtonElement>('button[aria-label="Keep cloth"]')?.click();
    expect(store.view().cloth.hex).toBe('#123456');
    expect(TestBed.inject(StudioState).tryOuts()).toBeFalse();
  });

  it('throws one away', async () => {
    const runner = TestBed.inject(TryOutRunner);
    runner.list.set([{ id: 7, recipe: store.recipe(), label: 'this', state: 'done', share: 1 }]);
    await fixture.whenStable();
    host().querySelector<HTMLButtonElement>('button[aria-label="Throw away this"]')?.click();
    await fixture.whenStable();
    expect(host().querySelectorAll('.cards .shot').length).toBe(0);
  });
});
