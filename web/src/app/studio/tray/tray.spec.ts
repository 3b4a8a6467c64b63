import { type ComponentFixture, TestBed } from '@angular/core/testing';
import type { Design } from '@open-kite/core';
import { Preferences } from '../../shared/preferences';
import { fakeConversion, fakeStore, smallDesign, studioProviders, frames } from '../../test/rig';
import { StudioState } from '../studio-state';
import { Tray } from './tray';
import { filterCounts, rowsOf } from './tray-rows';

describe('Tray', () => {
  let design: Design;
  let conversion: ReturnType<typeof fakeConversion>;
  let store: ReturnType<typeof fakeStore>;
  let state: StudioState;

  beforeAll(async () => (design = await smallDesign()));

  beforeEach(() => {
    localStorage.clear();
    conversion = fakeConversion(design);
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    state = TestBed.inject(StudioState);
  });

  async function show(): Promise<ComponentFixture<Tray>> {
    const fixture = TestBed.createComponent(Tray);
    (fixture.nativeElement as HTMLElement).style.height = '600px';
    await fixture.whenStable();
    await frames();
    await listed(fixture);
    return fixture;
  }

  /** Rows are listed a few at a time: waits until no more come. */
  async function listed(fixture: ComponentFixture<Tray>): Promise<void> {
    const height = (): number => all(fixture, 'cdk-virtual-scroll-viewport')[0]?.scrollHeight ?? 0;
    for (let before = -1; before !== height();) {
      before = height();
      await frames();
      await frames();
      await fixture.whenStable();
    }
  }

  const all = (fixture: ComponentFixture<unknown>, selector: string): HTMLElement[] => [
    ...(fixture.nativeElement as HTMLElement).querySelectorAll<HTMLElement>(selector),
  ];

  it('shows every piece under its thread', async () => {
    const fixture = await show();
    expect(all(fixture, 'h3').length).toBe(3);
    expect(all(fixture, '.piece').length).toBe(design.pieces.length);
    expect(all(fixture, '.piece path').every((p) => (p.getAttribute('d') ?? '').startsWith('M'))).toBeTrue();
  });

  it('shows in the pictures how pieces are sewn', async () => {
    const fixture = await show();
    const kinds = design.order.map((i) => design.pieces[i].kind);
    expect(all(fixture, '.run').length).toBe(kinds.filter((kind) => kind === 'running').length);
    expect(all(fixture, '.across').length).toBe(kinds.filter((kind) => kind === 'satin').length);
  });

  it('chooses one piece, a row of them with shift, single ones with control', async () => {
    const fixture = await show();
    const [first, , third] = all(fixture, '.piece');
    first.click();
    third.dispatchEvent(new MouseEvent('click', { shiftKey: true, bubbles: true }));
    await fixture.whenStable();
    expect(state.selected().size).toBe(3);
    third.dispatchEvent(new MouseEvent('click', { ctrlKey: true, bubbles: true }));
    await fixture.whenStable();
    expect(all(fixture, '[aria-pressed=true].piece').length).toBe(2);
  });

  it('points at a piece on the stage by mouse and by focus', async () => {
    const fixture = await show();
    const [first] = all(fixture, '.piece');
    first.dispatchEvent(new MouseEvent('mouseenter'));
    expect(state.hovered()).toBeDefined();
    first.dispatchEvent(new MouseEvent('mouseleave'));
    expect(state.hovered()).toBeUndefined();
    first.dispatchEvent(new FocusEvent('focus'));
    expect(state.hovered()).toBeDefined();
  });

  it('draws only what is in sight of very many pieces', async () => {
    const [piece] = design.pieces;
    const pieces = Array.from({ length: 1000 }, (_, i) => ({ ...piece, id: `p${i + 1}`, thread: 0 }));
    conversion.design.set({ ...design, pieces, order: pieces.map((_, i) => i) });
    const fixture = await show();
    expect(all(fixture, '.piece').length).toBeLessThan(140);
    expect(all(fixture, '.piece').length).toBeGreaterThan(30);
    const viewport = all(fixture, 'cdk-virtual-scroll-viewport')[0];
    expect(viewport.scrollHeight).toBeGreaterThan(10_000);
  });

  it('filters by kind, and chooses what is shown', async () => {
    const fixture = await show();
    const counts = filterCounts(design);
    expect(counts.all).toBe(design.pieces.length);
    expect(counts.lines + counts.satin + counts.fills).toBe(counts.all);
    const filter = all(fixture, '.filters button').find((b) => b.innerText.startsWith('Fills')) as HTMLElement;
    filter.click();
    await fixture.whenStable();
    await frames();
    await fixture.whenStable();
    expect(all(fixture, '.piece').length).toBe(counts.fills);
    (all(fixture, '.choose')[0] as HTMLButtonElement).click();
    expect(state.selected().size).toBe(counts.fills);
  });

  it('shows pieces left bare and takes them back', () => {
    const bare = { ...design.pieces[0], colour: 0, decision: 4 };
    const rows = rowsOf({ ...design, barePieces: [bare, bare, bare, bare, bare] }, 'bare');
    expect(rows.map((row) => (row.kind === 'bare' ? row.pieces.length : -1))).toEqual([4, 1]);
  });

  const drop = (fixture: ComponentFixture<Tray>, piece: number, row: string, onto?: number): void => {
    (fixture.componentInstance as unknown as { dropped: (d: object) => void }).dropped({ piece, row, onto });
  };

  it('recolours what is dropped on another thread', async () => {
    const fixture = await show();
    const piece = design.order[0];
    const thread = design.threads.findIndex((_, i) => i !== design.pieces[piece].thread);
    drop(fixture, piece, `thread ${thread}`);
    const [decision] = store.view().decisions;
    expect(decision).toEqual(jasmine.objectContaining({ kind: 'thread' }));
    const colour = design.colours.find((c) => c.thread === thread) as Design['colours'][number];
    expect('to' in decision && decision.to).toEqual({ like: colour.anchor });
  });

  it('sews what is dropped within its thread before the piece it was dropped on', async () => {
    const pieces = design.pieces.map((piece) => ({ ...piece, thread: 0 }));
    conversion.design.set({ ...design, pieces });
    const fixture = await show();
    const [a, , c] = design.order;
    drop(fixture, c, '0 0', a);
    const [decision] = store.view().decisions;
    expect(decision.kind).toBe('order');
    const { anchor } = pieces[a];
    expect('before' in decision && typeof decision.before === 'object' && decision.before.anchor?.u).toBeCloseTo(
      anchor.x / 100 + 0.5,
      6,
    );
  });

  it('drags by pointer, and does not choose what was dragged', async () => {
    const fixture = await show();
    const piece = all(fixture, '.piece')[0];
    const heading = all(fixture, '.heading')[1];
    const at = (element: HTMLElement): { clientX: number; clientY: number } => {
      const box = element.getBoundingClientRect();
      return { clientX: box.x + 12, clientY: box.y + 12 };
    };
    document.body.append(fixture.nativeElement as HTMLElement);
    piece.dispatchEvent(new PointerEvent('pointerdown', { ...at(piece), bubbles: true, button: 0 }));
    document.dispatchEvent(new PointerEvent('pointermove', at(heading)));
    expect(all(fixture, '.ghost').length).toBe(1);
    expect(heading.classList).toContain('target');
    document.dispatchEvent(new PointerEvent('pointerup', at(heading)));
    expect(all(fixture, '.ghost').length).toBe(0);
    expect(store.view().decisions.map((d) => d.kind)).toEqual(['thread']);
    document.dispatchEvent(new PointerEvent('pointermove', at(heading)));
    expect(all(fixture, '.ghost').length).toBe(0);
  });

  it('brings a piece chosen on the stage into sight, and shows it large', async () => {
    const [piece] = design.pieces;
    const pieces = Array.from({ length: 400 }, (_, i) => ({ ...piece, id: `p${i + 1}`, thread: 0 }));
    conversion.design.set({ ...design, pieces, order: pieces.map((_, i) => i) });
    const fixture = await show();
    state.select(399, false);
    await fixture.whenStable();
    await frames();
    await frames();
    await fixture.whenStable();
    const chosen = all(fixture, '.piece[aria-pressed=true]');
    expect(chosen.length).toBe(1);
    chosen[0].dispatchEvent(new MouseEvent('dblclick'));
    expect(state.goal()?.width).toBeGreaterThan(piece.bounds.right - piece.bounds.left);
  });

  it('folds, and says what to expect while there is nothing', async () => {
    conversion.design.set(undefined);
    const fixture = await show();
    expect(all(fixture, '.empty').length).toBe(1);
    all(fixture, '[aria-label="Fold the tray"]')[0].click();
    await fixture.whenStable();
    expect(TestBed.inject(Preferences).trayOpen()).toBeFalse();
    expect(all(fixture, '.threads').length).toBe(0);
  });
});
