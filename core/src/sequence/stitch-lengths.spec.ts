import { JUMP, STITCH, StitchWriter } from './stitch-list.js';
import { stitchLengthsOf } from './stitch-lengths.js';

describe('stitchLengthsOf', () => {
  it('counts stitches by their length, and none for jumps or where the needle begins', () => {
    const list = new StitchWriter();
    for (const [x, command] of [
      [0, STITCH],
      [0.2, STITCH],
      [1.7, STITCH],
      [3.3, STITCH],
      [40, JUMP],
      [40, STITCH],
      [55, STITCH],
    ] as const) {
      list.add(x, 0, command, 0, 0);
    }
    const { binMm, counts } = stitchLengthsOf(list.finish());
    expect(binMm).toBe(0.5);
    // 0.2 mm, two of 1.5 to 2 mm, and one of 15 mm in the last bin.
    expect(counts).toEqual([1, 0, 0, 2, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1]);
  });
});
