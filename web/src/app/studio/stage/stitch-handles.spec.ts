import type { Design } from '@open-kite/core';
import { smallDesign } from '../../test/rig';
import { angleOf, angleTo, handleAt, handlesOf } from './stitch-handles';

describe('handles of stitches', () => {
  let design: Design;
  const camera = { x: 0, y: 0, scale: 6 };
  const size = { width: 700, height: 500 };

  beforeAll(async () => (design = await smallDesign()));

  it('lie where a piece is entered and left, and along its rows', () => {
    const handles = handlesOf(design, 0, camera, size);
    if (!handles?.angle || !handles.entry || !handles.exit) throw new Error('no handles');
    const [a, b] = handles.angle;
    expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeCloseTo(92, 3);
    const turned = (Math.atan2(a.y - b.y, a.x - b.x) * 180) / Math.PI;
    expect(turned).toBeCloseTo(angleOf(design, 0), 3);
    expect(handleAt(handles, { x: a.x + 4, y: a.y - 4 })).toBe('angle');
    expect(handleAt(handles, handles.entry)).toBe('entry');
    expect(handleAt(handles, { x: -50, y: -50 })).toBeUndefined();
  });

  it('are not there for a piece that is not sewn, and without an angle for a line', () => {
    expect(handlesOf(design, 99, camera, size)).toBeUndefined();
    const line = { ...design, pieces: design.pieces.map((piece) => ({ ...piece, kind: 'running' })) };
    expect(handlesOf(line, 0, camera, size)).toBeDefined();
    expect(handlesOf(line, 0, camera, size)?.angle).toBeUndefined();
  });

  it('tell angles of half a turn, snapped where that is wanted', () => {
    const middle = { x: 100, y: 100 };
    expect(angleTo(middle, { x: 150, y: 150 }, false)).toBe(45);
    expect(angleTo(middle, { x: 50, y: 50 }, false)).toBe(45);
    expect(angleTo(middle, { x: 100, y: 40 }, false)).toBe(90);
    expect(angleTo(middle, { x: 150, y: 118 }, true)).toBe(15);
  });
});
