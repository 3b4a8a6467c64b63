import { principalAxis } from '../geometry/principal-axis.js';
import type { AreaMask } from './area-mask.js';
import type { Column } from './column.js';

/** Bare parts of this size are seen, in square units of the mask's. */
const SEEN = 0.07;
/** A thread covers so far beside its middle. */
const BESIDE = 0.17;
/** A patch over one reaches so far into what is covered. */
const REACH = 0.3;
/** Rungs of a patch stand this far apart; shorter ones are no stitches. */
const RUNG_STEP = 0.15;
const LEAST_RUNG = 0.4;
const LEAST_RUNGS = 3;
/** Rungs that follow on each other leave out so many steps at most. */
const MOST_APART = 4;

/** A part of a shape that no column covers. */
export interface BareRest {
  /** Its pixels in the mask. */
  readonly pixels: readonly number[];
  /** Its size in square units of the mask's. */
  readonly area: number;
}

/** Parts of a mask that columns leave bare and that would be seen, the largest first. */
export function bareRests(mask: AreaMask, covered: Uint8Array): BareRest[] {
  const { width, inside, scale } = mask;
  const seen = widened(covered, width, Math.max(1, Math.round(BESIDE * scale)));
  const out: BareRest[] = [];
  for (let i = 0; i < inside.length; i++) {
    if (!inside[i] || seen[i]) continue;
    const pixels = [i];
    seen[i] = 1;
    for (const at of pixels) {
      for (const next of [at + 1, at - 1, at + width, at - width]) {
        if (!inside[next] || seen[next]) continue;
        seen[next] = 1;
        pixels.push(next);
      }
    }
    const area = pixels.length / (scale * scale);
    if (area > SEEN) out.push({ pixels, area });
  }
  return out.sort((a, b) => b.area - a.area || a.pixels[0] - b.pixels[0]);
}

/** What is marked, and all that lies beside it by some pixels, across and down. */
function widened(marked: Uint8Array, width: number, reach: number): Uint8Array {
  let out = marked;
  for (const step of [1, width]) {
    const from = out;
    out = from.slice();
    for (let i = 0; i < from.length; i++) {
      if (!from[i]) continue;
      for (let k = 1; k <= reach; k++) {
        if (i + k * step < out.length) out[i + k * step] = 1;
        if (i - k * step >= 0) out[i - k * step] = 1;
      }
    }
  }
  return out;
}

/** A short column over a bare part, across its longer axis, that reaches a little into what lies beside it. */
export function patchOver({ pixels }: BareRest, mask: AreaMask): Column | undefined {
  const { width, scale, left, top } = mask;
  const near = grown(pixels, mask, Math.round(REACH * scale));
  const at = (i: number): [number, number] => [
    left + ((i % width) + 0.5) / scale,
    top + (Math.floor(i / width) + 0.5) / scale,
  ];
  const { x: cx, y: cy, dx: ux, dy: uy } = principalAxis(pixels.flatMap(at));
  // Across every place along the axis, how far the part and its surroundings reach.
  const spans = new Map<number, [number, number]>();
  for (const i of near) {
    const [x, y] = at(i);
    const along = Math.round(((x - cx) * ux + (y - cy) * uy) / RUNG_STEP);
    const across = (y - cy) * ux - (x - cx) * uy;
    const span = spans.get(along);
    if (!span) spans.set(along, [across, across]);
    else spans.set(along, [Math.min(span[0], across), Math.max(span[1], across)]);
  }
  // What hangs together by a hair only is no column: the longest row of rungs that follow on each other is taken.
  let best: [number, [number, number]][] = [];
  let row: typeof best = [];
  for (const span of [...spans].sort((a, b) => a[0] - b[0])) {
    const [along, [from, to]] = span;
    if (to - from < LEAST_RUNG) continue;
    if (row.length > 0 && along > row[row.length - 1][0] + MOST_APART) row = [];
    row.push(span);
    if (row.length > best.length) best = row;
  }
  if (best.length < LEAST_RUNGS) return undefined;
  const [rungs, spine]: [number[], number[]] = [[], []];
  for (const [along, [from, to]] of best) {
    const [x, y] = [cx + ux * along * RUNG_STEP, cy + uy * along * RUNG_STEP];
    rungs.push(x - uy * to, y + ux * to, x - uy * from, y + ux * from);
    const middle = (from + to) / 2;
    spine.push(x - uy * middle, y + ux * middle);
  }
  return { rungs, spine, closed: false };
}

/** Pixels of the mask within a distance of some. */
function grown(pixels: readonly number[], { width, inside }: AreaMask, reach: number): Set<number> {
  const out = new Set(pixels);
  for (const i of pixels) {
    for (let dy = -reach; dy <= reach; dy++) {
      for (let dx = -reach; dx <= reach; dx++) {
        const at = i + dy * width + dx;
        if (dx * dx + dy * dy <= reach * reach && inside[at]) out.add(at);
      }
    }
  }
  return out;
}
