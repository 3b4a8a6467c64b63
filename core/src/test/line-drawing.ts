import { seededRandom } from '../geometry/chance.js';
import { distanceToSegment } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';

/** Samples a pixel has each way. */
const SAMPLES = 4;

/** A drawing of lines whose true middles are known. */
export interface LineDrawing {
  /** 1 where there is ink; for `drawSmooth`. */
  readonly scene: (x: number, y: number) => number;
  /** Middles of the lines, in pixels, with their widths. */
  readonly lines: readonly { readonly points: Points; readonly width: number }[];
  /** The solid disc that one of the lines runs into: there is no middle of a line in it. */
  readonly solid: { readonly x: number; readonly y: number; readonly r: number };
}

/**
 * Draws lines by chance: bends, rings, strokes that cross and strokes that run into solid areas of the same ink.
 * @param size side of the picture in pixels
 */
export function lineDrawing(size: number, seed: number): LineDrawing {
  const random = seededRandom(seed);
  const within = (): number => size * (0.12 + random() * 0.76);
  const width = (): number => 4 + random() * 7;
  const lines: { points: Points; width: number }[] = [];
  const bend = (): Points => {
    const [x0, y0, x1, y1] = [within(), within(), within(), within()];
    const lean = (random() - 0.5) * size * 0.3;
    const points: Points = [];
    for (let i = 0; i <= 60; i++) {
      const t = i / 60;
      const bulge = 4 * t * (1 - t) * lean;
      const length = Math.sqrt((x1 - x0) ** 2 + (y1 - y0) ** 2) || 1;
      points.push(x0 + (x1 - x0) * t - ((y1 - y0) / length) * bulge, y0 + (y1 - y0) * t + ((x1 - x0) / length) * bulge);
    }
    return points;
  };
  for (let i = 0; i < 3; i++) lines.push({ points: bend(), width: width() });
  const [cx, cy, r] = [within(), within(), size * (0.06 + random() * 0.08)];
  const ring: Points = [];
  for (let i = 0; i <= 90; i++)
    ring.push(cx + r * Math.cos((i / 90) * 2 * Math.PI), cy + r * Math.sin((i / 90) * 2 * Math.PI));
  lines.push({ points: ring, width: width() });
  // A solid disc with a stroke that runs into it.
  const disc = { x: within(), y: within(), r: size * (0.05 + random() * 0.05) };
  const turn = random() * 2 * Math.PI;
  const far = size * (0.2 + random() * 0.15);
  const tail: Points = [];
  for (let i = 0; i <= 40; i++) {
    const d = disc.r * 0.9 + ((far - disc.r * 0.9) * i) / 40;
    tail.push(disc.x + d * Math.cos(turn), disc.y + d * Math.sin(turn));
  }
  lines.push({ points: tail.map((v) => Math.max(8, Math.min(size - 8, v))), width: width() });
  // Ink is laid down once on a fine grid: asking every sample about every line would take minutes.
  const fine = size * SAMPLES;
  const ink = new Uint8Array(fine * fine);
  const stamp = (points: Points, reach: number): void => {
    for (let i = 2; i < points.length; i += 2) {
      const [ax, ay, bx, by] = points.slice(i - 2, i + 2);
      const from = (v: number): number => Math.max(0, Math.floor((v - reach) * SAMPLES));
      const to = (v: number): number => Math.min(fine - 1, Math.ceil((v + reach) * SAMPLES));
      for (let y = from(Math.min(ay, by)); y <= to(Math.max(ay, by)); y++) {
        for (let x = from(Math.min(ax, bx)); x <= to(Math.max(ax, bx)); x++) {
          const [px, py] = [(x + 0.5) / SAMPLES, (y + 0.5) / SAMPLES];
          if (distanceToSegment(px, py, ax, ay, bx, by) < reach) ink[y * fine + x] = 1;
        }
      }
    }
  };
  for (const { points, width: w } of lines) stamp(points, w / 2);
  stamp([disc.x, disc.y, disc.x, disc.y], disc.r);
  return { lines, solid: disc, scene: (x, y) => ink[Math.floor(y * SAMPLES) * fine + Math.floor(x * SAMPLES)] };
}
