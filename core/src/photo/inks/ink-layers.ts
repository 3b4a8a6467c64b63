import { luminance } from '../../colour/lightness.js';
import { linearOf } from '../../colour/srgb.js';
import type { Points } from '../../geometry/vector.js';
import type { Layer } from '../methods/render-method.js';
import { flatCover } from '../rows/flat-cover.js';
import { ROW_STEP_MM, rowLines, stretchesOf, type RowLine } from '../rows/row-lines.js';
import { halfFor, sewRows, SIGMA_MM } from '../rows/sew-rows.js';
import { bareRow, type WideRow } from '../rows/wide-row.js';
import { halved, softPlane } from '../rows/soft-plane.js';
import type { Plate } from '../plate.js';
import { sewnColours } from '../sewn-colour.js';
import { cleanMask } from './clean-mask.js';
import { colourPlanes, type ColourPlanes } from './colour-planes.js';
import { leastShare } from './mix-inks.js';
import { planFirst } from './plan-inks.js';

export interface InkSettings {
  /** Threads, two to six. */
  readonly hexes: readonly string[];
  /** Light threads are sewn first, or they are sewn as they are listed. */
  readonly first: 'light' | 'listed';
  /** What they are laid over: the cloth, or a filled ground. */
  readonly groundHex: string;
  readonly spacingMm: number;
  readonly pitchMm: number;
  /** Direction of the first ink; each later one is turned on by `turn`. */
  readonly angle: number;
  readonly turn: number;
  /** Layers at one place at most. */
  readonly mostInk: number;
  readonly trimOverMm: number;
}

/** Islands and holes smaller than this are not sewn, or sewn over. */
const ISLAND_MM2 = 5;
const HOLE_MM2 = 2.4;
/** A stretch of row is at least so long, and a gap in it. */
const STRETCH_MM = 2.4;
const GAP_MM = 1.6;
/** Widest half of a row in shares of the distance of rows. */
const WIDEST = 0.55;
/** Rounds of measuring an ink by itself, and how much of what it lacks is added. */
const ROUNDS = 4;
const GAIN = 0.4;

/**
 * Sews a picture as layers of rows, one an ink, each at an angle of its own. Threads are opaque: what is seen of a place is
 * the mean of what lies open there. How much of each ink a place wants is planned over every choice of inks, and after each
 * layer anew, over what was really drawn.
 */
export function* inkLayers(plate: Plate, settings: InkSettings): Generator<number, Layer[]> {
  const { hexes, spacingMm } = settings;
  const colours = sewnColours(hexes, settings.angle, 0.4);
  const colourOf = (k: number): Float32Array => colours.subarray(k * 3, k * 3 + 3);
  const lightOf = (k: number): number => luminance(colours[k * 3], colours[k * 3 + 1], colours[k * 3 + 2]);
  const order = hexes.map((_, k) => k);
  if (settings.first === 'light') order.sort((a, b) => lightOf(b) - lightOf(a) || a - b);
  const cloth = linearOf(settings.groundHex);
  const planes = colourPlanes(plate, cloth);
  const below = new Float32Array(planes.wanted.length);
  for (let i = 0; i < below.length; i++) below[i] = cloth[i % 3];
  yield 0.1;
  const layers: Layer[] = [];
  for (let k = 0; k < order.length; k++) {
    const left = order.slice(k);
    const inks = {
      colours: Float32Array.from(left.flatMap((ink) => [...colourOf(ink)])),
      most: settings.mostInk,
      least: leastShare(spacingMm),
    };
    const wanted = planFirst(planes, inks, below);
    tidy(wanted, planes);
    const angle = settings.angle + order[k] * settings.turn;
    const runs = sewShare(plate, planes, wanted, { ...settings, angle });
    lay(below, planes, plate, runs, colourOf(order[k]));
    layers.push({ thread: order[k], runs, openMm: 0 });
    yield 0.1 + (0.9 * (k + 1)) / order.length;
  }
  return layers;
}

/** Takes specks of an ink out, and fills small holes with as much as lies around them. */
function tidy(wanted: Float32Array, { cols, cellMm, inside }: ColourPlanes): void {
  const mask = Uint8Array.from(wanted, (v) => (v > 0 ? 1 : 0));
  const perMm2 = 1 / (cellMm * cellMm);
  cleanMask(mask, cols, ISLAND_MM2 * perMm2, HOLE_MM2 * perMm2, (cell) => !inside[cell]);
  let last = 0;
  for (let i = 0; i < wanted.length; i++) {
    if (!mask[i]) wanted[i] = 0;
    else if (wanted[i] === 0) wanted[i] = last;
    else last = wanted[i];
  }
}

/** Rows of one ink that cover as much of every cell as it wants. */
function sewShare(plate: Plate, planes: ColourPlanes, wanted: Float32Array, settings: InkSettings): Points[] {
  const lines = rowLines(plate, 'straight', settings);
  const rows = lines.map((line) => firstRow(line, plate, planes, wanted));
  const how = { pitchMm: settings.pitchMm, slant: 0, trimOverMm: settings.trimOverMm };
  const goal = softPlane(wanted, planes.cols, planes.rows, SIGMA_MM / planes.cellMm);
  let runs = sewRows(rows, how);
  for (let round = 1; round < ROUNDS; round++) {
    const drawn = softCover(plate, planes, runs);
    for (const { line, sewn, up, down } of rows) {
      for (let i = 0; i < sewn.length; i++) {
        if (!sewn[i]) continue;
        for (const [half, side] of [
          [up, 1],
          [down, -1],
        ] as const) {
          const cell = cellAt(planes, plate, line, i, side);
          const more = GAIN * line.gapMm[i] * (goal[cell] - drawn[cell]);
          half[i] = Math.min(WIDEST * line.gapMm[i], Math.max(0, half[i] + more));
        }
      }
    }
    runs = sewRows(rows, how);
  }
  return runs;
}

/** The cell a quarter of the distance of rows beside a row; the nearest one beyond the picture. */
function cellAt({ cols, rows, cellMm }: ColourPlanes, plate: Plate, line: RowLine, i: number, side: number): number {
  const far = (side * line.gapMm[i]) / 4;
  const c = Math.floor((line.x[i] + line.acrossX[i] * far - plate.left) / cellMm);
  const r = Math.floor((line.y[i] + line.acrossY[i] * far - plate.top) / cellMm);
  return Math.min(rows - 1, Math.max(0, r)) * cols + Math.min(cols - 1, Math.max(0, c));
}

/** What runs of thread cover of every cell, mixed as the eye mixes it. */
function softCover(plate: Plate, { cols, rows, cellMm }: ColourPlanes, runs: readonly Points[]): Float32Array {
  return softPlane(halved(flatCover(plate, runs), plate.width, plate.height), cols, rows, SIGMA_MM / cellMm);
}

/** Where a row of an ink is sewn, and how wide, before it was measured. */
function firstRow(line: RowLine, plate: Plate, planes: ColourPlanes, wanted: Float32Array): WideRow {
  const n = line.x.length;
  const row = bareRow(line);
  const { width, height, left, top, scale } = plate;
  const bare: number[] = [];
  for (let i = 0; i < n; i++) {
    const px = (line.x[i] - left) * scale;
    const py = (line.y[i] - top) * scale;
    const isBare = px < 0 || py < 0 || px >= width || py >= height || !planes.inside[cellAt(planes, plate, line, i, 0)];
    if (isBare) {
      bare.push(i);
      continue;
    }
    const above = wanted[cellAt(planes, plate, line, i, 1)];
    const below = wanted[cellAt(planes, plate, line, i, -1)];
    const gap = line.gapMm[i];
    row.up[i] = halfFor(above, gap, WIDEST);
    row.down[i] = halfFor(below, gap, WIDEST);
    if (above + below > 0) row.sewn[i] = 1;
  }
  closeGaps(row.sewn, Math.round(GAP_MM / ROW_STEP_MM), 0);
  for (const i of bare) row.sewn[i] = 0;
  closeGaps(row.sewn, Math.round(STRETCH_MM / ROW_STEP_MM), 1);
  return row;
}

/** Gives stretches of a value that are shorter than so many places the other value; those at the ends stay bare. */
function closeGaps(list: Uint8Array, least: number, value: 0 | 1): void {
  for (const [from, to] of stretchesOf(list.length, (i) => list[i] === value)) {
    const isEnd = from === 0 || to === list.length - 1;
    if (to - from + 1 < least && (value === 1 || !isEnd)) list.fill(1 - value, from, to + 1);
  }
}

/** What lies below from now on: the ink drawn over it, mixed as the eye mixes it. */
function lay(
  below: Float32Array,
  planes: ColourPlanes,
  plate: Plate,
  runs: readonly Points[],
  colour: Float32Array,
): void {
  const cover = softCover(plate, planes, runs);
  for (let i = 0; i < cover.length; i++) {
    for (let j = 0; j < 3; j++) below[i * 3 + j] += cover[i] * (colour[j] - below[i * 3 + j]);
  }
}
