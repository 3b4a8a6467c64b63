import { cellsOf, csvLine } from '../colour/csv.js';
import type { Sewing } from '../sequence/sewing.js';
import { figuresOf } from '../sequence/figures.js';
import { COMMANDS, NO_PIECE } from '../sequence/stitch-list.js';
import { plainNumber } from './plain-number.js';
import { SewingReader } from './sewing-reader.js';

const TITLE = '# open-kite stitches 1';

/** Writes a design as the stitch list of docs/formats.md. */
export function writeStitchList(design: Sewing): string {
  const { stitches: list, threads, picture } = design;
  const { widthMm, heightMm } = figuresOf(list, threads.length);
  const lines: string[] = [TITLE, `# size_mm,${widthMm.toFixed(1)},${heightMm.toFixed(1)}`];
  if (picture) {
    const { left, top, width, height } = picture;
    lines.push(`# picture_mm,${[left, top, width, height].map((v) => v.toFixed(1)).join(',')}`);
  }
  lines.push(`# ${csvLine(['fabric', design.fabric.id, design.fabric.hex])}`);
  threads.forEach((t, i) => lines.push(`# ${csvLine(['thread', i, t.code, t.name, t.hex, t.chart])}`));
  lines.push(COLUMNS);
  const ids = design.pieceIds.map((id) => csvLine([id]));
  for (let i = 0; i < list.count; i++) {
    const piece = list.piece[i] === NO_PIECE ? '' : ids[list.piece[i]];
    lines.push(
      `${list.x[i].toFixed(3)},${list.y[i].toFixed(3)},${COMMANDS[list.command[i]]},${list.thread[i]},${piece}`,
    );
  }
  return lines.join('\n') + '\n';
}

const COLUMNS = 'x_mm,y_mm,command,thread,piece';
const MOST_ROWS = 5_000_000;
/** Characters of a stitch list: rows are hardly ever longer than 40. */
const MOST_CHARACTERS = 120_000_000;

/**
 * Reads a stitch list.
 * @throws RangeError that names the line and what is wrong with it.
 */
export function readStitchList(text: string): Sewing {
  if (text.length > MOST_CHARACTERS) throw new RangeError(`stitch list: more than ${MOST_CHARACTERS / 1e6} MB`);
  const reader = new SewingReader();
  let header = false;
  let index = 0;
  // Line by line: a list of all lines would cost many times the text.
  for (let at = 0; at <= text.length; index++) {
    const end = text.indexOf('\n', at);
    if (header && plainRow(text, at, end, reader)) {
      if (index + 1 > MOST_ROWS) throw new RangeError(`stitch list: line ${index + 1}: more than ${MOST_ROWS} rows`);
      at = end + 1;
      continue;
    }
    const line = text.slice(at, end < 0 ? text.length : end).trim();
    at = end < 0 ? text.length + 1 : end + 1;
    if (index === 0) {
      if (line !== TITLE) throw new RangeError(`stitch list: line 1 must be "${TITLE}"`);
      continue;
    }
    if (line === '') continue;
    const row = index + 1;
    const fail = (what: string): never => {
      throw new RangeError(`stitch list: line ${row}: ${what}`);
    };
    if (row > MOST_ROWS) fail(`more than ${MOST_ROWS} rows`);
    if (line.startsWith('#')) {
      const [name, ...cells] = cellsOf(line.slice(1).trim());
      if (name === 'thread') reader.thread(cells[0], cells[1], cells[2], cells[3], cells[4], fail);
      else if (name === 'fabric') reader.onFabric(cells[0], cells[1], fail);
      else if (name === 'picture_mm') reader.inPicture(cells, fail);
    } else if (!header) {
      if (line !== COLUMNS) fail(`expected the column names, got "${line.slice(0, 60)}"`);
      header = true;
    } else {
      const [x, y, command, thread, piece] = line.includes('"') ? cellsOf(line) : line.split(',');
      reader.row(x, y, command, thread, piece, fail);
    }
  }
  if (!header) throw new RangeError('stitch list: there are no rows');
  return reader.finish();
}

/**
 * Reads a row that is written as `writeStitchList` does it, without taking it apart into texts.
 * @returns false where it is written in any other way, or something is wrong with it: nothing is read then
 */
function plainRow(text: string, from: number, end: number, reader: SewingReader): boolean {
  const first = text.indexOf(',', from);
  const second = text.indexOf(',', first + 1);
  const third = text.indexOf(',', second + 1);
  const fourth = text.indexOf(',', third + 1);
  if (first < 0 || second < 0 || third < 0 || fourth < 0 || fourth >= end) return false;
  const piece = text.slice(fourth + 1, end);
  if (/[",\s]/.test(piece)) return false;
  const command = COMMANDS.indexOf(text.slice(second + 1, third) as (typeof COMMANDS)[number]);
  const x = plainNumber(text, from, first);
  const y = plainNumber(text, first + 1, second);
  const thread = plainNumber(text, third + 1, fourth);
  return reader.plainRow(x, y, command, thread, piece);
}
