import { type ComponentFixture, TestBed } from '@angular/core/testing';
import type { Design, Finding, Recipe } from '@open-kite/core';
import { measureDesign } from '../../convert/design-measures';
import { formatCount } from '../../shared/units';
import { fakeConversion, fakeStore, smallDesign, studioProviders, until } from '../../test/rig';
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

  describe('before a repair is carried out', () => {
    const other = (): Design => ({ ...design });
    const tried = (made: Design) => ({
      design: made,
      measures: { ...measureDesign(made), figures: { ...measureDesign(made).figures, stitches: 1 } },
      spares: [],
      findings: [],
    });
    const text = (): string => host().querySelector('.preview')?.textContent?.replace(/\s+/g, ' ').trim() ?? '';
    const lookAt = async (index: number): Promise<void> => {
      state.knot.set('tidy');
      acts.look(acts.list()[index]);
      await fixture.whenStable();
    };

    it('tries it, says what comes of it, and shows it on the cloth in turns', async () => {
      const made = other();
      conversion.tryOut.and.resolveTo(tried(made));
      await lookAt(1);
      expect(text()).toContain('The repair is being tried');
      await until(() => text().includes('Repaired'));
      const before = conversion.figures()?.stitches ?? 0;
      expect(text()).toContain(`−${formatCount(before - 1)} stitches, −8 findings`.replace(/\s+/g, ' '));
      const asked = conversion.tryOut.calls.mostRecent().args[0] as Recipe;
      expect(asked.decisions.at(-1)).toEqual(turned[0].decisions?.[0]);
      await press('Repaired');
      expect(conversion.shownInstead()).toBe(made);
      await press('As it is');
      expect(conversion.shownInstead()).toBeUndefined();
      await press('Blink');
      await until(() => conversion.shownInstead() === made);
      await until(() => conversion.shownInstead() === undefined);
      // Nothing was changed by looking.
      expect(store.recipe().decisions).toEqual([]);
    });

    it('lets go of it with another finding, and when Tidy is left', async () => {
      const made = other();
      conversion.tryOut.and.resolveTo(tried(made));
      await lookAt(1);
      await until(() => text().includes('Repaired'));
      await press('Repaired');
      await lookAt(0);
      expect(conversion.shownInstead()).toBeUndefined();
      expect(text()).toBe('');
      await lookAt(1);
      await until(() => text().includes('Repaired'));
      await press('Repaired');
      fixture.destroy();
      expect(conversion.shownInstead()).toBeUndefined();
    });

    it('leaves it on the cloth while it is carried out, and not where that fails', async () => {
      const made = other();
      conversion.tryOut.and.resolveTo(tried(made));
      await lookAt(1);
      await until(() => text().includes('Repaired'));
      await press('Repaired');
      conversion.state.set('working');
      await fixture.whenStable();
      expect(text()).toBe('');
      expect(conversion.shownInstead()).toBe(made);
      conversion.state.set('failed');
      await fixture.whenStable();
      expect(conversion.shownInstead()).toBeUndefined();
    });

    it('is not confused by a try for the same finding that came to nothing', async () => {
      let first: (made: undefined) => void = () => undefined;
      conversion.tryOut.and.returnValues(
        new Promise<undefined>((resolve) => (first = resolve)),
        Promise.resolve(tried(other())),
      );
      await lookAt(1);
      await until(() => conversion.tryOut.calls.count() === 1);
      await lookAt(2);
      await lookAt(1);
      await until(() => conversion.tryOut.calls.count() === 2);
      first(undefined);
      await until(() => text().includes('Repaired'));
      expect(text()).toContain('findings');
    });

    it('does without where it cannot be tried', async () => {
      await lookAt(1);
      await until(() => text() === '');
      expect(host().textContent).toContain('Turn its rows to 40°');
    });
  });
});
