import { coverageOf, stitchLengths } from '../test/coverage.js';
import { ellipse, rectangle, regions } from '../test/regions.js';
import { connectedParts } from './cells.js';
import { scanRows } from './scan-rows.js';
import { tatami, type TatamiSettings } from './tatami.js';

const settings: TatamiSettings = { angle: 20, spacingMm: 0.4, stitchLengthMm: 3.6, compensationMm: 0.2 };

describe('tatami', () => {
  const scripted = regions(30, 2026).map((region) => ({ ...region, runs: tatami(region.rings, settings) }));

  it('sews every connected shape in one go', () => {
    for (const { name, runs } of scripted) expect(runs.length).withContext(name).toBe(1);
  });

  it('covers each shape', () => {
    const shares = scripted.map(({ rings, runs }) => coverageOf(rings, runs).covered).sort((a, b) => a - b);
    expect(shares[0]).toBeGreaterThan(0.97);
    expect(shares[15]).toBeGreaterThan(0.985);
  });

  it('leaves no needle point farther outside than the compensation', () => {
    for (const { name, rings, runs } of scripted) {
      expect(coverageOf(rings, runs).outside).withContext(name).toBeLessThan(0.201);
    }
  });

  it('makes no stitch too long and hardly any too short', () => {
    const lengths = scripted.flatMap(({ runs }) => stitchLengths(runs));
    expect(Math.max(...lengths)).toBeLessThan(7);
    expect(lengths.filter((l) => l < 0.3).length / lengths.length).toBeLessThan(0.01);
  });

  it('offsets the needle points of neighbouring rows', () => {
    const [run] = tatami([rectangle(0, 0, 30, 8)], { ...settings, angle: 0 });
    const byRow = new Map<string, number[]>();
    for (let i = 0; i < run.length; i += 2) {
      const key = run[i + 1].toFixed(3);
      if (run[i] > 1 && run[i] < 29) byRow.set(key, [...(byRow.get(key) ?? []), run[i]]);
    }
    const rows = [...byRow.entries()]
      .sort((a, b) => Number(a[0]) - Number(b[0]))
      .map(([, xs]) => xs.sort((a, b) => a - b));
    expect(rows.length).toBe(20);
    for (let r = 1; r < rows.length; r++) {
      const gap = Math.min(...rows[r].map((x) => Math.min(...rows[r - 1].map((p) => Math.abs(p - x)))));
      expect(gap).toBeGreaterThan(0.7);
    }
  });

  it('starts near the entry and ends near the exit of a plain shape', () => {
    const [run] = tatami([rectangle(0, 0, 20, 20)], {
      ...settings,
      angle: 0,
      entry: { x: 0, y: 30 },
      exit: { x: 10, y: -5 },
    });
    expect(run[1]).toBeGreaterThan(19);
    expect(run[run.length - 1]).toBeLessThan(1);
  });

  it('covers what it travels over', () => {
    // In a ring the needle must come back under rows that are sewn later: visible travel would add cover outside rows.
    const rings = [ellipse(0, 0, 15, 15), ellipse(0, 0, 9, 9)];
    const [run] = tatami(rings, { ...settings, compensationMm: 0 });
    expect(coverageOf(rings, [run]).outside).toBeLessThan(0.21);
  });

  it('gives nothing for nothing', () => {
    expect(tatami([], settings)).toEqual([]);
    expect(tatami([[0, 0, 5, 0, 9, 0]], settings)).toEqual([]);
  });
});

describe('scanRows', () => {
  it('keeps the arms of a U apart and joins them at the bend', () => {
    const u = [0, 0, 3, 0, 3, 8, 6, 8, 6, 0, 9, 0, 9, 10, 0, 10];
    const rows = scanRows([u], 0.4);
    expect(connectedParts(rows.parts).length).toBe(1);
    const first = rows.parts.filter((p) => p.row === 2);
    expect(first.length).toBe(2);
    const last = rows.parts.filter((p) => p.row === rows.y.length - 1);
    expect(last.length).toBe(1);
    expect(last[0].right - last[0].left).toBeCloseTo(9, 6);
  });

  it('joins arms that meet only between two rows', () => {
    const shallow = [0, 0, 3, 0, 3, 3.95, 6, 3.95, 6, 0, 9, 0, 9, 4.1, 0, 4.1];
    expect(connectedParts(scanRows([shallow], 0.4).parts).length).toBe(1);
  });
});
