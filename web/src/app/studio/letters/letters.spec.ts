import { TestBed } from '@angular/core/testing';
import { newLetters, newShape, parseRecipe, type Design, type LettersObject, type ShapeObject } from '@open-kite/core';
import { of, throwError } from 'rxjs';
import { Api } from '../../api/api';
import type { Draft } from '../../project/history';
import { fakeApi, fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { StudioState } from '../studio-state';
import { removeObjects } from '../objects/object-acts';
import { LetterActs } from './letter-acts';
import { LettersSection } from './letters-section';

const FONT = { glyphs: { A: { d: 'M0 0L50 100L100 0Z', advance: 104 } }, kerning: {}, leastMm: 8 };

describe('letters', () => {
  let design: Design;
  let store: ReturnType<typeof fakeStore>;
  let state: StudioState;
  let acts: LetterActs;
  let api: ReturnType<typeof fakeApi>;

  beforeAll(async () => (design = await smallDesign()));
  beforeEach(() => {
    store = fakeStore();
    api = fakeApi();
    TestBed.configureTestingModule({
      providers: [...studioProviders(fakeConversion(design), store), { provide: Api, useValue: api }],
    });
    state = TestBed.inject(StudioState);
    acts = TestBed.inject(LetterActs);
  });

  const own = (): LettersObject | undefined => {
    const found = store.recipe().objects.find(({ kind }) => kind === 'letters');
    return found?.kind === 'letters' ? found : undefined;
  };
  const put = (): void => {
    const letters = newLetters('letters-1', { text: 'Bay' }, { hex: '#204060' });
    store.changeWhole('test', ({ objects }) => void objects.push(letters as Draft<LettersObject>));
    state.chooseWhole('letters-1');
  };

  it('are put below the design, chosen, and typed at once', () => {
    acts.add();
    expect(own()?.place.f).toBeGreaterThan(10);
    expect(acts.typing()).toBe(true);
    expect(state.wholes()).toEqual(new Set([own()?.id]));
  });

  it('say what is typed, character by character', async () => {
    put();
    await acts.type('Kite');
    expect(own()?.text).toBe('Kite');
    await acts.type('Kite漢');
    expect(acts.missing()).toEqual(['漢']);
  });

  it('take the outlines a font needs, and ask for no more than that', async () => {
    put();
    const glyphs = spyOn(api, 'glyphs').and.returnValue(of(FONT));
    await acts.type('A');
    await acts.setFont('rubik');
    expect(own()?.font).toBe('rubik');
    expect(own()?.outlines).toEqual(FONT);
    await acts.type('AA');
    expect(glyphs).toHaveBeenCalledTimes(1);
    await acts.setFont('round-sans');
    expect(own()?.outlines).toBeNull();
  });

  it('keep their font where another cannot be read, and say so', async () => {
    put();
    spyOn(api, 'glyphs').and.returnValue(throwError(() => new Error('the server cannot be reached')));
    await acts.setFont('rubik');
    expect(own()?.font).toBe('round-sans');
  });

  it('are kerned by hand between two letters, and keep that when more is typed', async () => {
    put();
    const fixture = TestBed.createComponent(LettersSection);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const gap = (label: string): HTMLButtonElement => {
      const found = page.querySelector<HTMLButtonElement>(`kite-kerning-row button[aria-label="${label}"]`);
      if (!found) throw new Error(label);
      return found;
    };
    const press = async (key: string, shiftKey = false): Promise<void> => {
      gap('Between a and y').dispatchEvent(new KeyboardEvent('keydown', { key, shiftKey, bubbles: true }));
      await fixture.whenStable();
    };
    expect(page.querySelectorAll('kite-kerning-row .text button').length).toBe(2);
    await press('ArrowRight', true);
    await press('ArrowLeft');
    expect(own()?.pairs).toEqual({ '2': 0.9 });
    await acts.type('A Bay');
    expect(own()?.pairs).toEqual({ '4': 0.9 });
    await fixture.whenStable();
    gap('Between a and y').click();
    await fixture.whenStable();
    const back = [...page.querySelectorAll<HTMLElement>('kite-kerning-row .link')].at(0);
    back?.click();
    expect(own()?.pairs).toEqual({});
  });

  it('stand on a drawn line and keep to it, and on others again', async () => {
    put();
    const line = newShape(
      'shape-1',
      null,
      [
        {
          closed: false,
          nodes: [
            [0, 5, 0, 0, 10, 10],
            [60, 5, -10, 10, 0, 0],
          ],
        },
      ],
      {
        hex: '#a03020',
      },
    );
    store.changeWhole('line', ({ objects }) => void objects.push(line as Draft<ShapeObject>));
    expect(acts.drawnLines()).toEqual([{ id: 'shape-1', name: 'Rust line' }]);
    acts.standOn('shape-1');
    expect(own()?.line).toBe('path');
    expect(own()?.path).toEqual(line.paths);
    expect(own()?.along).toBe('shape-1');
    expect(() => parseRecipe(store.recipe())).not.toThrow();
    // The line is pulled down, then goes: the text stays where it was last.
    store.changeWhole('line', ({ objects }) => {
      const shape = objects.find(({ id }) => id === 'shape-1');
      if (shape?.kind === 'shape') shape.place.f = 12;
    });
    store.changeWhole('gone', (recipe) => removeObjects(recipe, ['shape-1']));
    expect(own()?.along).toBeUndefined();
    expect(own()?.path[0].nodes[0].slice(0, 2)).toEqual([0, 17]);
    acts.setLine('circle');
    expect([own()?.line, own()?.path]).toEqual(['circle', []]);
  });

  it('have their settings in the Sheet, with advice for small ones', async () => {
    put();
    const fixture = TestBed.createComponent(LettersSection);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    expect(page.querySelector('textarea')?.value).toBe('Bay');
    acts.change('height of letters', (letters) => (letters.heightMm = 3));
    await fixture.whenStable();
    expect(page.innerText).toContain('sewn as a bean stitch');
    acts.change('height of letters', (letters) => (letters.heightMm = 4.5));
    await fixture.whenStable();
    expect(page.innerText).toContain('made for 5 mm');
  });
});
