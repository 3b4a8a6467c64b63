import { tidyRings, type Rings } from '../geometry/polygons.js';
import type { Points } from '../geometry/vector.js';
import { seededRandom } from '../geometry/chance.js';

/** A shape to be filled, with a name for messages. */
export interface Region {
  readonly name: string;
  readonly rings: Rings;
}

/** An ellipse as a ring of points. */
export function ellipse(cx: number, cy: number, rx: number, ry: number, points = 72): Points {
  const out: Points = [];
  for (let i = 0; i < points; i++) {
    const a = (i / points) * 2 * Math.PI;
    out.push(cx + rx * Math.cos(a), cy + ry * Math.sin(a));
  }
  return out;
}

/** A rectangle as a ring of points. */
export function rectangle(left: number, top: number, width: number, height: number): Points {
  return [left, top, left + width, top, left + width, top + height, left, top + height];
}

function blob(random: () => number): Rings {
  const ring: Points = [];
  const waves = [2, 3, 5].map((n) => ({ n, size: random() * 0.25, turn: random() * 7 }));
  const radius = 8 + random() * 14;
  for (let i = 0; i < 120; i++) {
    const a = (i / 120) * 2 * Math.PI;
    const r = radius * waves.reduce((sum, w) => sum + w.size * Math.sin(w.n * a + w.turn), 1);
    ring.push(r * Math.cos(a), r * Math.sin(a));
  }
  return tidyRings([ring]);
}

function holed(random: () => number): Rings {
  const rings: Rings = [ellipse(0, 0, 20, 16)];
  for (let i = 0; i < 3; i++) {
    const a = ((i + random() * 0.3) / 3) * 2 * Math.PI;
    rings.push(ellipse(9.5 * Math.cos(a), 8 * Math.sin(a), 2 + random() * 2.2, 2 + random() * 1.6, 40));
  }
  return rings;
}

function comb(random: () => number): Rings {
  const teeth = 4 + Math.floor(random() * 5);
  const width = 1.4 + random() * 2;
  const gap = 1.2 + random() * 2;
  const ring: Points = [0, 0];
  for (let i = 0; i < teeth; i++) {
    const x = i * (width + gap);
    const depth = 8 + random() * 10;
    ring.push(x, 6 + depth, x + width, 6 + depth);
    if (i < teeth - 1) ring.push(x + width, 6, x + width + gap, 6);
  }
  ring.push((teeth - 1) * (width + gap) + width, 0);
  return [ring];
}

function spiral(random: () => number): Rings {
  const turns = 1.6 + random();
  const pitch = 6 + random() * 2;
  const half = 1.2 + random() * 0.8;
  const outer: Points = [];
  const inner: number[][] = [];
  for (let i = 0; i <= 160; i++) {
    const a = (i / 160) * turns * 2 * Math.PI;
    const r = 4 + (a / (2 * Math.PI)) * pitch;
    outer.push((r + half) * Math.cos(a), (r + half) * Math.sin(a));
    inner.push([(r - half) * Math.cos(a), (r - half) * Math.sin(a)]);
  }
  return [[...outer, ...inner.reverse().flat()]];
}

function necked(random: () => number): Rings {
  const neck = 0.7 + random() * 1.5;
  const length = 4 + random() * 8;
  const r = 6 + random() * 5;
  const ring: Points = [];
  for (let i = 0; i <= 40; i++) {
    const a = Math.asin(neck / 2 / r) + (i / 40) * (2 * Math.PI - 2 * Math.asin(neck / 2 / r));
    ring.push(r * Math.cos(a), r * Math.sin(a));
  }
  const far = r * 2 + length;
  for (let i = 0; i <= 40; i++) {
    const a = Math.PI + Math.asin(neck / 2 / r) + (i / 40) * (2 * Math.PI - 2 * Math.asin(neck / 2 / r));
    ring.push(far + r * Math.cos(a), r * Math.sin(a));
  }
  return tidyRings([ring]);
}

/** Scripted shapes with holes, combs, spirals and necks, turned by chance; the same for the same seed. */
export function regions(count: number, seed: number): Region[] {
  const random = seededRandom(seed);
  const makers = { blob, holed, comb, spiral, necked };
  const names = Object.keys(makers) as (keyof typeof makers)[];
  return Array.from({ length: count }, (_, i) => {
    const name = names[i % names.length];
    const turn = random() * Math.PI;
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    const rings = makers[name](random).map((ring) =>
      ring.map((v, k) => (k % 2 === 0 ? v * c - ring[k + 1] * s : ring[k - 1] * s + v * c)),
    );
    return { name: `${name} ${i}`, rings };
  });
}
