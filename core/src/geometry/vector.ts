/** A place or a direction in millimetres (or pixels, where the name says so); y points down. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

/** Flat run of coordinates: x0, y0, x1, y1 … */
export type Points = number[];

const QUANTUM = 2 ** 40;

/**
 * Unit vector for an angle in degrees, counted clockwise on the screen.
 *
 * Sine and cosine may differ in the last bit between engines, so both are rounded to 2^-40:
 * the same recipe must give the same stitches in a browser and on a server.
 */
export function direction(degrees: number): Point {
  const radians = (degrees * Math.PI) / 180;
  return {
    x: Math.round(Math.cos(radians) * QUANTUM) / QUANTUM,
    y: Math.round(Math.sin(radians) * QUANTUM) / QUANTUM,
  };
}

/** Points turned about the origin by the angle of a unit vector. */
export function turnPoints(points: Points, u: Point): Points {
  const out: Points = new Array<number>(points.length);
  for (let i = 0; i < points.length; i += 2) {
    out[i] = points[i] * u.x - points[i + 1] * u.y;
    out[i + 1] = points[i] * u.y + points[i + 1] * u.x;
  }
  return out;
}

/** Distance between two points; sqrt is exact everywhere, hypot is not. */
export function distance(ax: number, ay: number, bx: number, by: number): number {
  const dx = bx - ax;
  const dy = by - ay;
  return Math.sqrt(dx * dx + dy * dy);
}

/** Rounds to whole micrometres, the resolution of the stitch list. */
export function toMicrometre(mm: number): number {
  return Math.round(mm * 1000) / 1000;
}

/** Distance from a point to the endless line through two others; to the first of them if they coincide. */
export function distanceToLine(px: number, py: number, ax: number, ay: number, bx: number, by: number): number {
  const dx = bx - ax;
  const dy = by - ay;
  const length = Math.sqrt(dx * dx + dy * dy);
  if (length === 0) return distance(px, py, ax, ay);
  return Math.abs((px - ax) * dy - (py - ay) * dx) / length;
}
