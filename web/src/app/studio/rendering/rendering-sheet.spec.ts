import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { RENDER_METHODS, renderValues, type Design, type RenderMethod } from '@open-kite/core';
import { fakeConversion, fakeStore, smallDesign, studioProviders, pickIn, until } from '../../test/rig';
import { StudioState } from '../studio-state';
import { LinesSheet } from './lines-sheet';
import { RenderingActs } from './rendering-acts';
import { RenderingSheet, SECTIONS } from './rendering-sheet';

describe('RenderingSheet', () => {
  const designs = new Map<string, Design>();
  let conversion: ReturnType<typeof fakeConversion>;
  let store: ReturnType<typeof fakeStore>;
  let fixture: ComponentFixture<RenderingSheet>;

  beforeAll(async () => {
    for (const method of ['rows', 'painting', 'inks']) {
      designs.set(
        method,
        await smallDesign((recipe) => {
          recipe.method = method;
          recipe.picture.widthMm = 32;
          recipe.picture.heightMm = 24;
        }),
      );
    }
  });

  const open = async (method: string): Promise<void> => {
    conversion = fakeConversion(designs.get(method));
    store = fakeStore();
    store.change('method', (recipe) => (recipe.method = method));
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    TestBed.inject(StudioState).knot.set('pieces');
    fixture = TestBed.createComponent(RenderingSheet);
    await fixture.whenStable();
    // Sections are built in turns.
    const sheet = fixture.componentInstance as unknown as { turn(): number };
    await until(() => sheet.turn() >= SECTIONS);
    await fixture.whenStable();
  };

  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const labels = (): string[] =>
    [...host().querySelectorAll('kite-slider-field label, mat-label')].map((l) => (l.textContent ?? '').trim());
  const pick = (label: string, id: string): Promise<void> => pickIn(fixture, label, id);
  const button = (text: string): HTMLButtonElement => {
    const found = [...host().querySelectorAll('button')].find((b) => b.innerText.trim() === text);
    if (!found) throw new Error(`no button ${text}`);
    return found;
  };
  const rendering = () => store.view().rendering;

  it('shows every option of the method, and changes it in the recipe', async () => {
    await open('rows');
    expect(host().querySelector('h2')?.textContent).toBe('Rows');
    const rows = RENDER_METHODS.find(({ id }) => id === 'rows');
    const usual = renderValues(rows as RenderMethod, {});
    for (const { label, when } of Object.values(rows?.options ?? {})) {
      expect(labels().includes(label))
        .withContext(label)
        .toBe(when === undefined || usual[when[0]] === when[1]);
    }
    await pick('Grade', 'own');
    expect(rendering().values['rows']['grade']).toBe('own');
    expect(labels()).toContain('Row spacing');
    button('All settings as usual').click();
    expect(rendering().values['rows']).toBeUndefined();
  });

  it('offers what matters most where it has an effect, and nowhere else', async () => {
    await open('rows');
    const offered = (): boolean => host().querySelector('kite-favoured-areas') !== null;
    expect(offered()).toBeTrue();
    await pick('Tones become', 'closeness');
    expect(offered()).toBeFalse();
    host().querySelector<HTMLElement>('[data-method=painting]')?.click();
    await fixture.whenStable();
    expect(offered()).toBeTrue();
    host().querySelector<HTMLElement>('[data-method=inks]')?.click();
    await fixture.whenStable();
    expect(offered()).toBeFalse();
  });

  it('changes the method, and keeps what was said of the last one', async () => {
    await open('rows');
    await pick('Thread lies where it is', 'light');
    host().querySelector<HTMLElement>('[data-method=inks]')?.click();
    await fixture.whenStable();
    expect(store.view().method).toBe('inks');
    expect(rendering().values['rows']['sews']).toBe('light');
  });

  it('names threads one by one where a method asks for some', async () => {
    await open('inks');
    expect(host().querySelectorAll('kite-thread-picker').length).toBe(4);
    button('Another thread').click();
    expect(rendering().threads['inks'].length).toBe(5);
    button('Remove').click();
    expect(rendering().threads['inks'].length).toBe(3);
    const field = host().querySelector<HTMLInputElement>('kite-thread-picker input');
    if (!field) throw new Error('no thread');
    field.value = '#00ff88';
    field.dispatchEvent(new Event('input', { bubbles: true }));
    expect(rendering().threads['inks'][0]).toEqual({ hex: '#00ff88' });
  });

  it('leaves threads of a mix out, exchanges them, and takes that back', async () => {
    await open('painting');
    const hex = designs.get('painting')?.threads[0].hex as string;
    button('Leave out').click();
    expect(rendering().mix).toEqual([{ kind: 'drop', hex }]);
    TestBed.inject(RenderingActs).decide('exchanged', { kind: 'swap', hex, to: { chart: 'saltline', code: 'SL-1' } });
    await fixture.whenStable();
    expect(rendering().mix.length).toBe(1);
    expect(host().textContent).toContain('another in its place: SL-1');
    button('Take back').click();
    expect(rendering().mix).toEqual([]);
  });

  it('has threads of a mix sewn before or after the others, whatever else was said of them', async () => {
    await open('painting');
    const threads = designs.get('painting')?.threads ?? [];
    const [{ hex }] = threads;
    const press = async (text: string): Promise<void> => {
      button(text).click();
      await fixture.whenStable();
    };
    await press('Last');
    expect(rendering().mix).toEqual([{ kind: 'last', hex }]);
    await press('First');
    expect(rendering().mix).toEqual([{ kind: 'first', hex }]);
    expect(host().textContent).toContain('sewn before the others');
    TestBed.inject(RenderingActs).decide('exchanged', { kind: 'swap', hex, to: { chart: 'saltline', code: 'SL-1' } });
    expect(rendering().mix.map(({ kind }) => kind)).toEqual(['first', 'swap']);
  });

  it('asks for strokes where lines run as they are drawn', async () => {
    await open('painting');
    await pick('Lines run', 'drawn');
    button('Draw directions').click();
    expect(TestBed.inject(StudioState).stroking()).toBeTrue();
    TestBed.inject(RenderingActs).addStroke([-10, 0, 10, 5]);
    await fixture.whenStable();
    expect(rendering().strokes.length).toBe(1);
    expect(host().textContent).toContain('1 stroke leads');
    button('Remove the direction').click();
    expect(rendering().strokes).toEqual([]);
  });

  it('adds an outline, and sets a budget', async () => {
    await open('rows');
    button('Add an outline').click();
    await fixture.whenStable();
    const loader = TestbedHarnessEnvironment.loader(fixture);
    const kind = await loader.getHarness(MatSelectHarness.with({ ancestor: 'kite-outline-section' }));
    await kind.clickOptions({ text: 'Applique' });
    await fixture.whenStable();
    const outline = store.recipe().objects.find((object) => object.kind === 'outline');
    expect(outline).toEqual(jasmine.objectContaining({ of: 'picture-1', as: 'applique' }));
    expect(host().textContent).toContain('a stop to lay the patch');
    button('Remove the outline').click();
    expect(store.recipe().objects.map(({ id }) => id)).toEqual(['picture-1']);
    host().querySelector<HTMLInputElement>('kite-budget-field input[type=checkbox]')?.click();
    await fixture.whenStable();
    const budget = store.recipe().budget as number;
    expect(budget).toBeGreaterThan(0);
    expect(host().querySelector('kite-budget-field .cost')?.textContent).toContain('nothing had to be given up');
    const field = host().querySelector<HTMLInputElement>('kite-budget-field input.number');
    if (!field) throw new Error('no budget');
    field.value = '-5';
    field.dispatchEvent(new Event('change'));
    expect(store.recipe().budget).toBe(budget);
    field.value = '4321';
    field.dispatchEvent(new Event('change'));
    expect(store.recipe().budget).toBe(4321);
  });
});

describe('LinesSheet', () => {
  it('deletes, thins and recolours the lines that are chosen, and takes that back', async () => {
    const design = await smallDesign((recipe) => {
      recipe.method = 'rows';
    });
    const store = fakeStore();
    store.change('method', (recipe) => (recipe.method = 'rows'));
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion(design), store) });
    const fixture = TestBed.createComponent(LinesSheet);
    await fixture.whenStable();
    const host = fixture.nativeElement as HTMLElement;
    const press = async (text: string): Promise<void> => {
      const found = [...host.querySelectorAll('button')].find((b) => b.innerText.trim() === text);
      if (!found) throw new Error(`no button ${text}`);
      found.click();
      await fixture.whenStable();
    };
    const lines = () => store.view().rendering.lines;
    host.querySelector<HTMLInputElement>('input[type=checkbox]')?.click();
    await press('Draw an area');
    expect(TestBed.inject(StudioState).lassoing()).toBeTrue();
    TestBed.inject(RenderingActs).setArea([-10, -10, 10, -10, 0, 10]);
    await fixture.whenStable();
    expect(host.textContent).toContain('Lines of one thread, inside the area:');
    await press('Delete');
    expect(lines().length).toBe(1);
    expect(lines()[0]).toEqual(jasmine.objectContaining({ kind: 'delete', threads: [design.threads[0].hex] }));
    expect(lines()[0].area.length).toBe(6);
    await press('Thin');
    expect(lines()[1]).toEqual({ kind: 'thin', threads: [], area: [] });
    const colour = host.querySelector<HTMLInputElement>('kite-thread-picker input');
    if (!colour) throw new Error('no thread');
    colour.value = '#cc0011';
    colour.dispatchEvent(new Event('input', { bubbles: true }));
    expect(lines()[2]).toEqual({ kind: 'recolour', threads: [], area: [], to: { hex: '#cc0011' } });
    await fixture.whenStable();
    await press('Take back');
    expect(lines().map(({ kind }) => kind)).toEqual(['thin', 'recolour']);
  });
});
