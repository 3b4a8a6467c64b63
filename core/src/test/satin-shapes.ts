import { seededRandom } from '../geometry/chance.js';
import { subtract, thicken, tidyRings, unite, type Rings } from '../geometry/polygons.js';
import type { Points } from '../geometry/vector.js';
import { ellipse, type Region } from './regions.js';

const PEN = { cap: 'butt', join: 'miter', miterLimit: 3 } as const;
const ROUND = { cap: 'round', join: 'round', miterLimit: 2 } as const;
/** Strokes of the letters are this share of their height wide. */
const STROKE = 0.17;

/** Part of an ellipse as a run of points; degrees, clockwise on the screen. */
function arc(cx: number, cy: number, rx: number, ry: number, from: number, to: number): Points {
  const steps = Math.max(8, Math.ceil(Math.abs(to - from) / 6));
  const out: Points = [];
  for (let i = 0; i <= steps; i++) {
    const a = ((from + ((to - from) * i) / steps) * Math.PI) / 180;
    out.push(cx + rx * Math.cos(a), cy + ry * Math.sin(a));
  }
  return out;
}

/** Strokes of letters on a field 1 high. */
const LETTERS: Readonly<Record<string, readonly Points[]>> = {
  G: [[...arc(0.4, 0.5, 0.36, 0.42, -48, -335), 0.74, 0.52, 0.46, 0.52]],
  A: [
    [0.02, 0.98, 0.38, 0.06, 0.74, 0.98],
    [0.17, 0.64, 0.59, 0.64],
  ],
  S: [[...arc(0.35, 0.29, 0.25, 0.21, -25, -270), ...arc(0.35, 0.71, 0.27, 0.21, -90, 155).slice(2)]],
  R: [
    [0.1, 1, 0.1, 0.09, 0.36, 0.09, ...arc(0.36, 0.3, 0.24, 0.21, -80, 90), 0.1, 0.51],
    [0.34, 0.53, 0.64, 1],
  ],
  '&': [
    [
      0.78,
      0.98,
      0.28,
      0.4,
      ...arc(0.36, 0.24, 0.15, 0.16, 150, 420),
      0.24,
      0.52,
      ...arc(0.3, 0.73, 0.22, 0.19, 235, 80),
      0.58,
      0.78,
      0.72,
      0.52,
    ],
  ],
  8: [arc(0.35, 0.29, 0.21, 0.21, 90, 450), arc(0.35, 0.71, 0.26, 0.21, -90, 270)],
  K: [
    [0.1, 0, 0.1, 1],
    [0.66, 0.04, 0.12, 0.58],
    [0.3, 0.4, 0.68, 1],
  ],
  B: [
    [0.1, 0.09, 0.38, 0.09, ...arc(0.38, 0.29, 0.2, 0.2, -80, 90), 0.1, 0.49],
    [0.1, 0.02, 0.1, 0.98],
    [0.1, 0.49, 0.42, 0.49, ...arc(0.42, 0.7, 0.23, 0.21, -80, 90), 0.1, 0.91],
  ],
};

/** Letters, a ring, a crescent, a star and a drop of some height in mm. */
export function letterShapes(heightMm: number): Region[] {
  const scaled = (rings: Rings): Rings => rings.map((ring) => ring.map((v) => v * heightMm));
  const letters = Object.entries(LETTERS).map(([name, strokes]): Region => {
    const parts = strokes.map((run) => thicken([run], STROKE, false, PEN));
    return { name, rings: scaled(parts.reduce((all, part) => unite(all, part))) };
  });
  const star: Points = [];
  for (let i = 0; i < 10; i++) {
    const r = i % 2 === 0 ? 0.5 : 0.21;
    star.push(0.5 + r * Math.sin((i * Math.PI) / 5), 0.5 - r * Math.cos((i * Math.PI) / 5));
  }
  const drop = [0.5, 0, ...arc(0.5, 0.68, 0.3, 0.3, -28, 208)];
  const others: Record<string, Rings> = {
    ring: [ellipse(0.5, 0.5, 0.48, 0.48), ellipse(0.5, 0.5, 0.31, 0.31)],
    crescent: subtract([ellipse(0.5, 0.5, 0.48, 0.48)], [ellipse(0.72, 0.42, 0.4, 0.4)]),
    star: [star],
    drop: [drop],
  };
  return [...letters, ...Object.entries(others).map(([name, rings]) => ({ name, rings: scaled(rings) }))];
}

type Maker = (random: () => number) => Rings;

const MAKERS: Readonly<Record<string, Maker>> = {
  bend: (random) => thicken([wander(random, 4 + Math.floor(random() * 4), 9)], 1.2 + random() * 3.4, false, ROUND),
  angle: (random) => {
    const width = 1.4 + random() * 2.4;
    const run = [0, 0, 9 + random() * 6, random() * 4, 10 + random() * 8, 10 + random() * 8];
    return thicken([run], width, false, PEN);
  },
  fork: (random) => {
    const width = 1.4 + random() * 2;
    const [x, y] = [8 + random() * 4, random() * 3];
    const branch = thicken([[x, y, x + 6 + random() * 4, y + 7 + random() * 4]], width, false, PEN);
    return unite(thicken([[0, 0, x, y, x + 9, y - 5 - random() * 4]], width, false, { ...PEN, join: 'round' }), branch);
  },
  blade: (random) => {
    const [length, width, lean] = [14 + random() * 12, 2 + random() * 3.5, (random() - 0.5) * 8];
    const [upper, lower]: Points[] = [[], []];
    for (let i = 0; i <= 30; i++) {
      const t = i / 30;
      const middle = 4 * t * (1 - t) * lean;
      const half = (width / 2) * Math.sqrt(Math.max(0.02, Math.sin(Math.PI * t)));
      upper.push(t * length, middle - half);
      lower.unshift(t * length, middle + half);
    }
    return tidyRings([[...upper, ...lower]]);
  },
  ring: (random) => {
    const [r, width] = [5 + random() * 6, 1.4 + random() * 3];
    const off = random() * width * 0.25;
    return [ellipse(0, 0, r, r * (0.8 + random() * 0.2)), ellipse(off, 0, r - width, (r - width) * 0.85)];
  },
  crescent: (random) => {
    const r = 6 + random() * 5;
    return subtract([ellipse(0, 0, r, r)], [ellipse(r * (0.5 + random() * 0.2), 0, r * 0.85, r * 0.85)]);
  },
};

function wander(random: () => number, points: number, reach: number): Points {
  const out: Points = [0, 0];
  let heading = random() * 6;
  for (let i = 1; i < points * 6; i++) {
    heading += (random() - 0.5) * 0.5;
    const step = reach / 8;
    out.push(out[i * 2 - 2] + step * Math.cos(heading), out[i * 2 - 1] + step * Math.sin(heading));
  }
  return out;
}

/** Shapes a person would sew as satin: bends, angles, forks, blades, rings, crescents; the same for the same seed. */
export function satinRegions(count: number, seed: number): Region[] {
  const random = seededRandom(seed);
  const names = Object.keys(MAKERS);
  return Array.from({ length: count }, (_, i) => {
    const name = names[i % names.length];
    return { name: `${name} ${i}`, rings: MAKERS[name](random) };
  });
}
