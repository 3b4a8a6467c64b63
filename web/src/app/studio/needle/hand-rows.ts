import { JUMP, oneOf, STITCH, STOP, TRIM, type Design, type HandRow } from '@open-kite/core';

// Needle points of a piece as rows that are set by hand: all functions give new rows.

/** What the machine can be told to do after a needle point. */
export const BETWEEN = { trim: TRIM, jump: JUMP, stop: STOP } as const;
export type Between = keyof typeof BETWEEN;

/** Needle points of a piece, with the cuts between them: those set by hand, else as they are sewn now. */
export function rowsOf(design: Design, index: number): readonly HandRow[] {
  const own = design.pieces[index]?.choices.rows;
  if (own) return own;
  const { stitches } = oneOf(design);
  const { x, y, command, piece, count } = stitches;
  const out: HandRow[] = [];
  for (let i = 0; i < count; i++) {
    if (piece[i] !== index || command[i] !== STITCH) continue;
    const last = out[out.length - 1];
    // What happens between two of its stitches belongs to it; a jump after a cut is the machine's own.
    const cut = last !== undefined && i > 0 && piece[i - 1] !== index ? cutBefore(stitches, i) : undefined;
    if (cut !== undefined && last) out.push([last[0], last[1], cut]);
    out.push([x[i], y[i], STITCH]);
  }
  return out;
}

/** Trim or stop just before a row; undefined where the thread is whole. */
function cutBefore({ command }: Design['stitches'], row: number): number | undefined {
  for (let i = row - 1; i >= 0 && command[i] !== STITCH; i--) {
    if (command[i] === STOP) return STOP;
    if (command[i] === TRIM) return TRIM;
  }
  return undefined;
}

const isPoint = ([, , command]: HandRow): boolean => command === STITCH;

/** Moves some points by mm; what happens at a point goes with it. */
export function movedRows(rows: readonly HandRow[], chosen: ReadonlySet<number>, dx: number, dy: number): HandRow[] {
  let with_ = false;
  return rows.map((row, i): HandRow => {
    const [x, y, command] = row;
    if (isPoint(row)) with_ = chosen.has(i);
    return with_ ? [x + dx, y + dy, command] : row;
  });
}

/** Takes points away, with what happens at them. One that would leave nothing to sew is kept. */
export function withoutRows(rows: readonly HandRow[], chosen: ReadonlySet<number>): readonly HandRow[] {
  let gone = false;
  const kept = rows.filter((row, i) => {
    if (isPoint(row)) gone = chosen.has(i);
    return !gone;
  });
  return kept.filter(isPoint).length >= 2 ? kept : rows;
}

/** Puts a point into the middle of each stitch that follows a chosen point. */
export function withPoints(rows: readonly HandRow[], chosen: ReadonlySet<number>): HandRow[] {
  return rows.flatMap((row, i): HandRow[] => {
    const next = rows[i + 1];
    if (!chosen.has(i) || !isPoint(row) || !next || !isPoint(next)) return [row];
    return [row, [(row[0] + next[0]) / 2, (row[1] + next[1]) / 2, STITCH]];
  });
}

/** Puts a trim, a jump or a stop after chosen points, or takes it away where there is one. */
export function withBetween(rows: readonly HandRow[], chosen: ReadonlySet<number>, what: Between): HandRow[] {
  const command = BETWEEN[what];
  const out: HandRow[] = [];
  for (let i = 0; i < rows.length; i++) {
    const row = rows[i];
    out.push(row);
    if (!chosen.has(i) || !isPoint(row)) continue;
    const next = rows[i + 1];
    if (next && next[2] === command) i++;
    else if (next) out.push([row[0], row[1], command]);
  }
  return out;
}

/** The point nearest to a place in mm; undefined where none is within a distance. */
export function pointAt(rows: readonly HandRow[], x: number, y: number, within: number): number | undefined {
  let best: number | undefined;
  let least = within;
  rows.forEach((row, i) => {
    if (!isPoint(row)) return;
    const gap = Math.sqrt((row[0] - x) ** 2 + (row[1] - y) ** 2);
    if (gap <= least) {
      least = gap;
      best = i;
    }
  });
  return best;
}
