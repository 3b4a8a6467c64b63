import { type Type } from '@angular/core';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { FORMATS, type Design } from '@open-kite/core';
import { fakeConversion, fakeStore, smallDesign, studioProviders, pickIn } from '../test/rig';
import { Preferences } from '../shared/preferences';
import { Line } from './line/line';
import { Reel } from './reel/reel';
import { Sheet } from './sheet/sheet';
import { StudioState } from './studio-state';

describe('the studio', () => {
  let design: Design;
  let conversion: ReturnType<typeof fakeConversion>;
  let store: ReturnType<typeof fakeStore>;
  let state: StudioState;

  beforeAll(async () => (design = await smallDesign()));

  beforeEach(() => {
    localStorage.clear();
    conversion = fakeConversion(design);
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    state = TestBed.inject(StudioState);
  });

  async function show<T>(type: Type<T>, inputs: Record<string, unknown> = {}): Promise<ComponentFixture<T>> {
    const fixture = TestBed.createComponent(type);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
    return fixture;
  }

  const all = (fixture: ComponentFixture<unknown>, selector: string): HTMLElement[] => [
    ...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLElement>(selector),
  ];

  describe('Line', () => {
    it('says of every knot how it stands', async () => {
      const fixture = await show(Line);
      const labels = all(fixture, 'button').map((b) => b.getAttribute('aria-label'));
      expect(labels).toEqual([
        'Picture, done',
        'Colours, done',
        'Pieces, done',
        'Stitches, done',
        'Tidy, done',
        'Sew, done',
      ]);
    });

    it('shows what runs, and what needs a look', async () => {
      const fixture = await show(Line);
      conversion.state.set('working');
      conversion.progress.set({ step: 'trace' as 'prepare', share: 0.5 });
      await fixture.whenStable();
      expect(all(fixture, '.running').map((b) => b.innerText.trim())).toEqual(['Pieces', 'Stitches', 'Tidy', 'Sew']);
      conversion.state.set('done');
      const finding = { kind: 'covers', why: '', text: '', pieces: [], harm: 1, repairs: [] };
      conversion.findings.set([
        { ...finding, level: 'problem' },
        { ...finding, level: 'advice' },
        { ...finding, level: 'waste' },
      ]);
      await fixture.whenStable();
      // Tidy has all that may fail, Sew what will.
      expect(all(fixture, '.look').map((b) => b.getAttribute('aria-label'))).toEqual([
        'Tidy 2, needs a look',
        'Sew 1, needs a look',
      ]);
      expect(all(fixture, '.count').map((c) => c.innerText)).toEqual(['2', '1']);
    });

    it('opens a step', async () => {
      const fixture = await show(Line);
      all(fixture, 'button')[1].click();
      await fixture.whenStable();
      expect(state.knot()).toBe('colours');
      expect(all(fixture, 'button')[1].getAttribute('aria-current')).toBe('step');
    });
  });

  describe('Reel', () => {
    it('shows thread runs in proportion to their rows', async () => {
      const fixture = await show(Reel);
      const lengths = all(fixture, '.length');
      expect(lengths.length).toBe(conversion.runs().length);
      const shares = lengths.map((l) => Number(l.style.flexGrow));
      expect(shares.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 5);
      conversion
        .runs()
        .forEach((run, i) => expect(shares[i]).toBeCloseTo((run.to - run.from) / design.stitches.count, 6));
      expect(all(fixture, '.ticks span').length).toBe(conversion.figures()?.trims ?? -1);
    });

    it('always shows stitches, size, minutes, threads and difference', async () => {
      const fixture = await show(Reel);
      const text = all(fixture, '.figures')[0].innerText;
      for (const word of ['stitches', 'sewn size', 'one needle', '3', 'threads', '3.2', 'difference'])
        expect(text).toContain(word);
    });

    it('moves by keys, stitch by stitch, by twentieths, and to the ends', async () => {
      const fixture = await show(Reel);
      const [ribbon] = all(fixture, '.ribbon');
      const key = (name: string): void =>
        void ribbon.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true, cancelable: true }));
      const rows = design.stitches.count;
      key('Home');
      expect(state.row()).toBe(0);
      key('ArrowRight');
      expect(state.row()).toBe(1);
      key('PageUp');
      expect(state.row()).toBe(1 + Math.round(rows / 20));
      key('End');
      expect(state.row()).toBeUndefined();
      key('ArrowLeft');
      expect(state.row()).toBe(rows - 1);
      await fixture.whenStable();
      expect(ribbon.getAttribute('aria-valuenow')).toBe(String(rows - 1));
    });

    it('goes from thread to thread', async () => {
      const fixture = await show(Reel);
      state.goTo(0);
      const next = all(fixture, '[aria-label="One thread on"]')[0];
      const starts = conversion.runs().map((r) => r.from);
      next.click();
      expect(state.row()).toBe(starts[1]);
      next.click();
      expect(state.row()).toBe(starts[2]);
      next.click();
      expect(state.row()).toBeUndefined();
      all(fixture, '[aria-label="One thread back"]')[0].click();
      expect(state.row()).toBe(starts[2]);
    });
  });

  describe('StudioState', () => {
    it('plays from where the needle is, faster at a higher speed, and stops at the end', async () => {
      const after = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
      state.speed.set(10);
      state.goTo(5);
      state.togglePlay();
      await after(400);
      state.togglePlay();
      const slow = (state.row() ?? 0) - 5;
      expect(slow).toBeGreaterThan(10);
      state.speed.set(200);
      state.togglePlay();
      await after(400);
      state.togglePlay();
      expect((state.row() ?? design.stitches.count) - 5 - slow).toBeGreaterThan(slow * 4);
      state.goTo(design.stitches.count - 3);
      state.togglePlay();
      await after(300);
      expect(state.playing()).toBeFalse();
      expect(state.row()).toBeUndefined();
    });
  });

  describe('Sheet', () => {
    const open = async (
      knot: 'picture' | 'colours' | 'pieces' | 'stitches' | 'tidy' | 'sew',
    ): Promise<ComponentFixture<Sheet>> => {
      state.knot.set(knot);
      return show(Sheet);
    };
    const slider = (fixture: ComponentFixture<unknown>, label: string): HTMLInputElement =>
      all(fixture, 'kite-slider-field')
        .find((f) => f.querySelector('label')?.textContent === label)
        ?.querySelector('mat-slider input') as HTMLInputElement;
    const drag = async (fixture: ComponentFixture<unknown>, label: string, value: number): Promise<void> => {
      slider(fixture, label).value = String(value);
      slider(fixture, label).dispatchEvent(new Event('input'));
      await fixture.whenStable();
    };

    it('keeps the proportion of the finished size, within what a hoop holds', async () => {
      const fixture = await open('picture');
      await drag(fixture, 'Width', 200);
      expect(store.view().picture).toEqual(jasmine.objectContaining({ widthMm: 200, heightMm: 150 }));
      await drag(fixture, 'Height', 400);
      expect(store.view().picture.widthMm).toBeCloseTo(400, 1);
      expect(store.view().picture.heightMm).toBeCloseTo(300, 1);
    });

    it('changes fabric and its cloth together, and the cloth alone', async () => {
      const fixture = await open('stitches');
      await pickIn(fixture, 'Fabric', 'denim');
      expect(store.view().cloth.fabric).toBe('denim');
      expect(store.view().cloth.hex).toBe('#4a5c74');
      const colour = all(fixture, 'input[type=color]')[0] as HTMLInputElement;
      colour.value = '#112233';
      colour.dispatchEvent(new Event('input'));
      expect(store.view().cloth.hex).toBe('#112233');
      expect(store.view().cloth.fabric).toBe('denim');
    });

    it('moves every slider of the stitches into the recipe', async () => {
      const fixture = await open('stitches');
      await drag(fixture, 'Row spacing', 0.55);
      await drag(fixture, 'Row angle', -30);
      await drag(fixture, 'Neighbours differ by at least', 10);
      await drag(fixture, 'Stitch in fills', 4.2);
      await drag(fixture, 'Stitch in lines', 2);
      await drag(fixture, 'Satin spacing', 0.45);
      await drag(fixture, 'Overlap', 0.8);
      await drag(fixture, 'Trim beyond', 5);
      expect(store.recipe().stitches).toEqual(
        jasmine.objectContaining({
          spacingMm: 0.55,
          angle: -30,
          angleStep: 10,
          fillStitchMm: 4.2,
          runStitchMm: 2,
          satinSpacingMm: 0.45,
          overlapMm: 0.8,
        }),
      );
      expect(store.recipe().order.trimOverMm).toBe(5);
    });

    it('begins every step at its top', async () => {
      const fixture = await open('stitches');
      const host = fixture.nativeElement as HTMLElement;
      host.style.height = '200px';
      host.scrollTop = 120;
      expect(host.scrollTop).toBe(120);
      state.knot.set('sew');
      await fixture.whenStable();
      expect(host.scrollTop).toBe(0);
    });

    it('shows what the machine gets, and every way to take it away', async () => {
      const fixture = await open('sew');
      const text = (fixture.nativeElement as HTMLElement).innerText;
      for (const word of ['Sewn size', 'Several needles', 'Longest stitch', ' m']) expect(text).toContain(word);
      const made = spyOn(URL, 'createObjectURL').and.returnValue('blob:kite');
      const buttons = all(fixture, '.formats button');
      expect(buttons.map((b) => b.querySelector('.ending')?.textContent?.trim())).toEqual(
        FORMATS.filter(({ fits }) => !fits).map(({ ending }) => `.${ending}`),
      );
      buttons[1].click();
      await fixture.whenStable();
      await new Promise((resolve) => setTimeout(resolve));
      expect(conversion.exportAs).toHaveBeenCalledOnceWith('csv', 'Kite', store.recipe());
      expect(made).toHaveBeenCalledTimes(1);
    });

    it('shows inches everywhere when inches are wanted', async () => {
      const fixture = await open('sew');
      TestBed.inject(Preferences).unit.set('in');
      await fixture.whenStable();
      expect(all(fixture, '.facts')[0].innerText).toMatch(/\d\.\d\d in × \d\.\d\d in/);
    });
  });
});
