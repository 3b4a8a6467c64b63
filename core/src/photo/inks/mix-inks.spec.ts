import { METRIC, writeMetric } from '../../colour/colour-metric.js';
import { seededRandom } from '../../geometry/chance.js';
import { InkMixer, leastShare, type Inks } from './mix-inks.js';

const WHITE = Float32Array.from([0.9, 0.88, 0.82]);
const INKS: Inks = {
  // Yellow, red, blue and black as they lie on the cloth.
  colours: Float32Array.from([0.75, 0.52, 0.03, 0.52, 0.02, 0.02, 0.03, 0.22, 0.43, 0.02, 0.02, 0.02]),
  most: 2.6,
  least: 0.35,
};

/** Shares and cost of a set for a colour. */
function solved(wanted: readonly number[], set: number, inks = INKS): { shares: number[]; cost: number } {
  const metric = new Float32Array(METRIC);
  writeMetric(wanted[0], wanted[1], wanted[2], metric, 0);
  const mixer = new InkMixer(inks);
  const cost = mixer.solve(set, WHITE, Float32Array.from(wanted), 0, metric, 8);
  return { shares: [...mixer.shares], cost };
}

const bestOf = (wanted: readonly number[]): number => {
  const costs = Array.from({ length: 16 }, (_, set) => solved(wanted, set).cost);
  return costs.indexOf(Math.min(...costs));
};

describe('mixing of inks', () => {
  it('uses no ink for the cloth itself, and one alone for its own colour', () => {
    expect(bestOf([...WHITE])).toBe(0);
    for (let k = 0; k < 4; k++) {
      const own = [...INKS.colours.subarray(k * 3, k * 3 + 3)];
      const { shares } = solved(own, 1 << k);
      expect(shares[k]).withContext(String(k)).toBeGreaterThan(0.97);
    }
    expect(bestOf([0.52, 0.02, 0.02])).toBe(2);
    expect(bestOf([0.02, 0.02, 0.02])).toBe(8);
  });

  it('keeps shares between the least a row covers and all, and others at nothing', () => {
    const random = seededRandom(77);
    for (let n = 0; n < 300; n++) {
      const set = Math.floor(random() * 16);
      const { shares, cost } = solved([random(), random(), random()], set);
      expect(Number.isFinite(cost)).toBeTrue();
      shares.forEach((share, k) => {
        if ((set >> k) & 1) {
          expect(share).toBeGreaterThanOrEqual(INKS.least);
          expect(share).toBeLessThanOrEqual(1);
        } else expect(share).toBe(0);
      });
    }
  });

  it('finds shares that no small change of one makes better by more than turns that end early leave', () => {
    const random = seededRandom(5);
    for (let n = 0; n < 60; n++) {
      const wanted = [random() * 0.8, random() * 0.8, random() * 0.8];
      const set = 1 + Math.floor(random() * 15);
      const metric = new Float32Array(METRIC);
      writeMetric(wanted[0], wanted[1], wanted[2], metric, 0);
      const { shares } = solved(wanted, set);
      // What the turns make least: the difference, and half a unit a share.
      const costOf = (tried: readonly number[]): number => {
        const seen = [...WHITE];
        tried.forEach((c, k) => {
          for (let j = 0; j < 3; j++) seen[j] += c * (INKS.colours[k * 3 + j] - seen[j]);
        });
        const [x, y, z] = seen.map((v, j) => v - wanted[j]);
        const [a, b, c, d, e, f] = metric;
        const square = a * x * x + d * y * y + f * z * z + 2 * (b * x * y + c * x * z + e * y * z);
        return square + 0.5 * tried.reduce((sum, v) => sum + v, 0);
      };
      const now = costOf(shares);
      shares.forEach((share, k) => {
        if (!((set >> k) & 1)) return;
        for (const step of [-0.05, 0.05]) {
          const moved = Math.min(1, Math.max(INKS.least, share + step));
          expect(costOf(shares.with(k, moved)))
            .withContext(`${wanted.join()} set ${set} ink ${k}`)
            .toBeGreaterThan(now * 0.997 - 0.05);
        }
      });
    }
  });

  it('does not lay more layers at a place than are allowed where that costs little', () => {
    const few = { ...INKS, most: 1.2 };
    const dark = [0.05, 0.03, 0.03];
    const costs = Array.from({ length: 16 }, (_, set) => solved(dark, set, few));
    const best = costs.reduce((a, b) => (b.cost < a.cost ? b : a));
    expect(best.shares.reduce((sum, v) => sum + v, 0)).toBeLessThan(1.45);
  });

  it('knows what one line covers of the distance of rows', () => {
    expect(leastShare(1.2)).toBeCloseTo(0.35, 2);
    expect(leastShare(0.3)).toBe(0.9);
  });
});
