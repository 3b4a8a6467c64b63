import type { Point, Points } from '../geometry/vector.js';
import type { Rows } from './scan-rows.js';

/** Corners nearer to each other than this are one. */
const SAME_PLACE = 0.3;
/** How far a way under the rows keeps from the edge, in mm. */
const INSET = 0.5;

interface Gate {
  readonly y: number;
  readonly low: number;
  readonly high: number;
}

/**
 * The shortest way through a chain of row parts, kept off the edges: a taut string through one gate a row.
 * @param way row parts from where the needle is to where it goes, both included
 * @param start where the needle is; left out at the very beginning, when it starts in the first part
 * @returns the corners of the way, `start` (or the first gate) and `end` included
 */
export function travel(rows: Rows, way: readonly number[], start: Point | undefined, end: Point): Points {
  const gates: Gate[] = way.map((id) => {
    const part = rows.parts[id];
    const inset = Math.min(INSET, (part.right - part.left) / 2);
    return { y: rows.y[part.row], low: part.left + inset, high: part.right - inset };
  });
  let at: Point = start ?? { x: clamp(end.x, gates[0]), y: gates[0].y };
  const out: Points = [at.x, at.y];
  // A row ends on the edge or over it: the way comes in first, so that it does not run along outside.
  const inside = clamp(at.x, gates[0]);
  if (start && gates.length > 1 && Math.abs(start.y - gates[0].y) < 0.01 && Math.abs(inside - at.x) > 0.3) {
    at = { x: inside, y: at.y };
    out.push(at.x, at.y);
  }
  // The last gate is the goal itself; the first is where the needle already is.
  let next = 1;
  if (start && gates.length > 1 && isShallow(at, furthestInLine(gates, next, at, end) ?? end)) {
    // Rows beside the needle are sewn: a way that slowly leaves them would lie on them. So it goes below the next row at
    // once, after following its own row where the next one begins farther on.
    const x = clamp(at.x, gates[1]);
    if (Math.abs(x - at.x) > 2 * INSET) out.push(x + Math.sign(at.x - x) * INSET, at.y);
    at = { x, y: gates[1].y };
    out.push(at.x, at.y);
    next = 2;
  }
  while (next < gates.length - 1) {
    const stop = furthestInLine(gates, next, at, end);
    if (stop === undefined) break;
    at = { x: stop.x, y: stop.y };
    out.push(at.x, at.y);
    if (stop.leaveAt !== undefined && Math.abs(stop.leaveAt - at.x) > SAME_PLACE) {
      at = { x: stop.leaveAt, y: stop.y };
      out.push(at.x, at.y);
    }
    next = stop.next;
  }
  out.push(end.x, end.y);
  return out;
}

const isShallow = (a: Point, b: Point): boolean => Math.abs(b.x - a.x) > Math.max(2, 3 * Math.abs(b.y - a.y));

const clamp = (x: number, gate: Gate): number => Math.min(gate.high, Math.max(gate.low, x));

/** A corner of the way; where the way bends back, the gate is crossed to `leaveAt` before going on. */
interface Stop {
  readonly x: number;
  readonly y: number;
  readonly next: number;
  readonly leaveAt?: number;
}

/** Follows gates while one straight line from `at` passes all; returns the corner where it has to turn, if any. */
function furthestInLine(gates: readonly Gate[], next: number, at: Point, end: Point): Stop | undefined {
  let low = -Infinity;
  let high = Infinity;
  let lowGate = next;
  let highGate = next;
  const down = gates[next].y > at.y;
  for (let k = next; k < gates.length; k++) {
    const last = k === gates.length - 1;
    const gate = last ? { y: end.y, low: end.x, high: end.x } : gates[k];
    const rise = gate.y - at.y;
    const turnsBack = rise === 0 || rise > 0 !== down || (k > next && gate.y > gates[k - 1].y !== down);
    if (turnsBack) {
      // The way bends back: go straight into the gate before, along it to where the next one lies, and on from there.
      const stop = gates[Math.max(next, k - 1)];
      const fall = stop.y - at.y;
      const leaveAt = clamp(clamp(at.x, gate), stop);
      const x = k > next ? clamp(at.x + clampSlope(low, high, leaveAt, at.x, fall) * fall, stop) : leaveAt;
      return { x, y: stop.y, next: Math.max(next + 1, k), leaveAt };
    }
    const a = (gate.low - at.x) / rise;
    const b = (gate.high - at.x) / rise;
    const lower = Math.min(a, b);
    const upper = Math.max(a, b);
    if (lower > high) return { x: cornerX(gates[highGate], at, high), y: gates[highGate].y, next: highGate + 1 };
    if (upper < low) return { x: cornerX(gates[lowGate], at, low), y: gates[lowGate].y, next: lowGate + 1 };
    if (lower >= low) {
      low = lower;
      lowGate = k;
    }
    if (upper <= high) {
      high = upper;
      highGate = k;
    }
  }
  return undefined;
}

const cornerX = (gate: Gate, at: Point, slope: number): number => clamp(at.x + slope * (gate.y - at.y), gate);

function clampSlope(low: number, high: number, x: number, from: number, rise: number): number {
  if (rise === 0) return 0;
  return Math.min(high, Math.max(low, (x - from) / rise));
}
