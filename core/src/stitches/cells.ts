/** A piece of a row and the pieces of rows it is connected to; indices into one list. */
export interface Linked {
  /** Parts of the rows before and after it that it is connected to through the shape. */
  readonly above: readonly number[];
  readonly below: readonly number[];
  /** Parts of the same row it is connected to around a bend between two rows. */
  readonly beside: readonly number[];
}

/** A stack of row parts that follow each other one to one and can be sewn to and fro without a break. */
export interface Cell {
  /** Row parts from top to bottom. */
  readonly parts: readonly number[];
}

/** Cells of a shape and, for each row part, its cell and its neighbours in every direction. */
export interface Cells {
  readonly cells: Cell[];
  readonly cellOf: Int32Array;
}

/**
 * Gathers row parts into cells.
 * @param follows whether a part's only follower belongs to the same cell
 */
export function findCells(parts: readonly Linked[], follows: (part: number, next: number) => boolean): Cells {
  const cellOf = new Int32Array(parts.length).fill(-1);
  const cells: Cell[] = [];
  for (let i = 0; i < parts.length; i++) {
    if (cellOf[i] >= 0) continue;
    const chain = [i];
    cellOf[i] = cells.length;
    for (let at = i; ;) {
      const next = onlyFollower(parts, at);
      if (next < 0 || cellOf[next] >= 0 || !follows(at, next)) break;
      cellOf[next] = cells.length;
      chain.push(next);
      at = next;
    }
    cells.push({ parts: chain });
  }
  return { cells, cellOf };
}

/** The one part below that has no other above it. Parts come row by row, so chains start at their top. */
function onlyFollower(parts: readonly Linked[], at: number): number {
  const part = parts[at];
  if (part.below.length !== 1 || part.beside.length > 0) return -1;
  const next = parts[part.below[0]];
  return next.above.length !== 1 || next.beside.length > 0 ? -1 : part.below[0];
}

/** Rows a cell must have on both sides of a place for it to be divided there. */
const LEAST_ROWS = 3;

/** Divides the cell of a part after it, so that sewing can end there. */
export function divideAfter({ cells, cellOf }: Cells, part: number): void {
  const cell = cellOf[part];
  const { parts } = cells[cell];
  const at = parts.indexOf(part) + 1;
  if (at < LEAST_ROWS || parts.length - at < LEAST_ROWS) return;
  const rest = parts.slice(at);
  cells[cell] = { parts: parts.slice(0, at) };
  for (const other of rest) cellOf[other] = cells.length;
  cells.push({ parts: rest });
}

/** A cell to be sewn and the one it must end beside; -1 for the last. */
export interface CellVisit {
  readonly cell: number;
  readonly parent: number;
}

/**
 * Cells in sewing order: of the shortest-way tree from `root` every cell comes after those that hang on it, those on the
 * way to `first` before others.
 */
export function sewingOrderOfCells(parts: readonly Linked[], plan: Cells, root: number, first: number): CellVisit[] {
  const { cells, cellOf } = plan;
  const parent = new Int32Array(cells.length).fill(-1);
  const seen = new Uint8Array(cells.length);
  seen[root] = 1;
  const queue = [root];
  const children = new Map<number, number[]>();
  for (const cell of queue) {
    const own = cells[cell].parts;
    for (const id of own.length > 1 ? [own[0], own[own.length - 1]] : own) {
      for (const q of neighboursOf(parts[id])) {
        const other = cellOf[q];
        if (seen[other]) continue;
        seen[other] = 1;
        parent[other] = cell;
        queue.push(other);
        const list = children.get(cell);
        if (list) list.push(other);
        else children.set(cell, [other]);
      }
    }
  }
  for (let cell = first; cell !== root && parent[cell] >= 0; cell = parent[cell]) {
    const siblings = children.get(parent[cell]) as number[];
    siblings.splice(siblings.indexOf(cell), 1);
    siblings.unshift(cell);
  }
  const out: CellVisit[] = [];
  const stack = [{ cell: root, next: 0 }];
  while (stack.length > 0) {
    const top = stack[stack.length - 1];
    const list = children.get(top.cell) ?? [];
    if (top.next < list.length) {
      stack.push({ cell: list[top.next++], next: 0 });
      continue;
    }
    out.push({ cell: top.cell, parent: parent[top.cell] });
    stack.pop();
  }
  return out;
}

/** All parts a part is connected to. */
export function neighboursOf(part: Linked): number[] {
  return [...part.above, ...part.below, ...part.beside];
}

/** Groups of row parts that are connected; more than one where a neck is too thin for the scan lines. */
export function connectedParts(parts: readonly Linked[]): number[][] {
  const seen = new Uint8Array(parts.length);
  const groups: number[][] = [];
  for (let i = 0; i < seen.length; i++) {
    if (seen[i]) continue;
    seen[i] = 1;
    const group = [i];
    // The list grows while it is walked.
    for (const at of group) {
      for (const q of neighboursOf(parts[at])) {
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

/** The shortest chain of parts from one to another, both included, through those that are free; empty where there is none. */
export function chainOfParts(
  parts: readonly Linked[],
  from: number,
  to: number,
  isFree: (part: number) => boolean,
): number[] {
  const before = new Map<number, number>([[from, -1]]);
  const queue = [from];
  for (let k = 0; k < queue.length && !before.has(to); k++) {
    for (const q of neighboursOf(parts[queue[k]])) {
      if (before.has(q) || !isFree(q)) continue;
      before.set(q, queue[k]);
      queue.push(q);
    }
  }
  if (!before.has(to)) return [];
  const chain: number[] = [];
  for (let at = to; at >= 0; at = before.get(at) as number) chain.push(at);
  return chain.reverse();
}
