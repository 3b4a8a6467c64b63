export type Vec = readonly [number, number, number];

export const dot = (a: Vec, b: Vec): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const minus = (a: Vec, b: Vec): Vec => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const plus = (a: Vec, b: Vec, k = 1): Vec => [a[0] + b[0] * k, a[1] + b[1] * k, a[2] + b[2] * k];
export const unit = (a: Vec): Vec => {
  const n = Math.sqrt(dot(a, a)) || 1;
  return [a[0] / n, a[1] / n, a[2] / n];
};

/** Distance to a solid's surface from a place, negative inside. */
export type Solid = (p: Vec) => number;

export const ball =
  (at: Vec, radius: number): Solid =>
  (p) => {
    const d = minus(p, at);
    return Math.sqrt(dot(d, d)) - radius;
  };

/** A ball drawn out along the axes; near enough to a distance to be walked. */
export const egg =
  (at: Vec, r: Vec): Solid =>
  (p) => {
    const d: Vec = [(p[0] - at[0]) / r[0], (p[1] - at[1]) / r[1], (p[2] - at[2]) / r[2]];
    const k0 = Math.sqrt(dot(d, d));
    const g: Vec = [d[0] / r[0], d[1] / r[1], d[2] / r[2]];
    const k1 = Math.sqrt(dot(g, g));
    return k1 > 0 ? (k0 * (k0 - 1)) / k1 : -Math.min(...r);
  };

/** An upright round body whose radius depends on the height. */
export const turned =
  (x: number, z: number, bottom: number, top: number, radius: (t: number) => number): Solid =>
  (p) => {
    const t = Math.min(1, Math.max(0, (p[1] - bottom) / (top - bottom)));
    const side = Math.sqrt((p[0] - x) ** 2 + (p[2] - z) ** 2) - radius(t);
    const over = Math.max(bottom - p[1], p[1] - top);
    return over > 0 ? Math.sqrt(Math.max(0, side) ** 2 + over * over) : Math.max(side * 0.85, over);
  };

/** Two solids that run into each other softly. */
export const joined =
  (a: Solid, b: Solid, soft: number): Solid =>
  (p) => {
    const x = a(p);
    const y = b(p);
    const h = Math.max(0, soft - Math.abs(x - y)) / soft;
    return Math.min(x, y) - (h * h * soft) / 4;
  };

/** A solid with another carved out of it softly. */
export const carved =
  (a: Solid, b: Solid, soft: number): Solid =>
  (p) => {
    const x = a(p);
    const y = -b(p);
    const h = Math.max(0, soft - Math.abs(x - y)) / soft;
    return Math.max(x, y) + (h * h * soft) / 4;
  };

const STEPS = 130;
const FAR = 40;

/** Walks a ray to the first surface (sphere tracing, Hart 1996); undefined where it meets none. */
export function walk(solid: Solid, from: Vec, along: Vec): Vec | undefined {
  let t = 0;
  for (let k = 0; k < STEPS && t < FAR; k++) {
    const p = plus(from, along, t);
    const d = solid(p);
    if (d < 0.002 + 0.0008 * t) return p;
    t += d;
  }
  return undefined;
}

export function normalAt(solid: Solid, p: Vec): Vec {
  const e = 0.004;
  return unit([
    solid([p[0] + e, p[1], p[2]]) - solid([p[0] - e, p[1], p[2]]),
    solid([p[0], p[1] + e, p[2]]) - solid([p[0], p[1] - e, p[2]]),
    solid([p[0], p[1], p[2] + e]) - solid([p[0], p[1], p[2] - e]),
  ]);
}

/** How much of a broad lamp is seen from a place, 0 to 1. */
export function lampSeen(solid: Solid, p: Vec, toLamp: Vec, broad: number): number {
  let seen = 1;
  let t = 0.05;
  for (let k = 0; k < 40 && t < 8; k++) {
    const d = solid(plus(p, toLamp, t));
    seen = Math.min(seen, 0.5 + (0.5 * d) / (broad * t));
    if (seen <= 0) return 0;
    t += Math.max(0.03, Math.abs(d));
  }
  return seen * seen * (3 - 2 * seen);
}

/** How open the surroundings of a place are, 0 to 1. */
export function openness(solid: Solid, p: Vec, n: Vec): number {
  let shut = 0;
  let weight = 1;
  for (let k = 1; k <= 5; k++) {
    const h = 0.08 * k;
    shut += (h - solid(plus(p, n, h))) * weight;
    weight *= 0.7;
  }
  return Math.min(1, Math.max(0, 1 - 1.1 * shut));
}
