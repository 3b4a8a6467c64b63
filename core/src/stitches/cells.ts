import type { RowPart, Rows } from './scan-rows.js';

/** A stack of row parts that follow each other one to one and can be sewn to and fro without a break. */
export interface Cell {
  /** Row parts from top to bottom. */
  readonly parts: readonly number[];
}

/** Cells of a shape and, for each row part, its cell and its neighbours in every direction. */
export interface Cells {
  readonly cells: readonly Cell[];
  readonly cellOf: Int32Array;
}

const LEAST_OVERLAP = 0.25;

/** Gathers row parts into cells. */
export function findCells(rows: Rows): Cells {
  const { parts } = rows;
  const cellOf = new Int32Array(parts.length).fill(-1);
  const cells: Cell[] = [];
  for (let i = 0; i < parts.length; i++) {
    if (cellOf[i] >= 0) continue;
    const chain = [i];
    cellOf[i] = cells.length;
    for (let at = i; ;) {
      const next = follower(parts, at);
      if (next < 0 || cellOf[next] >= 0) break;
      cellOf[next] = cells.length;
      chain.push(next);
      at = next;
    }
    cells.push({ parts: chain });
  }
  return { cells, cellOf };
}

/** The part below, if the two belong to one cell. Parts come row by row, so chains start at their top. */
function follower(parts: readonly RowPart[], at: number): number {
  const part = parts[at];
  if (part.below.length !== 1 || part.beside.length > 0) return -1;
  const next = parts[part.below[0]];
  if (next.above.length !== 1 || next.beside.length > 0) return -1;
  const overlap = Math.min(part.right, next.right) - Math.max(part.left, next.left);
  const shorter = Math.min(part.right - part.left, next.right - next.left);
  return overlap >= LEAST_OVERLAP * shorter ? part.below[0] : -1;
}

/** All parts a part is connected to. */
export function neighboursOf(part: RowPart): number[] {
  return [...part.above, ...part.below, ...part.beside];
}

/** Groups of row parts that are connected; more than one where a neck is too thin for the scan lines. */
export function connectedParts(rows: Rows): number[][] {
  const seen = new Uint8Array(rows.parts.length);
  const groups: number[][] = [];
  for (let i = 0; i < seen.length; i++) {
    if (seen[i]) continue;
    seen[i] = 1;
    const group = [i];
    // The list grows while it is walked.
    for (const at of group) {
      for (const q of neighboursOf(rows.parts[at])) {
        if (!seen[q]) {
          seen[q] = 1;
          group.push(q);
        }
      }
    }
    groups.push(group);
  }
  return groups;
}
