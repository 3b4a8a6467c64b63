import { areaWithin } from '../geometry/polyline.js';
import { lengthOf } from '../geometry/polyline.js';
import { forecastGaps } from '../forecast/gaps.js';
import { livelinessOf, pulledTogether } from '../forecast/pull.js';
import type { Piece } from '../pieces/piece.js';
import { NO_CHOICES } from '../pieces/sewn-as.js';
import { fabricOf } from '../stitches/fabrics.js';
import { linePieceOf, PLAIN_STITCHES, pieceOf, satinPieceOf } from '../test/pieces.js';
import { rectangle } from '../test/regions.js';
import { figuresOf } from './figures.js';
import { improveOrder } from './improve-order.js';
import { layering } from './order.js';
import { PieceStitches } from './piece-stitches.js';
import { costOfOrder, planWays } from './plan-ways.js';
import { hiddenWaysOf } from './sewn-ground.js';
import { sewPieces } from './sew.js';
import type { SewSettings } from './sew-settings.js';
import { STITCH, type StitchList } from './stitch-list.js';
import { reachUnder } from './under-neighbours.js';
import { toEnd } from '../geometry/pauses.js';

const SETTINGS: SewSettings = {
  stitches: { ...PLAIN_STITCHES, compensationMm: null },
  angleStep: 30,
  overlapMm: null,
  trimOverMm: 3,
  hideTravel: true,
  trims: 'beyond',
  tie: 'line',
};

function sew(pieces: readonly Piece[], order: readonly number[], more: Partial<SewSettings> = {}): StitchList {
  return toEnd(sewPieces(pieces, order, { ...SETTINGS, ...more }));
}

/** Two small squares of one thread with a large one between them and under both. */
const left = pieceOf([rectangle(0, 10, 6, 6)], { thread: 0 });
const right = pieceOf([rectangle(44, 10, 6, 6)], { thread: 0 });
const between = pieceOf([rectangle(6, 0, 38, 26)], { thread: 1 });

describe('planWays', () => {
  it('leaves a piece where the next one is near, and enters it there', () => {
    const ways = planWays([left, right], [0, 1], 3);
    expect(ways[0].exit?.x).toBeGreaterThan(5);
    expect(ways[1].entry?.x).toBeLessThan(45);
    const cost = costOfOrder([left, right], [0, 1], ways, 3);
    expect(cost).toEqual({ threadRuns: 1, travelMm: jasmine.any(Number), longWays: 1 });
    expect(cost.travelMm).toBeLessThan(40);
  });

  it('keeps what the user said', () => {
    const choices = { values: {}, guides: [], entry: { x: 3, y: 13 }, exit: { x: 0, y: 10 } };
    expect(planWays([{ ...left, choices }, right], [0, 1], 3)[0]).toEqual({ entry: choices.entry, exit: choices.exit });
  });

  it('enters even a speck somewhere', () => {
    const [first, second] = planWays([pieceOf([rectangle(0, 0, 0.1, 0.1)]), right], [0, 1], 3);
    expect(first.entry?.x).toBeCloseTo(0, 0);
    expect(second.entry?.x).toBeLessThan(45);
  });

  it('leaves a satin column where it was entered, and a single line by its other end', () => {
    const column = satinPieceOf([rectangle(0, 0, 20, 2)]);
    const line = linePieceOf([0, 0, 20, 0], 0.4, { passes: 1 });
    const [first, second] = planWays([column, line], [0, 1], 3);
    expect(first.exit).toEqual(first.entry);
    expect(second.exit).not.toEqual(second.entry);
  });
});

describe('improveOrder', () => {
  it('shortens the way, keeps what must come first, and makes no more thread runs', () => {
    const row = [0, 40, 8, 32, 16, 24].map((x) => pieceOf([rectangle(x, 0, 5, 5)]));
    const before = layering(row);
    const given = [0, 1, 2, 3, 4, 5];
    const better = improveOrder(row, given, before);
    const travel = (order: number[]): number => costOfOrder(row, order, planWays(row, order, 3), 3).travelMm;
    expect(travel(better)).toBeLessThan(travel(given) * 0.6);
    const bound = improveOrder(row, given, [[], [], [1], [], [], []]);
    expect(bound.indexOf(1)).toBeLessThan(bound.indexOf(2));
    expect(better.slice().sort()).toEqual(given);
  });
});

describe('hidden ways', () => {
  const order = [0, 1, 2];

  it('lead below what is sewn later, and nowhere else', () => {
    const pieces = [left, right, between];
    const ways = hiddenWaysOf(pieces, order);
    const [a, b] = [
      { x: 6, y: 13 },
      { x: 44, y: 13 },
    ];
    const found = ways.find(a, b, 1, 70);
    expect(found && lengthOf(found)).toBeLessThan(42);
    // Once the large piece is sewn, a way over it would show.
    expect(ways.find(a, b, 3, 70)).toBeUndefined();
    expect(ways.find(a, b, 1, 20)).toBeUndefined();
  });

  it('save cutting the thread', () => {
    const trims = (hideTravel: boolean): number =>
      figuresOf(sew([left, right, between], order, { hideTravel }), 2).trims;
    expect(trims(true)).toBe(trims(false) - 1);
  });
});

describe('open links', () => {
  const choices = { values: { angle: 20 }, guides: [] };
  const near = [pieceOf([rectangle(0, 0, 6, 6)], { choices }), pieceOf([rectangle(12, 0, 6, 6)], { choices })];
  const trims = (thread: number, more: Partial<SewSettings> = {}): number => {
    const ground = pieceOf([rectangle(-5, -5, 30, 16)], { thread });
    return figuresOf(sew([ground, ...near], [0, 1, 2], more), 2).trims;
  };

  it('are cut where they would be seen on another thread, sooner than at the trim distance', () => {
    // After the ground, between the two, and at the end.
    expect(trims(1, { trimOverMm: 6.8 })).toBe(3);
    expect(trims(1, { trimOverMm: 12 })).toBe(2);
    expect(trims(0, { trimOverMm: 6.8 })).toBe(2);
  });
});

describe('reachUnder', () => {
  const lower = pieceOf([rectangle(0, 0, 20, 20)]);
  const upper = pieceOf([rectangle(20, 0, 20, 20)]);

  it('grows a fill under its later neighbour, and only there', () => {
    const { rings = [] } = reachUnder(lower, [upper], 0.6, 0);
    expect(areaWithin(rings)).toBeCloseTo(400 + 20 * 0.6, 0);
    expect(Math.min(...rings[0].filter((_, i) => i % 2 === 0))).toBeCloseTo(0, 1);
    expect(reachUnder(lower, [], 0.6, 0)).toEqual({});
  });

  it('reaches less far under what is narrow, and lets rungs of columns go on', () => {
    const narrow = satinPieceOf([rectangle(20, 0, 1, 20)], { widthMm: 1 });
    expect(areaWithin(reachUnder(lower, [narrow], 0.6, 0).rings ?? [])).toBeLessThan(410);
    const column = satinPieceOf([rectangle(0, 0, 20, 3)]);
    const above = pieceOf([rectangle(0, 3, 20, 10)]);
    const { at } = reachUnder(column, [above], 0.6, 0);
    expect(at?.(10, 3, 0, 1)).toBe(0.6);
    expect(at?.(10, 0, 0, -1)).toBe(0);
  });

  it('counts what rows reach over their ends against the pull, down to half of the reach', () => {
    const grown = (compensationMm: number): number =>
      areaWithin(reachUnder(lower, [upper], 0.6, compensationMm).rings ?? []) - 400;
    expect(grown(0.2)).toBeCloseTo(20 * 0.4, 0);
    expect(grown(0.5)).toBeCloseTo(20 * 0.3, 0);
  });

  it('lets rungs go on less far below a tip', () => {
    const column = satinPieceOf([rectangle(0, 0, 20, 3)]);
    const tip = pieceOf([[0, 3, 20, 3, 20, 5]]);
    const { at } = reachUnder(column, [tip], 0.6, 0);
    expect(at?.(19, 3, 0, 1)).toBeGreaterThan(0.4);
    expect(at?.(8, 3, 0, 1)).toBeLessThan(0.3);
    expect(at?.(8, 3, 0, 1)).toBeGreaterThan(0.1);
  });

  it('closes the gap the pull would open', () => {
    const pieces = [
      { ...lower, neighbours: [{ piece: 1, borderMm: 20 }] },
      { ...upper, thread: 1, neighbours: [{ piece: 0, borderMm: 20 }] },
    ];
    const bare = (overlapMm: number, compensationMm: number): number => {
      const list = sew(pieces, [0, 1], { overlapMm, stitches: { ...SETTINGS.stitches, compensationMm } });
      const gaps = forecastGaps(pieces, [0, 1], list, fabricOf('pique'));
      expect(gaps.borderMm).toBeGreaterThan(12);
      expect(gaps.gaps[0]?.widthMm ?? 0).toBe(gaps.widestMm > 0.25 ? gaps.widestMm : 0);
      return gaps.bareMm2;
    };
    expect(bare(0, 0)).toBeGreaterThan(2);
    expect(bare(0.9, 0.35)).toBeLessThan(0.2);
  });
});

describe('A piece on a fabric of its own', () => {
  const onStretch = { ...NO_CHOICES, values: { fabric: 'stretch' } };
  const lower = { ...pieceOf([rectangle(0, 0, 20, 20)]), neighbours: [{ piece: 1, borderMm: 20 }] };
  const upper = { ...pieceOf([rectangle(20, 0, 20, 20)]), thread: 1, neighbours: [{ piece: 0, borderMm: 20 }] };
  const pointsOf = (list: StitchList, piece: number): number[] =>
    [...list.x].flatMap((x, i) => (list.piece[i] === piece && list.command[i] === STITCH ? [x, list.y[i]] : []));

  it('is sewn as if the whole design lay on it, and nothing else changes', () => {
    const stretch = { stitches: { ...SETTINGS.stitches, fabric: fabricOf('stretch') } };
    const mixed = sew([{ ...lower, choices: onStretch }, upper], [0, 1]);
    expect(pointsOf(mixed, 0)).toEqual(pointsOf(sew([lower, upper], [0, 1], stretch), 0));
    expect(pointsOf(mixed, 1)).toEqual(pointsOf(sew([lower, upper], [0, 1]), 1));
    expect(Math.max(...pointsOf(mixed, 0))).toBeGreaterThan(Math.max(...pointsOf(sew([lower, upper], [0, 1]), 0)));
  });

  it('pulls as that fabric, whatever compensation and overlap the design has', () => {
    const set = { overlapMm: 0, stitches: { ...SETTINGS.stitches, compensationMm: 0 } };
    const pieces = [{ ...lower, choices: onStretch }, upper];
    expect(pointsOf(sew(pieces, [0, 1], set), 0)).toEqual(pointsOf(sew(pieces, [0, 1]), 0));
    const bareOn = (list: StitchList): number =>
      forecastGaps(pieces, [0, 1], list, fabricOf('quilting-cotton')).bareMm2;
    expect(bareOn(sew(pieces, [0, 1]))).toBeLessThan(0.5);
    expect(bareOn(sew([lower, upper], [0, 1]))).toBeGreaterThan(bareOn(sew(pieces, [0, 1])));
  });
});

describe('pulledTogether', () => {
  it('draws rows in at both ends, more on lively cloth, and moves nothing inside them', () => {
    const list = sew([pieceOf([rectangle(0, 0, 30, 12)])], [0]);
    const shift = (fabric: string): number => {
      const { x, y } = pulledTogether(list, () => fabricOf(fabric));
      let sum = 0;
      for (let i = 0; i < list.count; i++) {
        if (list.command[i] === STITCH) sum += Math.hypot(x[i] - list.x[i], y[i] - list.y[i]);
      }
      return sum;
    };
    expect(shift('quilting-cotton')).toBeGreaterThan(5);
    expect(shift('pique') / shift('quilting-cotton')).toBeCloseTo(1.74, 1);
    const ways = ['felt', 'quilting-cotton', 'softshell', 'jersey', 'stretch'].map((id) => livelinessOf(fabricOf(id)));
    expect(ways).toEqual([...ways].sort((a, b) => a - b));
    expect(livelinessOf(fabricOf('quilting-cotton'))).toBeCloseTo(1, 1);
    // It judges the compensation, and must not depend on it.
    expect(livelinessOf({ ...fabricOf('pique'), compensationMm: 0 })).toBe(livelinessOf(fabricOf('pique')));
  });
});

describe('PieceStitches', () => {
  it('makes only what changed again', () => {
    const pieces = [left, right, between];
    const known = new PieceStitches();
    const run = (list: readonly Piece[]): void => {
      const steps = sewPieces(list, [0, 1, 2], SETTINGS, known);
      while (!steps.next().done);
    };
    run(pieces);
    expect(known.made).toBe(3);
    run(pieces);
    expect(known.made).toBe(0);
    run([left, right, { ...between, choices: { values: { spacingMm: 0.6 }, guides: [] } }]);
    expect(known.made).toBe(1);
  });
});
