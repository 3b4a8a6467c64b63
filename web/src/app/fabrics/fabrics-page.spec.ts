import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting, type TestRequest } from '@angular/common/http/testing';
import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { NewFabric, OwnFabric } from '@open-kite/contract';
import type { MeasuredCloth, Measurement, Point } from '@open-kite/core';
import { until } from '../test/rig';
import { FabricsPage } from './fabrics-page';
import { OwnFabrics } from './own-fabrics';
import { SewOut } from './sew-out';
import type { ReadPhoto, SewnShape, SewOutWorker } from './sew-out-protocol';

const MEASURED: MeasuredCloth = {
  name: 'Fair shirt',
  pull: [{ lengthMm: 4, acrossMm: 0.5, downMm: 0.3, slantMm: 0.4 }],
  pushMm: 0.25,
  gapMm: 0.6,
};
const KEPT: OwnFabric = { id: 'own-1', fabric: 'jersey', hex: '#e8e6e1', measured: MEASURED };

const CORNERS: readonly Point[] = [
  { x: 10, y: 10 },
  { x: 90, y: 12 },
  { x: 88, y: 70 },
  { x: 12, y: 72 },
];
const SHAPE: SewnShape = {
  rings: [[-30, -20, 30, -20, 30, 20, -30, 20]],
  places: [
    { x: -36, y: -36 },
    { x: 36, y: -36 },
    { x: 36, y: 36 },
    { x: -36, y: 36 },
  ],
  marked: true,
  bounds: { left: -40, top: -40, right: 40, bottom: 40 },
};
const width = (rowMm: number, asSewnMm: number): Measurement => ({
  kind: 'width',
  piece: 0,
  x: 0,
  y: 0,
  ux: 1,
  uy: 0,
  drawnMm: rowMm,
  rowMm,
  bandMm: 1,
  asDrawnMm: rowMm,
  asSewnMm,
});

describe('FabricsPage', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<FabricsPage>;
  let worker: jasmine.SpyObj<SewOutWorker>;

  const page = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const text = (): string => page().innerText;
  const button = (words: RegExp): HTMLButtonElement => {
    const found = [...page().querySelectorAll('button')].find(({ innerText }) => words.test(innerText));
    if (!found) throw new Error(`no button ${String(words)}`);
    return found;
  };

  async function asked(method: string, url: string): Promise<TestRequest> {
    let found: TestRequest | undefined;
    await until(
      () => (found = http.match((request) => request.method === method && request.url === url).at(0)) !== undefined,
    );
    if (!found) throw new Error('never asked');
    return found;
  }

  async function start(inputs: Readonly<Record<string, string>> = {}, kept: readonly OwnFabric[] = []): Promise<void> {
    fixture = TestBed.createComponent(FabricsPage);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    fixture.detectChanges();
    (await asked('GET', '/api/fabrics')).flush(kept);
    await fixture.whenStable();
  }

  /** Gives the page a photograph, as dropping one does. */
  async function drop(read: ReadPhoto | Error): Promise<void> {
    if (read instanceof Error) worker.read.and.rejectWith(read);
    else worker.read.and.resolveTo(read);
    const data = new DataTransfer();
    data.items.add(new File(['pixels'], 'card.png', { type: 'image/png' }));
    document.dispatchEvent(new DragEvent('drop', { dataTransfer: data, cancelable: true }));
    await until(() => worker.read.calls.count() > 0);
    await fixture.whenStable();
  }

  beforeEach(() => {
    // Lengths are read and shown in the unit that is preferred.
    localStorage.clear();
    worker = jasmine.createSpyObj<SewOutWorker>('worker', ['open', 'read', 'measure']);
    worker.open.and.resolveTo(SHAPE);
    worker.measure.and.resolveTo([width(3, 2), width(6, 4.8)]);
    TestBed.configureTestingModule({
      providers: [provideRouter([]), provideHttpClient(), provideHttpClientTesting()],
    }).overrideComponent(FabricsPage, { set: { providers: [{ provide: SewOut, useValue: { worker } }] } });
    http = TestBed.inject(HttpTestingController);
  });

  it('says what to do while there is nothing yet', async () => {
    await start({ fabric: 'jersey' });
    expect(text()).toContain('None yet');
    expect(text()).toContain('Drop the photograph here');
    await until(() => worker.open.calls.count() > 0);
    expect(worker.open.calls.mostRecent().args[0]).toEqual({ kind: 'card', fabric: 'jersey', hex: '#e8e6e1' });
  });

  it('measures a photograph whose corners are found, and keeps the fabric under its name', async () => {
    await start({ fabric: 'jersey' });
    await drop({ width: 100, height: 80, corners: CORNERS });
    await until(() => text().includes('2 widths'));
    expect(worker.measure.calls.mostRecent().args[0]).toEqual(CORNERS);
    expect(text()).toContain('not measured');
    expect(page().querySelectorAll('.place').length).toBe(4);
    expect(button(/Keep as a fabric/).disabled).toBeTrue();
    const field = page().querySelector<HTMLInputElement>('form input');
    if (!field) throw new Error('there is no field');
    field.value = ' Fair shirt ';
    field.dispatchEvent(new Event('input'));
    await fixture.whenStable();
    button(/Keep as a fabric/).click();
    const kept = await asked('POST', '/api/fabrics');
    expect(kept.request.body).toEqual({
      fabric: 'jersey',
      hex: '#e8e6e1',
      measured: {
        name: 'Fair shirt',
        pull: [
          { lengthMm: 3, acrossMm: 0.5, downMm: 0.5, slantMm: 0.5 },
          { lengthMm: 6, acrossMm: 0.6, downMm: 0.6, slantMm: 0.6 },
        ],
        pushMm: 0,
        gapMm: null,
      },
    } satisfies NewFabric);
    kept.flush({ ...KEPT, id: 'own-2' });
    (await asked('GET', '/api/fabrics')).flush([KEPT]);
    await fixture.whenStable();
    await until(() => page().querySelector<HTMLInputElement>('li input')?.value === 'Fair shirt');
    expect(text()).toContain('pull 0.40 mm');
  });

  it('asks for the places where the marks are not seen, and measures anew when one is moved', async () => {
    await start();
    await drop({ width: 100, height: 80, corners: undefined });
    await until(() => text().includes('corner marks are not seen'));
    expect(worker.measure).not.toHaveBeenCalled();
    const place = page().querySelector<HTMLElement>('.place');
    place?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight', shiftKey: true, bubbles: true }));
    await until(() => worker.measure.calls.count() > 0);
    const [first] = worker.measure.calls.mostRecent().args[0];
    expect(first.x).toBeCloseTo(15.6, 6);
    expect(first.y).toBeCloseTo(12, 6);
    await until(() => text().includes('2 widths'));
  });

  it('says why a photograph cannot be used, and keeps what there is', async () => {
    await start();
    await drop(new Error('it is not a picture that can be read'));
    await until(() => text().includes('not a picture that can be read'));
    expect(text()).toContain('Drop the photograph here');
    await drop({ width: 100, height: 80, corners: CORNERS });
    await until(() => text().includes('2 widths'));
    expect(text()).not.toContain('cannot be used');
  });

  it('learns from widths by gauge, and says which is none', async () => {
    await start();
    const toggle = [...page().querySelectorAll<HTMLElement>('mat-button-toggle button')].at(1);
    toggle?.click();
    await fixture.whenStable();
    const field = (label: string): HTMLInputElement => {
      const found = page().querySelector<HTMLInputElement>(`kite-gauge-table input[aria-label="${label}"]`);
      if (!found) throw new Error(label);
      return found;
    };
    const type = async (label: string, value: string): Promise<void> => {
      field(label).value = value;
      field(label).dispatchEvent(new Event('change'));
      await fixture.whenStable();
    };
    await type('Column of 4 mm, across, as sewn', '3.2 mm');
    await type('Column of 4 mm, down, as sewn', '3.6');
    await type('Gap between the two fields, across, as sewn', '0.7');
    expect(text()).toContain('2 widths, 0 lengths, 1 gap measured');
    const rows = [...page().querySelectorAll('.rows tbody tr')].map((row) =>
      (row as HTMLElement).innerText.split(/\s+/),
    );
    expect(rows).toEqual([['4', 'mm', '0.40', '0.20', '0.30']]);
    await type('Column of 4 mm, across, as sewn', 'wide');
    expect(text()).toContain('A width is a length');
    await type('Column of 4 mm, across, as sewn', '');
    expect(text()).toContain('1 width,');
  });

  it('measures a project by its finished design, and says where there is none', async () => {
    await start({ project: 'p1' });
    const { cloth } = { cloth: { fabric: 'denim', hex: '#4a5c74' } };
    const project = {
      id: 'p1',
      name: 'Crest',
      recipe: { cloth },
      pictures: {},
      picture: null,
      revision: 1,
      designKey: null,
      history: { entries: [], position: 0 },
    };
    const answer = await asked('GET', '/api/projects/p1');
    answer.flush(project);
    await until(() => /no finished design|cannot be opened/.test(text()));
    expect(worker.open).not.toHaveBeenCalled();
  });
});

describe('OwnFabrics', () => {
  let own: OwnFabrics;
  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
    own = TestBed.inject(OwnFabrics);
  });

  it('offers what was measured before what is known, and what a design was measured as wherever that was', () => {
    expect(own.choices()[0].group).toBeUndefined();
    own.all.set([KEPT]);
    expect(own.choices()[0]).toEqual({ id: 'own-1', hex: '#e8e6e1', name: 'Fair shirt', group: 'Measured on a card' });
    expect(own.choiceOf({ fabric: 'felt', hex: '#ffffff' })).toBe('felt');
    const cloth = { fabric: 'jersey', hex: '#e8e6e1', measured: MEASURED };
    expect(own.choiceOf(cloth)).toBe('own-1');
    expect(own.clothOf('own-1')).toEqual(cloth);
    const elsewhere = { ...cloth, measured: { ...MEASURED, name: 'Old shirt' } };
    expect(own.choicesFor(elsewhere)[0].name).toBe('Old shirt');
    expect(own.clothOf(own.choiceOf(elsewhere))).toBeUndefined();
    expect(own.clothOf('felt')?.measured).toBeUndefined();
  });
});
