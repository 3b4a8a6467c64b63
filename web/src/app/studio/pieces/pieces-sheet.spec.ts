import { type ComponentFixture, TestBed } from '@angular/core/testing';
import type { Design } from '@open-kite/core';
import { fakeConversion, fakeStore, smallDesign, studioProviders, shapesOf, pickIn } from '../../test/rig';
import { DrawActs } from '../draw/draw-acts';
import { StudioState } from '../studio-state';
import { PieceActs } from './piece-acts';
import { PiecesSheet } from './pieces-sheet';

describe('PiecesSheet', () => {
  let design: Design;
  let conversion: ReturnType<typeof fakeConversion>;
  let store: ReturnType<typeof fakeStore>;
  let state: StudioState;
  let fixture: ComponentFixture<PiecesSheet>;

  beforeAll(async () => (design = await smallDesign()));

  beforeEach(async () => {
    conversion = fakeConversion(design);
    store = fakeStore();
    TestBed.configureTestingModule({ providers: studioProviders(conversion, store) });
    state = TestBed.inject(StudioState);
    fixture = TestBed.createComponent(PiecesSheet);
    await fixture.whenStable();
  });

  const host = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const button = (text: string): HTMLButtonElement => {
    const found = [...host().querySelectorAll('button')].find((b) => b.innerText.trim() === text);
    if (!found) throw new Error(`no button ${text}`);
    return found;
  };
  const choose = async (...pieces: number[]): Promise<void> => {
    state.selectAll(pieces);
    await fixture.whenStable();
  };
  const decisions = () => store.view().decisions;

  it('asks for a piece, then shows what is known of it', async () => {
    expect(host().querySelector('.note')?.textContent).toContain('Choose a piece');
    await choose(0);
    const text = host().querySelector('.chosen')?.textContent ?? '';
    expect(text).toMatch(/Dark teal 1|Teal 1|Slate 1|Blue 1/);
    expect(text).toContain('7 stitches');
    expect(text).toContain(`sewn as no. ${design.order.indexOf(0) + 1}`);
  });

  it('sews a piece otherwise, and by its width again', async () => {
    await choose(0);
    await pickIn(fixture, 'Stitch kind', 'running 3');
    expect(decisions()).toEqual([jasmine.objectContaining({ kind: 'sew', as: 'running', passes: 3 })]);
    const said = {
      ...design,
      pieces: design.pieces.map((p, i) => (i === 0 ? { ...p, chosen: true, decisions: [0] } : p)),
    };
    conversion.design.set(said);
    await fixture.whenStable();
    await pickIn(fixture, 'Stitch kind', 'auto');
    expect(decisions()).toEqual([]);
  });

  it('leaves bare, combines, breaks apart and orders', async () => {
    await choose(0, 1);
    button('Combine').click();
    expect(decisions().map((d) => d.kind)).toEqual(['join']);
    await choose(0);
    button('Break apart').click();
    await choose(design.order[1]);
    button('first').click();
    button('last').click();
    button('earlier').click();
    await choose(0);
    button('Leave bare').click();
    expect(decisions().map((d) => d.kind)).toEqual(['join', 'apart', 'order', 'order', 'order', 'bare']);
    expect(
      decisions().flatMap((d) => ('before' in d ? [typeof d.before === 'string' ? d.before : 'piece'] : [])),
    ).toEqual(['first', 'last', 'first']);
  });

  it('decides nothing on a rough result, whose pieces are about to change', async () => {
    await choose(0);
    conversion.rough.set(true);
    TestBed.inject(PieceActs).leaveBare([0]);
    expect(decisions()).toEqual([]);
  });

  it('moves both thresholds of the widths by keys, and keeps them in order', async () => {
    const [line, satin] = [...host().querySelectorAll<SVGGElement>('kite-width-chart .handle')];
    line.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowRight' }));
    expect(store.view().pieces.lineBelowMm).toBeCloseTo(0.95, 6);
    for (let i = 0; i < 100; i++) satin.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowLeft' }));
    expect(store.view().pieces.satinBelowMm).toBe(0);
    expect(store.view().pieces.lineBelowMm).toBe(0);
    await fixture.whenStable();
    expect(line.getAttribute('aria-valuetext')).toContain('0');
  });

  it('counts the kinds under the chart', () => {
    const text = host().querySelector('kite-width-chart p')?.textContent ?? '';
    const fills = design.pieces.filter((p) => p.kind === 'tatami').length;
    expect(text).toContain(`${fills} fills`);
    expect(host().querySelectorAll('kite-width-chart rect').length).toBeGreaterThan(0);
  });

  it('lists problems with their places and what can be done', async () => {
    expect(host().querySelector('kite-problems section')).toBeNull();
    conversion.design.set({
      ...design,
      problems: [{ text: 'The outline of <path> crosses itself.', x: 3, y: 4 }, { text: 'A text is left out.' }],
      tooSmall: [{ object: 'picture-1', x: 1, y: 2, areaMm2: 0.3, hex: '#2c6e80' }],
    });
    await fixture.whenStable();
    expect(host().querySelectorAll('kite-problems li').length).toBe(3);
    button('Show').click();
    expect(state.goal()).toEqual(jasmine.objectContaining({ left: -6, top: -5 }));
    button('Sew it').click();
    expect(decisions()).toEqual([jasmine.objectContaining({ kind: 'keep' })]);
  });

  describe('drawing', () => {
    let draw: DrawActs;
    const path = {
      closed: true,
      nodes: [
        [0, 0, 0, 0, 0, 0],
        [0.1, 0, 0, 0, 0, 0],
        [0.1, 0.1, 0, 0, 0, 0],
      ],
    } as const;

    beforeEach(() => (draw = TestBed.inject(DrawActs)));

    it('adds pieces in the thread that is chosen, holes, and lines of a width', () => {
      draw.take({ kind: 'points', role: 'piece' });
      draw.lineWidthMm.set(1.4);
      draw.add([path]);
      const [first] = shapesOf(store.view());
      expect(first).toEqual(jasmine.objectContaining({ id: 'd1', role: 'piece', widthMm: 1.4 }));
      expect('like' in first.paint).toBeTrue();
      draw.thread.set({ hex: '#c8481f' });
      draw.take({ kind: 'points', role: 'hole' });
      draw.add([{ ...path, closed: false }]);
      const second = shapesOf(store.view())[1];
      expect([second.id, second.role, second.paths[0].closed]).toEqual(['d2', 'hole', true]);
      expect(second.paint).toEqual({ hex: '#c8481f' });
      draw.remove('d1');
      expect(shapesOf(store.view()).length).toBe(1);
    });

    it('takes the outline of a colour, or says that there is none', async () => {
      draw.take({ kind: 'area', role: 'piece' });
      await draw.takeArea(0.5, 0.5);
      expect(shapesOf(store.view()).length).toBe(0);
      conversion.outlineAt.and.resolveTo({ paths: [path], like: { hex: '#000000', u: 0, v: 0 } });
      await draw.takeArea(0.5, 0.5);
      expect(shapesOf(store.view()).length).toBe(1);
    });

    it('draws in the colour a drawing begins on: the thread that is nearly of it, else the colour itself', async () => {
      const [{ hex }] = design.threads;
      const paints = async (sampled: string | undefined): Promise<unknown> => {
        conversion.sample.and.resolveTo(sampled === undefined ? undefined : { hex: sampled, u: 0.2, v: 0.3 });
        draw.take({ kind: 'points', role: 'piece' });
        await draw.drawn([path]);
        draw.leave();
        return shapesOf(store.view()).at(-1)?.paint;
      };
      expect(draw.thread()).toBe('here');
      expect(await paints(hex)).toEqual({ like: jasmine.objectContaining({ hex: jasmine.any(String) }) });
      expect(conversion.sample).toHaveBeenCalledWith(path.nodes[0][0], path.nodes[0][1]);
      expect(await paints('#12ff80')).toEqual({ hex: '#12ff80' });
      // On bare cloth, and where there is nothing to read, it is drawn with the first thread.
      expect(await paints(undefined)).toEqual({ like: jasmine.anything() });
    });

    it('takes an area with a tolerance, in the colour it was pointed at', async () => {
      draw.take({ kind: 'area', role: 'piece' });
      await fixture.whenStable();
      const label = [...host().querySelectorAll('kite-draw-section kite-slider-field label')];
      expect(label.map(({ textContent }) => textContent)).toContain('Tolerance of the colour');
      draw.tolerance.set(12);
      conversion.outlineAt.and.resolveTo({ paths: [path], like: { hex: '#12ff80', u: 0, v: 0 } });
      await draw.takeArea(0.5, 0.5);
      expect(conversion.outlineAt.calls.mostRecent().args[4]).toBe(12);
      expect(shapesOf(store.view()).at(-1)?.paint).toEqual({ hex: '#12ff80' });
      draw.leave();
      await fixture.whenStable();
      expect(host().querySelector('kite-draw-section')?.textContent).not.toContain('Tolerance of the colour');
    });

    it('makes a found piece the own of the user when its points are moved', () => {
      draw.editPoints(0);
      const [made] = shapesOf(store.view());
      expect(made.replaces?.object).toBe('picture-1');
      expect(made.replaces?.anchor?.share).toBeGreaterThan(0);
      expect(draw.edited()?.id).toBe('d1');
      draw.reshape('d1', [path]);
      expect(shapesOf(store.view())[0].paths[0].nodes.length).toBe(3);
    });

    it('puts a tool away when it is taken again', () => {
      draw.take({ kind: 'free', role: 'piece' });
      expect(draw.tool()?.kind).toBe('free');
      draw.take({ kind: 'free', role: 'piece' });
      expect(draw.tool()).toBeUndefined();
    });

    it('offers copies in a ring for a drawn piece', async () => {
      draw.add([path]);
      const drawnOne = { ...design.pieces[0], object: 'd1', origin: 'drawn' as const };
      conversion.design.set({ ...design, pieces: [drawnOne, ...design.pieces.slice(1)] });
      await choose(0);
      expect(host().textContent).toContain('Copies in a ring');
      draw.change('copies', 'd1', (piece) => (piece.copies.count = 6));
      await fixture.whenStable();
      expect(host().textContent).toContain('Radius of the ring');
      button('Remove').click();
      expect(shapesOf(store.view())).toEqual([]);
    });
  });
});
