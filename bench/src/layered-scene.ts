import { sceneOf, STITCH, StitchWriter, tatami, type Scene } from '@open-kite/core';

/** A field sewn over and over at some angles, as a scene of many stitches; half its width and height in mm. */
export function layeredScene(halfWidth: number, halfHeight: number, angles: readonly number[]): Scene {
  const writer = new StitchWriter();
  const field = [-halfWidth, -halfHeight, halfWidth, -halfHeight, halfWidth, halfHeight, -halfWidth, halfHeight];
  for (const angle of angles) {
    for (const run of tatami([field], { angle, spacingMm: 0.4, stitchLengthMm: 3, compensationMm: 0.2 })) {
      for (let i = 0; i < run.length; i += 2) writer.add(run[i], run[i + 1], STITCH, 0, 0);
    }
  }
  const thread = { code: 'A', name: 'A', hex: '#2c6e80', chart: 'own', deltaE: 0 };
  return sceneOf({ stitches: writer.finish(), threads: [thread], fabric: { id: 'linen', hex: '#f4f1ea' } });
}
