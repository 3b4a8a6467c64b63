import { ringCoverage } from '../picture/coverage.js';
import { boundsOf } from '../geometry/polyline.js';
import type { Points } from '../geometry/vector.js';
import type { Boundaries } from './boundaries.js';
import { distanceMap } from './distance-map.js';

/** One area by itself as pixels, with a free frame around it. */
export interface AreaMask {
  readonly width: number;
  readonly height: number;
  /** 1 inside. */
  readonly inside: Uint8Array;
  /** Distance of every pixel's centre to the area's edge, in pixels. */
  readonly radius: Float32Array;
  /** Place of the mask's corner in the picture or in mm, and pixels for one unit there. */
  readonly left: number;
  readonly top: number;
  readonly scale: number;
  /** Pixels inside. */
  readonly area: number;
}

/**
 * A component of a label map.
 * @param distances distance map of the framed label map
 * @param place where the picture's corner lies, and pixels for one unit there
 */
export function maskOfComponent(
  bounds: Boundaries,
  component: number,
  distances: Float32Array,
  place = { left: 0, top: 0, scale: 1 },
): AreaMask {
  const { components } = bounds;
  const [left, top, right, bottom] = components.box.subarray(component * 4, component * 4 + 4);
  const width = right - left + 3;
  const height = bottom - top + 3;
  const inside = new Uint8Array(width * height);
  const radius = new Float32Array(width * height);
  for (let y = top; y <= bottom; y++) {
    for (let x = left; x <= right; x++) {
      const from = y * bounds.width + x;
      if (components.of[from] !== component) continue;
      const to = (y - top + 1) * width + (x - left + 1);
      inside[to] = 1;
      radius[to] = distances[from];
    }
  }
  // The label map has a frame of one pixel, and so has the mask.
  return {
    width,
    height,
    inside,
    radius,
    left: place.left + (left - 2) / place.scale,
    top: place.top + (top - 2) / place.scale,
    scale: place.scale,
    area: components.area[component],
  };
}

/** Pixels a mask of rings has at most. */
const MOST_PIXELS = 400_000;

/**
 * A shape in mm as pixels.
 * @param finest pixels for a millimetre; large shapes get fewer
 */
export function maskOfRings(rings: readonly Points[], finest: number): AreaMask {
  const box = boundsOf(rings);
  const size = Math.max(0.01, (box.right - box.left) * (box.bottom - box.top));
  const scale = Math.min(finest, Math.sqrt(MOST_PIXELS / size));
  const left = box.left - 1 / scale;
  const top = box.top - 1 / scale;
  const width = Math.ceil((box.right - left) * scale) + 2;
  const height = Math.ceil((box.bottom - top) * scale) + 2;
  const placed = rings.map((ring) => ring.map((v, i) => (v - (i % 2 === 0 ? left : top)) * scale));
  const coverage = ringCoverage(placed, width, height);
  const inside = new Uint8Array(width * height);
  let area = 0;
  for (let i = 0; i < inside.length; i++) if (coverage[i] >= 128) area += inside[i] = 1;
  return { width, height, inside, radius: distanceMap(inside, width, height), left, top, scale, area };
}

/** Distance to the edge at a place of the mask, in pixels; 0 outside. */
export function radiusAt(mask: AreaMask, x: number, y: number): number {
  const px = Math.floor(x);
  const py = Math.floor(y);
  if (px < 0 || py < 0 || px >= mask.width || py >= mask.height) return 0;
  const i = py * mask.width + px;
  return mask.inside[i] ? mask.radius[i] : 0;
}

/** Whether a place of the mask lies inside the area. */
export function isInMask(mask: AreaMask, x: number, y: number): boolean {
  const px = Math.floor(x);
  const py = Math.floor(y);
  return px >= 0 && py >= 0 && px < mask.width && py < mask.height && mask.inside[py * mask.width + px] === 1;
}

/** Points of the mask in the coordinates it was made from. */
export function fromMask(mask: AreaMask, points: Points): Points {
  return points.map((v, i) => v / mask.scale + (i % 2 === 0 ? mask.left : mask.top));
}

/** The pixel of the mask that is farthest from the edge. */
export function deepest(mask: AreaMask): { x: number; y: number; radius: number } {
  let at = 0;
  let most = -1;
  for (let i = 0; i < mask.inside.length; i++) {
    if (mask.inside[i] && mask.radius[i] > most) {
      most = mask.radius[i];
      at = i;
    }
  }
  return { x: (at % mask.width) + 0.5, y: Math.floor(at / mask.width) + 0.5, radius: Math.max(0, most) };
}
