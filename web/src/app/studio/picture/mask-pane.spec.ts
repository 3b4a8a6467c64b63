import { type ComponentFixture, TestBed } from '@angular/core/testing';
import type { Design, Mask, PictureView } from '@open-kite/core';
import { fakeConversion, fakeStore, smallDesign, studioProviders, frames, until } from '../../test/rig';
import { LitPicture } from '../lit-picture';
import { StudioState } from '../studio-state';
import { MaskPane } from './mask-pane';
import { PictureTools } from './picture-tools';

describe('MaskPane', () => {
  let design: Design;
  let fixture: ComponentFixture<MaskPane>;
  let store: ReturnType<typeof fakeStore>;
  let conversion: ReturnType<typeof fakeConversion>;
  let tools: PictureTools;
  let state: StudioState;

  beforeAll(async () => (design = await smallDesign()));

  beforeEach(async () => {
    conversion = fakeConversion(design);
    conversion.picture.and.callFake((() => createImageBitmap(new ImageData(32, 24))) as never);
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    tools = TestBed.inject(PictureTools);
    state = TestBed.inject(StudioState);
    TestBed.inject(LitPicture);
    fixture = TestBed.createComponent(MaskPane);
    const host = fixture.nativeElement as HTMLElement;
    host.style.cssText = 'position:fixed;left:0;top:0;width:400px;height:300px';
    document.body.append(host);
    await settle();
    // The browser tells the size of a pane in its own time; until then the scale is the least there is.
    await until(() => scale() > 0.5);
    await settle();
  });

  const settle = async (): Promise<void> => {
    await fixture.whenStable();
    await frames();
    await fixture.whenStable();
  };
  const scale = (): number =>
    (fixture.componentInstance as unknown as { camera: () => { scale: number } }).camera().scale;
  const handles = (): HTMLElement => (fixture.nativeElement as HTMLElement).querySelector('.handles') as HTMLElement;
  const caption = (): string => (fixture.nativeElement as HTMLElement).querySelector('.caption')?.textContent ?? '';
  const mask = (): Mask | null => store.view().picture.mask;
  const press = (key: string, more: KeyboardEventInit = {}): void =>
    void handles().dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));

  it('says what can be done in every mode', async () => {
    expect(caption()).toContain('Drag the kite');
    tools.addMask('heart');
    await settle();
    expect(caption()).toContain('What lies inside the mask is sewn');
    tools.mode.set('points');
    await settle();
    expect(caption()).toContain('double click');
    tools.mode.set('draw');
    await settle();
    expect(caption()).toContain('Backspace takes one back');
    press('Escape');
    expect(tools.mode()).toBe('shape');
  });

  it('nudges the mask by the arrow keys, further with shift', () => {
    tools.addMask('kite');
    const before = mask() as Mask;
    press('ArrowRight');
    press('ArrowDown', { shiftKey: true });
    expect(mask()).toEqual({ ...before, x: before.x + 0.5, y: before.y + 5 });
  });

  it('gives the colour that is pointed at, by its place on the picture', async () => {
    let taken = '';
    state.picking.set({ label: 'Ground', take: (anchor) => (taken = anchor.hex) });
    await settle();
    expect(caption()).toContain('Point at the colour');
    const { left, top, width, height } = handles().getBoundingClientRect();
    handles().dispatchEvent(
      new PointerEvent('pointerdown', {
        clientX: left + width / 2,
        clientY: top + height / 2,
        bubbles: true,
        button: 0,
      }),
    );
    await settle();
    expect(taken).toBe('#2c6e80');
    expect(state.picking()).toBeUndefined();
    const [u, v] = conversion.sample.calls.mostRecent().args as unknown as [number, number];
    expect(u).toBeCloseTo(0.5, 2);
    expect(v).toBeCloseTo(0.5, 2);
  });

  it('samples the same place of the picture however it is turned and cut', async () => {
    const turned: Partial<PictureView['picture']> = { turn: 90, mirror: true };
    store.change('x', ({ picture }) => void Object.assign(picture, turned));
    tools.addMask('circle');
    tools.setMask({ ...(mask() as Mask), x: 12, y: -7 });
    await tools.sample(0, 0);
    const [u, v] = conversion.sample.calls.mostRecent().args as unknown as [number, number];
    expect([u, v].map((n) => Number(n.toFixed(6)))).toEqual([0.5, 0.5]);
  });

  it('zooms at the pointer and shows all again', async () => {
    const before = scale();
    handles().dispatchEvent(new WheelEvent('wheel', { deltaY: -300, bubbles: true, cancelable: true }));
    expect(scale()).toBeGreaterThan(before * 1.3);
    press('f');
    expect(scale()).toBeCloseTo(before, 6);
    tools.addMask('rectangle');
    tools.setMask({ ...(mask() as Mask), widthMm: 300, heightMm: 200 });
    await settle();
    // The pane makes room for a mask that is larger than the picture.
    expect(scale()).toBeLessThan(before * 0.6);
  });
});
