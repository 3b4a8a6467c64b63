import { packCell, packPart, unpackCell, withThreads, type Cross } from './grid.js';
import type { StitchedGrid } from './grid-edits.js';

type PlacedPart = Omit<Cross, 'cell'>;

/** What is left of a full cross when a part of another thread is laid into its cell. */
const REST: Readonly<Partial<Record<Cross['part'], Cross['part']>>> = {
  quarter: 'three-quarter',
  'three-quarter': 'quarter',
  side: 'side',
};

/**
 * Lays a part into a packed cell. What was there gives way: of a full cross the rest is kept, of a part what lies at the
 * opposite corner.
 */
export function layPart(code: number, part: PlacedPart): number {
  const rest = REST[part.part];
  if (!rest) return packCell([part]);
  const opposite = (part.corner + 2) % 4;
  const kept = unpackCell(code).find(
    (other) =>
      other.thread !== part.thread && (other.part === 'full' || (other.part === rest && other.corner === opposite)),
  );
  return packCell(kept ? [part, { thread: kept.thread, part: rest, corner: opposite }] : [part]);
}

/** Corner of a cell that a place in it, from 0 to 1 each way, is nearest to. */
export const cornerAt = (u: number, v: number): number => (v < 0.5 ? (u < 0.5 ? 0 : 1) : u < 0.5 ? 3 : 2);

/** Corner at which the side begins whose edge a place in a cell is nearest to. */
export function sideAt(u: number, v: number): number {
  const away = [v, 1 - u, 1 - v, u];
  return away.indexOf(Math.min(...away));
}

/** Cells on the straight way from one to another, both included (Bresenham 1965). */
export function cellsBetween(x0: number, y0: number, x1: number, y1: number): [number, number][] {
  const out: [number, number][] = [];
  const [dx, dy] = [Math.abs(x1 - x0), -Math.abs(y1 - y0)];
  const [sx, sy] = [Math.sign(x1 - x0), Math.sign(y1 - y0)];
  let [x, y] = [x0, y0];
  let error = dx + dy;
  for (;;) {
    out.push([x, y]);
    if (x === x1 && y === y1) return out;
    const twice = 2 * error;
    if (twice >= dy) {
      error += dy;
      x += sx;
    }
    if (twice <= dx) {
      error += dx;
      y += sy;
    }
  }
}

/** Everything of one thread with another: crosses, parts and back stitches, where `isMeant` says so of a cell or step. */
export function replaceThread(
  { cells, backs }: StitchedGrid,
  from: number,
  to: number,
  isMeant: { readonly cell: (cell: number) => boolean; readonly step: (step: number) => boolean },
): StitchedGrid {
  const other = (thread: number): number => (thread === from ? to : thread);
  const out = cells.map((code, cell) =>
    code !== 0 && isMeant.cell(cell) ? mergeParts(withThreads(code, other)) : code,
  );
  const lines = new Map(backs);
  for (const [step, thread] of backs) if (thread === from && isMeant.step(step)) lines.set(step, to);
  return { cells: out, backs: lines };
}

/** Parts of one thread that make up a whole cell are a full cross. */
function mergeParts(code: number): number {
  const [a, b] = unpackCell(code);
  return a && b && a.thread === b.thread ? packPart({ thread: a.thread, part: 'full', corner: 0 }) : code;
}
