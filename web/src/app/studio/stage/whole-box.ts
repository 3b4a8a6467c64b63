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
  const shown = picture
    ? { ...picture, right: picture.left + picture.width, bottom: picture.top + picture.height }
    : { left: -BARE_MM, top: -BARE_MM, right: BARE_MM, bottom: BARE_MM };
  const left = sewn.left < shown.left - REACH_MM ? outwards(sewn.left, -1) : shown.left;
  const top = sewn.top < shown.top - REACH_MM ? outwards(sewn.top, -1) : shown.top;
  const right = sewn.right > shown.right + REACH_MM ? outwards(sewn.right, 1) : shown.right;
  const bottom = sewn.bottom > shown.bottom + REACH_MM ? outwards(sewn.bottom, 1) : shown.bottom;
  return { left, top, width: right - left, height: bottom - top };
}
