import type Konva from 'konva';
import { maskBounds, nodesOf, type Mask, type Placement } from '@open-kite/core';
import { MaskEditor, maskThrough, type EditorView, type MaskMode } from './mask-editor';

const SIZE = { width: 400, height: 400 };
/** Two CSS pixels a millimetre, the middle of the picture in the middle of the pane. */
const CAMERA = { x: 0, y: 0, scale: 2 };
const HEART: Mask = { shape: 'heart', x: 0, y: 0, widthMm: 100, heightMm: 80, turn: 0 };

describe('MaskEditor', () => {
  let host: HTMLDivElement;
  let editor: MaskEditor;
  let placement: Placement;
  let mode: MaskMode;
  let changed: Mask[];
  let drawn: Mask[];
  let turned: number[];
  let held: boolean[];

  const view = (): EditorView => ({ camera: CAMERA, size: SIZE, placement, mode });
  const show = (next: Partial<Placement>, to: MaskMode = 'shape'): void => {
    placement = { ...placement, ...next };
    mode = to;
    editor.update(view());
  };

  beforeEach(() => {
    host = document.createElement('div');
    host.style.cssText = 'position:fixed;left:0;top:0;width:400px;height:400px;z-index:1000';
    document.body.append(host);
    [changed, drawn, turned, held] = [[], [], [], []];
    placement = { widthMm: 160, heightMm: 120, turn: 0, mirror: false, mask: null };
    mode = 'shape';
    editor = new MaskEditor(host, {
      // As in the studio: what was changed is shown again at once.
      changed: (mask) => {
        changed.push(mask);
        show({ mask }, mode);
      },
      held: (holding) => held.push(holding),
      drawn: (mask) => drawn.push(mask),
      turned: (degrees) => {
        turned.push(degrees);
        show({ turn: degrees });
      },
    });
    editor.update(view());
  });

  afterEach(() => {
    editor.close();
    host.remove();
  });

  const stage = (): Konva.Stage => (editor as unknown as { stage: Konva.Stage }).stage;
  /** Presses at one place in CSS pixels of the pane, moves to others, and lets go. */
  const pointer = (from: [number, number], ...to: [number, number][]): void => {
    const target = host.querySelector('.konvajs-content canvas') as HTMLCanvasElement;
    const send = (type: string, [x, y]: [number, number], where: EventTarget, buttons: number): void => {
      const init = { clientX: x, clientY: y, button: 0, buttons, bubbles: true, pointerId: 1, isPrimary: true };
      where.dispatchEvent(new PointerEvent(`pointer${type}`, init));
      where.dispatchEvent(new MouseEvent(`mouse${type}`, init));
    };
    stage().batchDraw();
    stage().draw();
    send('move', from, target, 0);
    send('down', from, target, 1);
    for (const place of to) send('move', place, target, 1);
    send('up', to.at(-1) ?? from, target, 0);
  };

  it('moves a mask with the pointer and keeps its size', () => {
    show({ mask: HEART });
    pointer([200, 200], [215, 205], [230, 210]);
    expect(changed.at(-1)).toEqual({ ...HEART, x: 15, y: 5 });
    expect(held).toEqual([true, false]);
  });

  it('scales a mask by its handles', () => {
    show({ mask: HEART });
    const corner: [number, number] = [300, 200];
    pointer(corner, [310, 200], [320, 200]);
    const last = changed.at(-1);
    expect(last?.widthMm).toBeCloseTo(110, 0);
    expect(last?.heightMm).toBeCloseTo(80, 0);
  });

  it('turns a mask by its handle above it', () => {
    show({ mask: { ...HEART, shape: 'rectangle' } });
    pointer([200, 94], [240, 100], [306, 200]);
    expect(changed.at(-1)?.turn).toBeCloseTo(90, 0);
  });

  it('shows a knot for every point, and moves one of them', () => {
    show({ mask: { ...HEART, shape: 'rectangle' } }, 'points');
    // The upper left corner of 100 x 80 mm around the middle.
    pointer([100, 120], [90, 110], [80, 100]);
    const last = changed.at(-1) as Mask;
    expect(last.shape).toBe('free');
    const box = maskBounds(last);
    expect([box.left, box.top].map(Math.round)).toEqual([-60, -50]);
    expect([box.right, box.bottom].map(Math.round)).toEqual([50, 40]);
  });

  it('takes the chosen point away, down to three', () => {
    show({ mask: { ...HEART, shape: 'hexagon' } }, 'points');
    expect(editor.deletePoint()).toBeFalse();
    for (const left of [5, 4, 3]) {
      const first = nodesOf(placement.mask as Mask)[0];
      const { x, y, widthMm, heightMm } = placement.mask as Mask;
      pointer([200 + 2 * (x + first[0] * widthMm), 200 + 2 * (y + first[1] * heightMm)]);
      expect(editor.deletePoint()).withContext(`${left} left`).toBeTrue();
      expect(changed.at(-1)?.nodes?.length).toBe(left);
    }
    pointer([200, 200]);
    expect(editor.deletePoint()).toBeFalse();
  });

  it('draws a mask point by point, bends it, takes points back, and closes it at the first', () => {
    show({}, 'draw');
    pointer([120, 120]);
    pointer([280, 120]);
    pointer([330, 330]);
    expect(editor.drawing).toBe(3);
    expect(editor.takeBack()).toBeTrue();
    pointer([280, 280], [265, 290], [250, 300]);
    pointer([120, 280]);
    expect(drawn).toEqual([]);
    pointer([123, 122]);
    expect(drawn.length).toBe(1);
    expect(drawn[0].shape).toBe('free');
    expect(drawn[0].nodes?.length).toBe(4);
    expect(drawn[0].nodes?.filter((n) => n[4] !== 0 || n[5] !== 0).length).toBe(1);
    expect(editor.drawing).toBe(0);
    expect(editor.takeBack()).toBeFalse();
  });

  it('forgets a drawing that was left', () => {
    show({}, 'draw');
    pointer([120, 120]);
    show({}, 'shape');
    expect(editor.drawing).toBe(0);
  });

  it('turns the picture by its kite, and snaps near the level', () => {
    // The kite hangs above the middle, 0.72 of half the shorter side away.
    const kite: [number, number] = [200, 200 - 60 * 0.72 * 2];
    pointer(kite, [240, 120], [280, 150]);
    expect(turned.at(-1)).toBeGreaterThan(40);
    expect(turned.at(-1)).toBeLessThan(75);
    const angle = ((turned.at(-1) as number) * Math.PI) / 180;
    const at: [number, number] = [200 + Math.sin(angle) * 86.4, 200 - Math.cos(angle) * 86.4];
    pointer(at, [260, 190], [287, 201]);
    expect(turned.at(-1)).toBe(90);
  });
});

describe('maskThrough', () => {
  it('keeps drawn points where they were', () => {
    const points = [
      { x: -10, y: 0, outX: 0, outY: -12 },
      { x: 20, y: 5, outX: 0, outY: 9 },
      { x: 0, y: 30, outX: 0, outY: 0 },
    ];
    const mask = maskThrough(points);
    const places = nodesOf(mask).map(([x, y]) => [mask.x + x * mask.widthMm, mask.y + y * mask.heightMm]);
    places.forEach(([x, y], i) => {
      expect(x).toBeCloseTo(points[i].x, 9);
      expect(y).toBeCloseTo(points[i].y, 9);
    });
  });
});
