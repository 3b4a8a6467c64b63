import type { Points } from './vector.js';

type IsInside = (x: number, y: number) => boolean;

/** The parts of a line inside a shape; a closed line that stays inside is one closed part. */
export function clipLine(
  isIn: IsInside,
  points: Points,
  closed: boolean,
): { readonly points: Points; readonly closed: boolean }[] {
  const n = points.length / 2;
  const inside = Array.from({ length: n }, (_, i) => isIn(points[i * 2], points[i * 2 + 1]));
  if (inside.every(Boolean)) return [{ points, closed }];
  const first = closed ? inside.indexOf(false) : 0;
  const parts: { points: Points; closed: boolean }[] = [];
  let part: Points | undefined;
  const steps = closed ? n + 1 : n;
  for (let k = 0; k < steps; k++) {
    const i = (first + k) % n;
    const [x, y] = [points[i * 2], points[i * 2 + 1]];
    if (k > 0) {
      const j = (first + k - 1) % n;
      if (inside[i] !== inside[j]) {
        const edge = crossing(isIn, points[j * 2], points[j * 2 + 1], x, y, inside[j]);
        if (inside[i]) part = edge;
        else if (part) {
          part.push(...edge);
          parts.push({ points: part, closed: false });
          part = undefined;
        }
      }
    }
    if (inside[i]) (part ??= []).push(x, y);
  }
  if (part && part.length >= 4) parts.push({ points: part, closed: false });
  return parts.filter(({ points: p }) => p.length >= 4);
}

/** Where a short stretch crosses the outline. */
function crossing(isIn: IsInside, ax: number, ay: number, bx: number, by: number, fromInside: boolean): Points {
  let low = 0;
  let high = 1;
  for (let step = 0; step < 12; step++) {
    const t = (low + high) / 2;
    if (isIn(ax + (bx - ax) * t, ay + (by - ay) * t) === fromInside) low = t;
    else high = t;
  }
  const t = fromInside ? low : high;
  return [ax + (bx - ax) * t, ay + (by - ay) * t];
}
