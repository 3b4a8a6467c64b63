import { IDENTITY } from '../artwork/matrix.js';
import { figuresOf } from '../sequence/figures.js';
import type { Sewing } from '../sequence/sewing.js';
import { STITCH } from '../sequence/stitch-list.js';
import type { StitchesObject } from './design-object.js';

/** A stitch list as an object of a design, where it lies. */
export function listObject(id: string, source: string, { stitches, threads }: Sewing): StitchesObject {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < stitches.count; i++) {
    if (stitches.command[i] !== STITCH) continue;
    left = Math.min(left, stitches.x[i]);
    right = Math.max(right, stitches.x[i]);
    top = Math.min(top, stitches.y[i]);
    bottom = Math.max(bottom, stitches.y[i]);
  }
  const round = (mm: number): number => Number(mm.toFixed(3));
  const empty = figuresOf(stitches, threads.length).stitches === 0;
  const box = empty
    ? { left: 0, top: 0, width: 0, height: 0 }
    : { left: round(left), top: round(top), width: round(right - left), height: round(bottom - top) };
  return {
    kind: 'stitches',
    id,
    name: '',
    on: null,
    hidden: false,
    locked: false,
    place: IDENTITY,
    source,
    box,
    threads: threads.map(() => null),
  };
}
