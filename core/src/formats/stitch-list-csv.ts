import type { DesignThread } from '../colour/design-thread.js';
import type { PictureBox } from '../picture/frame.js';
import type { Sewing } from '../sequence/sewing.js';
import { figuresOf } from '../sequence/figures.js';
import { COMMANDS, NO_PIECE, StitchWriter } from '../sequence/stitch-list.js';

const TITLE = '# open-kite stitches 1';

/** A value for one field: commas, quotes and line ends would break the row. */
const field = (text: string): string => text.replace(/[",\r\n]+/g, ' ').trim();

/** Writes a design as the stitch list of docs/formats.md. */
export function writeStitchList(design: Sewing): string {
  const { stitches: list, threads, picture } = design;
  const { widthMm, heightMm } = figuresOf(list, threads.length);
  const lines: string[] = [TITLE, `# size_mm,${widthMm.toFixed(1)},${heightMm.toFixed(1)}`];
  if (picture) {
    const { left, top, width, height } = picture;
    lines.push(`# picture_mm,${[left, top, width, height].map((v) => v.toFixed(1)).join(',')}`);
  }
  lines.push(`# fabric,${field(design.fabric.id)},${design.fabric.hex}`);
  threads.forEach((t, i) => lines.push(`# thread,${i},${field(t.code)},${field(t.name)},${t.hex},${field(t.chart)}`));
  lines.push('x_mm,y_mm,command,thread,piece');
  for (let i = 0; i < list.count; i++) {
    const piece = list.piece[i] === NO_PIECE ? '' : design.pieceIds[list.piece[i]];
    lines.push(
      `${list.x[i].toFixed(3)},${list.y[i].toFixed(3)},${COMMANDS[list.command[i]]},${list.thread[i]},${piece}`,
    );
  }
  return lines.join('\n') + '\n';
}

const MOST_ROWS = 5_000_000;
const MOST_THREADS = 250;

/**
 * Reads a stitch list.
 * @throws RangeError that names the line and what is wrong with it.
 */
export function readStitchList(text: string): Sewing {
  const lines = text.split(/\r?\n/);
  if (lines[0]?.trim() !== TITLE) throw new RangeError(`stitch list: line 1 must be "${TITLE}"`);
  if (lines.length > MOST_ROWS) throw new RangeError(`stitch list: more than ${MOST_ROWS} rows`);
  const threads: DesignThread[] = [];
  let fabric = { id: 'quilting-cotton', hex: '#f4f1ea' };
  let picture: PictureBox | undefined;
  const pieceIds: string[] = [];
  const pieceAt = new Map<string, number>();
  const writer = new StitchWriter();
  let header = false;
  lines.forEach((raw, index) => {
    const line = raw.trim();
    if (line === '' || index === 0) return;
    const fail = (what: string): never => {
      throw new RangeError(`stitch list: line ${index + 1}: ${what}`);
    };
    if (line.startsWith('#')) {
      const [name, ...cells] = line.slice(1).trim().split(',');
      if (name === 'thread') threads.push(readThread(cells, threads.length, fail));
      else if (name === 'fabric') fabric = { id: cells[0] ?? '', hex: checkHex(cells[1], fail) };
      else if (name === 'picture_mm') {
        const [left, top, width, height] = cells.map((cell) => readNumber(cell, fail));
        if (!(width > 0 && height > 0)) fail('the picture has no size');
        picture = { left, top, width, height };
      }
      return;
    }
    if (!header) {
      if (line !== 'x_mm,y_mm,command,thread,piece') fail(`expected the column names, got "${line.slice(0, 60)}"`);
      header = true;
      return;
    }
    const [x, y, command, thread, piece = ''] = line.split(',');
    const number = (COMMANDS as readonly string[]).indexOf(command);
    if (number < 0) fail(`"${command}" is not a command; known are ${COMMANDS.join(', ')}`);
    const t = readNumber(thread, fail);
    if (!Number.isInteger(t) || t < 0 || t >= Math.max(1, threads.length)) fail(`there is no thread ${thread}`);
    let at = NO_PIECE;
    if (piece !== '') {
      at = pieceAt.get(piece) ?? pieceIds.length;
      if (at === pieceIds.length) {
        if (at >= NO_PIECE) fail('too many pieces');
        pieceAt.set(piece, at);
        pieceIds.push(piece);
      }
    }
    writer.add(readNumber(x, fail), readNumber(y, fail), number, t, at);
  });
  if (!header) throw new RangeError('stitch list: there are no rows');
  return { fabric, picture, threads, stitches: writer.finish(), pieceIds };
}

type Fail = (what: string) => never;

function readThread(cells: string[], expected: number, fail: Fail): DesignThread {
  const [index, code, name, hex, chart] = cells;
  if (Number(index) !== expected) fail(`thread ${index} comes where thread ${expected} was expected`);
  if (expected >= MOST_THREADS) fail(`more than ${MOST_THREADS} threads`);
  return { code: code ?? '', name: name ?? '', hex: checkHex(hex, fail), chart: chart || 'own', deltaE: 0 };
}

function readNumber(text: string | undefined, fail: Fail): number {
  const value = text === undefined || text.trim() === '' ? NaN : Number(text);
  if (!Number.isFinite(value) || Math.abs(value) > 1e5) fail(`"${text ?? ''}" is not a number of millimetres`);
  return value;
}

function checkHex(text: string | undefined, fail: Fail): string {
  if (!text || !/^#[0-9a-f]{6}$/i.test(text)) fail(`"${text ?? ''}" is not a colour like #1f2d2c`);
  return text;
}
