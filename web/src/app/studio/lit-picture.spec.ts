import { TestBed } from '@angular/core/testing';
import { fakeConversion, fakeStore, studioProviders, until } from '../test/rig';
import { LitPicture } from './lit-picture';

describe('LitPicture', () => {
  const bitmap = (): Promise<ImageBitmap> => createImageBitmap(new ImageData(4, 4));
  const settle = async (ms = 0): Promise<void> => {
    TestBed.tick();
    await new Promise((resolve) => setTimeout(resolve, ms));
  };

  it('draws the picture anew when its light changes, and only then, sharper once it rests', async () => {
    const conversion = fakeConversion();
    const store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    conversion.picture.and.callFake(bitmap as never);
    const lit = TestBed.inject(LitPicture);
    await settle();
    expect(conversion.picture).toHaveBeenCalledTimes(1);
    expect(lit.bitmap()?.width).toBe(4);
    store.change('angle', (recipe) => (recipe.stitches.angle = 5));
    await settle();
    expect(conversion.picture).toHaveBeenCalledTimes(1);
    store.change('gamma', (recipe) => (recipe.light.gamma = 2));
    await settle();
    expect(conversion.picture).toHaveBeenCalledTimes(2);
    await until(() => conversion.picture.calls.count() > 2);
    expect(conversion.picture).toHaveBeenCalledTimes(3);
    const pixels = conversion.picture.calls.allArgs().map((args) => args[1] as unknown as number);
    expect(pixels[2]).toBeGreaterThan(pixels[1] * 4);
  });

  it('shows nothing where the picture cannot be had', async () => {
    const conversion = fakeConversion();
    TestBed.configureTestingModule({ providers: studioProviders(conversion) });
    conversion.picture.and.rejectWith(new Error('gone'));
    const lit = TestBed.inject(LitPicture);
    await settle();
    expect(lit.bitmap()).toBeUndefined();
  });
});
