import { seededRandom } from '../geometry/chance.js';
import { findComponents, saddleAt } from './components.js';
import { markLineParts, THIN_PART } from './line-parts.js';

const W = 200;
const H = 120;
const draw = (inside: (x: number, y: number) => boolean): Uint8Array => {
  const labels = new Uint8Array(W * H).fill(2);
  for (let i = 0; i < labels.length; i++) if (inside(i % W, Math.floor(i / W))) labels[i] = 1;
  return labels;
};
const disc = (x: number, y: number): boolean => (x - 50) ** 2 + (y - 60) ** 2 < 900;
const bar = (x: number, y: number): boolean => x >= 60 && x < 180 && Math.abs(y - 60) < 4;

describe('markLineParts', () => {
  it('tells a line from the solid area it runs into', () => {
    const labels = draw((x, y) => disc(x, y) || bar(x, y));
    const marked = markLineParts(labels, W, H, 12, 2);
    const at = (x: number, y: number): number => marked[y * W + x];
    expect(at(150, 60)).toBe(1 | THIN_PART);
    expect(at(50, 60)).toBe(1);
    expect(at(10, 10)).toBe(2);
    const line = marked.filter((label) => label & THIN_PART).length;
    expect(line).toBeGreaterThan(85 * 7);
    expect(line).toBeLessThan(105 * 7);
  });

  it('leaves alone what is thin or solid all over, and the corners of what is solid', () => {
    for (const inside of [disc, bar, (x: number, y: number) => x > 20 && x < 150 && y > 20 && y < 100]) {
      const labels = draw(inside);
      expect(markLineParts(labels, W, H, 12, 2)).toBe(labels);
    }
  });

  it('takes no strip of the ground for a line', () => {
    const labels = draw((x, y) => !bar(x, y) && !disc(x, y));
    expect(markLineParts(labels, W, H, 12, 2).some((label) => label & THIN_PART)).toBeFalse();
    expect(markLineParts(labels, W, H, 12, 0).some((label) => label & THIN_PART)).toBeTrue();
  });
});

describe('findComponents', () => {
  it('agrees with a flood from pixel to pixel', () => {
    const random = seededRandom(7);
    for (let round = 0; round < 120; round++) {
      const w = 2 + Math.floor(random() * 13);
      const h = 2 + Math.floor(random() * 13);
      const labels = new Uint8Array(w * h).map(() => Math.floor(random() * (2 + (round % 3))));
      const parts = findComponents(labels, w, h);
      const of = flood(labels, w, h);
      expect([...parts.of])
        .withContext(`round ${round}`)
        .toEqual(of);
      for (let c = 0; c < parts.count; c++) expect(parts.area[c]).toBe(of.filter((v) => v === c).length);
    }
  });
});

function flood(labels: Uint8Array, w: number, h: number): number[] {
  const of = new Array<number>(w * h).fill(-1);
  let count = 0;
  for (let first = 0; first < labels.length; first++) {
    if (of[first] >= 0) continue;
    const open = [first];
    of[first] = count;
    for (let p = open.pop(); p !== undefined; p = open.pop()) {
      const x = p % w;
      const y = (p - x) / w;
      for (let dy = -1; dy <= 1; dy++) {
        for (let dx = -1; dx <= 1; dx++) {
          const [xx, yy] = [x + dx, y + dy];
          if (xx < 0 || yy < 0 || xx >= w || yy >= h) continue;
          const q = yy * w + xx;
          if (of[q] >= 0 || labels[q] !== labels[p]) continue;
          const across = dx !== 0 && dy !== 0;
          if (across && saddleAt(labels, w, h, Math.max(x, xx), Math.max(y, yy)) !== (dx === dy ? 1 : 2)) continue;
          of[q] = count;
          open.push(q);
        }
      }
    }
    count++;
  }
  return of;
}
