import type { Design } from '../design/design.js';
import type { Sewing } from '../sequence/sewing.js';
import { svgPath } from '../geometry/curve.js';
import { COMMANDS } from '../sequence/stitch-list.js';
import { readStitchList } from './stitch-list-csv.js';

const FORMAT = 'open-kite design';

/** Writes a design as JSON: pieces with their outlines, threads, and the stitch list as columns. */
export function writeDesignJson(design: Design): string {
  const { stitches: list } = design;
  const value = {
    format: FORMAT,
    version: 1,
    fabric: design.fabric,
    picture: design.picture,
    threads: design.threads,
    colours: design.colours.map((c) => ({
      ...c,
      share: Number(c.share.toFixed(5)),
      shades: c.shades.map((shade) => ({ ...shade, share: Number(shade.share.toFixed(5)) })),
    })),
    order: design.order.map((i) => design.pieces[i].id),
    pieces: design.pieces.map((piece) => ({
      id: piece.id,
      origin: piece.origin,
      object: piece.object,
      part: piece.part,
      thread: piece.thread,
      kind: piece.kind,
      widthMm: Number(piece.widthMm.toFixed(3)),
      areaMm2: Number(piece.areaMm2.toFixed(3)),
      outline: piece.outline.map((curve) => svgPath(curve, 3, true)),
      paths: piece.paths.map((curve) => svgPath(curve, 3, false)),
    })),
    stitches: {
      x: Array.from(list.x, (v) => Number(v.toFixed(3))),
      y: Array.from(list.y, (v) => Number(v.toFixed(3))),
      command: Array.from(list.command, (c) => COMMANDS[c]),
      thread: Array.from(list.thread),
      piece: Array.from(list.piece, (p) => design.pieceIds[p] ?? ''),
    },
  };
  return JSON.stringify(value) + '\n';
}

/**
 * Reads the sewable part of a design written as JSON.
 * @throws RangeError that says what is missing or wrong.
 */
export function readDesignJson(text: string): Sewing {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new RangeError('design: this is not JSON');
  }
  const design = value as Partial<Record<string, unknown>>;
  if (design === null || typeof design !== 'object' || design['format'] !== FORMAT) {
    throw new RangeError(`design: "format" must be "${FORMAT}"`);
  }
  const { fabric, picture, threads, stitches } = design as {
    fabric?: { id?: unknown; hex?: unknown };
    picture?: { left: unknown; top: unknown; width: unknown; height: unknown };
    threads?: { code: unknown; name: unknown; hex: unknown; chart: unknown; deltaE: unknown }[];
    stitches?: Record<'x' | 'y' | 'command' | 'thread' | 'piece', unknown[]>;
  };
  if (!fabric || !Array.isArray(threads) || !stitches)
    throw new RangeError('design: fabric, threads or stitches are missing');
  const { x, y, command, thread, piece } = stitches;
  const columns = [x, y, command, thread, piece];
  if (!columns.every((column) => Array.isArray(column) && column.length === x.length)) {
    throw new RangeError('design: the columns of the stitches differ in length');
  }
  // One reader checks all values: the columns are put into rows and read as a stitch list.
  const lines = ['# open-kite stitches 1'];
  if (picture) lines.push(`# picture_mm,${picture.left},${picture.top},${picture.width},${picture.height}`);
  lines.push(`# fabric,${String(fabric.id)},${String(fabric.hex)}`);
  threads.forEach((t, i) =>
    lines.push(`# thread,${i},${String(t.code)},${String(t.name)},${String(t.hex)},${String(t.chart)}`),
  );
  lines.push('x_mm,y_mm,command,thread,piece');
  for (let i = 0; i < x.length; i++) {
    lines.push(`${String(x[i])},${String(y[i])},${String(command[i])},${String(thread[i])},${String(piece[i])}`);
  }
  const sewing = readStitchList(lines.join('\n'));
  return {
    ...sewing,
    threads: sewing.threads.map((t, i) => ({ ...t, deltaE: Number(threads[i].deltaE) || 0 })),
  };
}
