import { characterOf } from '../colour/suggest.js';
import { drawSmooth, type Scene } from '../test/draw.js';
import { labelPicture, plainLabelSettings } from '../trace/labels.js';
import { traceLabels } from '../trace/trace.js';
import { findPieces, type ObjectFrame, type PieceSettings } from './find-pieces.js';
import type { FoundPieces } from './found-pieces.js';
import { ringsOf, runsOf } from './piece.js';
import { isInside } from '../geometry/polyline.js';
import { familyOf } from '../stitches/kinds/index.js';
import { tracedAreas } from './traced-areas.js';

const PALETTE = [
  { r: 255, g: 255, b: 255 },
  { r: 20, g: 60, b: 90 },
  { r: 210, g: 60, b: 40 },
  { r: 230, g: 180, b: 40 },
];

/** A disc with a smaller one on it, a thin bar beside, and a speck; 10 pixels a millimetre. */
const scene: Scene = (x, y) => {
  const d = Math.hypot(x - 100, y - 120);
  if (d < 30) return 2;
  if (d < 70) return 1;
  if (y > 225 && y < 232 && x > 40 && x < 260) return 3;
  if (Math.hypot(x - 240, y - 60) < 3) return 2;
  return 0;
};

function find(
  settings: Partial<PieceSettings & ObjectFrame> & { bare?: ReadonlySet<number> } = {},
  drawing = scene,
): FoundPieces {
  const { raster } = drawSmooth(drawing, PALETTE, 300, 300);
  const map = labelPicture(raster, characterOf(raster), plainLabelSettings(raster, 'auto', 1));
  const trace = traceLabels(map, raster, { tolerance: 0.5, cornerSharpness: 1, widestLine: 12 });
  const place = { left: -15, top: -15, pixelsPerMm: 10 };
  const found = tracedAreas('picture-1', trace, map, place, settings.bare ?? new Set([map.ground]));
  const frame: ObjectFrame = {
    toHoop: (u, v) => ({ x: u * 30 - 15, y: v * 30 - 15 }),
    wholeMm2: 900,
    smallestMm2: 0.6,
    lineBelowMm: 1.2,
    satinBelowMm: 0,
    keepBelowMm: 4,
    traced: { trace, ...place },
    ...settings,
  };
  const isLarge = ({ areaMm2 }: { areaMm2: number }): boolean => areaMm2 >= frame.smallestMm2;
  return findPieces(
    found.filter(isLarge),
    {
      corners: 'mitre',
      familyOf,
      decisions: [],
      seenHexOf: () => '#000000',
      labelOf: () => 0,
      frameOf: () => frame,
      ...settings,
    },
    found.filter((area) => !isLarge(area)),
  );
}

describe('findPieces', () => {
  const { pieces, tooSmall, paints } = find();

  it('leaves the ground and what is too small', () => {
    expect(pieces.length).toBe(3);
    expect(tooSmall.length).toBe(1);
    expect(tooSmall[0].x).toBeCloseTo(9, 0);
    expect(paints.length).toBe(3);
    expect(find({ bare: new Set() }).pieces.length).toBe(4);
    expect(find({ smallestMm2: 0.1 }).pieces.length).toBe(4);
    const few = find({ most: 2 });
    expect([few.pieces.length, few.tooSmall.length]).toEqual([2, 2]);
    expect(Math.min(...few.pieces.map((p) => p.areaMm2))).toBeGreaterThan(15);
  });

  it('sews the ground with the thread its colour has inside', () => {
    const eye: Scene = (x, y) => {
      const d = Math.hypot(x - 150, y - 150);
      return d > 100 ? 0 : d > 60 ? 1 : d > 30 ? 0 : 2;
    };
    expect(find({}, eye).pieces.length).toBe(3);
    const sewn = find({ bare: new Set() }, eye);
    expect(sewn.pieces.length).toBe(4);
    expect(sewn.paints.length).toBe(3);
  });

  it('measures in millimetres around the centre', () => {
    const disc = pieces.find((p) => p.neighbours.length === 1 && p.outline.length === 1 && p.kind === 'tatami');
    expect(disc?.areaMm2).toBeCloseTo(Math.PI * 9, 0);
    expect(disc?.widthMm).toBeCloseTo(6, 0);
    expect(disc?.anchor.x).toBeCloseTo(-5, 0);
    expect(disc?.anchor.y).toBeCloseTo(-3, 0);
    const ring = pieces.find((p) => p.outline.length === 2);
    expect(ring?.areaMm2).toBeCloseTo(Math.PI * (49 - 9), 0);
    expect(ring?.bounds.left).toBeCloseTo(-12, 0);
  });

  it('knows neighbours and how long their border is', () => {
    const ring = pieces.findIndex((p) => p.outline.length === 2);
    expect(pieces[ring].neighbours.length).toBe(1);
    expect(pieces[ring].neighbours[0].borderMm).toBeCloseTo(2 * Math.PI * 3, -1);
  });

  it('sews what is thin as a line along its middle, by the width the user sets', () => {
    const bar = pieces.find((p) => p.kind === 'running');
    expect(bar?.widthMm).toBeCloseTo(0.7, 1);
    const [run] = bar ? runsOf(bar) : [[]];
    for (let i = 1; i < run.length; i += 2) expect(run[i]).toBeCloseTo(7.85, 0);
    expect(find({ lineBelowMm: 0.5 }).pieces.every((p) => p.kind === 'tatami')).toBeTrue();
  });

  it('fills what is little more than its widest place, where a line would leave the cloth bare beside it', () => {
    /** A triangle so long and so high, in pixels. */
    const triangle =
      (long: number, high: number): Scene =>
      (x, y) =>
        x > 60 && y > 100 && (x - 60) / long + (y - 100) / high < 1 ? 1 : 0;
    const kindsOf = (drawing: Scene): string[] => find({ lineBelowMm: 0.9 }, drawing).pieces.map(({ kind }) => kind);
    expect(kindsOf(triangle(30, 21))).toEqual(['tatami']);
    expect(kindsOf(triangle(190, 14))).toEqual(['running']);
  });

  it('puts each anchor well inside its piece', () => {
    for (const piece of pieces) {
      expect(isInside(ringsOf(piece), piece.anchor.x, piece.anchor.y))
        .withContext(piece.id)
        .toBeTrue();
    }
  });
});
