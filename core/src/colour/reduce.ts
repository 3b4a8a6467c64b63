import type { Shades } from './histogram.js';

/** Result of a reduction: centres in stretched OKLab and, for each shade, the centre it went to. */
export interface Reduction {
  readonly centres: Float32Array;
  readonly assigned: Uint8Array;
  readonly count: number;
}

const MEAN_ROUNDS = 12;
const MEDIAN_ROUNDS = 15;

/**
 * Reduces weighted shades to at most `count` colours: a deterministic seed by splitting along the principal
 * axis (Orchard and Bouman 1991), weighted k-means (Lloyd 1982), then geometric medians (Weiszfeld 1937), which
 * keep small saturated areas from being pulled grey by large ones.
 * @param fixed centres that stay where they are, three numbers each; they come first and count as colours
 * @throws RangeError if `count` is not a whole number from 1 to 255.
 */
export function reduce(shades: Shades, count: number, fixed: ArrayLike<number> = []): Reduction {
  if (!Number.isInteger(count) || count < 1 || count > 255) {
    throw new RangeError(`reduce: count must be a whole number from 1 to 255, got ${count}`);
  }
  const assigned = new Uint8Array(shades.count);
  if (shades.count === 0) return { centres: new Float32Array(0), assigned, count: 0 };
  const pinned = Math.min(fixed.length / 3, count);
  const free = Math.min(count - pinned, shades.count);
  const seed = free > 0 ? splitSeed(shades, free) : [];
  const centres = Float32Array.from([...Array.from(fixed).slice(0, pinned * 3), ...seed]);
  const k = centres.length / 3;
  for (let round = 0; round < MEAN_ROUNDS; round++) {
    assign(shades, centres, assigned);
    weightedCentres(shades, centres, assigned, pinned, () => 1);
  }
  for (let round = 0; round < MEDIAN_ROUNDS; round++) {
    assign(shades, centres, assigned);
    moveToMedians(shades, centres, assigned, pinned);
  }
  assign(shades, centres, assigned);
  return { centres, assigned, count: k };
}

function assign(shades: Shades, centres: Float32Array, assigned: Uint8Array): void {
  const { place } = shades;
  for (let i = 0; i < shades.count; i++) {
    const x = place[i * 3];
    const y = place[i * 3 + 1];
    const z = place[i * 3 + 2];
    let best = Infinity;
    let at = 0;
    for (let c = 0; c < centres.length; c += 3) {
      const dx = x - centres[c];
      const dy = y - centres[c + 1];
      const dz = z - centres[c + 2];
      const d = dx * dx + dy * dy + dz * dz;
      if (d < best) {
        best = d;
        at = c;
      }
    }
    assigned[i] = at / 3;
  }
}

function moveToMedians(shades: Shades, centres: Float32Array, assigned: Uint8Array, pinned: number): void {
  const { place } = shades;
  const before = centres.slice();
  weightedCentres(shades, centres, assigned, pinned, (i, c) => {
    const dx = place[i * 3] - before[c * 3];
    const dy = place[i * 3 + 1] - before[c * 3 + 1];
    const dz = place[i * 3 + 2] - before[c * 3 + 2];
    return 1 / Math.max(1e-4, Math.sqrt(dx * dx + dy * dy + dz * dz));
  });
}

function weightedCentres(
  shades: Shades,
  centres: Float32Array,
  assigned: Uint8Array,
  pinned: number,
  factor: (shade: number, centre: number) => number,
): void {
  const sums = new Float64Array((centres.length / 3) * 4);
  for (let i = 0; i < shades.count; i++) {
    const c = assigned[i];
    const w = shades.weight[i] * factor(i, c);
    sums[c * 4] += w * shades.place[i * 3];
    sums[c * 4 + 1] += w * shades.place[i * 3 + 1];
    sums[c * 4 + 2] += w * shades.place[i * 3 + 2];
    sums[c * 4 + 3] += w;
  }
  for (let c = pinned; c < centres.length / 3; c++) {
    const w = sums[c * 4 + 3];
    if (w > 0) for (let j = 0; j < 3; j++) centres[c * 3 + j] = sums[c * 4 + j] / w;
  }
}

interface Group {
  readonly members: number[];
  readonly mean: number[];
  readonly axis: number[];
  /** Weighted variance along the axis: how much a split would gain. */
  readonly spread: number;
}

/** Splits the group with the largest spread at its mean, across its principal axis, until there are enough. */
function splitSeed(shades: Shades, count: number): Float32Array {
  const groups: Group[] = [
    describe(
      shades,
      Array.from({ length: shades.count }, (_, i) => i),
    ),
  ];
  while (groups.length < count) {
    let at = 0;
    for (let i = 1; i < groups.length; i++) if (groups[i].spread > groups[at].spread) at = i;
    const group = groups[at];
    if (group.spread <= 0) break;
    const low: number[] = [];
    const high: number[] = [];
    for (const i of group.members) {
      let side = 0;
      for (let j = 0; j < 3; j++) side += (shades.place[i * 3 + j] - group.mean[j]) * group.axis[j];
      (side < 0 ? low : high).push(i);
    }
    if (low.length === 0 || high.length === 0) {
      groups[at] = { ...group, spread: 0 };
      continue;
    }
    groups[at] = describe(shades, low);
    groups.push(describe(shades, high));
  }
  return Float32Array.from(groups.flatMap((g) => g.mean));
}

function describe(shades: Shades, members: number[]): Group {
  const mean = [0, 0, 0];
  let total = 0;
  for (const i of members) {
    const w = shades.weight[i];
    total += w;
    for (let j = 0; j < 3; j++) mean[j] += w * shades.place[i * 3 + j];
  }
  for (let j = 0; j < 3; j++) mean[j] /= total;
  const m = [0, 0, 0, 0, 0, 0];
  for (const i of members) {
    const w = shades.weight[i];
    const x = shades.place[i * 3] - mean[0];
    const y = shades.place[i * 3 + 1] - mean[1];
    const z = shades.place[i * 3 + 2] - mean[2];
    m[0] += w * x * x;
    m[1] += w * x * y;
    m[2] += w * x * z;
    m[3] += w * y * y;
    m[4] += w * y * z;
    m[5] += w * z * z;
  }
  // Power iteration: the largest of three eigenvectors, found closely enough in a few rounds.
  let axis = [1, 0.7, 0.4];
  let spread = 0;
  for (let round = 0; round < 24; round++) {
    const next = [
      m[0] * axis[0] + m[1] * axis[1] + m[2] * axis[2],
      m[1] * axis[0] + m[3] * axis[1] + m[4] * axis[2],
      m[2] * axis[0] + m[4] * axis[1] + m[5] * axis[2],
    ];
    spread = Math.sqrt(next[0] * next[0] + next[1] * next[1] + next[2] * next[2]);
    if (spread <= 1e-12) return { members, mean, axis, spread: 0 };
    axis = next.map((v) => v / spread);
  }
  return { members, mean, axis, spread: members.length > 1 ? spread : 0 };
}
