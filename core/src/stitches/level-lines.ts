import { distance, type Points } from '../geometry/vector.js';

/** A function given at the nodes of a square grid, in mm. */
export interface Field {
  readonly width: number;
  readonly height: number;
  /** Place of the first node, and distance of the nodes. */
  readonly left: number;
  readonly top: number;
  readonly step: number;
  readonly values: Float64Array;
}

/** A line along which a field has one value; a closed one does not repeat its first point. */
export interface LevelLine {
  readonly points: Points;
  readonly closed: boolean;
}

/** The field's value at a place, between its nodes. */
export function valueAt(field: Field, x: number, y: number): number {
  const { width, height, left, top, step, values } = field;
  const u = Math.min(width - 1.001, Math.max(0, (x - left) / step));
  const v = Math.min(height - 1.001, Math.max(0, (y - top) / step));
  const i = Math.floor(v) * width + Math.floor(u);
  const [fx, fy] = [u - Math.floor(u), v - Math.floor(v)];
  return (
    (values[i] * (1 - fx) + values[i + 1] * fx) * (1 - fy) +
    (values[i + width] * (1 - fx) + values[i + width + 1] * fx) * fy
  );
}

/**
 * Lines of the whole numbers and a half, by marching squares. All lines have the larger values on the same side.
 * @returns for each level `floor(value)` its lines
 */
export function levelLines(field: Field): Map<number, LevelLine[]> {
  const { width, height, values } = field;
  const next = new Map<number, Map<number, number>>();
  for (let y = 0; y + 1 < height; y++) {
    for (let x = 0; x + 1 < width; x++) {
      const i = y * width + x;
      const [a, b, c, d] = [values[i], values[i + 1], values[i + width + 1], values[i + width]];
      const low = Math.ceil(Math.min(a, b, c, d) - 0.5);
      const high = Math.floor(Math.max(a, b, c, d) - 0.5);
      // A cell that many lines cross is a break of the field, as behind the end of a guide: nothing is drawn there.
      if (high - low > 3) continue;
      for (let level = low; level <= high; level++) {
        let links = next.get(level);
        if (!links) next.set(level, (links = new Map()));
        crossCell(links, i, width, level + 0.5, a, b, c, d);
      }
    }
  }
  const out = new Map<number, LevelLine[]>();
  for (const level of [...next.keys()].sort((p, q) => p - q)) {
    out.set(level, follow(next.get(level) as Map<number, number>, field, level + 0.5));
  }
  return out;
}

/** Links the edges of one cell that the line crosses; edges are numbered 2 i (to the right) and 2 i + 1 (down). */
function crossCell(
  links: Map<number, number>,
  i: number,
  width: number,
  level: number,
  a: number,
  b: number,
  c: number,
  d: number,
): void {
  const top = 2 * i;
  const right = 2 * (i + 1) + 1;
  const bottom = 2 * (i + width);
  const left = 2 * i + 1;
  const kind = (a >= level ? 1 : 0) | (b >= level ? 2 : 0) | (c >= level ? 4 : 0) | (d >= level ? 8 : 0);
  // From edge to edge, with the larger values on the right.
  switch (kind) {
    case 1:
      links.set(top, left);
      break;
    case 2:
      links.set(right, top);
      break;
    case 3:
      links.set(right, left);
      break;
    case 4:
      links.set(bottom, right);
      break;
    case 5:
      links.set(top, left).set(bottom, right);
      break;
    case 6:
      links.set(bottom, top);
      break;
    case 7:
      links.set(bottom, left);
      break;
    case 8:
      links.set(left, bottom);
      break;
    case 9:
      links.set(top, bottom);
      break;
    case 10:
      links.set(right, top).set(left, bottom);
      break;
    case 11:
      links.set(right, bottom);
      break;
    case 12:
      links.set(left, right);
      break;
    case 13:
      links.set(top, right);
      break;
    case 14:
      links.set(left, top);
      break;
  }
}

function follow(links: Map<number, number>, field: Field, level: number): LevelLine[] {
  const { width, left, top, step, values } = field;
  const place = (edge: number): [number, number] => {
    const i = edge >> 1;
    const x = left + (i % width) * step;
    const y = top + Math.floor(i / width) * step;
    const from = values[i];
    const to = values[edge % 2 === 0 ? i + 1 : i + width];
    const t = to === from ? 0.5 : Math.min(1, Math.max(0, (level - from) / (to - from)));
    return edge % 2 === 0 ? [x + t * step, y] : [x, y + t * step];
  };
  const targets = new Set(links.values());
  const heads = [...links.keys()].filter((edge) => !targets.has(edge));
  const lines: LevelLine[] = [];
  const walk = (start: number): void => {
    const points: Points = [];
    let at: number | undefined = start;
    let closed = false;
    while (at !== undefined) {
      const [x, y] = place(at);
      const n = points.length;
      if (n === 0 || distance(points[n - 2], points[n - 1], x, y) > 1e-6) points.push(x, y);
      const after: number | undefined = links.get(at);
      links.delete(at);
      closed = after === start;
      at = closed ? undefined : after;
    }
    if (points.length >= 4) lines.push({ points, closed });
  };
  heads.forEach(walk);
  for (const edge of [...links.keys()]) if (links.has(edge)) walk(edge);
  return lines;
}
