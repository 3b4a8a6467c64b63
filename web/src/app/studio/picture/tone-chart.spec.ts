import { type ComponentFixture, TestBed } from '@angular/core/testing';
import type { Light } from '@open-kite/core';
import { fakeConversion, fakeStore, smallDesign, studioProviders, frames } from '../../test/rig';
import { ToneChart } from './tone-chart';

describe('ToneChart', () => {
  let fixture: ComponentFixture<ToneChart>;
  let store: ReturnType<typeof fakeStore>;
  let conversion: ReturnType<typeof fakeConversion>;

  beforeEach(async () => {
    conversion = fakeConversion(await smallDesign());
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    fixture = TestBed.createComponent(ToneChart);
    const host = fixture.nativeElement as HTMLElement;
    host.style.cssText = 'position:fixed;left:0;top:0;width:271px';
    document.body.append(host);
    await settle();
  });

  const settle = async (): Promise<void> => {
    await fixture.whenStable();
    await frames();
    await fixture.whenStable();
  };
  const canvas = (): HTMLCanvasElement =>
    (fixture.nativeElement as HTMLElement).querySelector('canvas') as HTMLCanvasElement;
  const light = (): Light => store.view().light;
  /** Drags from one level of the chart to another. */
  const drag = (from: number, to: number): void => {
    spyOn(canvas(), 'setPointerCapture');
    const { left, top, width } = canvas().getBoundingClientRect();
    const send = (type: string, level: number): void => {
      const clientX = left + 8 + (level / 255) * (width - 16);
      canvas().dispatchEvent(new PointerEvent(type, { clientX, clientY: top + 40, bubbles: true, pointerId: 1 }));
    };
    send('pointerdown', from);
    send('pointermove', (from + to) / 2);
    send('pointermove', to);
    send('pointerup', to);
    send('pointermove', 128);
  };

  it('asks for the tones once for every placement of the picture', async () => {
    expect(conversion.tones).toHaveBeenCalledTimes(1);
    store.change('gamma', ({ light: l }) => (l.gamma = 2));
    await settle();
    expect(conversion.tones).toHaveBeenCalledTimes(1);
    store.change('turn', ({ picture }) => (picture.turn = 90));
    await settle();
    expect(conversion.tones).toHaveBeenCalledTimes(2);
  });

  it('drags the point that is nearer, and neither past the other', () => {
    drag(4, 60);
    expect(Math.abs(light().black - 60)).toBeLessThanOrEqual(2);
    expect(light().white).toBe(255);
  });

  it('drags the white point, down to the black one and no further', () => {
    drag(250, 20);
    expect(Math.abs(light().white - 20)).toBeLessThanOrEqual(2);
    expect(light().black).toBe(0);
  });

  it('draws its bars and both points', () => {
    const { width, height } = canvas();
    const { data } = (canvas().getContext('2d') as CanvasRenderingContext2D).getImageData(0, 0, width, height);
    let painted = 0;
    for (let i = 3; i < data.length; i += 4) if (data[i] > 0) painted++;
    expect(painted / (width * height)).toBeGreaterThan(0.3);
  });
});
