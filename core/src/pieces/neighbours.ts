import { meetingBoxes } from '../geometry/meeting-boxes.js';
import { paintRings } from '../picture/paint-rings.js';
import { boundsOf, type Bounds } from '../geometry/polyline.js';
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
  // What lies uppermost, from 1: of a large grid with little on it only what is painted is touched.
  const top = new Int32Array(width * height);
  const painted: number[] = [];
  const order = areas.map((_, i) => i).sort((a, b) => areas[a].layer - areas[b].layer || a - b);
  const side = 1 / scale;
  const grid = { width, height, left: whole.left, top: whole.top, scale };
  const parts = nearOthers(areas, 2 * side);
  for (const i of order) {
    const part = parts[i];
    if (!part) continue;
    paintRings(areas[i].rings, { ...grid, part }, (at, coverage) => {
      if (coverage < 128) return;
      // What is painted over lies below, even where nothing of it will show.
      if (top[at] === 0) painted.push(at);
      else if (top[at] !== i + 1) shared.add(top[at] - 1, i, side);
      top[at] = i + 1;
    });
  }
  const meet = (own: number, other: number): void => {
    if (other > 0 && own !== other) shared.add(own - 1, other - 1, side);
  };
  for (const at of painted) {
    if (at + 1 < top.length) meet(top[at], top[at + 1]);
    if (at + width < top.length) meet(top[at], top[at + width]);
  }
  return shared.lists();
}

/** More areas than this are not compared with each other one by one. */
const MOST_COMPARED = 3000;

/** For each area, the part of its box that others come near; undefined where none does: there is nothing to be painted. */
function nearOthers(areas: readonly Area[], near: number): (Bounds | undefined)[] {
  const boxes = areas.map(({ rings }) => boundsOf(rings));
  if (areas.length > MOST_COMPARED) return boxes;
  const out: (Bounds | undefined)[] = areas.map(() => undefined);
  const reach = (own: number, { left, top, right, bottom }: Bounds): void => {
    const before = out[own] ?? { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
    const box = boxes[own];
    out[own] = {
      left: Math.min(before.left, Math.max(box.left, left - near)),
      top: Math.min(before.top, Math.max(box.top, top - near)),
      right: Math.max(before.right, Math.min(box.right, right + near)),
      bottom: Math.max(before.bottom, Math.min(box.bottom, bottom + near)),
    };
  };
  const grown = boxes.map(({ left, top, right, bottom }) => ({
    left: left - near / 2,
    top: top - near / 2,
    right: right + near / 2,
    bottom: bottom + near / 2,
  }));
  meetingBoxes(grown).forEach((met, i) => met.forEach((j) => reach(i, boxes[j])));
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
