import { stitchBounds, type Design } from '@open-kite/core';
import type { Box } from './camera';

/** Rows reach over the edge of a picture by their compensation: that changes nothing of what is shown. */
const REACH_MM = 2;
/** What is sewn beside the picture is shown in steps, so that a row more or less does not move the cloth. */
const STEP_MM = 5;
/** On bare cloth so much around the middle is shown at least: the first letter of a word does not fill the stage. */
const BARE_MM = 40;

/** All of a design: its picture, and what is sewn beside it. Undefined where there is neither. */
export function wholeBox({ picture, stitches }: Design): Box | undefined {
  const sewn = stitchBounds(stitches);
  if (!sewn) return picture;
  const outwards = (mm: number, side: 1 | -1): number => side * Math.ceil((side * mm) / STEP_MM) * STEP_MM;
  const [left, right] = [outwards(sewn.left, -1), outwards(sewn.right, 1)];
  const [top, bottom] = [outwards(sewn.top, -1), outwards(sewn.bottom, 1)];
  if (!picture) {
    const [x, y] = [Math.min(left, -BARE_MM), Math.min(top, -BARE_MM)];
    return { left: x, top: y, width: Math.max(right, BARE_MM) - x, height: Math.max(bottom, BARE_MM) - y };
  }
  const end = (from: number, size: number, far: number, shown: number): number =>
    far > from + size + REACH_MM ? shown : from + size;
  const box = {
    left: sewn.left < picture.left - REACH_MM ? left : picture.left,
    top: sewn.top < picture.top - REACH_MM ? top : picture.top,
  };
  return {
    ...box,
    width: end(picture.left, picture.width, sewn.right, right) - box.left,
    height: end(picture.top, picture.height, sewn.bottom, bottom) - box.top,
  };
}
