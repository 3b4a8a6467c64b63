import { areaOf } from '../geometry/polygons.js';
import { flattenRing } from '../geometry/curve.js';
import { drawSmooth } from '../test/draw.js';
import { placedFrame, finishedSize, hoopToSource, sourceToHoop, stretch, withinHoop, type Placement } from './frame.js';
import { MASK_SHAPES, maskBounds, maskCurve, nodesOf, refitMask, type Mask, type MaskShape } from './mask.js';
import { gridOf, placePicture, quarterTurn } from './place.js';
import { createRaster } from './raster.js';
import { sameNumbers } from '../test/same.js';

const plain: Placement = { widthMm: 100, heightMm: 50, turn: 0, mirror: false, mask: null };
const mask = (shape: MaskShape, more: Partial<Mask> = {}): Mask => ({
  shape,
  x: 0,
  y: 0,
  widthMm: 40,
  heightMm: 20,
  turn: 0,
  ...more,
});

/** 200 x 100 pixels: the left half red, the lower right quarter green, the rest white. */
const { raster } = drawSmooth(
  (x, y) => (x < 100 ? 1 : y > 50 ? 2 : 0),
  [
    { r: 255, g: 255, b: 255 },
    { r: 200, g: 0, b: 0 },
    { r: 0, g: 150, b: 0 },
  ],
  200,
  100,
);

const colourAt = (picture: { width: number; data: Uint8ClampedArray }, x: number, y: number): number[] => [
  ...picture.data.subarray((y * picture.width + x) * 4, (y * picture.width + x) * 4 + 4),
];

describe('masks', () => {
  it('fill their box in every shape', () => {
    for (const shape of Object.keys(MASK_SHAPES) as MaskShape[]) {
      const box = maskBounds(mask(shape, { x: 7, y: -3 }));
      expect(box.left).withContext(shape).toBeCloseTo(-13, 0);
      expect(box.right).withContext(shape).toBeCloseTo(27, 0);
      expect(box.top).withContext(shape).toBeCloseTo(-13, 0);
      expect(box.bottom).withContext(shape).toBeCloseTo(7, 0);
    }
  });

  it('have the area of an ellipse where they are one', () => {
    const ring = flattenRing(maskCurve(mask('ellipse')), 0.01);
    expect(areaOf([ring]) / (Math.PI * 20 * 10)).toBeCloseTo(1, 2);
  });

  it('turn around their own middle', () => {
    const box = maskBounds(mask('rectangle', { turn: 90, x: 5, y: 6 }));
    expect([box.left, box.right, box.top, box.bottom].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([-5, 15, -14, 26]);
  });

  it('keep their outline when their points are fitted to a new box', () => {
    const before = mask('kite', { turn: 30, x: 3, y: 4 });
    const nodes = nodesOf(before).map((n, i) => (i === 1 ? ([0.9, -0.2, 0, 0, 0, 0] as const) : n));
    const moved = refitMask(before, nodes);
    expect(moved.shape).toBe('free');
    const same = maskCurve({ ...before, shape: 'free', nodes }).points;
    maskCurve(moved).points.forEach((v, i) => expect(v).toBeCloseTo(same[i], 6));
    const unit = maskBounds({ ...moved, x: 0, y: 0, turn: 0 });
    expect(unit.left).toBeCloseTo(-moved.widthMm / 2, 6);
    expect(unit.bottom).toBeCloseTo(moved.heightMm / 2, 6);
  });
});

describe('placement', () => {
  it('leads from the source to the hoop and back, turned, mirrored and cut', () => {
    for (const placement of [
      plain,
      { ...plain, turn: 33 },
      { ...plain, turn: -90, mirror: true },
      { ...plain, turn: 10, mirror: true, mask: mask('heart', { x: 12, y: -4 }) },
    ]) {
      const { x, y } = sourceToHoop(placement, 0.2, 0.7);
      const back = hoopToSource(placement, x, y);
      expect(back.u).toBeCloseTo(0.2, 9);
      expect(back.v).toBeCloseTo(0.7, 9);
    }
  });

  it('scales to another finished size, its mask with it', () => {
    const cut = { ...plain, mask: mask('circle', { x: 10, widthMm: 20 }) };
    const larger = stretch(cut, 2, 2);
    expect(finishedSize(larger)).toEqual({ widthMm: 40, heightMm: 40 });
    expect(larger.mask?.x).toBe(20);
    expect(finishedSize(stretch({ ...plain, turn: 90 }, 2, 1))).toEqual({ widthMm: 100, heightMm: 100 });
  });

  it('is scaled down to what a hoop holds', () => {
    expect(finishedSize(withinHoop({ ...plain, widthMm: 800 }))).toEqual({ widthMm: 400, heightMm: 25 });
    expect(withinHoop(plain)).toBe(plain);
  });
});

describe('placePicture', () => {
  it('leaves a picture that is not changed as it is', () => {
    expect(placePicture(raster, plain, gridOf(200, 100, plain, 1e6))).toBe(raster);
  });

  it('mirrors and turns by quarter turns exactly', () => {
    const turned = { ...plain, turn: 90 };
    const grid = gridOf(200, 100, turned, 1e6);
    expect([grid.width, grid.height]).toEqual([100, 200]);
    const picture = placePicture(raster, turned, grid);
    expect(colourAt(picture, 50, 20)).toEqual([200, 0, 0, 255]);
    expect(colourAt(picture, 10, 180)).toEqual([0, 150, 0, 255]);
    const back = quarterTurn(picture, 3, false);
    expect(sameNumbers(back.data, raster.data)).toBeTrue();
    expect(sameNumbers(quarterTurn(quarterTurn(raster, 0, true), 0, true).data, raster.data)).toBeTrue();
    expect(colourAt(quarterTurn(raster, 0, true), 10, 90)).toEqual([0, 150, 0, 255]);
    expect(sameNumbers(quarterTurn(raster, 2, true).data, raster.data)).toBeFalse();
  });

  it('turns by any angle: pixels of the source are found where the placement says', () => {
    const placement = { ...plain, turn: 27, mirror: true };
    const grid = gridOf(200, 100, placement, 1e6);
    const frame = placedFrame(placement);
    expect(grid.widthMm).toBeCloseTo(frame.right - frame.left, 9);
    const picture = placePicture(raster, placement, grid);
    for (const [u, v, colour] of [
      [0.25, 0.5, [200, 0, 0, 255]],
      [0.75, 0.75, [0, 150, 0, 255]],
      [0.75, 0.25, [255, 255, 255, 255]],
    ] as const) {
      const { x, y } = sourceToHoop(placement, u, v);
      const px = Math.floor(((x - grid.left) * grid.width) / grid.widthMm);
      const py = Math.floor(((y - grid.top) * grid.height) / grid.heightMm);
      expect(colourAt(picture, px, py)).toEqual([...colour]);
    }
    expect(colourAt(picture, 0, 0)[3]).toBe(0);
    expect(colourAt(placePicture(raster, placement, grid, { r: 9, g: 8, b: 7 }), 0, 0)).toEqual([9, 8, 7, 255]);
  });

  it('cuts with the pixels of the source, bare outside the mask', () => {
    const placement = { ...plain, mask: mask('ellipse', { x: -20, widthMm: 30.3 }) };
    const grid = gridOf(200, 100, placement, 1e6);
    expect([grid.width, grid.height]).toEqual([62, 40]);
    const picture = placePicture(raster, placement, grid);
    expect(colourAt(picture, 31, 20)).toEqual([200, 0, 0, 255]);
    expect(colourAt(picture, 0, 0)[3]).toBe(0);
    const rim = [...picture.data].filter((v, i) => i % 4 === 3 && v > 0 && v < 255).length;
    expect(rim).toBeGreaterThan(40);
  });

  it('lets the ground grow where a mask reaches beyond the picture', () => {
    const placement = { ...plain, mask: mask('rectangle', { widthMm: 120, heightMm: 60 }) };
    const grid = gridOf(200, 100, placement, 1e6);
    expect([grid.width, grid.height]).toEqual([240, 120]);
    expect(colourAt(placePicture(raster, placement, grid), 2, 2)).toEqual([0, 0, 0, 0]);
    const filled = placePicture(raster, placement, grid, { r: 255, g: 255, b: 255 });
    expect(colourAt(filled, 2, 2)).toEqual([255, 255, 255, 255]);
    expect(colourAt(filled, 20, 60)).toEqual([200, 0, 0, 255]);
  });

  it('stretches where the proportion is free', () => {
    const placement = { ...plain, heightMm: 100 };
    const grid = gridOf(200, 100, placement, 1e6);
    expect(grid.width).toBe(grid.height);
    const picture = placePicture(raster, placement, grid);
    expect(colourAt(picture, grid.width - 5, Math.round(grid.height * 0.9))).toEqual([0, 150, 0, 255]);
  });

  it('works on few pixels where few are asked for', () => {
    const big = createRaster(900, 600);
    const grid = gridOf(900, 600, { ...plain, heightMm: 66.7, turn: 12 }, 40_000);
    expect(grid.width * grid.height).toBeLessThan(40_500);
    expect(placePicture(big, { ...plain, heightMm: 66.7, turn: 12 }, grid).width).toBe(grid.width);
  });
});
