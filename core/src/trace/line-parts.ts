import { findComponents } from './components.js';
import { distanceMap, distanceTo } from './distance-map.js';

/** Bit of a label that marks the thin part of an area that is wide elsewhere. */
export const THIN_PART = 128;
/** The colour of a label, whichever part of an area it is. */
export const COLOUR_BITS = 127;

/** A thin part is a line if it is at least this many times as long as wide. */
const LEAST_LENGTHS = 3;

/** What is nowhere so many times wider than the widest line is no solid area with lines: strokes of letters are that uneven. */
const SOLID_TIMES = 2.6;

/**
 * Tells drawn lines from the solid areas of the same colour they run into: what an opening with a disc as wide as the
 * widest line takes away, if it is long. Such parts get a label of their own, so that they are traced as areas of
 * their own and sewn as lines.
 * @param labels 0 is bare; entries under 128
 * @param widest widest line, in pixels
 * @param ground label of the ground: the strips of it that show between things are no lines
 * @returns the labels, with `THIN_PART` set where a line is; the same array where there is none
 */
export function markLineParts(
  labels: Uint8Array,
  width: number,
  height: number,
  widest: number,
  ground: number,
): Uint8Array {
  const half = widest / 2;
  if (half < 1) return labels;
  const distances = distanceMap(labels, width, height);
  const core = new Uint8Array(labels.length);
  let any = false;
  for (let i = 0; i < labels.length; i++) {
    if (labels[i] !== 0 && distances[i] > half) {
      core[i] = 1;
      any = true;
    }
  }
  if (!any) return labels;
  const toCore = distanceTo(core, width, height);
  // The ball around a core pixel reaches no pixel of another label: those are half a pixel farther away.
  const solid = half + 0.5;
  // What is thin, by label; and whether its area is solid somewhere at all.
  const rest = new Uint8Array(labels.length);
  for (let i = 0; i < labels.length; i++) if (toCore[i] > solid && labels[i] !== ground) rest[i] = labels[i];
  const parts = findComponents(rest, width, height);
  const whole = findComponents(labels, width, height);
  const hasCore = new Uint8Array(whole.count);
  for (let i = 0; i < labels.length; i++) if (distances[i] > half * SOLID_TIMES && core[i]) hasCore[whole.of[i]] = 1;
  const deepest = new Float32Array(parts.count);
  const owner = new Int32Array(parts.count).fill(-1);
  for (let i = 0; i < labels.length; i++) {
    const part = parts.of[i];
    if (rest[i] === 0) continue;
    owner[part] = whole.of[i];
    if (distances[i] > deepest[part]) deepest[part] = distances[i];
  }
  const isLine = new Uint8Array(parts.count);
  let found = false;
  for (let part = 0; part < parts.count; part++) {
    if (owner[part] < 0 || !hasCore[owner[part]]) continue;
    const across = 2 * deepest[part];
    if (parts.area[part] < LEAST_LENGTHS * across * across || across < 1.5) continue;
    isLine[part] = 1;
    found = true;
  }
  if (!found) return labels;
  const out = new Uint8Array(labels);
  for (let i = 0; i < out.length; i++) if (rest[i] !== 0 && isLine[parts.of[i]]) out[i] |= THIN_PART;
  return out;
}
