import { ACROSS } from './threads.js';

/** Half the width of a drawn thread. */
const RADIUS_MM = 0.2;
/** Width of the shadow a thread casts on what lies below, and how dark it is at most towards the light and away. */
const SHADOW_MM = 0.16;
const SHADOW_NEAR = 0.1;
const SHADOW_FAR = 0.17;
/** How far from its middle line a thread changes pixels. */
export const REACH_MM = RADIUS_MM + SHADOW_MM;
/** Entries of a profile a pixel. */
export const PER_PIXEL = 64;
/** Entries beyond the reach on each side: rounding may lead there. */
const SPARE = 4;

/**
 * What a thread does to pixels by their distance from its middle line, as seen at one scale. An entry says in 256ths
 * how much light its shadow leaves on what lies below (bits 0 to 8) and how much the thread covers of it (bits 9 to 17),
 * and which place across the shade table is seen (from bit 18).
 */
export interface ThreadProfile {
  readonly scale: number;
  /** Half the thread, and half the thread with its shadow, in pixels. */
  readonly radius: number;
  readonly reach: number;
  /** Where the entries' middle lies, in pixels from the first: a little over the reach. */
  readonly middle: number;
  /** Entries from -middle to middle, for threads whose far side from the light is at positive or at negative places. */
  readonly farAbove: Int32Array;
  readonly farBelow: Int32Array;
}

let latest: ThreadProfile | undefined;

/** Profile of a thread at a scale in px/mm. */
export function threadProfile(scale: number): ThreadProfile {
  if (latest?.scale !== scale) {
    const radius = RADIUS_MM * scale;
    const reach = REACH_MM * scale;
    const count = 2 * (Math.ceil(reach * PER_PIXEL) + SPARE);
    const middle = count / 2 / PER_PIXEL;
    const profile = (below: number, above: number): Int32Array =>
      Int32Array.from({ length: count }, (_, i) => {
        const v = (i + 0.5) / PER_PIXEL - middle;
        return entry(v, radius, reach, v > 0 ? above : below);
      });
    const farAbove = profile(SHADOW_NEAR, SHADOW_FAR);
    latest = { scale, radius, reach, middle, farAbove, farBelow: profile(SHADOW_FAR, SHADOW_NEAR) };
  }
  return latest;
}

function entry(v: number, radius: number, reach: number, shadow: number): number {
  const inside = radius - Math.abs(v) + 0.5;
  const cover = Math.round(Math.min(1, Math.max(0, inside)) * 256);
  const strength = inside > 0 ? 0 : Math.max(0, 1 - (Math.abs(v) - radius) / (reach - radius));
  const keep = Math.round(256 - shadow * strength * 256);
  const place = Math.min(ACROSS - 1, Math.max(0, Math.floor(((v + radius) / (2 * radius)) * ACROSS)));
  return keep | (cover << 9) | (place << 18);
}
