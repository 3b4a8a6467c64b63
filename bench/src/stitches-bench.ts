import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  parseRecipe,
  costOfOrder,
  densityOf,
  distanceToSegment,
  drawScene,
  fabricOf,
  figuresOf,
  forecastGaps,
  JUMP,
  layering,
  planWays,
  renderDesign,
  segmentsOf,
  sewPieces,
  sewSettings,
  STITCH,
  StepCache,
  STITCH_KINDS,
  stitchPiece,
  StitchWriter,
  tatami,
  writePng,
  zigzag,
  type Design,
  type Piece,
  type Points,
  type Raster,
  type Sewing,
} from '@open-kite/core';
import { flatRecipe, type FlatRecipe } from '@open-kite/core/testing';
import { convertOne } from './one-picture.js';
import {
  coverageOf,
  crossingRungs,
  drawSmooth,
  flatScene,
  letterShapes,
  linePieceOf,
  pieceOf,
  PLAIN_STITCHES,
  regions,
  satinPieceOf,
  satinRegions,
  stitchLengths,
  type Region,
} from '@open-kite/core/testing';
import { layeredScene } from './layered-scene.js';
import { best, heading, line, percent } from './print.js';

const ROWS = { angle: 20, spacingMm: 0.4, stitchLengthMm: 3.6, compensationMm: 0.2 };

const shareOf = <T>(list: readonly T[], is: (value: T) => boolean): number =>
  list.length === 0 ? 0 : list.filter(is).length / list.length;

/** Tatami on scripted regions: quality and speed. */
async function tatamiFigures(): Promise<void> {
  const shapes = regions(100, 424242);
  heading(
    'Tatami',
    '100 scripted regions with holes, necks, combs and spirals; rows 0.4 mm, thread 0.4 mm, compensation 0.2 mm',
  );
  const sewn = shapes.map(({ rings }) => tatami(rings, ROWS));
  const figures = sewn.map((runs, i) => coverageOf(shapes[i].rings, runs));
  const covered = figures.map((f) => f.covered).sort((a, b) => a - b);
  const lengths = sewn.flatMap((runs) => stitchLengths(runs));
  line('jumps inside a connected piece', String(sewn.filter((runs) => runs.length !== 1).length), '0');
  line('coverage, median and worst', `${percent(covered[50])}, ${percent(covered[0])}`, '99 %, 98 %');
  line('needle point farthest outside', `${Math.max(...figures.map((f) => f.outside)).toFixed(3)} mm`, '0.3 mm');
  const hidden = sewn.flatMap((runs) => runs.map((run) => travelCover(run, ROWS.angle)));
  const [seen, all] = hidden.reduce(([a, b], [c, d]) => [a + c, b + d], [0, 0]);
  line('travel covered by later rows', percent(1 - seen / Math.max(1, all)), '99 %');
  line(
    'stitches under 0.3 mm, under 0.5 mm',
    `${percent(shareOf(lengths, (l) => l < 0.3))}, ${percent(shareOf(lengths, (l) => l < 0.5))}`,
    '1 %, 8 %',
  );
  line('longest stitch', `${Math.max(...lengths).toFixed(2)} mm`, '12 mm');
  const ms = await best(5, () => shapes.forEach(({ rings }) => tatami(rings, ROWS)));
  line('speed, Node, one core', `${Math.round(lengths.length / (ms / 1000))} stitches/s`, '400 000');
}

/** Samples of stitches across rows (travel) that no later stitch covers, and all of them. */
function travelCover(run: Points, angle: number): [open: number, all: number] {
  const [c, s] = [Math.cos((-angle * Math.PI) / 180), Math.sin((-angle * Math.PI) / 180)];
  const n = run.length / 2;
  const x = Array.from({ length: n }, (_, i) => run[i * 2] * c - run[i * 2 + 1] * s);
  const y = Array.from({ length: n }, (_, i) => run[i * 2] * s + run[i * 2 + 1] * c);
  let [open, all] = [0, 0];
  for (let i = 1; i < n; i++) {
    // Rows are level; what crosses two of them or more is on its way somewhere.
    if (Math.abs(y[i] - y[i - 1]) < 0.85) continue;
    for (let k = 1; k <= 4; k++) {
      const px = x[i - 1] + ((x[i] - x[i - 1]) * k) / 5;
      const py = y[i - 1] + ((y[i] - y[i - 1]) * k) / 5;
      all++;
      let covered = false;
      for (let j = i + 1; j < n && !covered; j++) {
        const dx = x[j] - x[j - 1];
        const dy = y[j] - y[j - 1];
        const square = dx * dx + dy * dy || 1;
        const t = Math.min(1, Math.max(0, ((px - x[j - 1]) * dx + (py - y[j - 1]) * dy) / square));
        covered = (x[j - 1] + t * dx - px) ** 2 + (y[j - 1] + t * dy - py) ** 2 <= 0.22 ** 2;
      }
      if (!covered) open++;
    }
  }
  return [open, all];
}

const sewSatin = (rings: readonly Points[]): Points[] => stitchPiece(satinPieceOf(rings), PLAIN_STITCHES, {});

function distanceToRun(run: Points, x: number, y: number): number {
  let least = Infinity;
  for (let i = 2; i < run.length; i += 2) {
    least = Math.min(least, distanceToSegment(x, y, run[i - 2], run[i - 1], run[i], run[i + 1]));
  }
  return least;
}

/** Steps along the outer rail of a column, in shares of the spacing. */
function outerSteps(rungs: readonly Points[]): number[] {
  const run = zigzag(rungs, { spacingMm: 0.4, compensationMm: 0 });
  const out: number[] = [];
  const rails = [0, 2].map((side) => rungs.flatMap((rung) => [rung[side], rung[side + 1]]));
  const isOnRail = (i: number): boolean => distanceToRun(rails[(i / 2) % 2], run[i], run[i + 1]) < 0.02;
  const step = (i: number): number =>
    isOnRail(i) && isOnRail(i - 4) ? Math.hypot(run[i] - run[i - 4], run[i + 1] - run[i - 3]) : 0;
  // Needle points of both rails alternate, those on the inner one may be drawn in: the longer step on a rail is outside.
  for (let i = 6; i < run.length; i += 2) out.push(Math.max(step(i), step(i - 2)) / 0.4);
  return out;
}

async function satinFigures(root: string): Promise<void> {
  heading(
    'Satin',
    'letters G A S R & 8 K B, ring, crescent, star, drop at 20 and 8 mm; 60 scripted regions; no compensation',
  );
  const letters = [...letterShapes(20), ...letterShapes(8)];
  const shapes = satinRegions(60, 77);
  const measured = (list: readonly Region[]) =>
    list.map(({ rings }) => {
      const runs = sewSatin(rings);
      return { runs, ...coverageOf(rings, runs), columns: satinPieceOf(rings).columns };
    });
  const [a, b] = [measured(letters), measured(shapes)];
  const all = [...a, ...b];
  line('coverage of letters, worst', percent(Math.min(...a.map((m) => m.covered))), '98.5 %');
  line('regions covered 97 % or more', percent(shareOf(b, (m) => m.covered >= 0.97)), '95 %');
  line('rungs that cross', String(all.flatMap((m) => m.columns).reduce((n, c) => n + crossingRungs(c.rungs), 0)), '0');
  line('needle points over 0.1 mm outside', String(all.filter((m) => m.outside > 0.1).length), '0');
  const long = all.flatMap((m) => stitchLengths(m.runs)).filter((l) => l > 7.5).length;
  line('stitches over 7.5 mm', String(long), '0');
  const narrow = all.flatMap((m) => m.columns).filter((c) => widthOf(c.rungs) < 6.5);
  const steps = narrow.flatMap(({ rungs }) =>
    outerSteps(Array.from({ length: rungs.length / 4 }, (_, i) => rungs.slice(i * 4, i * 4 + 4))),
  );
  line('outer rail within 25 % of the spacing', percent(shareOf(steps, (s) => Math.abs(s - 1) <= 0.25)), '95 %');
  const pieces = shapes.map(({ rings }) => satinPieceOf(rings));
  const count = pieces.reduce((n, p) => n + stitchLengths(stitchPiece(p, PLAIN_STITCHES, {})).length, 0);
  const ms = await best(5, () => pieces.forEach((piece) => stitchPiece(piece, PLAIN_STITCHES, {})));
  line('speed, Node, one core, columns known', `${Math.round(count / (ms / 1000))} stitches/s`, '150 000');
  const sheet = join(root, 'dist/bench');
  writeFileSync(
    join(sheet, 'satin-letters.png'),
    sheetOf(
      letters.map(({ rings }) => sewSatin(rings)),
      12,
      26,
      12,
    ),
  );
  writeFileSync(join(sheet, 'stitch-kinds.png'), sheetOf(kindSamples(), 6, 40, 7));
  line('picture sheets', 'dist/bench/satin-letters.png, dist/bench/stitch-kinds.png');
}

const widthOf = (rungs: Points): number => {
  let most = 0;
  for (let i = 0; i < rungs.length; i += 4) {
    most = Math.max(most, Math.hypot(rungs[i] - rungs[i + 2], rungs[i + 1] - rungs[i + 3]));
  }
  return most;
};

/** Every stitch kind on shapes it is made for. */
export function kindSamples(): Points[][] {
  const arch: Points = [];
  for (let i = 0; i <= 40; i++) arch.push(...onArch(i / 40, 17, 14));
  const spine = arch.slice();
  for (let i = 40; i >= 0; i--) arch.push(...onArch(i / 40, 8, 5));
  const heart: Points = [];
  for (let i = 0; i < 80; i++) {
    const t = (i / 80) * 2 * Math.PI;
    const y = 13 * Math.cos(t) - 5 * Math.cos(2 * t) - 2 * Math.cos(3 * t) - Math.cos(4 * t);
    heart.push(15 * Math.sin(t) ** 3, -0.95 * y);
  }
  const settings = { ...PLAIN_STITCHES, angle: 20 };
  return STITCH_KINDS.flatMap(({ id, family }) => {
    const more: Partial<Piece> = { kind: id };
    if (family === 'line') return [stitchPiece(linePieceOf(spine, 0.8, more), settings, {})];
    if (family === 'column') return [stitchPiece(satinPieceOf([arch], more), settings, {})];
    return [
      stitchPiece(pieceOf([arch], { ...more, anchor: { x: 0, y: -9.5 } }), settings, {}),
      stitchPiece(pieceOf([heart], more), settings, {}),
    ];
  });
}

const onArch = (t: number, rx: number, ry: number): [number, number] => {
  const a = Math.PI * (0.9 + 1.2 * t);
  return [rx * Math.cos(a), ry * Math.sin(a)];
};

/** Samples beside each other, drawn as sewn. */
function sheetOf(samples: readonly (readonly Points[])[], columns: number, cellMm: number, scale: number): Uint8Array {
  const writer = new StitchWriter();
  samples.forEach((runs, i) => {
    const xs = runs.flatMap((run) => run.filter((_, k) => k % 2 === 0));
    const ys = runs.flatMap((run) => run.filter((_, k) => k % 2 === 1));
    const dx = ((i % columns) + 0.5) * cellMm - (Math.min(...xs) + Math.max(...xs)) / 2;
    const dy = (Math.floor(i / columns) + 0.5) * cellMm - (Math.min(...ys) + Math.max(...ys)) / 2;
    for (const run of runs) {
      writer.add(run[0] + dx, run[1] + dy, JUMP, 0, 0);
      for (let k = 0; k < run.length; k += 2) writer.add(run[k] + dx, run[k + 1] + dy, STITCH, 0, 0);
    }
  });
  const thread = { code: 'A', name: 'A', hex: '#2c6e80', chart: 'own', deltaE: 0 };
  const sewing: Sewing = {
    fabric: { id: 'linen', hex: '#efe6d2' },
    threads: [thread],
    stitches: writer.finish(),
    pieceIds: ['p1'],
  };
  return writePng(renderDesign(sewing, scale, 'sewn', 3));
}

/** The least number of thread runs under a layering: breadth first over sets of finished pieces; undefined where too many. */
function fewestRuns(pieces: readonly Piece[]): number | undefined {
  const before = layering(pieces);
  const threads = [...new Set(pieces.map((p) => p.thread))];
  const key = (done: Uint8Array): string => done.join('');
  let states = new Map<string, Uint8Array>([['', new Uint8Array(pieces.length)]]);
  for (let runs = 0; runs < 60; runs++) {
    const next = new Map<string, Uint8Array>();
    for (const state of states.values()) {
      if (state.every((v) => v === 1)) return runs;
      for (const thread of threads) {
        const done = state.slice();
        for (let again = true; again;) {
          again = false;
          pieces.forEach((piece, i) => {
            if (piece.thread !== thread || done[i] || before[i].some((other) => !done[other])) return;
            done[i] = 1;
            again = true;
          });
        }
        if (done.some((v, i) => v !== state[i])) next.set(key(done), done);
      }
    }
    if (next.size > 60_000) return undefined;
    states = next;
  }
  return undefined;
}

const gapOf = (a: Points, b: Points): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** What the order saves against pieces as they were traced, entered and left where their outlines begin. */
function orderOf(design: Design, recipe: FlatRecipe) {
  const { pieces, order } = design;
  const ways = planWays(pieces, order, recipe.order.trimOverMm);
  const planned = costOfOrder(pieces, order, ways, recipe.order.trimOverMm);
  // The same thread runs, the pieces of each as traced.
  const runs: number[][] = [];
  for (const i of order) {
    if (runs.length === 0 || pieces[runs[runs.length - 1][0]].thread !== pieces[i].thread) runs.push([]);
    runs[runs.length - 1].push(i);
  }
  const traced = runs.flatMap((run) => run.slice().sort((a, b) => a - b));
  const starts = traced.map((i) => pieces[i].outline[0].points);
  const before = starts.reduce((sum, p, k) => (k === 0 ? 0 : sum + gapOf(p, starts[k - 1])), 0);
  const steps = sewPieces(pieces, traced, { ...sewSettings(parseRecipe(recipe)), hideTravel: false });
  let step = steps.next();
  while (!step.done) step = steps.next();
  const trimsBefore = figuresOf(step.value, design.threads.length).trims;
  return { runs: planned.threadRuns, after: planned.travelMm, before, trimsBefore };
}

async function sewnFigures(crest: Raster): Promise<void> {
  heading(
    'Order, overlap and forecast',
    'crest at 100 mm with 6 colours and 20 scripted flat pictures at 720 px, quilting cotton',
  );
  const inputs = [
    { name: 'crest', raster: crest, count: 6 as number | 'auto' },
    ...Array.from({ length: 20 }, (_, i) => {
      const { scene, palette } = flatScene(720, 4 + (i % 7), 1700 + i);
      return { name: `picture ${i}`, raster: drawSmooth(scene, palette, 720, 720).raster, count: 'auto' as const };
    }),
  ];
  let [before, after, trims, trimsBefore, exact, checked, over, sewn] = [0, 0, 0, 0, 0, 0, 0, 0];
  let most = 0;
  for (const { name, raster, count } of inputs) {
    const base = flatRecipe(raster.width, raster.height);
    const recipe = { ...base, colours: { ...base.colours, count } };
    const design = await convertOne({ raster, pictureKey: name, recipe, charts: [] });
    const cost = orderOf(design, recipe);
    before += cost.before;
    after += cost.after;
    trims += figuresOf(design.stitches, design.threads.length).trims;
    trimsBefore += cost.trimsBefore;
    const fewest = fewestRuns(design.pieces);
    if (fewest !== undefined) {
      checked++;
      if (fewest === cost.runs) exact++;
    }
    const { covers } = densityOf(segmentsOf(design.stitches));
    const dense = covers.filter((c) => c > 5).length;
    const any = covers.filter((c) => c > 0.3).length;
    most = Math.max(most, dense / any);
    over += dense;
    sewn += any;
    if (name !== 'crest') continue;
    for (const fabric of ['quilting-cotton', 'pique']) {
      const cloth = { ...recipe, stitches: { ...recipe.stitches, fabric } };
      const made = await convertOne({ raster, pictureKey: fabric, recipe: cloth, charts: [] });
      const gaps = forecastGaps(made.pieces, made.order, made.stitches, fabricOf(fabric));
      line(
        `crest on ${fabric}: widest gap, bare cloth per metre of border`,
        `${gaps.widestMm.toFixed(2)} mm, ${((gaps.bareMm2 / gaps.borderMm) * 1000).toFixed(1)} mm2`,
        '0.3 mm, 5 mm2',
      );
    }
  }
  line('thread runs: exact minimum (exhaustive search)', `${exact} of ${checked}`, 'all');
  line('travel between pieces, against pieces as traced', `${percent(1 - after / before)} less`, '60 % less');
  line('trims, against pieces as traced', `${trims}, ${trimsBefore}`, 'no more');
  line('area with more than five covers: all, worst picture', `${percent(over / sewn)}, ${percent(most)}`, '1 %');
}

/** Three hundred pieces: what a change of one of them costs. */
async function changeFigures(): Promise<void> {
  const { palette } = flatScene(1000, 12, 5);
  const scene = (x: number, y: number): number => {
    const [column, row] = [Math.floor(x / 57), Math.floor(y / 57)];
    const [dx, dy] = [x - column * 57 - 28, y - row * 57 - 28];
    const k = (column * 7 + row * 3) % 11;
    return dx * dx + dy * dy < (12 + (k % 5) * 3) ** 2 ? 1 + k : 0;
  };
  const { raster } = drawSmooth(scene, palette, 1000, 1000);
  const base = flatRecipe(1000, 1000);
  const recipe = { ...base, colours: { ...base.colours, count: 12 } };
  const cache = new StepCache();
  const input = { raster, pictureKey: 'many', charts: [] };
  const design = await convertOne({ ...input, recipe }, { cache });
  heading(
    'Changes',
    `${design.pieces.length} pieces, ${design.stitches.count} rows, core in Node, early steps remembered`,
  );
  const piece = design.pieces[40];
  const box = design.picture ?? { left: 0, top: 0, width: 1, height: 1 };
  const at = {
    hex: design.colours[piece.colour].anchor.hex,
    u: (piece.anchor.x - box.left) / box.width,
    v: (piece.anchor.y - box.top) / box.height,
    share: piece.areaMm2 / (box.width * box.height),
  };
  let k = 0;
  const one = (name: 'angle' | 'spacingMm' | 'fabric', value: () => number | string): Promise<number> =>
    best(5, () => {
      const set = { [name]: value() };
      const decisions = [{ kind: 'stitch' as const, at, set }];
      return convertOne({ ...input, recipe: { ...recipe, pieces: { ...recipe.pieces, decisions } } }, { cache });
    });
  line('angle of one piece', `${(await one('angle', () => (k += 7))).toFixed(0)} ms`, '150 ms on the stage');
  k = 0;
  line(
    'spacing of one piece',
    `${(await one('spacingMm', () => 0.4 + (k += 0.03))).toFixed(0)} ms`,
    '150 ms on the stage',
  );
  const fabrics = ['pique', 'felt', 'denim', 'fleece', 'linen'];
  k = 0;
  line(
    'fabric of one piece',
    `${(await one('fabric', () => fabrics[k++ % fabrics.length])).toFixed(0)} ms`,
    '150 ms on the stage',
  );
  k = 0;
  const cloth = await best(3, () => {
    const stitches = { ...recipe.stitches, fabric: fabrics[k++ % fabrics.length], spacingMm: 0.4 + k / 1000 };
    return convertOne({ ...input, recipe: { ...recipe, stitches } }, { cache });
  });
  line('fabric of the design: every piece is made again', `${cloth.toFixed(0)} ms`);
}

async function rendererFigures(): Promise<void> {
  const scene = layeredScene(60, 60, [0, 45, 90]);
  heading('Renderer in Node', `130 x 130 mm at 10 px/mm, ${scene.segments.count} stitches in three layers`);
  const view = { width: 1300, height: 1300, scale: 10, left: -650, top: -650 };
  line('sewn look', `${(await best(5, () => drawScene(scene, view, 'sewn'))).toFixed(0)} ms`, '800 ms');
}

/** What a digitizer would look at: stitches, their order, and how soon they come. */
export async function stitchesBench(root: string, crest: Raster): Promise<void> {
  await tatamiFigures();
  await satinFigures(root);
  await sewnFigures(crest);
  await changeFigures();
  await rendererFigures();
}
