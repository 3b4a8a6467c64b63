import {
  endsOfStep,
  fromHex,
  latticeStride,
  octantsOfPart,
  symbolOf,
  unpackCell,
  type CellBlock,
  type CellGrid,
  type StitchedGrid,
} from '@open-kite/core';
import { toHoop, toStage, type Camera, type Size } from '../stage/camera';
import type { GridThread, GridView } from './grid-acts';

/** Below this many pixels a cell is one spot of colour. */
const SPOT = 7;
/** From this many pixels on, grid lines stand between all cells, and symbols can be read. */
const LINED = 7;
const READABLE = 11;
/** Thread of a leg, as a share of its cell, as it is sewn: 0.4 mm. */
const THREAD_MM = 0.4;
const INK = '#1f2d2c';
const PAPER = '#fbf8f1';
const EMBER = '#c8481f';
const BAND = 20;

/** What is shown of a grid. */
export interface GridScene {
  readonly grid: CellGrid;
  readonly model: StitchedGrid;
  readonly threads: readonly GridThread[];
  readonly clothHex: string;
  readonly view: GridView;
  readonly chosen: CellBlock | undefined;
  /** Cell the keys move, or the pointer is over. */
  readonly cursor: { readonly x: number; readonly y: number } | undefined;
  /** A back stitch on its way: places in half cells. */
  readonly line: readonly [number, number, number, number] | undefined;
}

type Context = CanvasRenderingContext2D;

/** A picture of one pixel a cell, and what it shows. */
interface Spots {
  readonly canvas: HTMLCanvasElement;
  readonly context: Context;
  readonly image: ImageData;
  readonly pixels: Int32Array;
  readonly colours: string;
  model: StitchedGrid | undefined;
}

/** Draws a grid of crosses; keeps a picture of one pixel a cell, so that a large grid costs no more than a small one. */
export class GridPainter {
  private spots: Spots | undefined;
  private readonly marks = new Map<string, HTMLCanvasElement>();

  paint(context: Context, camera: Camera, size: Size, ratio: number, scene: GridScene): void {
    const { grid } = scene;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    context.fillStyle = scene.clothHex;
    context.fillRect(0, 0, size.width, size.height);
    const cell = camera.scale * grid.cellMm;
    const corner = toStage(camera, size, grid.left, grid.top);
    const seen = visibleCells(camera, size, grid);
    const spotted = cell < SPOT || (scene.view === 'symbols' && cell < READABLE);
    if (spotted || scene.view !== 'crosses') {
      context.imageSmoothingEnabled = cell < 1;
      context.drawImage(this.spotsFor(scene), corner.x, corner.y, grid.cols * cell, grid.rows * cell);
    }
    if (!spotted) {
      const at = { ...corner, cell, seen };
      if (scene.view === 'crosses') paintCrosses(context, scene, at);
      else paintParts(context, scene, at);
      if (scene.view === 'symbols') this.paintSymbols(context, scene, at, ratio);
    }
    paintBacks(context, scene, corner, cell, seen);
    paintLines(context, scene, corner, cell, seen);
    paintChosen(context, scene, corner, cell);
    paintCounts(context, size, scene, corner, cell);
  }

  /** A pixel for every cell. Only what changed since it was last asked for is written anew. */
  private spotsFor({ grid, model, threads, clothHex }: GridScene): HTMLCanvasElement {
    const colours = [clothHex, ...threads.map(({ hex }) => hex)].join();
    const { spots } = this;
    const isFitting = spots?.canvas.width === grid.cols && spots.canvas.height === grid.rows;
    const kept = isFitting && spots.colours === colours ? spots : newSpots(grid, colours);
    this.spots = kept;
    if (kept.model === model) return kept.canvas;
    const packed = Int32Array.from([clothHex, ...threads.map(({ hex }) => hex)], (hex) => {
      const { r, g, b } = fromHex(hex);
      return (255 << 24) | (b << 16) | (g << 8) | r;
    });
    const { cells } = model;
    const { pixels, image } = kept;
    let [left, top, right, bottom] = [grid.cols, grid.rows, -1, -1];
    for (let row = 0, i = 0; row < grid.rows; row++) {
      for (let col = 0; col < grid.cols; col++, i++) {
        const colour = packed[(cells[i] & 0xffff) >>> 5 || cells[i] >>> 21] ?? packed[0];
        if (pixels[i] === colour) continue;
        pixels[i] = colour;
        if (col < left) left = col;
        if (col > right) right = col;
        if (row < top) top = row;
        bottom = row;
      }
    }
    if (bottom >= 0) kept.context.putImageData(image, 0, 0, left, top, right - left + 1, bottom - top + 1);
    kept.model = model;
    return kept.canvas;
  }

  private paintSymbols(
    context: Context,
    { grid, model, threads }: GridScene,
    { x, y, cell, seen }: Place,
    ratio: number,
  ): void {
    for (let row = seen.top; row < seen.bottom; row++) {
      for (let col = seen.left; col < seen.right; col++) {
        const code = model.cells[row * grid.cols + col];
        if (code === 0) continue;
        const [left, top] = [x + col * cell, y + row * cell];
        for (const { thread, part, corner } of unpackCell(code)) {
          const whole = octantsOfPart(part, corner) === 0xff;
          const [w, dx, dy] = whole ? [cell, 0, 0] : [cell * 0.52, ...quarterOf(part, corner, cell)];
          const mark = this.markOf(thread, threads[thread]?.hex ?? '#808080', Math.round(w * ratio));
          context.drawImage(mark, left + dx, top + dy, w, w);
        }
      }
    }
  }

  /** The symbol of a thread, drawn once for each size. */
  private markOf(thread: number, hex: string, side: number): HTMLCanvasElement {
    const key = `${thread} ${hex} ${side}`;
    let mark = this.marks.get(key);
    if (mark) return mark;
    if (this.marks.size > 600) this.marks.clear();
    mark = newCanvas(side, side);
    const context = mark.getContext('2d') as Context;
    drawSymbol(context, thread, hex, 0, 0, side);
    this.marks.set(key, mark);
    return mark;
  }
}

/** Draws the symbol of a thread so that it can be read on its colour. */
export function drawSymbol(context: Context, thread: number, hex: string, x: number, y: number, side: number): void {
  const { path, filled } = symbolOf(thread);
  const { r, g, b } = fromHex(hex);
  const ink = r * 0.3 + g * 0.59 + b * 0.11 > 128 ? INK : PAPER;
  context.save();
  context.translate(x, y);
  context.scale(side, side);
  context.fillStyle = context.strokeStyle = ink;
  context.lineWidth = 0.1;
  if (filled) context.fill(new Path2D(path));
  else context.stroke(new Path2D(path));
  context.restore();
}

interface Cells {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

interface Place {
  readonly x: number;
  readonly y: number;
  readonly cell: number;
  readonly seen: Cells;
}

function newSpots({ cols, rows }: CellGrid, colours: string): Spots {
  const canvas = newCanvas(cols, rows);
  const context = canvas.getContext('2d') as Context;
  const image = context.createImageData(cols, rows);
  return { canvas, context, image, pixels: new Int32Array(image.data.buffer), colours, model: undefined };
}

function newCanvas(width: number, height: number): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, width);
  canvas.height = Math.max(1, height);
  return canvas;
}

function visibleCells(camera: Camera, size: Size, { cols, rows, cellMm, left, top }: CellGrid): Cells {
  const a = toHoop(camera, size, 0, 0);
  const b = toHoop(camera, size, size.width, size.height);
  const within = (v: number, most: number): number => Math.min(most, Math.max(0, v));
  return {
    left: within(Math.floor((a.x - left) / cellMm), cols),
    top: within(Math.floor((a.y - top) / cellMm), rows),
    right: within(Math.ceil((b.x - left) / cellMm), cols),
    bottom: within(Math.ceil((b.y - top) / cellMm), rows),
  };
}

const CORNERS: readonly (readonly [number, number])[] = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
];

function quarterOf(part: string, corner: number, cell: number): [number, number] {
  if (part === 'side') {
    const [a, b] = [CORNERS[corner], CORNERS[(corner + 1) % 4]];
    return [((a[0] + b[0]) / 2) * cell * 0.48, ((a[1] + b[1]) / 2) * cell * 0.48];
  }
  return [CORNERS[corner][0] * cell * 0.48, CORNERS[corner][1] * cell * 0.48];
}

/** Legs of thread; all lower legs first, so that all upper ones lie over them as they are sewn. */
function paintCrosses(context: Context, { grid, model, threads }: GridScene, { x, y, cell, seen }: Place): void {
  const lower = new Map<number, Path2D>();
  const upper = new Map<number, Path2D>();
  const leg = (legs: Map<number, Path2D>, thread: number, x0: number, y0: number, x1: number, y1: number): void => {
    let path = legs.get(thread);
    if (!path) legs.set(thread, (path = new Path2D()));
    path.moveTo(x0, y0);
    path.lineTo(x1, y1);
  };
  for (let row = seen.top; row < seen.bottom; row++) {
    for (let col = seen.left; col < seen.right; col++) {
      const code = model.cells[row * grid.cols + col];
      if (code === 0) continue;
      const [l, t] = [x + col * cell, y + row * cell];
      const diagonal = (thread: number, corner: number): void => {
        if (corner % 2 === 0) leg(lower, thread, l, t, l + cell, t + cell);
        else leg(upper, thread, l, t + cell, l + cell, t);
      };
      const stub = (thread: number, corner: number): void => {
        const [cx, cy] = CORNERS[corner];
        leg(corner % 2 === 0 ? lower : upper, thread, l + cx * cell, t + cy * cell, l + cell / 2, t + cell / 2);
      };
      for (const { thread, part, corner } of unpackCell(code)) {
        if (part === 'full') {
          diagonal(thread, 0);
          diagonal(thread, 1);
        } else if (part === 'half') diagonal(thread, corner);
        else if (part === 'three-quarter') {
          diagonal(thread, corner + 1);
          stub(thread, corner);
        } else {
          stub(thread, corner);
          if (part === 'side') stub(thread, (corner + 1) % 4);
        }
      }
    }
  }
  context.lineCap = 'round';
  for (const legs of [lower, upper]) {
    for (const [thread, path] of legs) {
      const hex = threads[thread]?.hex ?? '#808080';
      context.lineWidth = Math.max(1.4, (cell * THREAD_MM * 1.5) / grid.cellMm);
      context.strokeStyle = shaded(hex, 0.62);
      context.stroke(path);
      context.lineWidth *= 0.68;
      context.strokeStyle = hex;
      context.stroke(path);
    }
  }
}

function shaded(hex: string, share: number): string {
  const { r, g, b } = fromHex(hex);
  return `rgb(${r * share} ${g * share} ${b * share})`;
}

/** Parts of cells as areas of colour, over the spots below. */
function paintParts(
  context: Context,
  { grid, model, threads, clothHex }: GridScene,
  { x, y, cell, seen }: Place,
): void {
  for (let row = seen.top; row < seen.bottom; row++) {
    for (let col = seen.left; col < seen.right; col++) {
      const code = model.cells[row * grid.cols + col];
      const parts = code === 0 ? [] : unpackCell(code);
      if (parts.length === 0 || parts.every(({ part }) => part === 'full')) continue;
      const [l, t] = [x + col * cell, y + row * cell];
      context.fillStyle = clothHex;
      context.fillRect(l, t, cell, cell);
      for (const { thread, part, corner } of parts) {
        context.fillStyle = threads[thread]?.hex ?? '#808080';
        context.beginPath();
        const [a, b, c] = [CORNERS[corner], CORNERS[(corner + 1) % 4], CORNERS[(corner + 3) % 4]];
        if (part === 'half') {
          context.rect(l + cell * 0.2, t + cell * 0.2, cell * 0.6, cell * 0.6);
        } else if (part === 'side') {
          // From the corner it begins at to the next, and half way down both edges beside.
          const [down, far] = [CORNERS[(corner + 3) % 4], CORNERS[(corner + 2) % 4]];
          context.moveTo(l + a[0] * cell, t + a[1] * cell);
          context.lineTo(l + b[0] * cell, t + b[1] * cell);
          context.lineTo(l + ((b[0] + far[0]) / 2) * cell, t + ((b[1] + far[1]) / 2) * cell);
          context.lineTo(l + ((a[0] + down[0]) / 2) * cell, t + ((a[1] + down[1]) / 2) * cell);
        } else {
          context.moveTo(l + a[0] * cell, t + a[1] * cell);
          context.lineTo(l + b[0] * cell, t + b[1] * cell);
          context.lineTo(l + c[0] * cell, t + c[1] * cell);
        }
        context.fill();
      }
    }
  }
}

function paintBacks(
  context: Context,
  { grid, model, threads, line }: GridScene,
  corner: { x: number; y: number },
  cell: number,
  seen: Cells,
): void {
  const stride = latticeStride(grid);
  const half = cell / 2;
  const paths = new Map<number, Path2D>();
  for (const [step, thread] of model.backs) {
    const [x0, y0, x1, y1] = endsOfStep(stride, step);
    if (x0 < seen.left * 2 - 1 || x0 > seen.right * 2 + 1 || y0 < seen.top * 2 - 1 || y0 > seen.bottom * 2 + 1)
      continue;
    let path = paths.get(thread);
    if (!path) paths.set(thread, (path = new Path2D()));
    path.moveTo(corner.x + x0 * half, corner.y + y0 * half);
    path.lineTo(corner.x + x1 * half, corner.y + y1 * half);
  }
  context.lineCap = 'round';
  const width = Math.max(1.2, (cell * THREAD_MM * 1.5) / grid.cellMm);
  for (const [thread, path] of paths) {
    context.strokeStyle = 'rgb(255 255 255 / 55%)';
    context.lineWidth = width + 1.2;
    context.stroke(path);
    context.strokeStyle = threads[thread]?.hex ?? '#808080';
    context.lineWidth = width;
    context.stroke(path);
  }
  if (!line) return;
  context.strokeStyle = EMBER;
  context.lineWidth = width;
  context.beginPath();
  context.moveTo(corner.x + line[0] * half, corner.y + line[1] * half);
  context.lineTo(corner.x + line[2] * half, corner.y + line[3] * half);
  context.stroke();
}

/** Lines between cells where there is room, stronger ones every ten cells. */
function paintLines(
  context: Context,
  { grid }: GridScene,
  corner: { x: number; y: number },
  cell: number,
  seen: Cells,
): void {
  const draw = (every: number, style: string, width: number): void => {
    context.strokeStyle = style;
    context.lineWidth = width;
    context.beginPath();
    const [top, bottom] = [corner.y + seen.top * cell, corner.y + seen.bottom * cell];
    const [left, right] = [corner.x + seen.left * cell, corner.x + seen.right * cell];
    for (let col = Math.ceil(seen.left / every) * every; col <= seen.right; col += every) {
      context.moveTo(corner.x + col * cell, top);
      context.lineTo(corner.x + col * cell, bottom);
    }
    for (let row = Math.ceil(seen.top / every) * every; row <= seen.bottom; row += every) {
      context.moveTo(left, corner.y + row * cell);
      context.lineTo(right, corner.y + row * cell);
    }
    context.stroke();
  };
  if (cell >= LINED) draw(1, 'rgb(31 45 44 / 16%)', 1);
  draw(10, 'rgb(31 45 44 / 42%)', 1);
  context.strokeStyle = INK;
  context.lineWidth = 1.2;
  context.strokeRect(corner.x, corner.y, grid.cols * cell, grid.rows * cell);
}

function paintChosen(
  context: Context,
  { chosen, cursor }: GridScene,
  corner: { x: number; y: number },
  cell: number,
): void {
  const frame = (x: number, y: number, cols: number, rows: number, dash: number[]): void => {
    context.save();
    context.lineWidth = 2;
    context.strokeStyle = PAPER;
    context.strokeRect(corner.x + x * cell, corner.y + y * cell, cols * cell, rows * cell);
    context.setLineDash(dash);
    context.strokeStyle = EMBER;
    context.strokeRect(corner.x + x * cell, corner.y + y * cell, cols * cell, rows * cell);
    context.restore();
  };
  if (chosen) frame(chosen.x, chosen.y, chosen.cols, chosen.rows, [6, 4]);
  if (cursor) frame(cursor.x, cursor.y, 1, 1, []);
}

/** Rulers that count cells. */
function paintCounts(
  context: Context,
  size: Size,
  { grid }: GridScene,
  corner: { x: number; y: number },
  cell: number,
): void {
  context.fillStyle = PAPER;
  context.fillRect(0, 0, size.width, BAND);
  context.fillRect(0, 0, BAND, size.height);
  context.fillStyle = '#5f6866';
  context.strokeStyle = '#5f6866';
  context.lineWidth = 1;
  context.font = '10px "Instrument Sans Variable", sans-serif';
  const every = cell * 10 >= 26 ? 10 : cell * 50 >= 26 ? 50 : 100;
  context.beginPath();
  for (let col = 0; col <= grid.cols; col += every) {
    const x = corner.x + col * cell;
    if (x < BAND || x > size.width) continue;
    context.moveTo(x, BAND - 7);
    context.lineTo(x, BAND);
    context.fillText(String(col), x + 3, 11);
  }
  for (let row = 0; row <= grid.rows; row += every) {
    const y = corner.y + row * cell;
    if (y < BAND || y > size.height) continue;
    context.moveTo(BAND - 7, y);
    context.lineTo(BAND, y);
    context.save();
    context.translate(10, y - 3);
    context.rotate(-Math.PI / 2);
    context.fillText(String(row), 0, 0);
    context.restore();
  }
  context.stroke();
  context.fillStyle = PAPER;
  context.fillRect(0, 0, BAND, BAND);
}
