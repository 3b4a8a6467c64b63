import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { fakeConversion, fakeStore, smallDesign, studioProviders, shapesOf } from '../../test/rig';
import { DrawActs } from './draw-acts';
import { DrawPane } from './draw-pane';

describe('DrawPane', () => {
  let fixture: ComponentFixture<DrawPane>;
  let store: ReturnType<typeof fakeStore>;
  let acts: DrawActs;

  beforeEach(async () => {
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(fakeConversion(await smallDesign()), store) });
    acts = TestBed.inject(DrawActs);
    acts.take({ kind: 'points', role: 'piece' });
    fixture = TestBed.createComponent(DrawPane);
    fixture.componentRef.setInput('camera', { x: 0, y: 0, scale: 4 });
    fixture.componentRef.setInput('size', { width: 400, height: 300 });
    const host = fixture.nativeElement as HTMLElement;
    host.style.cssText = 'position:fixed;left:0;top:0;width:400px;height:300px';
    await fixture.whenStable();
  });

  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const click = (x: number, y: number): void => {
    const target = host().querySelector('.konvajs-content') as HTMLElement;
    for (const type of ['pointermove', 'pointerdown', 'pointerup']) {
      target.dispatchEvent(
        new PointerEvent(type, { clientX: x, clientY: y, button: 0, bubbles: true, pointerId: 1, isPrimary: true }),
      );
    }
  };
  const key = (name: string): void => {
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true }));
  };

  /** What is drawn is there once the picture was asked for its colour. */
  const asked = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 20));

  it('draws a line on the picture under the stage, and ends it with Enter', async () => {
    click(240, 130);
    click(300, 170);
    key('Enter');
    await asked();
    const [piece] = shapesOf(store.view());
    // 40 pixels right of the middle are 10 mm, of 100.
    expect(piece.paths[0].nodes[0][0]).toBeCloseTo(0.6, 4);
    expect(piece.paths[0].nodes.length).toBe(2);
    expect(acts.tool()?.kind).toBe('points');
  });

  it('takes the last point back with Backspace, and keeps the key from others', async () => {
    click(240, 130);
    click(300, 170);
    key('Backspace');
    key('Enter');
    await asked();
    expect(shapesOf(store.view())).toEqual([]);
  });

  it('says what to do with each tool, and is done with a button', async () => {
    const hint = (): string => host().querySelector('p')?.innerText ?? '';
    expect(hint()).toContain('corners');
    acts.take({ kind: 'area', role: 'hole' });
    await fixture.whenStable();
    expect(hint()).toContain('Point at a colour');
    host().querySelector('button')?.click();
    expect(acts.tool()).toBeUndefined();
  });

  it('passes the middle button on to the stage', () => {
    let passed = 0;
    fixture.componentInstance.passed.subscribe(() => passed++);
    const surface = host().querySelector('.surface') as HTMLElement;
    surface.dispatchEvent(new PointerEvent('pointerdown', { button: 1 }));
    surface.dispatchEvent(new PointerEvent('pointerdown', { button: 0 }));
    expect(passed).toBe(1);
  });
});
