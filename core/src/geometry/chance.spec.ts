import { seededRandom } from './chance.js';

describe('seededRandom', () => {
  it('repeats itself for the same seed and spreads evenly', () => {
    const [a, b] = [seededRandom(3), seededRandom(3)];
    let sum = 0;
    for (let i = 0; i < 2000; i++) {
      const v = a();
      expect(v).toBe(b());
      sum += v;
    }
    expect(sum / 2000).toBeCloseTo(0.5, 1);
  });
});
