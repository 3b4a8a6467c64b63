import { direction } from '../../geometry/vector.js';
import { CELL_MM } from '../cell.js';
import type { Flow } from '../flow.js';
import type { Plate } from '../plate.js';

/** Millimetres from one place of a row line to the next. */
export const ROW_STEP_MM = 0.2;

/** The middle of a row: places every 0.2 mm, with what lies upright to it and how far the next rows are. */
export interface RowLine {
  readonly x: Float32Array;
  readonly y: Float32Array;
  /** Unit vector across the row, towards what is called above. */
  readonly acrossX: Float32Array;
  readonly acrossY: Float32Array;
  /** Distance of neighbouring rows in mm. */
  readonly gapMm: Float32Array;
}

/** Where something holds along a row of so many places: the first and last place of each stretch. */
export function stretchesOf(
  places: number,
  holds: (place: number) => boolean,
): (readonly [from: number, to: number])[] {
  const out: (readonly [number, number])[] = [];
  for (let from = 0; from < places; from++) {
    if (!holds(from)) continue;
    let to = from;
    while (to + 1 < places && holds(to + 1)) to++;
    out.push([from, to]);
    from = to;
  }
  return out;
}

interface Extent {
  readonly midX: number;
  readonly midY: number;
  readonly halfW: number;
  readonly halfH: number;
}

/** How rows can lie over a picture. */
export interface RowShape {
  readonly id: string;
  readonly name: string;
  /** Whether rows can be shifted across themselves. */
  readonly shifts: boolean;
  readonly lines: (extent: Extent, how: RowPlace) => readonly RowLine[];
}

/** Where rows lie. */
export interface RowPlace {
  readonly spacingMm: number;
  readonly angle: number;
  /** How far they are shifted across themselves, in shares of their distance; left out for not at all. */
  readonly shift?: number;
  /** What rows along the forms follow. */
  readonly flow?: Flow;
}

/** All shapes of rows; the first is the usual one. A new one is an entry here. */
export const ROW_SHAPES: readonly RowShape[] = [
  { id: 'straight', name: 'Straight', shifts: true, lines: straight },
  { id: 'forms', name: 'Along the forms', shifts: false, lines: bent },
  { id: 'rings', name: 'In rings', shifts: true, lines: rings },
  { id: 'spiral', name: 'In a spiral', shifts: true, lines: spiral },
];

/** The shape of rows of an id; the usual one where there is none of it. */
export const rowShape = (id: string): RowShape => ROW_SHAPES.find((shape) => shape.id === id) ?? ROW_SHAPES[0];

/**
 * Rows over a plate.
 * @param shape an id of `ROW_SHAPES`
 */
export function rowLines(plate: Plate, shape: string, how: RowPlace): readonly RowLine[] {
  const halfW = plate.width / plate.scale / 2;
  const halfH = plate.height / plate.scale / 2;
  const extent = { midX: plate.left + halfW, midY: plate.top + halfH, halfW, halfH };
  return rowShape(shape).lines(extent, how);
}

/** A line through places; what lies across it is taken from its neighbours. */
function lineOf(places: readonly number[] | Float32Array, gap: (i: number) => number): RowLine {
  const n = places.length / 2;
  const line: RowLine = {
    x: new Float32Array(n),
    y: new Float32Array(n),
    acrossX: new Float32Array(n),
    acrossY: new Float32Array(n),
    gapMm: new Float32Array(n),
  };
  for (let i = 0; i < n; i++) {
    const a = Math.max(0, i - 1) * 2;
    const b = Math.min(n - 1, i + 1) * 2;
    const dx = places[b] - places[a];
    const dy = places[b + 1] - places[a + 1];
    const length = Math.sqrt(dx * dx + dy * dy) || 1;
    line.x[i] = places[i * 2];
    line.y[i] = places[i * 2 + 1];
    line.acrossX[i] = dy / length;
    line.acrossY[i] = -dx / length;
    line.gapMm[i] = gap(i);
  }
  return line;
}

function reaches({ halfW, halfH }: Extent, angle: number): { u: { x: number; y: number }; along: number; up: number } {
  const u = direction(angle);
  return {
    u,
    along: Math.abs(u.x) * halfW + Math.abs(u.y) * halfH,
    up: Math.abs(u.y) * halfW + Math.abs(u.x) * halfH,
  };
}

function straight(extent: Extent, { spacingMm, angle, shift = 0 }: RowPlace): RowLine[] {
  const { u, along, up } = reaches(extent, angle);
  const rows = Math.max(1, Math.round((2 * up) / spacingMm));
  const n = Math.max(2, Math.ceil((2 * along) / ROW_STEP_MM) + 1);
  return Array.from({ length: rows }, (_, r) => {
    const ly = (r + 0.5 + shift) * spacingMm - (rows * spacingMm) / 2;
    const places = new Float32Array(n * 2);
    for (let i = 0; i < n; i++) {
      const lx = (i - (n - 1) / 2) * ROW_STEP_MM;
      places[i * 2] = extent.midX + lx * u.x - ly * u.y;
      places[i * 2 + 1] = extent.midY + lx * u.y + ly * u.x;
    }
    return lineOf(places, () => spacingMm);
  });
}

function bent(extent: Extent, how: RowPlace): RowLine[] {
  const { spacingMm, angle, flow } = how;
  if (!flow) return straight(extent, how);
  const { u, along, up } = reaches(extent, angle);
  const cols = Math.ceil((2 * along) / CELL_MM);
  const levels = flow.levels(along, up, spacingMm);
  return Array.from({ length: levels.rows }, (_, r) => {
    const places: number[] = [];
    const gaps: number[] = [];
    for (let c = 0; c < cols; c++) {
      const lx = (c + 0.5) * CELL_MM - along;
      const ly = levels.height(r, c);
      places.push(extent.midX + lx * u.x - ly * u.y, extent.midY + lx * u.y + ly * u.x);
      const [low, high] = [Math.max(0, r - 1), Math.min(levels.rows - 1, r + 1)];
      const gap = high > low ? (levels.height(high, c) - levels.height(low, c)) / (high - low) : spacingMm;
      // What rows that climb are apart is less than what they are apart upright.
      const [a, b] = [Math.max(0, c - 2), Math.min(cols - 1, c + 2)];
      const climb = (levels.height(r, b) - levels.height(r, a)) / ((b - a) * CELL_MM);
      gaps.push(gap / Math.sqrt(1 + climb * climb));
    }
    return evenly(places, gaps);
  });
}

/** Rows that bend have their places farther apart than level ones: they are laid anew. */
function evenly(places: readonly number[], gaps: readonly number[]): RowLine {
  const out: number[] = [places[0], places[1]];
  const own: number[] = [gaps[0]];
  let rest = ROW_STEP_MM;
  for (let i = 2; i < places.length; i += 2) {
    const dx = places[i] - places[i - 2];
    const dy = places[i + 1] - places[i - 1];
    const length = Math.sqrt(dx * dx + dy * dy);
    for (; rest <= length; rest += ROW_STEP_MM) {
      const t = rest / length;
      out.push(places[i - 2] + dx * t, places[i - 1] + dy * t);
      own.push(gaps[i / 2 - 1] + (gaps[i / 2] - gaps[i / 2 - 1]) * t);
    }
    rest -= length;
  }
  return lineOf(out, (i) => own[i]);
}

function rings({ midX, midY, halfW, halfH }: Extent, { spacingMm, shift = 0 }: RowPlace): RowLine[] {
  const most = Math.sqrt(halfW * halfW + halfH * halfH);
  const out: RowLine[] = [];
  // However they are shifted, no disc in the middle stays bare.
  const first = spacingMm * ((0.5 + shift) % 1 || 1);
  for (let radius = first; radius < most; radius += spacingMm) {
    const n = Math.max(8, Math.ceil((2 * Math.PI * radius) / ROW_STEP_MM));
    const places: number[] = [];
    for (let i = 0; i <= n; i++) {
      const d = direction((360 * i) / n);
      places.push(midX + radius * d.x, midY + radius * d.y);
    }
    out.push(lineOf(places, () => spacingMm));
  }
  return out;
}

function spiral({ midX, midY, halfW, halfH }: Extent, { spacingMm, shift = 0 }: RowPlace): RowLine[] {
  const most = Math.sqrt(halfW * halfW + halfH * halfH);
  const places: number[] = [];
  let turn = 0;
  for (;;) {
    const radius = spacingMm * (turn / 360 + ((0.25 + shift) % 1));
    if (radius > most) break;
    const d = direction(turn);
    places.push(midX + radius * d.x, midY + radius * d.y);
    // A spiral grows while it turns.
    const along = Math.sqrt(radius * radius + (spacingMm / (2 * Math.PI)) ** 2);
    turn += ((ROW_STEP_MM / along) * 180) / Math.PI;
  }
  return [lineOf(places, () => spacingMm)];
}
