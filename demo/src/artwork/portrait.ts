import { seededRandom } from '@open-kite/core';
import { render, type Thing } from './photo-like.js';
import { ball, carved, egg, joined, type Solid, type Vec } from './solids.js';

/** What a portrait looks like: a rendered head with hair in soft light before a coloured wall. Nobody's face. */
interface Sitter {
  readonly skin: Vec;
  readonly hair: Vec;
  readonly shirt: Vec;
  readonly wall: Vec;
  /** 0 short, 1 to the shoulders. */
  readonly long: number;
  readonly wide: number;
  readonly turn: number;
  readonly lamp: Vec;
}

const SKINS: readonly Vec[] = [
  [0.62, 0.4, 0.29],
  [0.5, 0.3, 0.2],
  [0.3, 0.165, 0.1],
  [0.68, 0.47, 0.37],
  [0.4, 0.23, 0.14],
];
const HAIRS: readonly Vec[] = [
  [0.03, 0.022, 0.018],
  [0.16, 0.08, 0.035],
  [0.42, 0.28, 0.12],
  [0.24, 0.07, 0.03],
  [0.4, 0.38, 0.36],
];
const SHIRTS: readonly Vec[] = [
  [0.08, 0.2, 0.36],
  [0.5, 0.09, 0.06],
  [0.7, 0.65, 0.52],
  [0.1, 0.26, 0.18],
];
const WALLS: readonly Vec[] = [
  [0.16, 0.3, 0.34],
  [0.5, 0.42, 0.3],
  [0.3, 0.16, 0.14],
  [0.2, 0.24, 0.14],
  [0.6, 0.6, 0.58],
];

function sitterOf(seed: number): Sitter {
  const random = seededRandom(seed * 7919 + 13);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  return {
    skin: pick(SKINS),
    hair: pick(HAIRS),
    shirt: pick(SHIRTS),
    wall: pick(WALLS),
    long: random(),
    wide: 0.9 + 0.2 * random(),
    turn: (random() - 0.5) * 1.1,
    lamp: [-4 + 2 * random(), 2.6 + 1.8 * random(), -4.6],
  };
}

/** What of a portrait is the face, from the eyes to the chin: left, top, right, bottom in shares of the picture. */
export const FACE: readonly [number, number, number, number] = [0.33, 0.32, 0.67, 0.72];

/** A portrait by number: others have another face, light and wall. */
export function portraitPixels(seed: number, side = 560): { width: number; height: number; data: Uint8Array } {
  const s = sitterOf(seed);
  const w = s.wide;
  const skull = egg([0, 0, 0], [0.8 * w, 1.12, 0.88]);
  const jaw = egg([0, -0.62, -0.28], [0.5 * w, 0.5, 0.5]);
  const nose = joined(egg([0, -0.12, -0.86], [0.1, 0.3, 0.18]), ball([0, -0.32, -0.9], 0.12), 0.14);
  const cheeks = joined(ball([-0.38 * w, -0.26, -0.58], 0.24), ball([0.38 * w, -0.26, -0.58], 0.24), 0.05);
  const brows = joined(
    egg([-0.3 * w, 0.24, -0.72], [0.24, 0.06, 0.12]),
    egg([0.3 * w, 0.24, -0.72], [0.24, 0.06, 0.12]),
    0.1,
  );
  const lips = joined(egg([0, -0.6, -0.76], [0.24, 0.055, 0.1]), egg([0, -0.7, -0.74], [0.2, 0.07, 0.1]), 0.03);
  const socket = (x: number): Solid => egg([x, 0.08, -0.92], [0.19, 0.11, 0.16]);
  const eyeball = (x: number): Solid => ball([x, 0.06, -0.66], 0.17);
  const mouth = egg([0, -0.65, -0.88], [0.17, 0.016, 0.09]);
  let face = [jaw, cheeks, brows].reduce((a, b) => joined(a, b, 0.24), skull);
  face = joined(joined(face, nose, 0.14), lips, 0.06);
  const [left, right] = [-0.31 * w, 0.31 * w];
  face = carved(
    [socket(left), socket(right)].reduce((a, b) => carved(a, b, 0.07), face),
    mouth,
    0.02,
  );
  const neck: Solid = (p) =>
    Math.sqrt(p[0] * p[0] + (p[2] - 0.08) ** 2) - 0.42 + Math.max(0, -p[1] - 3) + Math.max(0, p[1]);
  const head = joined(face, neck, 0.2);
  const shoulders = joined(egg([0, -2.25, 0.15], [1.6, 0.72, 0.7]), egg([0, -1.72, 0.1], [0.62, 0.34, 0.5]), 0.4);
  const cap = egg([0, 0.34, 0.16], [0.93 * w, 1.02, 0.96]);
  const fringe = egg([0, -0.06, -0.86], [0.74 * w, 0.6, 0.66]);
  const sides = egg([0, -0.9 * s.long, 0.3], [(0.96 + 0.1 * s.long) * w, 0.5 + 1.1 * s.long, 0.62]);
  const locks = (p: Vec): number =>
    0.02 * Math.sin(p[0] * 31 + p[1] * 6) + 0.012 * Math.sin(p[0] * 53 - p[1] * 11 + p[2] * 17);
  const mane = carved(joined(cap, sides, 0.25), fringe, 0.12);
  const hair: Solid = (p) => mane(p) + locks(p);
  const [sin, cos] = [Math.sin(s.turn * 0.5), Math.cos(s.turn * 0.5)];
  const turned =
    (solid: Solid): Solid =>
    (p) =>
      solid([p[0] * cos - p[2] * sin, p[1], p[0] * sin + p[2] * cos]);
  const back =
    (colour: (p: Vec) => Vec) =>
    (p: Vec): Vec =>
      colour([p[0] * cos - p[2] * sin, p[1], p[0] * sin + p[2] * cos]);
  const skin = (p: Vec): Vec => {
    if (p[1] > -0.8 && p[1] < -0.5 && p[2] < -0.5 && lips(p) < 0.02)
      return [s.skin[0] * 0.85, s.skin[1] * 0.45, s.skin[2] * 0.45];
    const brow = Math.min(
      ...[left, right].map((x) => ((p[0] - x) / 0.22) ** 2 + ((p[1] - 0.31 + 0.5 * (p[0] - x) ** 2) / 0.045) ** 2),
    );
    if (brow < 1 && p[2] < -0.3) return [s.hair[0] * 0.8 + 0.02, s.hair[1] * 0.8 + 0.015, s.hair[2] * 0.8 + 0.01];
    const flush = Math.exp(-((Math.abs(p[0]) - 0.42 * w) ** 2 + (p[1] + 0.28) ** 2) / 0.04) * (p[2] < -0.2 ? 1 : 0);
    return [s.skin[0] * (1 + 0.06 * flush), s.skin[1] * (1 - 0.16 * flush), s.skin[2] * (1 - 0.12 * flush)];
  };
  const eye =
    (x: number) =>
    (p: Vec): Vec => {
      const d = (p[0] - x) ** 2 + (p[1] - 0.06) ** 2;
      if (p[1] > 0.12) return [0.05, 0.035, 0.03];
      return d < 0.0016 ? [0.01, 0.01, 0.01] : d < 0.0074 ? [0.07, 0.06, 0.05] : [0.62, 0.58, 0.54];
    };
  const strands = (p: Vec): Vec => {
    const k = 0.8 + 0.3 * Math.sin(p[0] * 34 + p[1] * 7 + Math.sin(p[1] * 5) * 2);
    return [s.hair[0] * k, s.hair[1] * k, s.hair[2] * k];
  };
  const things: Thing[] = [
    { solid: turned(head), colour: back(skin), shine: 0.12 },
    { solid: turned(eyeball(left)), colour: back(eye(left)), shine: 0.8 },
    { solid: turned(eyeball(right)), colour: back(eye(right)), shine: 0.8 },
    { solid: turned(hair), colour: back(strands), shine: 0.25 },
    { solid: shoulders, colour: () => s.shirt, shine: 0.02 },
  ];
  return render(things, {
    width: side,
    height: side,
    eye: [0, -0.15, -6.2],
    goal: [0, -0.3, 0],
    wide: 0.33,
    lamp: s.lamp,
    lampColour: [1.35, 1.2, 1.02],
    skyColour: [0.34, 0.37, 0.42],
    behind: (x, y) => {
      const glow = 0.6 + 0.7 * Math.exp(-((x - 0.7) ** 2 + (y - 0.3) ** 2) / 0.3);
      return [s.wall[0] * glow, s.wall[1] * glow, s.wall[2] * glow];
    },
    seed: 2000 + seed,
  });
}
