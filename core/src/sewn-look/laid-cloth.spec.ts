import type { Points } from '../geometry/vector.js';
import { CLOTH_LOOKS } from '../pieces/laid-cloth.js';
import type { ClothPatch, Sewing } from '../sequence/sewing.js';
import { JUMP, STITCH, StitchWriter } from '../sequence/stitch-list.js';
import { changedBox } from './changed-box.js';
import { ProgressiveView } from './progressive.js';
import { drawScene, sceneOf } from './render.js';
import type { View } from './view.js';

const square = (half: number): Points => [-half, -half, half, -half, half, half, -half, half];
const VIEW: View = { width: 160, height: 160, scale: 8, left: -80, top: -80 };

/** Rows of one thread over a field of 16 mm, then a few of another in its middle; a cloth is laid on between them. */
function sewn(patch: Partial<ClothPatch> = {}): Sewing {
  const writer = new StitchWriter();
  const rows = (half: number, thread: number): void => {
    writer.add(-half, -half, JUMP, thread, thread);
    for (let y = -half, k = 0; y <= half; y += 0.4, k++) writer.add(k % 2 ? -half : half, y, STITCH, thread, thread);
  };
  rows(8, 0);
  const row = writer.finish().count;
  rows(2, 1);
  const thread = (hex: string) => ({ code: hex, name: '', hex, chart: 'own', deltaE: 0 });
  return {
    fabric: { id: 'linen', hex: '#f4f1ea' },
    threads: [thread('#204060'), thread('#a03020')],
    stitches: writer.finish(),
    pieceIds: ['a', 'b'],
    patches: [{ row, rings: [square(5)], look: 'plain', hex: '#30a050', ...patch }],
  };
}

/** Which of red, green and blue is strongest at a place in mm. */
function seen(pixels: Int32Array, x: number, y: number): 'r' | 'g' | 'b' {
  const p = pixels[Math.round(y * 8 + 80) * 160 + Math.round(x * 8 + 80)];
  const [r, g, b] = [p & 255, (p >>> 8) & 255, (p >>> 16) & 255];
  return r > g && r > b ? 'r' : g > b ? 'g' : 'b';
}

describe('cloth that is laid on', () => {
  it('hides what is sewn before it, and lies under what is sewn after', () => {
    const pixels = drawScene(sceneOf(sewn()), VIEW, 'sewn');
    expect([seen(pixels, 0, 0), seen(pixels, 4, 0), seen(pixels, 6.5, 0)]).toEqual(['r', 'g', 'b']);
  });

  it('leaves its holes open', () => {
    const pixels = drawScene(sceneOf(sewn({ rings: [square(5), square(3.5)] })), VIEW, 'sewn');
    expect([seen(pixels, 4.2, 0), seen(pixels, 2.9, 0)]).toEqual(['g', 'b']);
  });

  it('is there stitch by stitch from the moment it is laid on, and gone again on the way back', () => {
    const scene = sceneOf(sewn());
    const [{ at }] = scene.patches;
    const view = new ProgressiveView(scene, VIEW, 'sewn');
    const shown = new Int32Array(160 * 160);
    const go = (to: number): Int32Array => {
      const { part, pixels } = view.drawTo(to);
      for (let y = 0; y < part.height; y++) {
        const row = pixels.subarray(y * part.width, (y + 1) * part.width);
        shown.set(row, (part.top + y) * 160 + part.left);
      }
      return shown;
    };
    expect(seen(go(at), 4, 0)).toBe('b');
    expect(seen(go(at + 1), 4, 4)).toBe('g');
    expect(go(scene.segments.count)).toEqual(drawScene(scene, VIEW, 'sewn'));
    expect(seen(go(at), 4, 4)).toBe('b');
  });

  it('is printed with its picture, again and again from its own corner', () => {
    const tile = { width: 2, height: 1, pixels: 'd01010' + '1010d0' };
    const print = { source: 'picture-2', widthMm: 4 };
    const pixels = drawScene(sceneOf(sewn({ look: 'print', print, tile })), VIEW, 'sewn');
    // From the left edge at -5: two millimetres of red, two of blue, and again.
    expect([-4, -3.6, -2.4, 3.6, 4.4].map((x) => seen(pixels, x, 4))).toEqual(['r', 'r', 'b', 'r', 'r']);
    expect(changedBox(sewn({ tile }), sewn({ tile: { ...tile, pixels: '000000ffffff' } })).left).toBe(-Infinity);
  });

  it('looks different by its look and colour, which makes the whole cloth be drawn anew', () => {
    const pictures = CLOTH_LOOKS.map((look) => drawScene(sceneOf(sewn({ look })), VIEW, 'sewn').join());
    expect(new Set(pictures).size).toBe(CLOTH_LOOKS.length);
    expect(changedBox(sewn(), sewn({ hex: '#30a051' })).left).toBe(-Infinity);
    expect(changedBox(sewn(), sewn()).left).toBeGreaterThan(0);
  });
});
