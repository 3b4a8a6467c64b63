import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  flatten,
  flattenRing,
  hoopToSource,
  readSvg,
  StepCache,
  type Curve,
  type Design,
  type Points,
  type Raster,
  type Rgb,
} from '@open-kite/core';
import { flatRecipe, type FlatRecipe } from '@open-kite/core/testing';
import { convertOne } from './one-picture.js';
import {
  characterOf,
  drawSmooth,
  findComponents,
  flatScene,
  labelPicture,
  lineDrawing,
  plainLabelSettings,
  ringCoverage,
  traceLabels,
  wildSvg,
  type LabelMap,
} from '@open-kite/core/testing';
import { decodePicture, UserError } from '@open-kite/server';
import { best, heading, line, percent } from './print.js';

const SIZE = 720;
/** How far an outline may leave the edge, in pixels. */
const TOLERANCE = 0.4;

interface Flat {
  readonly raster: Raster;
  readonly truth: Uint8Array;
  readonly palette: readonly Rgb[];
}

function flatPictures(count: number, size: number): Flat[] {
  return Array.from({ length: count }, (_, i) => {
    const { scene, palette } = flatScene(size, 3 + (i % 7), 900 + i);
    return { ...drawSmooth(scene, palette, size, size), palette };
  });
}

const labelsOf = (raster: Raster): LabelMap =>
  labelPicture(raster, characterOf(raster), plainLabelSettings(raster, 'auto', 1));

/** Entry of the true palette for every label: the same colour, or nearly. */
function truthOf(map: LabelMap, palette: readonly Rgb[]): number[] {
  return map.palette.map((c) => {
    const gaps = palette.map((p) => Math.abs(p.r - c.r) + Math.abs(p.g - c.g) + Math.abs(p.b - c.b));
    return gaps.indexOf(Math.min(...gaps));
  });
}

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

/** Gives every pixel to the outline that covers most of it; `left` is how many are covered by less than nine tenths. */
function paint(
  shapes: readonly { rings: readonly Points[]; label: number }[],
  size: number,
): { labels: Int16Array; left: number } {
  const labels = new Int16Array(size * size).fill(-1);
  const most = new Uint8Array(size * size);
  const sum = new Uint16Array(size * size);
  for (const { rings, label } of shapes) {
    const coverage = ringCoverage(rings, size, size);
    for (let i = 0; i < labels.length; i++) {
      sum[i] += coverage[i];
      if (coverage[i] > most[i]) {
        most[i] = coverage[i];
        labels[i] = label;
      }
    }
  }
  return { labels, left: sum.filter((covered) => covered < 230).length };
}

const agreement = (drawn: Int16Array, truth: Uint8Array): number => {
  let same = 0;
  for (let i = 0; i < truth.length; i++) if (drawn[i] === truth[i]) same++;
  return same / truth.length;
};

/** Labels, outlines and points of flat art, beside potrace on each colour by itself. */
function traceBench(pictures: readonly Flat[]): void {
  heading('Labels and outlines', `${pictures.length} scripted smooth-edged flat pictures, ${SIZE} x ${SIZE} pixels`);
  const right: number[] = [];
  const spurious: number[] = [];
  const ours: number[] = [];
  const theirs: number[] = [];
  let [gaps, theirGaps] = [0, 0];
  let [points, potracePoints] = [0, 0];
  const folder = mkdtempSync(join(tmpdir(), 'kite-bench-'));
  for (const { raster, truth, palette } of pictures) {
    const map = labelsOf(raster);
    const names = truthOf(map, palette);
    let hits = 0;
    for (let i = 0; i < truth.length; i++) if (names[map.labels[i] - 1] === truth[i]) hits++;
    right.push(hits / truth.length);
    spurious.push(spuriousRegions(map, names, truth));
    const trace = traceLabels(map, raster, { tolerance: TOLERANCE, cornerSharpness: 1 });
    const faces = trace.faces.map((face) => ({
      rings: face.rings.map((ring) => flattenRing(ring, 0.05)),
      label: names[face.label - 1],
    }));
    const drawn = paint(faces, SIZE);
    ours.push(agreement(drawn.labels, truth));
    gaps += drawn.left;
    points += trace.curves.reduce((sum, curve) => sum + curve.kinds.length, 0);
    const other = potrace(map, folder);
    potracePoints += other.points;
    const painted = paint(
      other.shapes.map((s) => ({ ...s, label: names[s.label] })),
      SIZE,
    );
    theirs.push(agreement(painted.labels, truth));
    theirGaps += painted.left;
  }
  rmSync(folder, { recursive: true });
  line(
    'labels right, mean and worst',
    `${percent(mean(right), 3)}, ${percent(Math.min(...right), 3)}`,
    '99.9 %, 99.8 %',
  );
  line('spurious regions, most in one picture', String(Math.max(...spurious)), '1');
  line(
    'drawn again, agreement, mean and worst',
    `${percent(mean(ours), 3)}, ${percent(Math.min(...ours), 3)}`,
    '99.85 %, 99.7 %',
  );
  line('drawn again, pixels not covered; with potrace', `${gaps}; ${theirGaps}`, '0');
  line(
    'potrace per colour on the same labels, agreement',
    `${percent(mean(theirs), 3)}, ${percent(Math.min(...theirs), 3)}`,
  );
  line(
    'points, each shared arc once; potrace; ratio',
    `${points}; ${potracePoints}; ${(points / potracePoints).toFixed(2)}`,
    '0.5',
  );
}

/** Areas of the label map most of whose pixels truly are of another colour. */
function spuriousRegions(map: LabelMap, names: readonly number[], truth: Uint8Array): number {
  const parts = findComponents(map.labels, map.width, map.height);
  const wrong = new Int32Array(parts.count);
  for (let i = 0; i < truth.length; i++) if (names[map.labels[i] - 1] !== truth[i]) wrong[parts.of[i]]++;
  return wrong.filter((count, c) => count * 2 > parts.area[c]).length;
}

function potrace(map: LabelMap, folder: string): { shapes: { rings: Points[]; label: number }[]; points: number } {
  let points = 0;
  const shapes = map.palette.map((_, label) => {
    const file = join(folder, 'colour.pbm');
    const rows = Math.ceil(map.width / 8);
    const bits = Buffer.alloc(rows * map.height);
    for (let i = 0; i < map.labels.length; i++) {
      const [x, y] = [i % map.width, Math.floor(i / map.width)];
      if (map.labels[i] === label + 1) bits[y * rows + (x >> 3)] |= 128 >> (x & 7);
    }
    writeFileSync(file, Buffer.concat([Buffer.from(`P4\n${map.width} ${map.height}\n`), bits]));
    const svg = execFileSync('potrace', ['-b', 'svg', '-o', '-', file]).toString();
    const art = readSvg(svg);
    const curves: Curve[] = art.shapes.flatMap(({ curves: c }) => [...c]);
    points += curves.reduce((sum, curve) => sum + curve.kinds.length, 0);
    const scale = map.width / art.widthMm;
    return { rings: curves.map((curve) => flattenRing(curve, 0.01).map((v) => v * scale)), label };
  });
  return { shapes, points };
}

/** Middles of drawn lines against the true ones. */
async function lineBench(): Promise<void> {
  const drawings = Array.from({ length: 20 }, (_, i) => lineDrawing(500, 300 + i));
  heading('Drawn lines', '20 scripted drawings, 500 x 500 pixels: bends, rings, crossings, strokes into solid areas');
  const errors: number[] = [];
  let [found, all] = [0, 0];
  for (const drawing of drawings) {
    const { raster } = drawSmooth(
      drawing.scene,
      [
        { r: 250, g: 248, b: 240 },
        { r: 30, g: 34, b: 40 },
      ],
      500,
      500,
    );
    const base = flatRecipe(500, 500);
    const recipe: FlatRecipe = { ...base, pieces: { ...base.pieces, lineBelowMm: 2.6, satinBelowMm: 0 } };
    const design = await convertOne({ raster, pictureKey: 'lines', recipe, charts: [] });
    const k = 500 / recipe.picture.widthMm;
    const runs = design.pieces.flatMap(({ paths }) =>
      paths.map((path) => evenly(flatten(path, 0.01).map((v) => v * k + 250))),
    );
    const places = runs.flat();
    for (const { points, width } of drawing.lines) {
      const truth = evenly(points);
      for (const p of truth) {
        all++;
        if (nearest(places, p) <= Math.max(1.5, width * 0.2)) found++;
      }
    }
    const truths = drawing.lines.flatMap(({ points }) => evenly(points));
    // Round ends reach half a width beyond the end of the middle.
    const ends = drawing.lines.flatMap(({ points, width }) =>
      [points.slice(0, 2), points.slice(-2)].map(([x, y]) => ({ x, y, reach: width / 2 + 1 })),
    );
    const { solid } = drawing;
    for (const p of places) {
      // In a solid area, and where a line opens into it, there is no middle to be found.
      if ((p.x - solid.x) ** 2 + (p.y - solid.y) ** 2 < (solid.r + 4) ** 2) continue;
      if (ends.some((end) => (end.x - p.x) ** 2 + (end.y - p.y) ** 2 < end.reach ** 2)) continue;
      errors.push(nearest(truths, p));
    }
  }
  errors.sort((a, b) => a - b);
  line('error of the middle, 95 of 100 places', `${errors[Math.floor(errors.length * 0.95)].toFixed(2)} px`, '1 px');
  line('share of the true middles found', percent(found / all, 1), '90 %');
}

interface Place {
  readonly x: number;
  readonly y: number;
}

function evenly(points: Points): Place[] {
  const out: Place[] = [];
  for (let i = 2; i < points.length; i += 2) {
    const [ax, ay, bx, by] = [points[i - 2], points[i - 1], points[i], points[i + 1]];
    const parts = Math.max(1, Math.round(Math.sqrt((bx - ax) ** 2 + (by - ay) ** 2)));
    for (let k = 0; k < parts; k++) out.push({ x: ax + ((bx - ax) * k) / parts, y: ay + ((by - ay) * k) / parts });
  }
  return out;
}

function nearest(places: readonly Place[], p: Place): number {
  let least = Infinity;
  for (const q of places) least = Math.min(least, (q.x - p.x) ** 2 + (q.y - p.y) ** 2);
  return Math.sqrt(least);
}

/** A megapixel of a dozen colours in about 300 pieces. */
async function speedBench(): Promise<void> {
  const size = 1000;
  const colours = flatScene(size, 12, 5).palette;
  const scene = (x: number, y: number): number => {
    const [i, j] = [Math.floor(x / 58), Math.floor(y / 58)];
    const d = Math.sqrt((x - i * 58 - 29) ** 2 + (y - j * 58 - 29) ** 2);
    return d < 14 + ((i * 7 + j * 3) % 10) ? 1 + ((i * 5 + j * 3) % 11) : 0;
  };
  const { raster } = drawSmooth(scene, colours, size, size);
  heading('Speed', '1 megapixel, 12 colours, this machine, best of 3, core time');
  const both = await best(3, () => {
    const map = labelsOf(raster);
    traceLabels(map, raster, { tolerance: 0.6, cornerSharpness: 1, widestLine: 9 });
  });
  line('labels and trace', `${both.toFixed(0)} ms`, '1000 ms');
  const input = { raster, pictureKey: 'speed', recipe: flatRecipe(size, size), charts: [] };
  let pieces = 0;
  const whole = await best(3, async () => (pieces = (await convertOne(input)).pieces.length));
  line(`whole conversion, ${pieces} pieces`, `${whole.toFixed(0)} ms`, '3000 ms');
}

/** 200 files of vector artwork as nobody should draw it. */
async function wildBench(): Promise<void> {
  heading('Vector artwork', '200 scripted SVG files, hostile ones among them, decoded as by the server and converted');
  let [designs, messages, crashes, slowest] = [0, 0, 0, 0];
  for (let seed = 1; seed <= 200; seed++) {
    const since = performance.now();
    try {
      const { raster, artwork } = await decodePicture(Buffer.from(wildSvg(seed)));
      const recipe = flatRecipe(raster.width, raster.height);
      const design = await convertOne({ raster, artwork, pictureKey: String(seed), recipe, charts: [] });
      if (design.pieces.length > 0 || design.problems.length > 0 || (artwork?.shapes.length ?? 0) === 0) designs++;
      else messages++;
    } catch (error) {
      if (error instanceof UserError || error instanceof RangeError) messages++;
      else {
        crashes++;
        console.log(`    seed ${seed}: ${String(error)}`);
      }
    }
    slowest = Math.max(slowest, performance.now() - since);
  }
  line('designs, clear messages, crashes', `${designs}, ${messages}, ${crashes}`, '0 crashes');
  line('slowest', `${(slowest / 1000).toFixed(2)} s`, '5 s');
}

/** Whether what was said of pieces still holds after settings change, where the pieces are the same. */
async function decisionBench(crest: Raster, pictures: readonly Flat[]): Promise<void> {
  heading(
    'Decisions on pieces',
    `crest and ${pictures.length} scripted pictures; every piece left bare, sewn otherwise or moved`,
  );
  const kept: Record<string, [number, number, number]> = {};
  for (const [p, raster] of [crest, ...pictures.map((f) => f.raster)].entries()) {
    const cache = new StepCache();
    const base = flatRecipe(raster.width, raster.height);
    const run = (recipe: FlatRecipe): Promise<Design> =>
      convertOne({ raster, pictureKey: String(p), recipe, charts: [] }, { cache });
    const before = await run(base);
    const decisions = before.pieces.map((piece, i) => {
      const { u, v } = hoopToSource(base.picture, piece.anchor.x, piece.anchor.y);
      const { widthMm, heightMm } = base.picture;
      const at = { hex: before.colours[piece.colour].anchor.hex, u, v, share: piece.areaMm2 / (widthMm * heightMm) };
      return i % 2 === 0 ? { kind: 'bare', at } : { kind: 'sew', at, as: 'tatami', passes: 0 };
    });
    const n = before.threads.length;
    const changes: Record<string, FlatRecipe> = {
      'strictness 0.04 to 0.3 mm': { ...base, pieces: { ...base.pieces, strictnessMm: 0.3 } },
      'one colour fewer': { ...base, colours: { ...base.colours, count: Math.max(2, n) } },
      brightness: { ...base, light: { ...base.light, brightness: 15 } },
      'half the size': {
        ...base,
        picture: { ...base.picture, widthMm: base.picture.widthMm / 2, heightMm: base.picture.heightMm / 2 },
      },
    };
    for (const [name, recipe] of Object.entries(changes)) {
      const plain = await run(recipe);
      const after = await run({ ...recipe, pieces: { ...recipe.pieces, decisions } });
      const tally = (kept[name] ??= [0, 0, 0]);
      const lost = new Set(after.lostPieceDecisions);
      decisions.forEach((_, i) => {
        if (!isUnchanged(before, plain, i, recipe.picture.widthMm / base.picture.widthMm)) return;
        tally[0]++;
        if (!lost.has(i) && fitsAfter(after, before, i, recipe.picture.widthMm / base.picture.widthMm)) tally[1]++;
        if (lost.has(i)) tally[2]++;
      });
    }
  }
  for (const [name, [all, good, lost]] of Object.entries(kept)) {
    line(
      `${name}: kept of decisions on unchanged pieces; listed`,
      `${percent(good / all, 1)} of ${all}; ${lost}`,
      '95 %',
    );
  }
}

/** Whether a piece is still there after a change: its like in place and area. */
function isUnchanged(before: Design, after: Design, index: number, scale: number): boolean {
  const a = before.pieces[index];
  return after.pieces.some((b) => {
    const ratio = b.areaMm2 / (a.areaMm2 * scale * scale);
    return ratio > 0.9 && ratio < 1.1 && sameBox(a.bounds, b.bounds, scale);
  });
}

function fitsAfter(after: Design, before: Design, index: number, scale: number): boolean {
  const a = before.pieces[index];
  const bare = after.barePieces.find(({ decision }) => decision === index);
  if (bare) return sameBox(a.bounds, bare.bounds, scale);
  const piece = after.pieces.find(({ decisions }) => decisions.includes(index));
  return piece !== undefined && sameBox(a.bounds, piece.bounds, scale);
}

function sameBox(a: Design['pieces'][number]['bounds'], b: typeof a, scale: number): boolean {
  const near = (p: number, q: number): boolean => Math.abs(p * scale - q) < 0.6;
  return near(a.left, b.left) && near(a.right, b.right) && near(a.top, b.top) && near(a.bottom, b.bottom);
}

/** Everything of the Pieces step that needs no browser. */
export async function piecesBench(crest: Raster): Promise<void> {
  const pictures = flatPictures(30, SIZE);
  traceBench(pictures);
  await lineBench();
  await speedBench();
  await wildBench();
  const small = flatPictures(20, 480);
  await decisionBench(crest, small);
}
