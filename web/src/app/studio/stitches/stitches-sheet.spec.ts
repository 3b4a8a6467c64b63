import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { STITCH_KINDS, stitchKindOf, type Design } from '@open-kite/core';
import { fakeConversion, fakeStore, smallDesign, studioProviders, choiceIn, pickIn } from '../../test/rig';
import { PieceActs } from '../pieces/piece-acts';
import { StudioState } from '../studio-state';
import { StitchesSheet } from './stitches-sheet';

describe('StitchesSheet', () => {
  let design: Design;
  let conversion: ReturnType<typeof fakeConversion>;
  let store: ReturnType<typeof fakeStore>;
  let state: StudioState;
  let fixture: ComponentFixture<StitchesSheet>;

  beforeAll(async () => (design = await smallDesign()));

  beforeEach(async () => {
    conversion = fakeConversion(design);
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    state = TestBed.inject(StudioState);
    state.knot.set('stitches');
    fixture = TestBed.createComponent(StitchesSheet);
    await fixture.whenStable();
  });

  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const choose = async (...pieces: number[]): Promise<void> => {
    state.selectAll(pieces);
    await fixture.whenStable();
  };
  const pick = (label: string, id: string): Promise<void> => pickIn(fixture, label, id);
  const button = (text: string): HTMLButtonElement => {
    const found = [...host().querySelectorAll('button')].find((b) => b.innerText.trim().endsWith(text));
    if (!found) throw new Error(`no button ${text}`);
    return found;
  };
  const decisions = () => store.view().decisions;

  it('says in one line what was done', () => {
    const { lead } = { lead: host().querySelector('.lead')?.textContent ?? '' };
    expect(lead).toContain('2 fills');
    expect(lead).toMatch(/stitches in [\d.]+ min on one needle/);
    expect(host().querySelector('section[aria-label=Order]')?.textContent).toContain('of way between pieces');
  });

  it('offers every stitch kind, and the options of the one that is chosen', async () => {
    await choose(0);
    const ids = choiceIn(fixture, 'Stitch kind')
      .choices()
      .map(({ id }) => id.split(' ')[0]);
    for (const { id } of STITCH_KINDS) expect(ids).toContain(id);
    const labels = [
      ...host().querySelectorAll('kite-option-list kite-slider-field label, kite-option-list mat-label'),
    ].map((label) => label.textContent?.trim());
    for (const option of Object.values(stitchKindOf('tatami').options)) {
      expect(labels.some((l) => l?.startsWith(option.label)))
        .withContext(option.label)
        .toBeTrue();
    }
    await pick('Stitch kind', 'spiral 0');
    expect(decisions()).toEqual([jasmine.objectContaining({ kind: 'sew', as: 'spiral' })]);
  });

  it('adds options up in one decision, and lets them go again', async () => {
    await choose(0);
    await pick('Stitch pattern', 'twill');
    await pick('Underlay', 'edge');
    expect(decisions()).toEqual([
      jasmine.objectContaining({ kind: 'stitch', set: { pattern: 'twill', underlay: 'edge' } }),
    ]);
    await pick('Underlay', 'fabric');
    TestBed.inject(PieceActs).setOption([0], 'pattern', undefined);
    expect(decisions()).toEqual([]);
  });

  it('lays a piece on a fabric of its own, and back on the design’s', async () => {
    await choose(0);
    const under = choiceIn(fixture, 'Fabric under it');
    expect(under.choices().find(({ id }) => id === under.value())?.name).toContain('quilting cotton');
    await pick('Fabric under it', 'fleece');
    expect(decisions()).toEqual([jasmine.objectContaining({ kind: 'stitch', set: { fabric: 'fleece' } })]);
    const said = decisions();
    conversion.design.set(await smallDesign((recipe) => (recipe.decisions = said as typeof recipe.decisions)));
    await fixture.whenStable();
    expect(host().querySelector('kite-option-list .note')?.textContent).toContain('cut-away, heavy');
    await pick('Fabric under it', 'design');
    expect(decisions()).toEqual([]);
  });

  it('says where an overlap is less than satin reaches over its edge anyway', async () => {
    const withOverlap = async (overlapMm: number, family: 'column' | 'area'): Promise<string> => {
      const [first, ...others] = design.pieces;
      const own = { ...first, family, choices: { ...first.choices, values: { overlapMm } } };
      conversion.design.set({ ...design, pieces: [own, ...others] });
      await choose(0);
      return host().querySelector('kite-option-list')?.textContent ?? '';
    };
    expect(await withOverlap(0.05, 'column')).toContain('0.20 mm over the edge against the pull as it is');
    expect(await withOverlap(0.5, 'column')).not.toContain('as it is');
    expect(await withOverlap(0.05, 'area')).not.toContain('as it is');
  });

  it('says guides, entry and exit by places of the picture', async () => {
    const acts = TestBed.inject(PieceActs);
    acts.setGuides(0, [[-20, 0, 10, 5]]);
    acts.setEnd(0, 'entry', { x: 0, y: 0 });
    const [guides, entry] = decisions();
    expect(guides.kind === 'guides' && guides.lines[0].length).toBe(4);
    expect(entry).toEqual(jasmine.objectContaining({ kind: 'entry', u: 0.5, v: 0.5 }));
    acts.setEnd(0, 'entry', undefined);
    acts.setGuides(0, []);
    expect(decisions()).toEqual([]);
  });

  it('locks a piece first or last, and lets it go', async () => {
    await choose(1);
    button('Lock last').click();
    expect(decisions()).toEqual([jasmine.objectContaining({ kind: 'order', before: 'last' })]);
    conversion.design.set({
      ...design,
      pieces: design.pieces.map((p, i) => (i === 1 ? { ...p, decisions: [0] } : p)),
    });
    await fixture.whenStable();
    expect(button('Lock last').getAttribute('aria-pressed')).toBe('true');
    button('Lock last').click();
    expect(decisions()).toEqual([]);
  });

  it('tells what another fabric changes, and takes compensation and overlap of one’s own', async () => {
    await pick('Fabric', 'fleece');
    expect(store.view().cloth.fabric).toBe('fleece');
    conversion.design.set(await smallDesign((recipe) => (recipe.cloth.fabric = 'fleece')));
    await fixture.whenStable();
    expect(host().querySelector('.change')?.textContent).toMatch(/stitches more than on quilting cotton/);
    button('several').click();
    expect(store.recipe().order.needles).toBe(6);
    await pick('Satin corners', 'point');
    await pick('Stitch pattern', 'sand');
    expect(store.recipe().stitches).toEqual(jasmine.objectContaining({ corners: 'point', pattern: 'sand' }));
  });
});
