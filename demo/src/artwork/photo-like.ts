import { seededRandom } from '@open-kite/core';
import {
  ball,
  carved,
  dot,
  egg,
  joined,
  lampSeen,
  normalAt,
  openness,
  plus,
  turned,
  unit,
  walk,
  type Solid,
  type Vec,
} from './solids.js';

export interface Thing {
  readonly solid: Solid;
  /** Linear colour at a place. */
  readonly colour: (p: Vec) => Vec;
  readonly shine: number;
}

interface View {
  readonly width: number;
  readonly height: number;
  readonly eye: Vec;
  readonly goal: Vec;
  /** Half the picture's width at a distance of one. */
  readonly wide: number;
  readonly lamp: Vec;
  readonly lampColour: Vec;
  readonly skyColour: Vec;
  readonly behind: (x: number, y: number) => Vec;
  readonly seed: number;
}

/** Bytes of sRGB from linear light, with a soft shoulder. */
const tone = (v: number): number => {
  const t = v / (1 + 0.22 * v);
  return 255 * (t <= 0.0031308 ? t * 12.92 : 1.055 * t ** (1 / 2.4) - 0.055);
};

/** Renders things lit by one broad lamp and the sky, with shadows, and the grain of a camera. */
export function render(things: readonly Thing[], view: View): { width: number; height: number; data: Uint8Array } {
  const { width, height, eye } = view;
  const random = seededRandom(view.seed);
  const all: Solid = (p) => {
    let least = Infinity;
    for (const { solid } of things) least = Math.min(least, solid(p));
    return least;
  };
  const forward = unit(plus(view.goal, eye, -1));
  const right = unit([forward[2], 0, -forward[0]]);
  const up: Vec = [
    forward[1] * right[2] - forward[2] * right[1],
    forward[2] * right[0] - forward[0] * right[2],
    forward[0] * right[1] - forward[1] * right[0],
  ];
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const sx = ((x + 0.5) / width - 0.5) * 2 * view.wide;
      const sy = ((0.5 - (y + 0.5) / height) * 2 * view.wide * height) / width;
      const along = unit(plus(plus(forward, right, sx), up, sy));
      const hit = walk(all, eye, along);
      let c = view.behind(x / width, y / height);
      if (hit) {
        const thing = things.reduce((a, b) => (b.solid(hit) < a.solid(hit) ? b : a));
        const n = normalAt(all, hit);
        const toLamp = unit(plus(view.lamp, hit, -1));
        const lit = Math.max(0, dot(n, toLamp)) * lampSeen(all, plus(hit, n, 0.02), toLamp, 0.16);
        const open = openness(all, hit, n);
        const half = unit(plus(toLamp, along, -1));
        const glint = thing.shine * Math.max(0, dot(n, half)) ** 40 * lit;
        const own = thing.colour(hit);
        const sky = (0.5 + 0.5 * n[1]) * open;
        c = [0, 1, 2].map(
          (j) => own[j] * (view.lampColour[j] * lit + view.skyColour[j] * sky) + view.lampColour[j] * glint,
        ) as unknown as Vec;
      }
      const corner = (x / width - 0.5) ** 2 + (y / height - 0.5) ** 2;
      const grain = (random() + random() - 1) * 6;
      for (let j = 0; j < 3; j++) {
        data[(y * width + x) * 3 + j] = Math.min(255, Math.max(0, Math.round(tone(c[j] * (1 - 0.6 * corner)) + grain)));
      }
    }
  }
  return { width, height, data };
}

const plain =
  (r: number, g: number, b: number): ((p: Vec) => Vec) =>
  () => [r, g, b];

/** Pears, a jug and a lantern on a folded tablecloth, lit from a window. */
export function stillLifePixels(): { width: number; height: number; data: Uint8Array } {
  const folds = (x: number, z: number): number =>
    0.035 * Math.sin(x * 3.1 + Math.sin(z * 1.7) * 1.3) + 0.02 * Math.sin(z * 5.3 + x);
  const table: Solid = (p) => (p[1] - folds(p[0], p[2])) * 0.9;
  const stripes = (p: Vec): Vec => {
    const band = Math.abs((((p[0] * 1.4 + 10) % 1) + 1) % 1);
    return band < 0.22 ? [0.12, 0.2, 0.36] : [0.72, 0.68, 0.58];
  };
  const pear = (x: number, z: number, size: number): Solid =>
    joined(ball([x, 0.42 * size, z], 0.42 * size), ball([x + 0.08 * size, 0.98 * size, z], 0.2 * size), 0.5 * size);
  const jug = turned(-0.95, 0.75, 0, 1.9, (t) => 0.34 + 0.3 * Math.sin(t * 2.6) - 0.12 * t);
  const handle: Solid = (p) => {
    const [dx, dy, dz] = [p[0] + 0.28, p[1] - 1.15, p[2] - 0.75];
    return Math.sqrt((Math.sqrt(dx * dx + dy * dy) - 0.34) ** 2 + dz * dz) - 0.075;
  };
  const lantern = egg([1.35, 0.62, 0.95], [0.55, 0.62, 0.55]);
  const blush = (p: Vec): Vec => {
    const k = Math.min(1, Math.max(0, 0.5 + 1.4 * (p[0] - 0.05) + 0.5 * Math.sin(p[1] * 9) * 0.2));
    return [0.5 + 0.1 * k, 0.42 - 0.3 * k, 0.06];
  };
  const ribs = (p: Vec): Vec => {
    const k = 0.85 + 0.15 * Math.cos((p[1] - 0.62) * 38);
    return [0.78 * k, 0.17 * k, 0.07 * k];
  };
  return render(
    [
      { solid: table, colour: stripes, shine: 0 },
      { solid: pear(0.1, 0.1, 0.95), colour: blush, shine: 0.35 },
      { solid: pear(0.85, -0.35, 0.75), colour: plain(0.42, 0.44, 0.08), shine: 0.3 },
      { solid: joined(jug, handle, 0.12), colour: plain(0.1, 0.28, 0.32), shine: 0.9 },
      { solid: lantern, colour: ribs, shine: 0.12 },
    ],
    {
      width: 640,
      height: 640,
      eye: [0.15, 2.3, -4.4],
      goal: [0.15, 0.62, 0.4],
      wide: 0.4,
      lamp: [-5, 5.5, -3.2],
      lampColour: [1.25, 1.08, 0.84],
      skyColour: [0.2, 0.25, 0.36],
      behind: (x, y) => [0.16 - 0.1 * x, 0.13 - 0.06 * y - 0.04 * x, 0.1],
      seed: 517,
    },
  );
}

/** A carved wooden carnival mask before a dark wall: soft shades like those of a face. */
export function maskPixels(): { width: number; height: number; data: Uint8Array } {
  const head = egg([0, 0, 0], [0.92, 1.25, 0.75]);
  const nose = joined(egg([0, -0.1, -0.78], [0.15, 0.42, 0.26]), ball([0, -0.38, -0.84], 0.17), 0.2);
  const cheeks = joined(ball([-0.46, -0.28, -0.44], 0.3), ball([0.46, -0.28, -0.44], 0.3), 0.05);
  const brow = egg([0, 0.42, -0.56], [0.68, 0.12, 0.22]);
  const lips = joined(egg([0, -0.66, -0.64], [0.3, 0.07, 0.12]), egg([0, -0.79, -0.6], [0.24, 0.08, 0.12]), 0.05);
  const chin = ball([0, -1.02, -0.42], 0.24);
  const solid = [cheeks, brow, chin].reduce((a, b) => joined(a, b, 0.32), head);
  const face = joined(joined(solid, nose, 0.16), lips, 0.06);
  const eye = (x: number): Solid => egg([x, 0.18, -0.78], [0.2, 0.1, 0.24]);
  const mouth = egg([0, -0.72, -0.78], [0.26, 0.022, 0.2]);
  const shape = [eye(-0.36), eye(0.36), mouth].reduce((a, b) => carved(a, b, 0.05), face);
  const colour = (p: Vec): Vec => {
    const rings = 0.5 + 0.5 * Math.sin(p[1] * 17 + Math.sin(p[0] * 4) * 1.5);
    const base: Vec = [0.62 - 0.06 * rings, 0.34 - 0.05 * rings, 0.19 - 0.04 * rings];
    const onLips = lips(p) < 0.03;
    const flushed = Math.exp(-((Math.abs(p[0]) - 0.5) ** 2 + (p[1] + 0.3) ** 2) / 0.05);
    if (onLips) return [0.5, 0.1, 0.09];
    // A painted band across the brow, as of a kite flyer.
    if (p[1] > 0.62 && p[1] < 0.86) return [0.09, 0.3, 0.34];
    return [base[0] + 0.08 * flushed, base[1] - 0.1 * flushed, base[2] - 0.06 * flushed];
  };
  const inside = egg([0, 0, 0.1], [0.8, 1.1, 0.6]);
  const sail = (x: number, y: number, lean: number): Solid => {
    const [sin, cos] = [Math.sin(lean), Math.cos(lean)];
    return (p) => {
      const u = (p[0] - x) * cos - (p[1] - y) * sin;
      const v = (p[0] - x) * sin + (p[1] - y) * cos;
      const flat = (Math.abs(u) / 0.3 + Math.abs(v) / (v > 0 ? 0.34 : 0.5) - 1) * 0.24;
      return Math.max(flat, Math.abs(p[2] - 0.1 + 0.12 * Math.abs(u)) - 0.035);
    };
  };
  return render(
    [
      { solid: shape, colour, shine: 0.25 },
      { solid: inside, colour: plain(0.02, 0.015, 0.012), shine: 0 },
      { solid: sail(0, 1.52, 0), colour: plain(0.72, 0.62, 0.4), shine: 0.1 },
      { solid: sail(-0.55, 1.3, -0.5), colour: plain(0.6, 0.12, 0.08), shine: 0.1 },
      { solid: sail(0.55, 1.3, 0.5), colour: plain(0.6, 0.12, 0.08), shine: 0.1 },
    ],
    {
      width: 640,
      height: 640,
      eye: [0.7, 0.4, -5],
      goal: [0, 0.34, 0],
      wide: 0.36,
      lamp: [-3.4, 3.6, -4.5],
      lampColour: [1.5, 1.28, 1.02],
      skyColour: [0.12, 0.16, 0.24],
      behind: (x, y) => {
        const glow = Math.exp(-((x - 0.62) ** 2 + (y - 0.5) ** 2) / 0.16);
        return [0.015 + 0.03 * glow, 0.022 + 0.04 * glow, 0.035 + 0.06 * glow];
      },
      seed: 933,
    },
  );
}
