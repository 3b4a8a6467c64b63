import { likenessOf } from '../sewn-look/likeness.js';
import { JUMP, STITCH, StitchWriter } from '../sequence/stitch-list.js';
import { softScene } from '../test/photo-like.js';
import { formFlow, drawnFlow } from './flow.js';
import { layLattice } from './lattice.js';
import { toEnd } from '../geometry/pauses.js';
import { mixPalette } from './palette.js';
import type { PaletteThread } from './palette-thread.js';
import { plateOf } from './plate.js';
import { paintThreads, type Painting, type PaintingSettings } from './thread-painting.js';
import { sewnColours } from './sewn-colour.js';
import { linearToLab } from '../colour/ciede2000.js';
import { fromHex, LINEAR } from '../colour/srgb.js';

const BOX = { left: -20, top: -15, width: 40, height: 30 };
const picture = softScene(320, 240);
const plate = plateOf(picture, BOX);
const sewn = (hex: string): readonly [number, number, number] => {
  const [r, g, b] = sewnColours([hex], 0, 0.4);
  return [r, g, b];
};
const CLOTH = '#f4f1ea';
const mix = (count: number, more: { fixed?: PaletteThread[] } = {}): PaletteThread[] =>
  toEnd(mixPalette(plate, { count, charts: [], fixed: [], sewn, clothHex: CLOTH, ...more }));

const palette = mix(6).map(({ hex }) => hex);
const LONG_MS = 60_000;
const SETTINGS: PaintingSettings = {
  hexes: palette,
  clothHex: CLOTH,
  filled: false,
  angle: 0,
  spacingMm: 0.4,
  lineMm: 1.2,
  calm: 1,
  detail: 0.15,
  first: 'dark',
  twice: 2,
  longestMm: 6,
  quick: false,
};

function paint(more: Partial<PaintingSettings> = {}): Painting {
  const steps = paintThreads(plate, { ...SETTINGS, ...more });
  let last = -1;
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    if (step.value < last || step.value > 1) throw new Error(`progress went from ${last} to ${step.value}`);
    last = step.value;
  }
}

function likeness({ layers }: Painting): { deltaE: number; ssim: number } {
  const writer = new StitchWriter();
  for (const { thread, runs } of layers) {
    for (const run of runs) {
      writer.add(run[0], run[1], JUMP, thread, 0);
      for (let i = 0; i < run.length; i += 2) writer.add(run[i], run[i + 1], STITCH, thread, 0);
    }
  }
  const threads = palette.map((hex, i) => ({ code: String(i), name: hex, hex, chart: 'own', deltaE: 0 }));
  const design = {
    fabric: { id: 'linen', hex: CLOTH },
    picture: BOX,
    threads,
    stitches: writer.finish(),
    pieceIds: ['p'],
  };
  const found = likenessOf(design, picture);
  if (!found) throw new Error('no likeness');
  return found;
}

const stitchesOf = ({ layers }: Painting): number =>
  layers.reduce((sum, { runs }) => sum + runs.reduce((n, run) => n + run.length / 2, 0), 0);

describe('thread painting', () => {
  let painting: Painting;
  beforeAll(() => (painting = paint()), LONG_MS);

  it('comes near to a soft picture with six threads', () => {
    const { deltaE, ssim } = likeness(painting);
    expect(deltaE).toBeLessThan(4);
    expect(ssim).toBeGreaterThan(0.85);
  });

  it('is the same each time', () => {
    expect(JSON.stringify(paint().layers)).toBe(JSON.stringify(painting.layers));
  });

  it('sews dark threads first, light ones last, or the other way round', () => {
    const lights = (p: Painting): number[] =>
      p.layers.map(({ thread }) => {
        const { r, g, b } = fromHex(palette[thread]);
        return linearToLab(LINEAR[r], LINEAR[g], LINEAR[b]).l;
      });
    const dark = lights(painting);
    expect(dark).toEqual([...dark].sort((a, b) => a - b));
    const light = lights(paint({ first: 'light', quick: true }));
    expect(light).toEqual([...light].sort((a, b) => b - a));
  });

  it('hides nearly all of its ways, and makes no stitch too long', () => {
    let [all, open] = [0, 0];
    for (const { runs, openMm } of painting.layers) {
      open += openMm;
      for (const run of runs) {
        for (let i = 2; i < run.length; i += 2) {
          const length = Math.sqrt((run[i] - run[i - 2]) ** 2 + (run[i + 1] - run[i - 1]) ** 2);
          expect(length).toBeLessThan(8);
          all += length;
        }
      }
    }
    expect(open / all).toBeLessThan(0.05);
  });

  it('sews a thread twice that is scarce here and most of it there, unless it has a place of its own', () => {
    // A light field with a little dark in it, and a dark one with a little light.
    const two = { width: 160, height: 80, data: new Uint8ClampedArray(160 * 80 * 4).fill(255) };
    for (let i = 0; i < 160 * 80; i++) two.data.fill(i % 160 < 80 ? 206 : 96, i * 4, i * 4 + 3);
    const fields = plateOf(two, { left: -40, top: -20, width: 80, height: 40 });
    const goesOf = (more: Partial<PaintingSettings>): number[] =>
      toEnd(paintThreads(fields, { ...SETTINGS, hexes: ['#303030', '#e8e8e8'], first: 'scarce', ...more })).layers.map(
        ({ thread }) => thread,
      );
    expect(goesOf({ twice: 0 }).length).toBe(2);
    const [before, between, after] = goesOf({ twice: 1 });
    expect([before, between]).toEqual([after, 1 - after]);
    expect(goesOf({ twice: 1, places: [0, 1] }).filter((thread) => thread === 1).length).toBe(1);
    expect(goesOf({ twice: 1, first: 'dark' })).toEqual([0, 1]);
  });

  it('stays within what is to be sewn', () => {
    const half = plateOf(picture, BOX, (i) => i % 320 >= 160);
    for (const { runs } of toEnd(paintThreads(half, SETTINGS)).layers) {
      for (const run of runs) for (let i = 0; i < run.length; i += 2) expect(run[i]).toBeLessThan(0.5);
    }
  });

  it('takes fewer stitches the calmer it is', () => {
    expect(stitchesOf(paint({ calm: 40, lineMm: 4 }))).toBeLessThan(stitchesOf(painting) * 0.8);
  });

  it(
    'mends a first painting with a second across it',
    () => {
      const first = paint({ calm: 30, lineMm: 4 });
      const second = paint({ over: first, angle: 90, calm: 4 });
      const both = { ...second, layers: [...first.layers, ...second.layers] };
      expect(likeness(both).deltaE).toBeLessThan(likeness(first).deltaE);
    },
    LONG_MS,
  );
});

describe('palettes that mix', () => {
  it('hold as many threads as asked for, all different', () => {
    for (const count of [2, 5, 9]) expect(new Set(mix(count).map(({ hex }) => hex)).size).toBe(count);
  });

  it('keep what is fixed', () => {
    const fixed = [{ hex: '#00ff00', chart: 'own', code: 'OWN-01', name: 'Grass' }];
    const found = mix(5, { fixed });
    expect(found[0]).toEqual(fixed[0]);
    expect(found.length).toBe(5);
  });

  it('take threads of a chart where there is one, each once', () => {
    const threads = Array.from({ length: 27 }, (_, i) => ({
      code: `C-${i}`,
      name: `Thread ${i}`,
      hex: '#' + [i % 3, Math.floor(i / 3) % 3, Math.floor(i / 9)].map((v) => ['20', '88', 'e8'][v]).join(''),
      weight: 40,
      finish: 'plain',
    }));
    const charts = [{ id: 'test', name: 'Test', threads }];
    const found = toEnd(mixPalette(plate, { count: 7, charts, fixed: [], sewn, clothHex: CLOTH }));
    expect(found.every(({ chart }) => chart === 'test')).toBeTrue();
    expect(new Set(found.map(({ code }) => code)).size).toBe(7);
  });
});

describe('rows that bend', () => {
  it('keep their distance and follow a stroke', () => {
    const flow = drawnFlow([[-15, -10, 15, 10]], 0, 0, 0);
    const lattice = layLattice(plate, 0, 0.4, flow);
    const { cols, x, y, rows } = lattice;
    const r = rows >> 1;
    const at = (c: number): number => r * cols + c;
    const slope = (y[at(cols - 10)] - y[at(10)]) / (x[at(cols - 10)] - x[at(10)]);
    expect(slope).toBeGreaterThan(0.4);
    for (let k = 1; k < rows; k++) {
      const c = cols >> 1;
      const gap = y[k * cols + c] - y[(k - 1) * cols + c];
      expect(gap).toBeGreaterThan(0.1);
      expect(gap).toBeLessThan(0.9);
    }
  });

  it('lie close beside each other along forms of all directions', () => {
    // Rings around the middle: rows that follow them would all have to part.
    const rings = { width: 200, height: 150, data: new Uint8ClampedArray(200 * 150 * 4).fill(255) };
    for (let i = 0; i < 200 * 150; i++) {
      const far = Math.hypot((i % 200) - 100, Math.floor(i / 200) - 75);
      rings.data.fill(128 + 100 * Math.sin(far / 6), i * 4, i * 4 + 3);
    }
    const round = plateOf(rings, BOX);
    const { x, y, cols, rows, inside } = layLattice(round, 0, 0.4, formFlow(round, 0));
    let [all, wide] = [0, 0];
    for (let i = cols + 1; i < cols * (rows - 1); i++) {
      if (i % cols === 0 || i % cols === cols - 1 || !inside[i] || !inside[i - cols]) continue;
      const [dx, dy] = [x[i + 1] - x[i - 1], y[i + 1] - y[i - 1]];
      const gap = ((y[i] - y[i - cols]) * dx) / Math.hypot(dx, dy);
      all++;
      if (gap > 0.4 * 1.2) wide++;
    }
    expect(wide / all).toBeLessThan(0.05);
  });

  it('lie level where a picture has no forms', () => {
    const even = plateOf({ width: 40, height: 30, data: new Uint8ClampedArray(4800).fill(200) }, BOX);
    const { x, y, cols } = layLattice(even, 0, 0.4, formFlow(even, 0));
    expect(Math.abs(y[20 * cols + 5] - y[20 * cols + cols - 5])).toBeLessThan(0.05);
    expect(x[5]).toBeLessThan(x[6]);
  });

  it('has a rough version that covers the cloth and looks like the finished one, without ways', () => {
    const rough = paint({ quick: true, spacingMm: SETTINGS.spacingMm * 1.5 });
    const seen = likeness(rough);
    const done = likeness(paint());
    expect(seen.deltaE).toBeLessThan(done.deltaE + 2.5);
    expect(seen.ssim).toBeGreaterThan(0.75);
    expect(rough.layers.every(({ openMm }) => openMm === 0)).toBeTrue();
  });
});
