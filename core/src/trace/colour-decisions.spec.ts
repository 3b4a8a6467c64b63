import { characterOf } from '../colour/suggest.js';
import { fromHex, toHex } from '../colour/srgb.js';
import { seededRandom } from '../geometry/chance.js';
import { createRaster, type Raster } from '../picture/raster.js';
import { drawSmooth, type Scene } from '../test/draw.js';
import type { Anchor, ColourDecision } from './colour-decisions.js';
import { labelPicture, plainLabelSettings, type LabelMap, type LabelSettings } from './labels.js';

const PALETTE = ['#ffffff', '#2c6e80', '#d8602a', '#e0b040', '#203040'].map(fromHex);
/** Four discs on white. */
const scene: Scene = (x, y) => {
  const at = (cx: number, cy: number): boolean => (x - cx) ** 2 + (y - cy) ** 2 < 45 ** 2;
  if (at(60, 60)) return 1;
  if (at(180, 60)) return 2;
  if (at(60, 180)) return 3;
  return at(180, 180) ? 4 : 0;
};
const flat = drawSmooth(scene, PALETTE, 240, 240).raster;

/** A photograph: two soft ramps with noise, and a small red spot. */
function photo(): Raster {
  const random = seededRandom(9);
  const raster = createRaster(200, 200);
  for (let i = 0; i < 40_000; i++) {
    const x = i % 200;
    const y = Math.floor(i / 200);
    const n = (random() - 0.5) * 24;
    const spot = (x - 150) ** 2 + (y - 40) ** 2 < 14 ** 2;
    raster.data.set(
      spot ? [210 + n, 30 + n, 40 + n, 255] : [40 + x + n, 60 + y * 0.8 + n, 200 - x * 0.7 + n, 255],
      i * 4,
    );
  }
  return raster;
}

const label = (raster: Raster, decisions: ColourDecision[] = [], more: Partial<LabelSettings> = {}): LabelMap =>
  labelPicture(raster, characterOf(raster), {
    ...plainLabelSettings(raster, 'auto', 1),
    decisions,
    pinned: decisions.filter((d) => d.kind === 'pin').map((d) => fromHex(d.at.hex)),
    ...more,
  });

const anchorOf = (map: LabelMap, hex: string): Anchor => {
  const at = map.palette.findIndex((c) => toHex(c) === hex);
  if (at < 0) throw new Error(`no ${hex}`);
  return map.infos[at].anchor;
};
const hexes = (map: LabelMap): string[] => map.palette.map(toHex).sort();
const areaOf = (map: LabelMap, hex: string): number =>
  map.labels.reduce((sum, l) => sum + (l > 0 && toHex(map.palette[l - 1]) === hex ? 1 : 0), 0);

describe('decisions on colours of flat art', () => {
  const before = label(flat);

  it('merge one colour into another, which is kept', () => {
    const merged = label(flat, [{ kind: 'merge', at: anchorOf(before, '#d8602a'), into: anchorOf(before, '#2c6e80') }]);
    expect(merged.lost).toEqual([]);
    expect(hexes(merged)).toEqual(hexes(before).filter((h) => h !== '#d8602a'));
    expect(areaOf(merged, '#2c6e80')).toBe(areaOf(before, '#2c6e80') + areaOf(before, '#d8602a'));
  });

  it('find their colour again when there are fewer or more', () => {
    const decision: ColourDecision = {
      kind: 'merge',
      at: anchorOf(before, '#d8602a'),
      into: anchorOf(before, '#2c6e80'),
    };
    for (const count of [4, 5, 8] as const) {
      expect(label(flat, [decision], { count }).lost)
        .withContext(String(count))
        .toEqual([]);
    }
  });

  it('say so where a colour is no longer there', () => {
    const gone: Anchor = { hex: '#ff00ff', u: 0.02, v: 0.02 };
    const map = label(flat, [
      { kind: 'merge', at: gone, into: anchorOf(before, '#2c6e80') },
      { kind: 'pin', at: anchorOf(before, '#e0b040') },
      { kind: 'split', at: anchorOf(before, '#e0b040') },
    ]);
    expect(map.lost).toEqual([0, 2]);
  });

  it('pin a colour that a smaller number would take away', () => {
    const pin: ColourDecision = { kind: 'pin', at: anchorOf(before, '#e0b040') };
    for (const count of [2, 3] as const) {
      const map = label(flat, [pin], { count });
      expect(hexes(map)).withContext(String(count)).toContain('#e0b040');
      expect(map.palette.length).toBeLessThanOrEqual(count + 1);
      expect(map.infos.some((info) => info.pinned)).toBeTrue();
    }
  });

  it('put colours in another order', () => {
    const last = before.infos[before.infos.length - 1];
    const map = label(flat, [{ kind: 'rank', at: last.anchor, before: before.infos[0].anchor }]);
    expect(toHex(map.palette[0])).toBe(last.anchor.hex);
    expect(hexes(map)).toEqual(hexes(before));
  });
});

describe('decisions on colours of a photograph', () => {
  const raster = photo();
  const before = label(raster, [], { count: 6 });

  it('show the shades inside each colour', () => {
    expect(characterOf(raster).flat).toBeFalse();
    for (const info of before.infos) expect(info.shades.length).toBeGreaterThan(1);
    const pixels = before.infos.reduce((sum, info) => sum + info.shades.reduce((s, shade) => s + shade.pixels, 0), 0);
    expect(pixels).toBe(40_000);
  });

  it('move one shade to another colour', () => {
    const [from, to] = [...before.infos].sort((a, b) => b.shades.length - a.shades.length);
    const shade = from.shades[1];
    const map = label(raster, [{ kind: 'move', at: shade.anchor, into: to.anchor }], { count: 6 });
    expect(map.lost).toEqual([]);
    const now = map.infos.find((info) => info.shades.some((s) => s.index === shade.index));
    expect(now?.shades.some((s) => s.index === to.shades[0].index)).toBeTrue();
    expect(map.palette.length).toBe(before.palette.length);
  });

  it('split a colour in two, and merge the halves again', () => {
    const map = label(raster, [{ kind: 'split', at: before.infos[0].anchor }], { count: 6 });
    expect(map.palette.length).toBe(7);
    const [a, b] = map.infos;
    const again = label(
      raster,
      [
        { kind: 'split', at: before.infos[0].anchor },
        { kind: 'merge', at: a.anchor, into: b.anchor },
      ],
      { count: 6 },
    );
    expect(again.lost).toEqual([]);
    expect(again.palette.length).toBe(6);
    expect(again.infos[0].shades.length).toBe(before.infos[0].shades.length);
  });

  it('make a picked colour one of the number', () => {
    const few = label(raster, [], { count: 3 });
    expect(few.palette.some((c) => c.r > 190 && c.g < 60)).toBeFalse();
    const red: Anchor = { hex: '#d21e28', u: 150 / 200, v: 40 / 200 };
    const map = label(raster, [{ kind: 'pin', at: red }], { count: 3 });
    expect(map.palette.length).toBe(3);
    expect(map.lost).toEqual([]);
    expect(areaOf(map, '#d21e28')).toBeGreaterThan(400);
  });

  it('hold on to the colour before the light was changed', () => {
    const lit = createRaster(
      200,
      200,
      raster.data.map((v, i) => (i % 4 === 3 ? v : v * 0.8 + 30)),
    );
    const decision: ColourDecision = { kind: 'split', at: before.infos[2].anchor };
    const map = label(lit, [decision], { count: 6, source: raster });
    expect(map.lost).toEqual([]);
    expect(map.palette.length).toBe(7);
  });
});

describe('ground', () => {
  it('takes colours within the tolerance from the edge inwards, or everywhere', () => {
    const palette = ['#ffffff', '#f4f2ee', '#2c6e80'].map(fromHex);
    const near: Scene = (x, y) => {
      const d = (x - 120) ** 2 + (y - 120) ** 2;
      return d < 30 ** 2 ? 0 : d < 70 ** 2 ? 2 : d < 100 ** 2 ? 1 : 0;
    };
    const { raster } = drawSmooth(near, palette, 240, 240);
    const groundArea = (tolerance: number, everywhere: boolean): number => {
      const map = label(raster, [], { ground: { tolerance, everywhere } });
      return map.labels.reduce((sum, l) => sum + (l === map.ground ? 1 : 0), 0);
    };
    const outer = 240 * 240 - Math.PI * 100 ** 2;
    expect(groundArea(1, false) / outer).toBeCloseTo(1, 1);
    expect(groundArea(8, false) / (240 * 240 - Math.PI * 70 ** 2)).toBeCloseTo(1, 1);
    expect(groundArea(8, true) / (240 * 240 - Math.PI * (70 ** 2 - 30 ** 2))).toBeCloseTo(1, 1);
  });

  it('takes another colour that was pointed at', () => {
    const map = label(flat, [], { ground: { tolerance: 3, everywhere: true, colour: fromHex('#d8602a') } });
    expect(toHex(map.palette[map.ground - 1])).toBe('#d8602a');
  });

  it('clears the uneven ground of a photograph and leaves no rim of it', () => {
    const random = seededRandom(21);
    const raster = createRaster(240, 240);
    const object = (x: number, y: number): boolean => (x - 120) ** 2 + (y - 120) ** 2 < 70 ** 2;
    for (let i = 0; i < 240 * 240; i++) {
      const x = i % 240;
      const y = Math.floor(i / 240);
      let inside = 0;
      for (let k = 0; k < 16; k++) inside += object(x + (k % 4) / 4, y + Math.floor(k / 4) / 4) ? 1 / 16 : 0;
      const n = (random() - 0.5) * 8;
      const ground = [240 - y * 0.03, 238 - y * 0.03, 232];
      const body = [120 + x * 0.3, 60 + y * 0.2, 40 + (x + y) * 0.2];
      raster.data.set([...body.map((v, j) => v * inside + ground[j] * (1 - inside) + n), 255], i * 4);
    }
    expect(characterOf(raster).flat).toBeFalse();
    const map = label(raster, [], { count: 6 });
    expect(map.ground).toBeGreaterThan(0);
    const share = map.labels.reduce((sum, l) => sum + (l === map.ground ? 1 : 0), 0) / map.labels.length;
    expect(share).toBeCloseTo(1 - (Math.PI * 70 ** 2) / 240 ** 2, 1);
    // None of the colours that are left is light like the ground.
    map.palette.forEach((c, i) => {
      if (i + 1 !== map.ground)
        expect(c.r + c.g + c.b)
          .withContext(toHex(c))
          .toBeLessThan(560);
    });
  });
});
