import { computed, type Provider, signal } from '@angular/core';
import {
  convert,
  createRaster,
  defaultRecipe,
  figuresOf,
  threadRunsOf,
  type Design,
  type Likeness,
  type Recipe,
} from '@open-kite/core';
import { of } from 'rxjs';
import { Api } from '../api/api';
import { Conversion, type ConversionState } from '../convert/conversion';
import { change, type Draft, type Timeline } from '../project/history';
import { ProjectStore } from '../project/project-store';
import { StudioState } from '../studio/studio-state';

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

/** A real design of a small picture. */
export async function smallDesign(edit: (recipe: Draft<Recipe>) => void = () => undefined): Promise<Design> {
  const raster = picture();
  const recipe = structuredClone(defaultRecipe(raster.width, raster.height)) as Draft<Recipe>;
  edit(recipe);
  return convert({ raster, pictureKey: 'small', recipe, charts: [] });
}

/** Stands in for the conversion worker: shows a design made beforehand. */
export function fakeConversion(first?: Design) {
  const design = signal<Design | undefined>(first);
  return {
    design,
    state: signal<ConversionState>(first ? 'done' : 'opening'),
    progress: signal({ step: 'prepare' as const, share: 0 }),
    error: signal(''),
    rough: signal(false),
    likeness: signal<Likeness | undefined>({ deltaE: 3.2, ssim: 0.95 }),
    likenessFits: signal(true),
    figures: computed(() => {
      const d = design();
      return d && figuresOf(d.stitches, d.threads.length);
    }),
    runs: computed(() => {
      const d = design();
      return d ? threadRunsOf(d.stitches) : [];
    }),
    pieceStitches: computed(() => new Uint32Array(design()?.pieces.length ?? 0).fill(7)),
    cancel: jasmine.createSpy('cancel'),
    convert: jasmine.createSpy('convert'),
  };
}

/** Stands in for the project store: changes are real, saving is not. */
export function fakeStore() {
  const line = signal<Timeline>({ recipe: defaultRecipe(320, 240), entries: [], position: 0, shared: 0 });
  return {
    line,
    recipe: computed(() => line().recipe),
    picture: signal({ hash: 'a'.repeat(64), width: 320, height: 240, kind: 'raster' as const }),
    change: (label: string, edit: (recipe: Draft<Recipe>) => void) => line.update((l) => change(l, label, edit, false)),
  };
}

/** Everything a part of the studio needs, without server or worker. */
export function studioProviders(conversion: ReturnType<typeof fakeConversion>, store = fakeStore()): Provider[] {
  return [
    StudioState,
    { provide: Conversion, useValue: conversion },
    { provide: ProjectStore, useValue: store },
    { provide: Api, useValue: { charts: of([{ id: 'saltline', name: 'Saltline polyester', threads: [] }]) } },
  ];
}
