import { StitchWriter, STITCH, type Design } from '@open-kite/core';
import { wholeBox } from './whole-box';

function design(picture: Design['picture'], ...points: readonly (readonly [number, number])[]): Design {
  const writer = new StitchWriter();
  for (const [x, y] of points) writer.add(x, y, STITCH, 0, 0);
  return { picture, stitches: writer.finish() } as unknown as Design;
}

const PICTURE = { left: -50, top: -40, width: 100, height: 80 };

describe('the whole of a design', () => {
  it('is its picture, however far rows reach over its edge', () => {
    expect(wholeBox(design(PICTURE, [-51.5, 0], [51, 41]))).toEqual(PICTURE);
    expect(wholeBox(design(PICTURE))).toEqual(PICTURE);
  });

  it('holds what is sewn beside the picture', () => {
    expect(wholeBox(design(PICTURE, [-50, -40], [171.2, 63]))).toEqual({
      left: -50,
      top: -40,
      width: 225,
      height: 105,
    });
    expect(wholeBox(design(PICTURE, [-61, 0], [0, -43]))).toEqual({ left: -65, top: -45, width: 115, height: 85 });
  });

  it('is what is sewn where there is no picture, with room around it, and nothing where there is neither', () => {
    expect(wholeBox(design(undefined, [-12, 3], [14, 8]))).toEqual({ left: -40, top: -40, width: 80, height: 80 });
    expect(wholeBox(design(undefined, [-12, 3], [94, 8]))).toEqual({ left: -40, top: -40, width: 135, height: 80 });
    expect(wholeBox(design(undefined))).toBeUndefined();
  });
});
