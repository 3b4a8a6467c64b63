import { paintRings } from '../picture/paint-rings.js';
import { boundsOf } from '../geometry/polyline.js';
import type { Trace } from '../trace/trace.js';
import type { Area } from './area.js';
import type { Neighbour } from './piece.js';

/** Pixels that areas are painted on to find which meet. */
const PAINT_PIXELS = 1_500_000;
const PAINT_PER_MM = 8;

/** Which areas share a border, from the arcs of the trace they all are faces of. */
export function neighboursByArcs(areas: readonly Area[], trace: Trace, pixelsPerMm: number): Neighbour[][] {
  const pieceOf = new Map<number, number>();
  areas.forEach(({ face }, i) => face !== undefined && pieceOf.set(trace.faces[face].component, i));
  const shared = new Table(areas.length);
  for (const arc of trace.bounds.arcs) {
    const a = pieceOf.get(arc.left);
    const b = pieceOf.get(arc.right);
    if (a === undefined || b === undefined || a === b) continue;
    // Cracks overstate slanted borders; 0.8 is the mean over all directions.
    shared.add(a, b, (arc.corners.length / pixelsPerMm) * 0.8);
  }
  return shared.lists();
}

/** Which areas overlap or touch: they are painted one over the other on a grid. */
export function neighboursByPainting(areas: readonly Area[]): Neighbour[][] {
  const shared = new Table(areas.length);
  const whole = boundsOf(areas.flatMap(({ rings }) => rings));
  const size = Math.max(1, (whole.right - whole.left) * (whole.bottom - whole.top));
  const scale = Math.min(PAINT_PER_MM, Math.sqrt(PAINT_PIXELS / size));
  const width = Math.ceil((whole.right - whole.left) * scale) + 2;
  const height = Math.ceil((whole.bottom - whole.top) * scale) + 2;
  const top = new Int32Array(width * height).fill(-1);
  const order = areas.map((_, i) => i).sort((a, b) => areas[a].layer - areas[b].layer || a - b);
  const side = 1 / scale;
  const grid = { width, height, left: whole.left, top: whole.top, scale };
  const isAlone = aloneIn(areas, 2 * side);
  for (const i of order) {
    if (isAlone[i]) continue;
    paintRings(areas[i].rings, grid, (at, coverage) => {
      if (coverage < 128) return;
      // What is painted over lies below, even where nothing of it will show.
      if (top[at] >= 0 && top[at] !== i) shared.add(top[at], i, side);
      top[at] = i;
    });
  }
  const meet = (own: number, other: number): void => {
    if (other >= 0 && own !== other) shared.add(own, other, side);
  };
  for (let at = 0; at < top.length; at++) {
    const own = top[at];
    if (own < 0) continue;
    if (at + 1 < top.length) meet(own, top[at + 1]);
    if (at + width < top.length) meet(own, top[at + width]);
  }
  return shared.lists();
}

/** More areas than this are not compared with each other one by one. */
const MOST_COMPARED = 3000;

/** For each area, whether no other comes near its box: nothing need be painted to know that it meets none. */
function aloneIn(areas: readonly Area[], near: number): boolean[] {
  if (areas.length > MOST_COMPARED) return areas.map(() => false);
  const boxes = areas.map(({ rings }) => boundsOf(rings));
  const out = areas.map(() => true);
  boxes.forEach((a, i) => {
    for (let j = i + 1; j < boxes.length; j++) {
      const b = boxes[j];
      if (a.left - near > b.right || b.left - near > a.right) continue;
      if (a.top - near > b.bottom || b.top - near > a.bottom) continue;
      out[i] = out[j] = false;
    }
  });
  return out;
}

class Table {
  private readonly rows: Map<number, number>[];

  constructor(count: number) {
    this.rows = Array.from({ length: count }, () => new Map<number, number>());
  }

  add(a: number, b: number, length: number): void {
    this.rows[a].set(b, (this.rows[a].get(b) ?? 0) + length);
    this.rows[b].set(a, (this.rows[b].get(a) ?? 0) + length);
  }

  lists(): Neighbour[][] {
    return this.rows.map((row) =>
      [...row].map(([piece, borderMm]) => ({ piece, borderMm })).sort((a, b) => a.piece - b.piece),
    );
  }
}
