import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { defaultRecipe, pictureOf, viewOf, type Design, type PictureObject, type PictureView } from '@open-kite/core';
import { produce } from 'immer';
import { fakeConversion, fakeStore, smallDesign, studioProviders, pickIn } from '../../test/rig';
import { StudioState } from '../studio-state';
import { axesOf, parseValues, valuesAround } from './try-out-axes';
import { TryOutRunner } from './try-out-runner';
import { TryOuts } from './try-outs';

describe('settings of try-outs', () => {
  const whole = defaultRecipe(200, 200);
  const recipe: PictureView = { ...viewOf(whole, pictureOf(whole) as PictureObject), method: 'rows' };

  it('are read and written by every axis, within its limits', () => {
    for (const method of ['pieces', 'rows', 'painting', 'inks', 'cross']) {
      const of = { ...recipe, method };
      for (const axis of axesOf(of, 8)) {
        const values = valuesAround(axis, of);
        expect(values.length).toBe(3);
        for (const value of values) {
          expect(value).withContext(axis.label).toBeGreaterThanOrEqual(axis.least);
          expect(value).withContext(axis.label).toBeLessThanOrEqual(axis.most);
          const changed = produce(of, (draft) => void axis.write(draft as never, value));
          expect(axis.read(changed)).withContext(`${method} ${axis.label}`).toBeCloseTo(value, 6);
        }
      }
    }
  });

  it('are read as people type them', () => {
    const [axis] = axesOf({ ...recipe, method: 'painting' }, 8);
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

  beforeAll(async () => (design = await smallDesign()));

  beforeEach(async () => {
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion(design), store) });
    TestBed.inject(StudioState).tryOuts.set(true);
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
