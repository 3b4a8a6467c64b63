import { type ComponentFixture, TestBed } from '@angular/core/testing';
import type { Design } from '@open-kite/core';
import { fakeConversion, fakeStore, frames, smallDesign, studioProviders } from '../../test/rig';
import { StudioState } from '../studio-state';
import { Stage } from './stage';

describe('Stage', () => {
  let design: Design;
  let conversion: ReturnType<typeof fakeConversion>;
  let fixture: ComponentFixture<Stage>;
  let state: StudioState;
  let canvas: HTMLCanvasElement;

  beforeAll(async () => (design = await smallDesign()));

  async function show(first: Design | undefined = design): Promise<void> {
    conversion = fakeConversion(first);
    TestBed.configureTestingModule({ providers: studioProviders(conversion, fakeStore()) });
    state = TestBed.inject(StudioState);
    fixture = TestBed.createComponent(Stage);
    const host = fixture.nativeElement as HTMLElement;
    Object.assign(host.style, { width: '800px', height: '600px', position: 'fixed', left: '0', top: '0' });
    await fixture.whenStable();
    canvas = host.querySelector('canvas') as HTMLCanvasElement;
    // Pointers of a test are no real ones and cannot be captured.
    canvas.setPointerCapture = () => undefined;
    await frames();
    await frames();
  }

  const text = (): string => (fixture.nativeElement as HTMLElement).innerText;
  const button = (label: string): HTMLElement =>
    [...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLElement>('button')].find(
      (b) => (b.getAttribute('aria-label') ?? b.innerText.trim()) === label,
    ) as HTMLElement;
  const percent = (): number =>
    Number(/(\d+) %/.exec((fixture.nativeElement as HTMLElement).querySelector('.percent')?.textContent ?? '')?.[1]);
  const pointer = (type: string, x: number, y: number, more: PointerEventInit = {}): boolean =>
    canvas.dispatchEvent(new PointerEvent(type, { clientX: x, clientY: y, pointerId: 1, bubbles: true, ...more }));
  const press = async (key: string, more: KeyboardEventInit = {}): Promise<void> => {
    canvas.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
    await fixture.whenStable();
  };
  /** Index of the piece under a place, as the stage finds it. */
  const under = (x: number, y: number): number | undefined => {
    pointer('pointermove', x, y);
    return state.hovered();
  };

  it('fits the picture and shows its scale', async () => {
    await show();
    // 100 x 75 mm in 780 x 580 pixels, with a margin: about 7 pixels a millimetre.
    expect(percent()).toBeGreaterThan(160);
    expect(percent()).toBeLessThan(200);
    expect(under(30, 30)).toBeUndefined();
    expect(under(410, 200)).toBeUndefined();
    expect(design.pieces[under(260, 220) as number].kind).toBe('tatami');
  });

  it('zooms at the pointer with the wheel, and by buttons', async () => {
    await show();
    const before = percent();
    const piece = under(260, 220);
    canvas.dispatchEvent(new WheelEvent('wheel', { deltaY: -400, clientX: 260, clientY: 220, cancelable: true }));
    await fixture.whenStable();
    expect(percent()).toBeGreaterThan(before * 1.7);
    expect(under(260, 220)).toBe(piece);
    button('Zoom out').click();
    await fixture.whenStable();
    expect(percent()).toBeLessThan(before * 1.7);
    button('Show all').click();
    await fixture.whenStable();
    expect(percent()).toBe(before);
  });

  it('moves by dragging and by arrow keys', async () => {
    await show();
    const piece = under(260, 220);
    pointer('pointerdown', 260, 220);
    pointer('pointermove', 360, 260);
    pointer('pointerup', 360, 260);
    expect(under(360, 260)).toBe(piece);
    expect(state.selected().size).toBe(0);
    await press('ArrowRight');
    expect(under(320, 260)).toBe(piece);
    await press('ArrowDown');
    expect(under(320, 220)).toBe(piece);
  });

  it('chooses the piece that is clicked, more with shift, none beside', async () => {
    await show();
    const click = (x: number, y: number, shiftKey = false): void => {
      pointer('pointerdown', x, y, { shiftKey });
      pointer('pointerup', x, y, { shiftKey });
    };
    click(260, 220);
    expect(state.selected().size).toBe(1);
    click(560, 220, true);
    expect(state.selected().size).toBe(2);
    click(40, 40);
    expect(state.selected().size).toBe(0);
  });

  it('chooses more by a finger that rests, and lets one that moves pull the cloth', async () => {
    await show();
    jasmine.clock().install();
    try {
      const touch = { pointerType: 'touch' };
      pointer('pointerdown', 260, 220, touch);
      pointer('pointerup', 260, 220, touch);
      expect(state.selected().size).toBe(1);
      pointer('pointerdown', 560, 220, touch);
      jasmine.clock().tick(600);
      expect(state.selected().size).toBe(2);
      // Lifting it says nothing more.
      pointer('pointerup', 560, 220, touch);
      expect(state.selected().size).toBe(2);
      pointer('pointerdown', 560, 220, touch);
      jasmine.clock().tick(600);
      pointer('pointerup', 560, 220, touch);
      expect(state.selected().size).toBe(1);
      // Empty cloth is no piece, and a finger that moved chooses nothing.
      pointer('pointerdown', 40, 40, touch);
      jasmine.clock().tick(600);
      expect(state.selected().size).toBe(1);
      pointer('pointerup', 40, 40, touch);
      pointer('pointerdown', 260, 220, touch);
      pointer('pointermove', 300, 240, touch);
      jasmine.clock().tick(600);
      pointer('pointerup', 300, 240, touch);
      expect(state.selected().size).toBe(0);
      // A second finger zooms.
      pointer('pointerdown', 260, 220, touch);
      pointer('pointerdown', 360, 220, { ...touch, pointerId: 2 });
      jasmine.clock().tick(600);
      expect(state.selected().size).toBe(0);
    } finally {
      jasmine.clock().uninstall();
    }
  });

  it('moves the split line by keys', async () => {
    await show();
    state.compare.set('split');
    const line = fixture.componentInstance.view.lens().split;
    await press('ArrowRight', { altKey: true });
    expect(fixture.componentInstance.view.lens().split).toBeGreaterThan(line);
    await press('ArrowLeft', { altKey: true });
    expect(fixture.componentInstance.view.lens().split).toBeCloseTo(line, 6);
  });

  it('lets the lens be taken and moved instead of the cloth', async () => {
    await show();
    button('Lens').click();
    await fixture.whenStable();
    expect(state.compare()).toBe('lens');
    // The lens starts in the lower right part of the picture.
    const [x, y] = [556, 399];
    pointer('pointermove', x, y);
    await fixture.whenStable();
    expect(canvas.style.cursor).toBe('move');
    const piece = under(260, 220);
    pointer('pointerdown', x, y);
    pointer('pointermove', x - 150, y - 100);
    pointer('pointerup', x - 150, y - 100);
    expect(under(260, 220)).toBe(piece);
    pointer('pointermove', x - 150, y - 100);
    await fixture.whenStable();
    expect(canvas.style.cursor).toBe('move');
    button('Lens').click();
    expect(state.compare()).toBe('none');
  });

  it('paints the needle while the sewing is scrubbed, and marks on a chosen piece', async () => {
    await show();
    const ink = (): number => {
      const context = canvas.getContext('2d') as CanvasRenderingContext2D;
      const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
      let ember = 0;
      for (let i = 0; i < data.length; i += 4) if (data[i] === 200 && data[i + 1] === 72 && data[i + 2] === 31) ember++;
      return ember;
    };
    await frames();
    const before = ink();
    state.select(0, false);
    await frames();
    expect(ink()).toBeGreaterThan(before + 100);
  });

  it('shows progress with a way to stop, and a way to go on', async () => {
    await show();
    conversion.state.set('working');
    conversion.progress.set({ step: 'prepare', share: 0.42 });
    await fixture.whenStable();
    expect(text()).toContain('Converting · 42 %');
    button('Stop').click();
    expect(conversion.cancel).toHaveBeenCalledTimes(1);
    conversion.state.set('cancelled');
    await fixture.whenStable();
    button('Go on').click();
    expect(conversion.convert).toHaveBeenCalledTimes(1);
  });

  it('says what happened and what was kept when a conversion fails', async () => {
    await show();
    conversion.state.set('failed');
    conversion.error.set('the picture could not be fetched (404)');
    await fixture.whenStable();
    expect(text()).toContain('the picture could not be fetched (404). Your settings are kept.');
    button('Try again').click();
    expect(conversion.convert).toHaveBeenCalled();
  });

  it('says what to do when nothing is left to sew', async () => {
    await show({ ...design, pieces: [], order: [] });
    expect(text()).toContain('There is nothing to sew.');
    expect(text()).toContain('allow smaller pieces');
  });
});
