import type { Points } from '../geometry/vector.js';
import { findCells, type Cells } from './cells.js';

/** One stretch of a row inside the shape, and what it is connected to. */
export interface RowPart {
  readonly row: number;
  readonly left: number;
  readonly right: number;
  /** Parts of the rows before and after it that it is connected to through the shape. */
  readonly above: number[];
  readonly below: number[];
  /** Parts of the same row it is connected to around a bend between two rows. */
  readonly beside: number[];
}

export interface Rows {
  readonly parts: readonly RowPart[];
  /** Height of each row's middle. */
  readonly y: Float64Array;
  readonly pitch: number;
}

const LEAST_OVERLAP = 0.25;

/** Cells of level rows: parts that lie over each other by a good part of the shorter one. */
export function rowCells({ parts }: Rows): Cells {
  return findCells(parts, (a, b) => {
    const [part, next] = [parts[a], parts[b]];
    const overlap = Math.min(part.right, next.right) - Math.max(part.left, next.left);
    return overlap >= LEAST_OVERLAP * Math.min(part.right - part.left, next.right - next.left);
  });
}

/** Scan lines a row; the third is the row's middle, the first lies on the edge to the row before. */
const LINES = 4;

interface Span {
  readonly left: number;
  readonly right: number;
  /** Row parts above that reach this span. */
  from: number[];
  group: number;
}

/**
 * Cuts a shape (in coordinates turned so that rows are level) into row parts and finds how they are connected.
 * Connections are followed on scan lines between the rows, so that rows on both sides of a thin gap stay apart.
 */
export function scanRows(rings: readonly Points[], spacing: number): Rows {
  let top = Infinity;
  let bottom = -Infinity;
  for (const ring of rings) {
    for (let i = 1; i < ring.length; i += 2) {
      if (ring[i] < top) top = ring[i];
      if (ring[i] > bottom) bottom = ring[i];
    }
  }
  const height = bottom - top;
  const rowCount = rowsFor(height, spacing);
  const pitch = rowCount > 0 ? height / rowCount : spacing;
  const y = new Float64Array(rowCount);
  for (let row = 0; row < rowCount; row++) y[row] = top + (row + 0.5) * pitch;
  const crossings = crossScanLines(rings, top, pitch / LINES, rowCount * LINES);

  const parts: RowPart[] = [];
  let before: Span[] = [];
  let band: Band = new Band();
  for (let line = 1; line < rowCount * LINES; line++) {
    const spans = spansOf(crossings[line]);
    linkSpans(before, spans, band);
    if (line % LINES === 2) {
      const row = (line - 2) / LINES;
      for (const span of spans) {
        const id = parts.length;
        const above = [...new Set(span.from)];
        parts.push({ row, left: span.left, right: span.right, above, below: [], beside: [] });
        for (const other of above) parts[other].below.push(id);
        band.lower.push([id, span.group]);
      }
      band.closeInto(parts);
      band = new Band();
      spans.forEach((span, i) => {
        const id = parts.length - spans.length + i;
        span.from = [id];
        span.group = band.newGroup();
        band.upper.push([id, span.group]);
      });
    }
    before = spans;
  }
  band.closeInto(parts);
  return { parts, y, pitch };
}

/** Rows must not crowd closer than this share of the spacing. */
const CLOSEST = 0.8;

/** Number of rows of a height: spaced as asked or a little closer, never wider, which would show the cloth. */
function rowsFor(height: number, spacing: number): number {
  if (!(height > 0)) return 0;
  const enough = Math.max(1, Math.ceil(height / spacing - 1e-6));
  return height / enough >= CLOSEST * spacing ? enough : Math.max(1, Math.round(height / spacing));
}

/** What hangs together between the middles of two neighbouring rows. */
class Band {
  private readonly parent: number[] = [];
  readonly upper: [part: number, group: number][] = [];
  readonly lower: [part: number, group: number][] = [];

  newGroup(): number {
    this.parent.push(this.parent.length);
    return this.parent.length - 1;
  }

  root(group: number): number {
    while (this.parent[group] !== group) group = this.parent[group];
    return group;
  }

  join(a: number, b: number): void {
    this.parent[this.root(a)] = this.root(b);
  }

  /** Parts of one row that meet only between two rows are linked side by side. */
  closeInto(parts: RowPart[]): void {
    for (const side of [this.upper, this.lower]) {
      const first = new Map<number, number>();
      for (const [part, group] of side) {
        const root = this.root(group);
        const other = first.get(root);
        first.set(root, part);
        if (other === undefined) continue;
        const shared = side === this.upper ? parts[other].below : parts[other].above;
        const mine = side === this.upper ? parts[part].below : parts[part].above;
        if (shared.some((p) => mine.includes(p))) continue;
        parts[other].beside.push(part);
        parts[part].beside.push(other);
      }
    }
  }
}

/** Where the rings cross each scan line, sorted. */
function crossScanLines(rings: readonly Points[], top: number, step: number, lines: number): number[][] {
  const crossings: number[][] = Array.from({ length: lines }, () => []);
  for (const ring of rings) {
    const n = ring.length;
    for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
      let [x0, y0, x1, y1] = [ring[j], ring[j + 1], ring[i], ring[i + 1]];
      if (y0 === y1) continue;
      if (y0 > y1) [x0, y0, x1, y1] = [x1, y1, x0, y0];
      const first = Math.max(1, Math.ceil((y0 - top) / step));
      for (let line = first; line < lines; line++) {
        const y = top + line * step;
        if (y >= y1) break;
        if (y < y0) continue;
        crossings[line].push(x0 + ((y - y0) / (y1 - y0)) * (x1 - x0));
      }
    }
  }
  for (const list of crossings) list.sort((a, b) => a - b);
  return crossings;
}

function spansOf(crossings: number[]): Span[] {
  const spans: Span[] = [];
  for (let i = 0; i + 1 < crossings.length; i += 2) {
    if (crossings[i + 1] > crossings[i]) {
      spans.push({ left: crossings[i], right: crossings[i + 1], from: [], group: -1 });
    }
  }
  return spans;
}

/** Hands on, from one scan line to the next, which parts a span is reached from. */
function linkSpans(before: readonly Span[], spans: readonly Span[], band: Band): void {
  let i = 0;
  for (const span of spans) {
    span.group = band.newGroup();
    while (i < before.length && before[i].right <= span.left) i++;
    for (let k = i; k < before.length && before[k].left < span.right; k++) {
      for (const part of before[k].from) if (!span.from.includes(part)) span.from.push(part);
      if (before[k].group >= 0) band.join(span.group, before[k].group);
    }
  }
}
