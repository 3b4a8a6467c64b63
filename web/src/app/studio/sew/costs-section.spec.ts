import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { costOf, type Design } from '@open-kite/core';
import { Preferences } from '../../shared/preferences';
import { fakeConversion, fakeStore, smallDesign, studioProviders, until } from '../../test/rig';
import { CostsSection } from './costs-section';
import { StitchLengthsChart } from './stitch-lengths-chart';

describe('what one piece costs', () => {
  let design: Design;
  let conversion: ReturnType<typeof fakeConversion>;
  let store: ReturnType<typeof fakeStore>;
  let fixture: ComponentFixture<CostsSection>;

  beforeAll(async () => (design = await smallDesign()));
  const open = async (): Promise<void> => {
    conversion = fakeConversion(design);
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    fixture = TestBed.createComponent(CostsSection);
    await fixture.whenStable();
  };
  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const type = async (label: string, text: string): Promise<void> => {
    const field = [...page().querySelectorAll('mat-form-field')].find(
      (each) => each.querySelector('mat-label')?.textContent === label,
    );
    const input = field?.querySelector('input');
    if (!input) throw new Error(`no field ${label}`);
    input.value = text;
    input.dispatchEvent(new Event('input'));
    input.dispatchEvent(new Event('blur'));
    await fixture.whenStable();
  };
  const total = (): string => page().querySelector('mat-panel-description')?.textContent.trim() ?? '';

  beforeEach(() => localStorage.removeItem('kite-prices'));
  afterEach(() => localStorage.removeItem('kite-prices'));

  it('is said once there is a price, adds up, and is remembered', async () => {
    await open();
    expect(total()).toBe('');
    await type('Machine, per h', '30');
    await type('Per piece', '0.5');
    const figures = conversion.figures();
    if (!figures) throw new Error('no figures');
    const wanted = costOf(figures, { threadKm: 0, bobbinKm: 0, hour: 30, piece: 0.5 }, 1);
    expect(total()).toBe(wanted.total.toFixed(2));
    TestBed.tick();
    expect(JSON.parse(localStorage.getItem('kite-prices') ?? '')).toEqual({
      threadKm: 0,
      bobbinKm: 0,
      hour: 30,
      piece: 0.5,
    });
  });

  it('goes by the minutes of several needles where the machine has them', async () => {
    await open();
    await type('Machine, per h', '60');
    const one = Number(total());
    store.change('needles', ({ order }) => (order.needles = 6));
    await fixture.whenStable();
    const { oneNeedle, multiNeedle } = conversion.figures()?.minutes ?? { oneNeedle: 0, multiNeedle: 0 };
    expect(one).toBeCloseTo(oneNeedle, 1);
    expect(Number(total())).toBeCloseTo(multiNeedle, 1);
    expect(multiNeedle).toBeLessThan(oneNeedle);
  });

  it('keeps the last price while what is typed is none', async () => {
    await open();
    await type('Thread, per km', '4');
    const before = TestBed.inject(Preferences).prices();
    for (const wrong of ['', '-1', '2000000']) await type('Thread, per km', wrong);
    expect(page().textContent).toContain('From 0 to 1000000');
    expect(TestBed.inject(Preferences).prices()).toEqual(before);
  });

  it('begins without prices where what was kept makes no sense', async () => {
    for (const kept of ['{', '{"threadKm":-1,"bobbinKm":0,"hour":0,"piece":0}', '{"threadKm":"2"}', '[]']) {
      localStorage.setItem('kite-prices', kept);
      TestBed.resetTestingModule();
      expect(TestBed.inject(Preferences).prices())
        .withContext(kept)
        .toEqual({ threadKm: 0, bobbinKm: 0, hour: 0, piece: 0 });
    }
  });

  it('stands beside a chart of stitch lengths that says what most are', async () => {
    await open();
    const chart = TestBed.createComponent(StitchLengthsChart);
    await chart.whenStable();
    const canvas = (chart.nativeElement as HTMLElement).querySelector('canvas');
    expect(canvas?.getAttribute('aria-label')).toMatch(/^Stitch lengths: most are [\d.]+ to [\d.]+ mm long$/);
    await until(() => {
      const { data } = canvas?.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height) ?? { data: [] };
      return data.some((value, i) => i % 4 === 3 && value > 0);
    });
    const { counts } = conversion.lengths() ?? { counts: [] };
    expect(counts.reduce((a, b) => a + b, 0)).toBeGreaterThan(100);
    conversion.design.set(undefined);
    await chart.whenStable();
    expect(canvas?.getAttribute('aria-label')).toBe('Stitch lengths');
  });
});
