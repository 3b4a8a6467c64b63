import { computed, type EnvironmentProviders, type Provider, signal } from '@angular/core';
import {
  ALPHABETS,
  convert,
  createRaster,
  defaultRecipe,
  type ChartContent,
  type Design,
  type Finding,
  type Likeness,
  pictureOf,
  type PictureView,
  type Recipe,
  RENDER_METHODS,
  type ShapeObject,
  viewOf,
  type StashEntry,
} from '@open-kite/core';
import type { ComponentFixture } from '@angular/core/testing';
import { By } from '@angular/platform-browser';
import { provideRouter } from '@angular/router';
import { of } from 'rxjs';
import type { CupboardChart, SewnOff } from '@open-kite/contract';
import { Api } from '../api/api';
import { measureDesign } from '../convert/design-measures';
import { ChoiceField } from '../shared/choice-field';
import { FOLDS } from '../shared/fold';
import { MethodPictures } from '../studio/rendering/method-pictures';
import { STUDIO_ACTS } from '../studio/studio-acts';
import { Conversion, type ConversionState } from '../convert/conversion';
import { draftView } from '../project/draft-view';
import { change, type Draft, type Timeline } from '../project/history';
import { ProjectStore } from '../project/project-store';

/** A small picture: two blocks and a thin line on white, 160 x 120 pixels. */
function picture(): ReturnType<typeof createRaster> {
  const raster = createRaster(320, 240);
  for (let i = 0; i < 320 * 240; i++) {
    const x = i % 320;
    const y = Math.floor(i / 320);
    let colour = [255, 255, 255];
    if (x > 30 && x < 150 && y > 30 && y < 150) colour = [44, 110, 128];
    else if (x > 170 && x < 290 && y > 30 && y < 150) colour = [216, 96, 42];
    else if (y > 190 && y < 194 && x > 30 && x < 290) colour = [42, 52, 55];
    raster.data.set([...colour, 255], i * 4);
  }
  return raster;
}

/** Waits until something is so; a machine that is busy gets its time. */
export async function until(isSo: () => boolean, longestMs = 40_000): Promise<void> {
  for (const from = performance.now(); !isSo();) {
    if (performance.now() - from > longestMs) throw new Error(`never so: ${isSo}`);
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
}

/** Waits until the browser has laid out and painted twice: sizes that are observed are known then. */
export async function frames(): Promise<void> {
  for (let i = 0; i < 2; i++) await new Promise((resolve) => requestAnimationFrame(resolve));
  await new Promise((resolve) => setTimeout(resolve, 20));
}

/** A real design of a small picture. */
export async function smallDesign(edit: (view: Draft<PictureView>) => void = () => undefined): Promise<Design> {
  const raster = picture();
  const recipe = structuredClone(defaultRecipe(raster.width, raster.height)) as Draft<Recipe>;
  edit(draftView(recipe, undefined));
  const made = recipe as unknown as Recipe;
  return convert({ pictures: { 'picture-1': { key: 'small', raster } }, recipe: made, charts: [] });
}

/** Stands in for the conversion worker: shows a design made beforehand. */
export function fakeConversion(first?: Design) {
  const design = signal<Design | undefined>(first);
  const measures = computed(() => {
    const d = design();
    return d && measureDesign(d);
  });
  const state = signal<ConversionState>(first ? 'done' : 'opening');
  const rough = signal(false);
  return {
    design,
    state,
    progress: signal({ step: 'prepare' as const, share: 0 }),
    error: signal(''),
    rough,
    stale: computed(() => rough() || state() !== 'done'),
    likeness: signal<Likeness | undefined>({ deltaE: 3.2, ssim: 0.95 }),
    likenessFits: signal(true),
    figures: computed(() => measures()?.figures),
    lengths: computed(() => measures()?.lengths),
    runs: computed(() => measures()?.runs ?? []),
    findings: signal<readonly Finding[]>([]),
    findingsFit: signal(true),
    cuts: computed(() => measures()?.cuts ?? []),
    threadCounts: computed(() => measures()?.threadCounts ?? []),
    pieceStitches: computed(() => new Uint32Array(design()?.pieces.length ?? 0).fill(7)),
    colourStitches: computed(() => new Uint32Array(design()?.colours.length ?? 0).fill(9)),
    picture: jasmine.createSpy('picture').and.resolveTo(undefined),
    tones: jasmine.createSpy('tones').and.resolveTo(new Uint32Array(256).fill(3)),
    where: jasmine.createSpy('where').and.resolveTo(undefined),
    sample: jasmine.createSpy('sample').and.resolveTo({ hex: '#2c6e80', u: 0.2, v: 0.3 }),
    outlineAt: jasmine.createSpy('outlineAt').and.resolveTo(undefined),
    curve: jasmine.createSpy('curve').and.resolveTo([
      { count: 1, deltaE: 12 },
      { count: 2, deltaE: 6 },
      { count: 3, deltaE: 1 },
    ]),
    cancel: jasmine.createSpy('cancel'),
    asStored: signal(false),
    takeStoredPreview: jasmine.createSpy('takeStoredPreview').and.resolveTo(undefined),
    stageComplete: jasmine.createSpy('stageComplete'),
    shownInstead: signal<Design | undefined>(undefined),
    tryOut: jasmine.createSpy('tryOut').and.resolveTo(undefined),
    takeSpares: jasmine.createSpy('takeSpares').and.returnValue([]),
    hold: jasmine.createSpy('hold'),
    resume: jasmine.createSpy('resume'),
    convert: jasmine.createSpy('convert'),
    showPicture: jasmine.createSpy('showPicture'),
    keepDesign: jasmine.createSpy('keepDesign'),
    exportAs: jasmine.createSpy('exportAs').and.resolveTo(new Uint8Array([1, 2, 3])),
    listAt: jasmine.createSpy('listAt'),
  };
}

/** Stands in for the project store: changes are real, saving is not. */
export function fakeStore() {
  const line = signal<Timeline>({ recipe: defaultRecipe(320, 240), entries: [], position: 0, shared: 0 });
  const recipe = computed(() => line().recipe);
  const object = computed(() => {
    const found = pictureOf(recipe());
    if (!found) throw new Error('no picture');
    return found;
  });
  const info = { hash: 'a'.repeat(64), width: 320, height: 240, kind: 'raster' as const };
  const changeWhole = (label: string, edit: (recipe: Draft<Recipe>) => void): void =>
    line.update((l) => change(l, label, edit, false));
  return {
    line,
    recipe,
    object,
    view: computed(() => viewOf(recipe(), object())),
    openPicture: signal<string | undefined>(undefined),
    stored: signal({ id: 'p1', designKey: null }),
    name: signal('Kite'),
    picture: signal(info),
    pictures: signal({ 'picture-1': info }),
    undo: jasmine.createSpy('undo'),
    undoLabel: computed(() => line().entries[line().position - 1]?.label),
    redoLabel: computed(() => line().entries[line().position]?.label),
    addPicture: jasmine.createSpy('addPicture').and.returnValue('picture-2'),
    change: (label: string, edit: (view: Draft<PictureView>) => void) =>
      changeWhole(label, (draft) => edit(draftView(draft, undefined))),
    changeWhole,
  };
}

/** Shapes of the user's own, as the recipe has them. */
export const shapesOf = ({ objects }: PictureView): ShapeObject[] =>
  objects.filter((object): object is ShapeObject => object.kind === 'shape');

/** A cupboard with one shipped chart, one own, and a drawer. */
export function fakeApi() {
  const thread = (code: string, name: string, hex: string) => ({ code, name, hex, weight: 40, finish: 'plain' });
  const shipped: CupboardChart = {
    id: 'saltline',
    name: 'Saltline polyester',
    own: false,
    revision: 1,
    deleted: false,
    threads: [
      thread('SL-1', 'Kelp', '#2f5d50'),
      thread('SL-2', 'Ember', '#d8602a'),
      thread('SL-3', 'Fjord', '#2c6e82'),
      thread('SL-4', 'Chalk', '#f6f4ee'),
      thread('SL-5', 'Night', '#203040'),
      thread('SL-6', 'Wick', '#e0b040'),
    ],
  };
  let own: CupboardChart = {
    ...shipped,
    id: 'own-1',
    name: 'Mine',
    own: true,
    threads: [thread('M-1', 'Rope', '#c19a63')],
  };
  let stash: StashEntry[] = [{ chart: 'saltline', code: 'SL-1', spools: 2, lowAt: 2 }];
  return {
    fonts: () => of(ALPHABETS.map(({ id, name, hint, leastMm }) => ({ id, name, hint, leastMm, kind: 'strokes' }))),
    glyphs: () => of({ glyphs: {}, kerning: {}, leastMm: 8 }),
    charts: () => of([shipped, own]),
    stash: () => of(stash),
    setStash: (entries: readonly StashEntry[]) => of((stash = [...entries])),
    takeOff: ({ threads, spoolM }: SewnOff) => {
      const metres = threads.reduce((sum, thread) => sum + thread.metres, 0);
      const whole = Math.trunc(metres / spoolM);
      return of((stash = stash.map((entry) => ({ ...entry, spools: entry.spools - whole }))));
    },
    addChart: (content: ChartContent) => of((own = { ...own, ...content, id: 'own-2' })),
    saveChart: (_id: string, revision: number, content: ChartContent) =>
      of((own = { ...own, ...content, revision: revision + 1 })),
    removeChart: () => of(undefined),
    restoreChart: () => of(undefined),
  };
}

/** Everything a part of the studio needs, without server or worker. */
/** Stands in for the small pictures of methods: nothing is made. */
const fakeMethodPictures = () => ({
  list: signal([
    { method: 'pieces', name: 'Flat pieces', hint: 'Closed shapes and lines, each sewn as fill, satin or line.' },
    ...RENDER_METHODS.map(({ id, name, hint }) => ({ method: id, name, hint })),
  ]),
  making: signal(false),
  complete: signal(false),
  make: jasmine.createSpy('make').and.resolveTo(undefined),
});

/** A list of choices in a fixture, by its label; the first where there are several. */
export function choiceIn(fixture: ComponentFixture<unknown>, label: string): ChoiceField {
  const found = fixture.debugElement
    .queryAll(By.directive(ChoiceField))
    .map(({ componentInstance }) => componentInstance as ChoiceField)
    .find((field) => field.label() === label);
  if (!found) throw new Error(`no choice ${label}`);
  return found;
}

/** Chooses in such a list, as somebody does who opens it; what cannot be chosen is refused. */
export async function pickIn(fixture: ComponentFixture<unknown>, label: string, id: string): Promise<void> {
  const field = choiceIn(fixture, label);
  if (!field.choices().some((choice) => choice.id === id)) throw new Error(`${label} has no ${id}`);
  field.chosen.emit(id);
  await fixture.whenStable();
}

export function studioProviders(
  conversion: ReturnType<typeof fakeConversion>,
  store = fakeStore(),
): (Provider | EnvironmentProviders)[] {
  // Nothing need be unfolded before it is looked at, but for the place of what is chosen: its heading says it.
  localStorage.setItem('kite-folds', FOLDS.filter((name) => name !== 'place').join(' '));
  return [
    { provide: Conversion, useValue: conversion },
    { provide: ProjectStore, useValue: store },
    { provide: Api, useValue: fakeApi() },
    provideRouter([]),
    ...STUDIO_ACTS,
    { provide: MethodPictures, useFactory: fakeMethodPictures },
  ];
}
