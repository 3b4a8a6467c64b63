import { fit, pan, rulerStep, toHoop, toStage, zoomAt } from './camera';

const size = { width: 800, height: 600 };

describe('camera', () => {
  it('goes to the hoop and back', () => {
    const camera = { x: 3, y: -2, scale: 7 };
    const place = toStage(camera, size, 10, 5);
    const point = toHoop(camera, size, place.x, place.y);
    expect(point.x).toBeCloseTo(10, 9);
    expect(point.y).toBeCloseTo(5, 9);
  });

  it('keeps the point under the pointer while zooming, up to its limits', () => {
    let camera = { x: 3, y: -2, scale: 7 };
    const before = toHoop(camera, size, 123, 456);
    for (let i = 0; i < 30; i++) camera = zoomAt(camera, size, 1.3, 123, 456);
    const after = toHoop(camera, size, 123, 456);
    expect(after.x).toBeCloseTo(before.x, 6);
    expect(after.y).toBeCloseTo(before.y, 6);
    expect(camera.scale).toBe(90);
  });

  it('moves with the pointer', () => {
    const camera = pan({ x: 0, y: 0, scale: 4 }, 40, -20);
    expect(camera).toEqual({ x: -10, y: 5, scale: 4 });
  });

  it('shows a whole box', () => {
    const camera = fit({ left: -50, top: -40, width: 100, height: 80 }, size);
    const corner = toStage(camera, size, -50, -40);
    expect(corner.x).toBeGreaterThan(0);
    expect(corner.y).toBeGreaterThan(0);
    expect(camera.scale * 80).toBeGreaterThan(500);
  });

  it('sets ruler ticks wide enough apart to be read', () => {
    for (const scale of [0.5, 2, 4.7, 13, 60, 90, 90 * 25.4]) {
      const step = rulerStep(scale);
      expect(step * scale).toBeGreaterThanOrEqual(50);
      expect(step * scale).toBeLessThan(130);
      expect([1, 2, 5]).toContain(Number(String(step).replace(/[0.]/g, '')));
    }
  });
});
