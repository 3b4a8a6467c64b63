import type { Bounds } from './polyline.js';

/**
 * For each of some boxes the others that overlap it by more than an edge, in their order: found by a sweep from left to
 * right, so that few of many are compared.
 */
export function meetingBoxes(boxes: readonly Bounds[]): number[][] {
  const out = boxes.map((): number[] => []);
  const byLeft = boxes.map((_, i) => i).sort((a, b) => boxes[a].left - boxes[b].left || a - b);
  let open: number[] = [];
  for (const i of byLeft) {
    const own = boxes[i];
    open = open.filter((j) => boxes[j].right > own.left);
    for (const j of open) {
      if (boxes[j].top >= own.bottom || own.top >= boxes[j].bottom || own.right <= boxes[j].left) continue;
      out[i].push(j);
      out[j].push(i);
    }
    open.push(i);
  }
  for (const list of out) list.sort((a, b) => a - b);
  return out;
}
