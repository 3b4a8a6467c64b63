import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { MatSnackBar } from '@angular/material/snack-bar';
import { finishedSize, PLAIN_LIGHT, type Design, type Mask, type PictureView } from '@open-kite/core';
import { fakeConversion, fakeStore, smallDesign, studioProviders, until } from '../../test/rig';
import { StudioState } from '../studio-state';
import { maskThrough } from './mask-editor';
import { PictureSheet } from './picture-sheet';
import { PictureTools } from './picture-tools';

describe('PictureSheet', () => {
  let design: Design;
  let store: ReturnType<typeof fakeStore>;
  let conversion: ReturnType<typeof fakeConversion>;
  let fixture: ComponentFixture<PictureSheet>;

  beforeAll(async () => (design = await smallDesign()));

  beforeEach(async () => {
    localStorage.clear();
    conversion = fakeConversion(design);
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    fixture = TestBed.createComponent(PictureSheet);
    await fixture.whenStable();
  });

  const all = (selector: string): HTMLElement[] => [
    ...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLElement>(selector),
  ];
  const press = async (text: string): Promise<void> => {
    const found = all('button').find((b) => (b.getAttribute('aria-label') ?? b.innerText).trim().startsWith(text));
    if (!found) throw new Error(`no button ${text}`);
    found.click();
    await fixture.whenStable();
  };
  const field = (label: string): HTMLElement =>
    all('kite-slider-field').find((f) => f.querySelector('label')?.textContent === label) as HTMLElement;
  const type = async (label: string, text: string): Promise<void> => {
    const input = field(label).querySelector('.value') as HTMLInputElement;
    input.value = text;
    input.dispatchEvent(new Event('change'));
    await fixture.whenStable();
  };
  const picture = (): PictureView['picture'] => store.view().picture;

  it('puts a mask of every shape on, within the picture, and takes it off', async () => {
    for (const name of ['Rectangle', 'Ellipse', 'Circle', 'Oval', 'Heart', 'Shield', 'Scallop', 'Hexagon', 'Kite']) {
      await press(name);
      expect(picture().mask?.shape).toBe(name.toLowerCase() as 'heart');
      const size = finishedSize(picture());
      expect(size.widthMm).withContext(name).toBeLessThanOrEqual(80.1);
    }
    await press('Remove');
    expect(picture().mask).toBeNull();
  });

  it('puts a mask aside and takes it out again', async () => {
    await press('Heart');
    const mask = picture().mask;
    await press('Put aside');
    expect(picture().mask).toBeNull();
    await press('Use the heart put aside');
    expect(picture().mask).toEqual(mask);
    await press('Throw the heart away');
    expect(picture().keptMasks).toEqual([]);
  });

  it('sets the measures of a mask by numbers; a circle stays one', async () => {
    await press('Circle');
    await type('Mask width', '30 mm');
    expect(picture().mask).toEqual(jasmine.objectContaining({ widthMm: 30, heightMm: 30 }));
    await type('To the right', '12');
    expect(picture().mask?.x).toBe(12);
  });

  it('stops a mask where it could no longer be sewn, or would be larger than a hoop', async () => {
    await press('Ellipse');
    const tools = TestBed.inject(PictureTools);
    const mask = picture().mask as Mask;
    tools.setMask({ ...mask, widthMm: 2 });
    expect(picture().mask).toEqual(mask);
    tools.setMask({ ...mask, widthMm: 900 });
    expect(picture().mask?.widthMm).toBe(400);
    expect(picture().widthMm).toBe(100);
  });

  it('draws a free mask: the button asks for points, closing it makes the mask', async () => {
    await press('Drawn by hand');
    const tools = TestBed.inject(PictureTools);
    expect(tools.mode()).toBe('draw');
    const corner = (x: number, y: number): { x: number; y: number; outX: number; outY: number } => ({
      x,
      y,
      outX: 0,
      outY: 0,
    });
    tools.drawn(maskThrough([corner(-10, -20), corner(30, -20), corner(10, 20)]));
    expect(tools.mode()).toBe('shape');
    expect(picture().mask).toEqual(jasmine.objectContaining({ shape: 'free', x: 10, y: 0, widthMm: 40, heightMm: 40 }));
  });

  it('scales down what is more than a hoop holds, says so, and takes it back', async () => {
    const open = spyOn(TestBed.inject(MatSnackBar), 'open').and.callThrough();
    await type('Width', '50 cm');
    expect(finishedSize(picture()).widthMm).toBeCloseTo(400, 1);
    expect(finishedSize(picture()).heightMm).toBeCloseTo(300, 1);
    expect(open.calls.mostRecent().args[0]).toContain('500.0 mm × 375.0 mm is more than a hoop holds');
    open.calls.mostRecent().returnValue.dismissWithAction();
    expect(store.undo).toHaveBeenCalled();
  });

  it('stretches only where the proportion is free', async () => {
    TestBed.inject(PictureTools).locked.set(false);
    await type('Width', '60');
    expect(finishedSize(picture())).toEqual({ widthMm: 60, heightMm: 75 });
    await press('A quarter turn right');
    expect(picture().turn).toBe(90);
    await type('Turned by', '30');
    await type('Width', '90');
    expect(picture().widthMm / picture().heightMm).toBeCloseTo(60 / 75, 2);
  });

  it('turns past the half turn to the other side, and mirrors', async () => {
    for (let i = 0; i < 3; i++) await press('A quarter turn right');
    expect(picture().turn).toBe(-90);
    await press('Mirror');
    expect(picture().mirror).toBeTrue();
  });

  it('offers to sew the ground, and takes another colour for it', async () => {
    expect(all('.offer')[0].innerText).toContain('left bare');
    await press('Sew it');
    expect(picture().dropGround).toBeFalse();
    await press('Point at another colour');
    TestBed.inject(StudioState).picking()?.take({ hex: '#d8602a', u: 0.7, v: 0.3 });
    expect(picture()).toEqual(jasmine.objectContaining({ groundHex: '#d8602a', dropGround: true }));
    await fixture.whenStable();
    await press('Find it again');
    expect(picture().groundHex).toBeNull();
  });

  it('changes the light; every control goes back by a double click, all of them by one button', async () => {
    await type('Contrast', '40');
    await type('Gamma', '1.5');
    expect(store.view().light).toEqual({ ...PLAIN_LIGHT, contrast: 40, gamma: 1.5 });
    field('Gamma').querySelector('mat-slider')?.dispatchEvent(new MouseEvent('dblclick'));
    expect(store.view().light.gamma).toBe(1);
    await press('Sepia');
    expect(store.view().light.tone).toBe('sepia');
    await press('As in the picture');
    expect(store.view().light).toEqual(PLAIN_LIGHT);
    await press('One ink');
    expect(field('Ink below')).toBeTruthy();
  });

  it('keeps the black point under the white one, and finds both by itself', async () => {
    await type('White point', '100');
    await type('Black point', '180');
    expect(store.view().light.black).toBe(99);
    conversion.tones.and.resolveTo(new Uint32Array(256).fill(0, 0, 50).fill(9, 50, 201));
    await until(() => conversion.tones.calls.count() > 0);
    await press('Heart');
    await new Promise((resolve) => setTimeout(resolve));
    await fixture.whenStable();
    await press('Use the whole range');
    expect(store.view().light).toEqual(jasmine.objectContaining({ black: 50, white: 200 }));
  });
});
