import { type ComponentFixture, TestBed } from '@angular/core/testing';
import type { ColourShare, Design, PictureView } from '@open-kite/core';
import { Cupboard } from '../../cupboard/cupboard';
import { fakeConversion, fakeStore, smallDesign, studioProviders, pickIn, until } from '../../test/rig';
import type { Draft } from '../../project/history';
import { StudioState } from '../studio-state';
import { ColourActs } from './colour-acts';
import { ColoursSheet } from './colours-sheet';

describe('ColoursSheet', () => {
  let design: Design;
  let conversion: ReturnType<typeof fakeConversion>;
  let store: ReturnType<typeof fakeStore>;
  let fixture: ComponentFixture<ColoursSheet>;

  beforeAll(async () => (design = await smallDesign()));

  beforeEach(async () => {
    conversion = fakeConversion(design);
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    await TestBed.inject(Cupboard).load();
    fixture = TestBed.createComponent(ColoursSheet);
    await fixture.whenStable();
  });

  const all = (selector: string): HTMLElement[] => [
    ...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLElement>(selector),
  ];
  const button = (text: string): HTMLElement => {
    const found = all('button').find((b) => (b.getAttribute('aria-label') ?? b.innerText).trim().startsWith(text));
    if (!found) throw new Error(`no button ${text}`);
    return found;
  };
  const decisions = (): PictureView['colours']['decisions'] => store.view().colours.decisions;
  const colour = (hex: string): ColourShare => design.colours.find((c) => c.hex === hex) as ColourShare;
  /** Makes the design anew from the recipe, as the worker would. */
  const reconvert = async (): Promise<void> => {
    const recipe = store.view();
    conversion.design.set(
      await smallDesign((draft) => void Object.assign(draft, recipe as unknown as Draft<PictureView>)),
    );
    await fixture.whenStable();
  };
  const open = async (index: number): Promise<void> => {
    all('li > .head')[index].click();
    await fixture.whenStable();
  };

  it('lists colours with share, stitches and thread, the bare ground apart', () => {
    const rows = all('li[data-colour]').map((li) => li.innerText.replace(/\s+/g, ' '));
    expect(rows.length).toBe(design.colours.length);
    const ground = design.colours.findIndex((c) => c.bare === 'ground');
    expect(rows[ground]).toContain('Ground, left bare');
    rows.forEach((row) => expect(row).toMatch(/\d+\.\d %/));
    expect(rows.filter((row) => row.includes('9 stitches')).length).toBe(design.colours.length - 1);
    expect(all('li.bare').length).toBe(1);
  });

  it('shows where a colour is while it is pointed at', () => {
    const state = TestBed.inject(StudioState);
    all('li[data-colour]')[1].dispatchEvent(new MouseEvent('mouseenter'));
    expect(state.where()).toEqual({ colour: 1, shade: undefined });
    all('.list')[0].dispatchEvent(new MouseEvent('mouseleave'));
    expect(state.where()).toBeUndefined();
  });

  it('sets the number, also from the curve, and goes back to the suggested one', async () => {
    const slider = all('mat-slider input')[0] as HTMLInputElement;
    slider.value = '2';
    slider.dispatchEvent(new Event('input'));
    expect(store.view().colours.count).toBe(2);
    await fixture.whenStable();
    all('mat-slide-toggle button')[0].click();
    expect(store.view().colours.count).toBe('auto');
    await until(() => conversion.curve.calls.count() > 0);
    await fixture.whenStable();
    expect(conversion.curve).toHaveBeenCalled();
    expect(all('kite-thread-curve-chart p')[0].innerText).toContain('3 threads: 1.0 away from the picture');
  });

  it('leaves a colour bare and sews it again', async () => {
    const index = design.colours.findIndex((c) => c.hex === '#d8602a');
    await open(index);
    button('Leave bare').click();
    expect(decisions()).toEqual([{ kind: 'bare', at: colour('#d8602a').anchor }]);
    await reconvert();
    expect(all('li[data-colour]')[index].innerText).toContain('Left bare');
    button('Sew it').click();
    expect(decisions()).toEqual([]);
  });

  it('leaves the ground to its own setting', async () => {
    await open(design.colours.findIndex((c) => c.bare === 'ground'));
    button('Sew it').click();
    expect(store.view().picture.dropGround).toBeFalse();
    expect(decisions()).toEqual([]);
  });

  it('merges a colour away, lists that, and brings it back', async () => {
    const from = design.colours.findIndex((c) => c.hex === '#d8602a');
    const into = design.colours.findIndex((c) => c.hex === '#2c6e80');
    await open(from);
    await pickIn(fixture, 'Merge into', String(into));
    expect(decisions().map((d) => d.kind)).toEqual(['merge']);
    await reconvert();
    expect(all('li[data-colour]').length).toBe(design.colours.length - 1);
    button('Bring back').click();
    expect(decisions()).toEqual([]);
  });

  it('pins, orders, and says which decisions found nothing', async () => {
    await open(0);
    button('Pin').click();
    await reconvert();
    expect(all('li[data-colour] [aria-label="pinned"]').length).toBe(1);
    button('Later in the list').click();
    expect(decisions().map((d) => d.kind)).toEqual(['pin', 'rank']);
    store.change('x', ({ colours }) => {
      colours.decisions = [{ kind: 'bare', at: { hex: '#ff00ff', u: 0.5, v: 0.01 } }];
    });
    await reconvert();
    expect((fixture.nativeElement as HTMLElement).innerText).toContain('left bare: not found now');
    button('Forget').click();
    expect(decisions()).toEqual([]);
  });

  it('offers five threads, keeps the one chosen, and matches again', async () => {
    await open(design.colours.findIndex((c) => c.hex === '#2c6e80'));
    const near = all('.near button');
    expect(near.length).toBe(5);
    expect(near[0].getAttribute('aria-label')).toContain('SL-3 Fjord');
    near[1].click();
    const [first] = decisions();
    expect(first.kind === 'thread' && first.code !== 'SL-3').toBeTrue();
    await reconvert();
    button("Keep the picture's colour").click();
    expect(decisions().length).toBe(1);
    await reconvert();
    button('Match again').click();
    expect(decisions()).toEqual([]);
  });

  it("matches all to several charts, or keeps the picture's colours", async () => {
    const boxes = all('.charts input[type=checkbox]') as HTMLInputElement[];
    boxes[0].click();
    await fixture.whenStable();
    boxes[1].click();
    expect(store.view().colours.charts).toEqual(['saltline', 'own-1']);
    TestBed.inject(ColourActs).chooseThread(colour('#2c6e80'), 'saltline', 'SL-1');
    (all('.charts input[type=radio]')[0] as HTMLInputElement).click();
    expect(store.view().colours.charts).toEqual([]);
    expect(decisions()).toEqual([]);
  });

  it('asks for a place on the picture to pick a colour', () => {
    const state = TestBed.inject(StudioState);
    button('Pick a colour').click();
    state.picking()?.take({ hex: '#123456', u: 0.1, v: 0.2 });
    expect(decisions()).toEqual([{ kind: 'pin', at: { hex: '#123456', u: 0.1, v: 0.2 } }]);
  });
});
