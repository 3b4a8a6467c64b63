import { convert } from '../convert.js';
import type { Design } from '../design/design.js';
import { median } from '../geometry/median.js';
import { createRaster } from '../picture/raster.js';
import { parseRecipe } from '../recipe/recipe.js';
import { figuresOf } from '../sequence/figures.js';
import { fabricOf, fabricOn } from '../stitches/fabrics.js';
import { findCorners, placesOf } from './lay-design.js';
import { laidAt, overlayOf, scaleAt, solve } from './lay-over.js';
import { learnCloth } from './learn-cloth.js';
import { measureSewn, type Measurement } from './measure.js';
import { practicePhoto, BY_HAND } from './practice-photo.js';
import { PRACTICE_CLOTHS, sewnOn } from './practice-cloth.js';
import { probesOf } from './probes.js';
import { testCard } from './test-card.js';

const cards = new Map<string, Promise<Design>>();
function cardOn(fabric: string): Promise<Design> {
  const recipe = testCard({ fabric, hex: fabricOf(fabric).hex });
  const known = cards.get(fabric) ?? convert({ recipe: parseRecipe(recipe), pictures: {}, charts: [] });
  cards.set(fabric, known);
  return known;
}

describe('overlayOf', () => {
  it('leads four places to four others, as a camera sees them', () => {
    const from = [
      { x: -36, y: -36 },
      { x: 36, y: -36 },
      { x: 36, y: 36 },
      { x: -36, y: 36 },
    ];
    const to = [
      { x: 100, y: 80 },
      { x: 900, y: 130 },
      { x: 860, y: 900 },
      { x: 60, y: 820 },
    ];
    const overlay = overlayOf(from, to);
    from.forEach(({ x, y }, k) => {
      const place = laidAt(overlay, x, y);
      expect(place.x).toBeCloseTo(to[k].x, 6);
      expect(place.y).toBeCloseTo(to[k].y, 6);
    });
    expect(scaleAt(overlay, 0, 0)).toBeGreaterThan(10);
    expect(scaleAt(overlay, 0, 0)).toBeLessThan(12);
    expect(() => overlayOf(from, [to[0], to[0], to[0], to[0]])).toThrowError(RangeError, /one line/);
    expect(
      solve([
        [0, 2, 4],
        [3, 0, 9],
      ]),
    ).toEqual([3, 2]);
  });
});

describe('testCard', () => {
  it('is sewn in under ten minutes, 80 mm wide, as it is drawn', async () => {
    for (const fabric of ['quilting-cotton', 'denim', 'fleece']) {
      const card = await cardOn(fabric);
      const figures = figuresOf(card.stitches, card.threads.length);
      expect(figures.minutes.oneNeedle).withContext(fabric).toBeLessThan(10);
      expect(figures.widthMm).toBeLessThan(80);
      expect(figures.widthMm).toBeGreaterThan(78);
      expect(card.threads.length).toBe(1);
    }
    // Light thread on dark cloth.
    expect((await cardOn('denim')).threads[0].hex).toBe('#f6f4ee');
  });

  it('has columns of seven widths in four directions, fields of three sizes and a gap to measure', async () => {
    const probes = probesOf(await cardOn('quilting-cotton'));
    for (const width of [1, 2, 3, 4, 5, 6, 7]) {
      const ways = new Set(
        probes.flatMap(({ kind, rowMm, ux, uy }) =>
          kind === 'width' && Math.abs(rowMm - width) < 0.3
            ? [`${Math.round(Math.abs(ux) * 10)},${Math.round(uy * ux * 10)}`]
            : [],
        ),
      );
      expect(ways.size).withContext(`${width} mm`).toBeGreaterThanOrEqual(4);
    }
    const fields = new Set(probes.filter(({ rowMm }) => rowMm > 7.5).map(({ rowMm }) => Math.round(rowMm)));
    expect([...fields].sort((a, b) => a - b)).toEqual([8, 11, 15]);
    expect(probes.filter(({ kind }) => kind === 'gap').length).toBeGreaterThanOrEqual(3);
    expect(probes.filter(({ kind }) => kind === 'length').length).toBeGreaterThanOrEqual(20);
  });
});

describe('measureSewn', () => {
  for (const [k, cloth] of PRACTICE_CLOTHS.entries()) {
    it(`reads a photograph of a card on ${cloth.name.toLowerCase()}, and learns how it gives`, async () => {
      const card = await cardOn(cloth.fabric);
      const photo = practicePhoto(card, cloth, { ...BY_HAND, seed: 500 + k, turn: 10 + 71 * k });
      const corners = findCorners(card, photo);
      if (!corners) return fail('no corners');
      const measured = measureSewn(card, photo, overlayOf(placesOf(card), corners));
      const widths = measured.filter(({ kind }) => kind === 'width');
      expect(widths.length).toBeGreaterThan(80);
      const learnt = learnCloth(cloth.name, measured);
      if (!learnt) return fail('nothing learnt');
      // What a long row gives in truth, by the parameters nobody else knows.
      const most = (more: number): number => cloth.mostMm * (1 + more);
      const [seven] = learnt.pull.filter(({ lengthMm }) => Math.abs(lengthMm - 7) < 0.3);
      expect(Math.abs(seven.acrossMm - most(cloth.across))).toBeLessThan(0.06);
      expect(Math.abs(seven.downMm - most(-cloth.across))).toBeLessThan(0.06);
      expect(Math.abs(seven.slantMm - most(cloth.slant))).toBeLessThan(0.06);
      expect(Math.abs(learnt.pushMm - cloth.pushMm)).toBeLessThan(0.12);
      expect(learnt.gapMm).not.toBeNull();
      const errors = widths.map(({ rowMm, ux, uy, asDrawnMm, asSewnMm }) => {
        const twice = 2 * Math.atan2(uy, ux);
        const gives = 1 + cloth.across * Math.cos(twice) + cloth.slant * Math.sin(twice) ** 2;
        const pull = 2 * cloth.mostMm * (1 - Math.exp((-3 * rowMm) / cloth.nearlyMm)) * gives;
        return Math.abs(asDrawnMm - asSewnMm - Math.min(pull, 0.8 * rowMm));
      });
      expect(median(errors)).toBeLessThan(0.06);
      expect(errors.filter((error) => error > 0.12).length / errors.length).toBeLessThan(0.05);
    });
  }

  it('finds nothing where there is no card, or half of one', async () => {
    const card = await cardOn('quilting-cotton');
    expect(findCorners(card, createRaster(200, 160))).toBeUndefined();
    const photo = practicePhoto(card, PRACTICE_CLOTHS[0]);
    photo.data.fill(200, 0, photo.data.length / 2);
    expect(findCorners(card, photo)).toBeUndefined();
  });

  it('lays any design over its photograph by four needle points where it has no marks', async () => {
    const card = await cardOn('quilting-cotton');
    const bare = { ...card, pieces: card.pieces.filter(({ object }) => object.startsWith('bar')) };
    expect(findCorners(bare, createRaster(40, 40))).toBeUndefined();
    const places = placesOf(bare);
    expect(places.length).toBe(4);
    expect(places[0].x + places[0].y).toBeLessThan(places[2].x + places[2].y);
  });
});

describe('learnCloth', () => {
  const measured = (rowMm: number, degrees: number, pullMm: number): Measurement => {
    const angle = (degrees * Math.PI) / 180;
    return {
      kind: 'width',
      piece: 0,
      x: 0,
      y: 0,
      ux: Math.cos(angle),
      uy: Math.sin(angle),
      drawnMm: rowMm,
      rowMm,
      bandMm: 1,
      asDrawnMm: rowMm,
      asSewnMm: rowMm - 2 * pullMm,
    };
  };

  it('takes the proportions of directions from where they were measured', () => {
    const learnt = learnCloth('Knit', [
      measured(4, 0, 0.4),
      measured(4, 90, 0.2),
      measured(4, 45, 0.3),
      measured(4, -45, 0.3),
      measured(12, 0, 0.5),
    ]);
    expect(learnt?.pull).toEqual([
      { lengthMm: 4, acrossMm: 0.4, downMm: 0.2, slantMm: 0.3 },
      { lengthMm: 12, acrossMm: 0.5, downMm: 0.25, slantMm: 0.375 },
    ]);
    expect(learnt?.pushMm).toBe(0);
    expect(learnt?.gapMm).toBeNull();
  });

  it('says the same for all directions where only one was measured, however it lies', () => {
    for (const degrees of [0, 20, 45, 90]) {
      const [row] = learnCloth('Knit', [measured(3, degrees, 0.3)])?.pull ?? [];
      expect(row).withContext(String(degrees)).toEqual({ lengthMm: 3, acrossMm: 0.3, downMm: 0.3, slantMm: 0.3 });
    }
    expect(learnCloth('Knit', [])).toBeUndefined();
  });
});

describe('What was learnt', () => {
  it('is sewn against: what comes off the cloth is as wide as it was drawn', async () => {
    const cloth = PRACTICE_CLOTHS[2];
    const recipe = testCard({ fabric: cloth.fabric, hex: '#e8e6e1' });
    const card = await cardOn(cloth.fabric);
    const corners = findCorners(card, practicePhoto(card, cloth));
    if (!corners) return fail('no corners');
    const photo = practicePhoto(card, cloth);
    const learnt = learnCloth('Mine', measureSewn(card, photo, overlayOf(placesOf(card), corners)));
    const again = await convert({
      recipe: parseRecipe({
        ...recipe,
        cloth: { ...recipe.cloth, measured: learnt },
        stitches: { ...recipe.stitches, compensationMm: null },
      }),
      pictures: {},
      charts: [],
    });
    /** Width of a column on the cloth between the middles of its rails. */
    const widthOn = (design: Design, object: string): number => {
      const piece = design.pieces.findIndex((each) => each.object === object);
      const { count, piece: of, x, y } = sewnOn(design.stitches, cloth);
      const { left, right, top, bottom } = design.pieces[piece].bounds;
      const ends = { left: [] as number[], right: [] as number[] };
      for (let i = 0; i < count; i++) {
        if (of[i] !== piece || y[i] < top + 2 || y[i] > bottom - 2) continue;
        const middle = (left + right) / 2;
        if (Math.abs(x[i] - middle) > (right - left) * 0.3) ends[x[i] < middle ? 'left' : 'right'].push(x[i]);
      }
      return median(ends.right) - median(ends.left);
    };
    for (const [object, mm] of [
      ['bar-5', 3],
      ['bar-9', 5],
      ['bar-13', 7],
    ] as const) {
      expect(widthOn(card, object))
        .withContext(object)
        .toBeLessThan(mm - 0.7);
      expect(Math.abs(widthOn(again, object) - mm))
        .withContext(object)
        .toBeLessThan(0.12);
    }
    expect(
      fabricOn(again.fabric.measured ? { fabric: 'jersey', measured: again.fabric.measured } : { fabric: 'felt' }).name,
    ).toBe('Mine');
  });
});
