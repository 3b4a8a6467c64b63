import { type ComponentFixture, TestBed } from '@angular/core/testing';
import type { Design, Finding } from '@open-kite/core';
import { fakeConversion, fakeStore, smallDesign, studioProviders } from '../../test/rig';
import { StudioState } from '../studio-state';
import { TidyActs } from './tidy-acts';
import { TidySheet } from './tidy-sheet';

describe('TidySheet', () => {
  let design: Design;
  let conversion: ReturnType<typeof fakeConversion>;
  let store: ReturnType<typeof fakeStore>;
  let state: StudioState;
  let acts: TidyActs;
  let fixture: ComponentFixture<TidySheet>;

  beforeAll(async () => (design = await smallDesign()));

  const finding = (kind: string, level: Finding['level'], more: Partial<Finding> = {}): Finding => ({
    kind,
    level,
    text: `It is ${kind}.`,
    why: `Because of ${kind}.`,
    at: { x: 3, y: 4 },
    pieces: ['p2'],
    harm: 1.5,
    repairs: [],
    ...more,
  });
  const turned: Finding['repairs'] = [
    {
      id: 'turn',
      label: 'Turn its rows to 40°',
      safe: true,
      decisions: [{ kind: 'stitch', at: { object: 'picture-1' }, set: { angle: 40 } }],
    },
  ];
  const rows = (x: number): Finding => finding('rows-along-edge', 'advice', { at: { x, y: 0 }, repairs: turned });

  beforeEach(async () => {
    conversion = fakeConversion(design);
    conversion.findings.set([
      finding('needless-trim', 'waste', { cost: { trims: 1, stitches: 1200 }, at: undefined, pieces: [] }),
      finding('long-stitch', 'problem'),
      ...[1, 2, 3, 4, 5, 6].map((i) => rows(i * 10)),
    ]);
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    state = TestBed.inject(StudioState);
    acts = TestBed.inject(TidyActs);
    fixture = TestBed.createComponent(TidySheet);
    await fixture.whenStable();
  });

  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const press = async (text: string): Promise<void> => {
    const found = [...host().querySelectorAll('button')].find((b) => b.innerText.trim().startsWith(text));
    if (!found) throw new Error(`no button ${text}`);
    found.click();
    await fixture.whenStable();
  };

  it('groups findings by kind, what fails first, with counts and reasons', () => {
    expect([...host().querySelectorAll('.head strong')].map((h) => (h as HTMLElement).innerText)).toEqual([
      'Stitches too long1',
      'Rows along an edge6',
      'Needless trims1',
    ]);
    expect([...host().querySelectorAll('.level')].map((l) => l.textContent)).toEqual([
      'Will fail',
      'May fail',
      'Wasteful',
    ]);
    expect(host().innerText).toContain('Because of long-stitch.');
    expect(host().innerText).toMatch(/Costs 1.200 stitches, 1 trim\./);
    expect(host().querySelectorAll('li').length).toBe(6);
  });

  it('shows the first of many, and all when asked', async () => {
    await press('Show all 6');
    expect(host().querySelectorAll('li').length).toBe(8);
  });

  it('goes to a finding, chooses its pieces, and steps on with two keys', async () => {
    await press('It is long-stitch.');
    expect(state.goal()).toEqual(jasmine.objectContaining({ left: -4, top: -3 }));
    expect([...state.selected()]).toEqual([1]);
    expect(host().querySelector('li.current')?.textContent).toContain('long-stitch');
    acts.step(1);
    acts.step(1);
    await fixture.whenStable();
    expect(acts.current()?.at).toEqual({ x: 20, y: 0 });
    acts.step(-1);
    acts.step(-1);
    acts.step(-1);
    expect(acts.current()?.kind).toBe('needless-trim');
  });

  it('repairs one or all of a kind, and says what that changed', async () => {
    acts.look(acts.list()[1]);
    await fixture.whenStable();
    await press('Turn its rows to 40°');
    expect(store.view().decisions).toEqual([...(turned[0].decisions ?? [])]);
    expect(host().querySelector('.effect')?.textContent).toContain('Repaired: rows along an edge');
    conversion.findings.set(conversion.findings().slice(0, 3));
    await fixture.whenStable();
    expect(host().querySelector('.effect')?.textContent).toMatch(/Findings\s*3 \(−5\)/);
    await press('Take it back');
    expect(store.undo).toHaveBeenCalled();
    expect(host().querySelector('.effect')).toBeNull();
    conversion.findings.set([rows(0), rows(9)]);
    await fixture.whenStable();
    await press('Repair all 2');
    expect(store.undoLabel()).toContain('repaired all');
  });

  it('lets a finding be, counts it, and tells it again', async () => {
    await press('It is long-stitch.');
    await press('Ignore');
    expect(store.recipe().ignored).toEqual([{ kind: 'long-stitch', at: { x: 3, y: 4 }, harm: 1.5 }]);
    expect(acts.list().some(({ kind }) => kind === 'long-stitch')).toBeFalse();
    expect(host().innerText).toContain('1 ignored.');
    await press('Tell it again');
    expect(store.recipe().ignored).toBeUndefined();
    expect(acts.list()[0].kind).toBe('long-stitch');
  });

  it('says all is good only when every check has run on what is shown', async () => {
    conversion.findings.set([]);
    conversion.findingsFit.set(false);
    await fixture.whenStable();
    expect(host().innerText).toContain('looked through once');
    conversion.findingsFit.set(true);
    await fixture.whenStable();
    expect(host().innerText).toMatch(/All \d+ checks ran/);
  });
});
