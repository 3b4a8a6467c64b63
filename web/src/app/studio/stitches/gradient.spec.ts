import { type ComponentFixture, TestBed } from '@angular/core/testing';
import type { Design, PieceDecision } from '@open-kite/core';
import { fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { handleAt, handlesOf, shareAlong } from '../stage/stitch-handles';
import { StudioState } from '../studio-state';
import { GradientActs } from './gradient-acts';
import { GradientSection } from './gradient-section';

describe('gradients by hand', () => {
  let plain: Design;
  let conversion: ReturnType<typeof fakeConversion>;
  let store: ReturnType<typeof fakeStore>;
  let acts: GradientActs;
  let fixture: ComponentFixture<GradientSection>;

  beforeAll(async () => (plain = await smallDesign()));

  beforeEach(async () => {
    conversion = fakeConversion(plain);
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    acts = TestBed.inject(GradientActs);
    fixture = TestBed.createComponent(GradientSection);
    await fixture.whenStable();
  });

  const state = (): StudioState => TestBed.inject(StudioState);
  const said = (): PieceDecision[] => store.view().decisions.filter(({ kind }) => kind === 'gradient');
  const fillOf = (decision: PieceDecision) => (decision.kind === 'gradient' ? decision.fill : undefined);
  const areas = (): number[] => plain.pieces.flatMap(({ family }, i) => (family === 'line' ? [] : [i]));
  /** Converts what was said and chooses the pieces of the gradient. */
  const sew = async (): Promise<Design> => {
    const decisions = structuredClone(store.view().decisions) as PieceDecision[];
    const design = await smallDesign((recipe) => (recipe.decisions = decisions as typeof recipe.decisions));
    conversion.design.set(design);
    state().selectAll(design.pieces.flatMap(({ gradient }, i) => (gradient ? [i] : [])));
    await fixture.whenStable();
    return design;
  };
  const press = async (label: string): Promise<void> => {
    const host = fixture.nativeElement as HTMLElement;
    const button = [...host.querySelectorAll('button')].find(
      (b) => (b.getAttribute('aria-label') ?? b.innerText.trim()) === label,
    );
    if (!button) throw new Error(`no ${label} among ${host.innerText}`);
    button.click();
    await fixture.whenStable();
  };

  it('are laid over several pieces as one', async () => {
    const [a, b] = areas();
    state().selectAll([a, b]);
    await fixture.whenStable();
    await press('Lay one gradient over all of them');
    expect(said().length).toBe(2);
    const [first, second] = said().map(fillOf);
    expect(first).toEqual(second);
    expect(first?.way[0]).toBeLessThan(first?.way[2] ?? 0);
    const design = await sew();
    expect(new Set(design.pieces.map(({ gradient }) => gradient?.gradient.id).filter(Boolean)).size).toBe(1);
    expect(acts.gradient()?.stops.length).toBe(2);
  });

  it('change on all their pieces: shape, layers, stops, way', async () => {
    state().selectAll(areas().slice(0, 2));
    acts.lay();
    await sew();
    await press('Another stop');
    expect(said().every((d) => fillOf(d)?.stops.length === 3)).toBeTrue();
    await sew();
    await press('Bare cloth at stop 3');
    expect(fillOf(said()[0])?.stops[2].paint).toEqual({ bare: true });
    await sew();
    await press('Remove stop 2');
    expect(fillOf(said()[1])?.stops.length).toBe(2);
    await sew();
    acts.change('gradient', { shape: 'radial', layers: 'beside' });
    expect(fillOf(said()[1])).toEqual(jasmine.objectContaining({ shape: 'radial', layers: 'beside' }));
    await sew();
    acts.setWay('end', 0, 0);
    expect(fillOf(said()[0])?.way[2]).toBeCloseTo(0.5, 3);
    acts.setStop(0, { at: 2 });
    expect(fillOf(said()[0])?.stops[0].at).toBeCloseTo(0.98, 3);
    await press('Take it away');
    expect(said().every((d) => fillOf(d) === null)).toBeTrue();
  });

  it('are offered a thread between where two cannot mix the colours', async () => {
    state().selectAll(areas().slice(0, 1));
    acts.lay();
    await sew();
    acts.setStop(0, { paint: { hex: '#203040' } });
    await sew();
    acts.setStop(1, { paint: { hex: '#d8c8a0' } });
    await sew();
    const offer = acts.middle();
    if (!offer) throw new Error('no offer');
    expect(offer.index).toBe(1);
    expect(offer.now).toBeGreaterThan(1.5);
    expect(offer.then).toBeLessThan(offer.now * 0.7);
    await press('Put a thread between');
    expect(fillOf(said()[0])?.stops.map(({ at }) => at)).toEqual([0, 0.5, 1]);
    expect(fillOf(said()[0])?.stops[1].paint).toEqual({ hex: offer.hex });
    await sew();
    expect(acts.middle()).toBeUndefined();
  });

  it('have handles on the stage: both ends, and the stops between', async () => {
    state().selectAll(areas().slice(0, 1));
    acts.lay();
    await sew();
    acts.addStop();
    const design = await sew();
    const index = design.pieces.findIndex(({ gradient }) => gradient);
    const handles = handlesOf(design, index, { x: 0, y: 0, scale: 5 }, { width: 800, height: 600 });
    if (!handles?.start || !handles.end || !handles.stops) throw new Error('no handles');
    expect(handles.stops.length).toBe(3);
    expect(handleAt(handles, handles.start)).toBe('start');
    expect(handleAt(handles, handles.end)).toBe('end');
    expect(handleAt(handles, handles.stops[1])).toBe('stop1');
    expect(shareAlong(handles, handles.stops[1])).toBeCloseTo(0.5, 2);
    expect(handles.angle).toBeUndefined();
  });
});
