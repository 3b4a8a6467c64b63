import type { Sewing } from '../sequence/sewing.js';
import { JUMP, STITCH, StitchWriter } from '../sequence/stitch-list.js';
import { changedBox } from './changed-box.js';
import { drawScene, sceneOf } from './render.js';

/** Five patches of rows in a row, each 10 mm wide; the rows of one may lie closer. */
function patches(close = -1, hex = '#2c6e80'): Sewing {
  const writer = new StitchWriter();
  for (let patch = 0; patch < 5; patch++) {
    const left = patch * 12 - 30;
    writer.add(left, -8, JUMP, 0, patch);
    const spacing = patch === close ? 0.5 : 0.8;
    for (let y = -8, k = 0; y <= 8; y += spacing, k++) {
      writer.add(k % 2 ? left + 10 : left, y, STITCH, 0, patch);
      writer.add(k % 2 ? left : left + 10, y, STITCH, 0, patch);
    }
  }
  return {
    fabric: { id: 'linen', hex: '#f4f1ea' },
    threads: [{ code: 'A', name: 'A', hex, chart: 'own', deltaE: 0 }],
    stitches: writer.finish(),
    pieceIds: ['a', 'b', 'c', 'd', 'e'],
  };
}

describe('changed box', () => {
  it('holds everything that looks different, and little more', () => {
    const [before, after] = [patches(), patches(2)];
    const box = changedBox(before, after);
    // The thread that leads to the next patch begins where the changed one ends.
    expect(box.left).toBeLessThanOrEqual(-6.4);
    expect(box.left).toBeGreaterThan(-13);
    expect(box.right).toBeGreaterThanOrEqual(4.4);
    expect(box.right).toBeLessThan(11);
    const view = { width: 420, height: 130, scale: 6, left: -200, top: -65 };
    for (const look of ['sewn', 'line', 'density'] as const) {
      const a = drawScene(sceneOf(before), view, look);
      const b = drawScene(sceneOf(after), view, look);
      const different = a.reduce<number[]>((list, v, i) => (v === b[i] ? list : [...list, i]), []);
      expect(different.length).toBeGreaterThan(500);
      for (const i of different) {
        const x = ((i % 420) + 0.5 - 200) / 6;
        if (x < box.left || x > box.right) fail(`${look}: different at ${x} mm`);
      }
    }
  });

  it('is empty for the same design and everything for another thread', () => {
    const none = changedBox(patches(), patches());
    expect(none.left).toBeGreaterThan(none.right);
    const all = changedBox(patches(), patches(-1, '#d8602a'));
    expect([all.left, all.right]).toEqual([-Infinity, Infinity]);
  });

  it('takes in stitches added at the end', () => {
    const before = patches();
    const writer = new StitchWriter();
    const { stitches } = before;
    for (let i = 0; i < stitches.count; i++) writer.add(stitches.x[i], stitches.y[i], stitches.command[i], 0, 0);
    writer.add(40, 20, STITCH, 0, 0);
    writer.add(41, 20, STITCH, 0, 0);
    const box = changedBox(before, { ...before, stitches: writer.finish() });
    expect(box.bottom).toBeGreaterThanOrEqual(20);
    expect(box.right).toBeGreaterThan(30);
  });
});
