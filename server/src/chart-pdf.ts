import PDFDocument from 'pdfkit';
import {
  endsOfStep,
  fromHex,
  latticeStride,
  octantsOfPart,
  readPrintedGrid,
  symbolOf,
  unpackCell,
  type PrintedGrid,
  type PrintedThread,
} from '@open-kite/core';
import { collect } from './worksheet.js';

const MARGIN = 40;
const INK = '#1f2d2c';
const MUTE = '#6d7672';
const EMBER = '#c8481f';
/** Side of a cell on paper in points, at least and at most: the largest that needs no sheet more. */
const CELL = [7.2, 11] as const;
/** Cells a sheet repeats of the one before. */
const OVERLAP = 3;
/** Points left for the numbers along the edges. */
const EDGE = 16;
const HEAD = 26;
const NAME_LENGTH = 34;

type Doc = PDFKit.PDFDocument;

/** Sheets a number of columns or rows needs, each with at most so many. */
const sheetsFor = (count: number, most: number): number =>
  count <= most ? 1 : Math.ceil((count - OVERLAP) / (most - OVERLAP));

/** Columns or rows of each sheet: from, and up to; the sheets are about as large as each other. */
function spans(count: number, sheets: number): [number, number][] {
  const each = Math.ceil((count + (sheets - 1) * OVERLAP) / sheets);
  return Array.from({ length: sheets }, (_, k) => {
    const from = k * (each - OVERLAP);
    return [from, Math.min(count, from + each)];
  });
}

/**
 * Draws the chart of a grid: a page with the whole and the key of symbols, codes, counts and lengths, then the grid in
 * sheets that overlap by three cells.
 */
export async function writeChart(file: PrintedGrid): Promise<Buffer> {
  const doc = new PDFDocument({ size: 'A4', margin: MARGIN, info: { Title: file.name, CreationDate: new Date(0) } });
  const done = collect(doc);
  const chart = readPrintedGrid(file);
  const { width, height } = doc.page;
  const [across, down] = [width - 2 * MARGIN - EDGE, height - 2 * MARGIN - EDGE - HEAD];
  const columns = spans(file.cols, sheetsFor(file.cols, Math.floor(across / CELL[0])));
  const rows = spans(file.rows, sheetsFor(file.rows, Math.floor(down / CELL[0])));
  const longest = (list: readonly (readonly [number, number])[]): number =>
    Math.max(...list.map(([from, to]) => to - from));
  const cell = Math.min(CELL[1], across / longest(columns), down / longest(rows));
  front(doc, file, chart, columns, rows);
  const sheets = columns.length * rows.length;
  rows.forEach((y, r) => {
    columns.forEach((x, c) => {
      doc.addPage();
      const number = r * columns.length + c + 1;
      const name = file.name.length > NAME_LENGTH ? `${file.name.slice(0, NAME_LENGTH)}…` : file.name;
      doc.font('Helvetica-Bold').fontSize(11).fillColor(INK);
      doc.text(`${name}   sheet ${number} of ${sheets}`, MARGIN, MARGIN, { lineBreak: false });
      doc.font('Helvetica').fontSize(9).fillColor(MUTE);
      const where = `columns ${x[0] + 1} to ${x[1]}, rows ${y[0] + 1} to ${y[1]}`;
      doc.text(where, MARGIN, MARGIN, { width: width - 2 * MARGIN, align: 'right', lineBreak: false });
      sheet(doc, file, chart, cell, x, y);
    });
  });
  doc.end();
  return done;
}

const threadOf = (file: PrintedGrid, index: number): PrintedThread => {
  const thread = file.threads[index];
  if (!thread) throw new RangeError(`chart: there is no thread ${index}`);
  return thread;
};

const said = (count: number, what: string): string => `${count} ${what}${count === 1 ? '' : 's'}`;

/** The first page, and more where the key is long. */
function front(
  doc: Doc,
  file: PrintedGrid,
  chart: ReturnType<typeof readPrintedGrid>,
  columns: readonly [number, number][],
  rows: readonly [number, number][],
): void {
  const { width, height } = doc.page;
  doc.fillColor(INK).font('Helvetica-Bold').fontSize(20).text(file.name, MARGIN, MARGIN);
  const size = (cells: number): string => ((cells * file.cellMm) / 10).toFixed(1);
  doc.font('Helvetica').fontSize(10).fillColor(MUTE);
  doc.text(
    `${file.cols} x ${file.rows} cells of ${Number(file.cellMm.toFixed(2))} mm: ${size(file.cols)} x ${size(file.rows)} cm. ` +
      `${said(chart.counts.length, 'thread')}, ${said(columns.length * rows.length, 'sheet')}.`,
  );
  doc.moveDown(0.8);
  const top = doc.y;
  const room = { width: width - 2 * MARGIN, height: 250 };
  const cell = Math.min(room.width / file.cols, room.height / file.rows);
  overview(doc, file, chart, MARGIN, top, cell);
  numberSheets(doc, columns, rows, MARGIN, top, cell);
  doc.y = top + cell * file.rows + 18;
  key(doc, file, chart, height);
}

/** Runs of like cells as rectangles of colour, and the back stitches over them. */
function overview(
  doc: Doc,
  file: PrintedGrid,
  { cells, backs }: ReturnType<typeof readPrintedGrid>,
  left: number,
  top: number,
  cell: number,
): void {
  doc.rect(left, top, file.cols * cell, file.rows * cell).fill(file.clothHex);
  for (let y = 0; y < file.rows; y++) {
    for (let x = 0; x < file.cols;) {
      const thread = unpackCell(cells[y * file.cols + x] ?? 0)[0]?.thread ?? -1;
      let end = x + 1;
      while (end < file.cols && (unpackCell(cells[y * file.cols + end] ?? 0)[0]?.thread ?? -1) === thread) end++;
      if (thread >= 0) {
        // A hair more than the cell: no cloth shines through between.
        doc
          .rect(left + x * cell, top + y * cell, (end - x) * cell + 0.05, cell + 0.05)
          .fill(threadOf(file, thread).hex);
      }
      x = end;
    }
  }
  const stride = latticeStride(file);
  doc.lineWidth(Math.min(1.2, cell / 4)).lineCap('round');
  for (const [step, thread] of backs) {
    const [ax, ay, bx, by] = endsOfStep(stride, step);
    const half = cell / 2;
    doc.moveTo(left + ax * half, top + ay * half).lineTo(left + bx * half, top + by * half);
    doc.stroke(threadOf(file, thread).hex);
  }
  doc
    .rect(left, top, file.cols * cell, file.rows * cell)
    .lineWidth(0.8)
    .stroke(INK);
}

function numberSheets(
  doc: Doc,
  columns: readonly [number, number][],
  rows: readonly [number, number][],
  left: number,
  top: number,
  cell: number,
): void {
  if (columns.length * rows.length === 1) return;
  rows.forEach(([y0, y1], r) => {
    columns.forEach(([x0, x1], c) => {
      doc
        .rect(left + x0 * cell, top + y0 * cell, (x1 - x0) * cell, (y1 - y0) * cell)
        .lineWidth(0.6)
        .dash(3, { space: 2 })
        .stroke(EMBER)
        .undash();
      const [atX, atY] = [left + ((x0 + x1) / 2) * cell, top + ((y0 + y1) / 2) * cell];
      doc.circle(atX, atY, 8).fill('#fbf8f1');
      doc.font('Helvetica-Bold').fontSize(9).fillColor(INK);
      doc.text(String(r * columns.length + c + 1), atX - 12, atY - 4, {
        width: 24,
        align: 'center',
        lineBreak: false,
      });
    });
  });
}

const COLUMNS = [0, 30, 60, 160, 300, 355, 410, 465];

function key(doc: Doc, file: PrintedGrid, { counts }: ReturnType<typeof readPrintedGrid>, height: number): void {
  const head = (): void => {
    doc.font('Helvetica-Bold').fontSize(9).fillColor(MUTE);
    const y = doc.y;
    ['', '', 'Code', 'Thread', 'Crosses', 'Parts', 'Back st.', 'Length'].forEach((text, i) =>
      doc.text(text, MARGIN + (COLUMNS[i] ?? 0), y, { lineBreak: false }),
    );
    doc.y = y + 15;
  };
  head();
  for (const { thread, cells, parts, backStitchMm } of counts) {
    if (doc.y > height - MARGIN - 18) {
      doc.addPage();
      doc.y = MARGIN;
      head();
    }
    const { code, name, hex, lengthM } = threadOf(file, thread);
    const y = doc.y;
    doc
      .rect(MARGIN, y - 2, 22, 13)
      .lineWidth(0.4)
      .fillAndStroke(hex, MUTE);
    doc
      .rect(MARGIN + 28, y - 2, 13, 13)
      .lineWidth(0.4)
      .stroke(INK);
    symbol(doc, thread, MARGIN + 28, y - 2, 13, INK);
    doc.font('Helvetica').fontSize(9).fillColor(INK);
    const cut = (text: string): string => (text.length > 28 ? `${text.slice(0, 27)}…` : text);
    const row = [
      code,
      cut(name),
      cells > 0 ? String(cells) : '',
      parts > 0 ? String(parts) : '',
      backStitchMm > 0 ? `${(backStitchMm / 10).toFixed(0)} cm` : '',
      `${lengthM.toFixed(1)} m`,
    ];
    row.forEach((text, i) => doc.text(text, MARGIN + (COLUMNS[i + 2] ?? 0), y, { lineBreak: false }));
    doc.y = y + 17;
  }
}

function symbol(doc: Doc, thread: number, x: number, y: number, side: number, ink: string): void {
  const { path, filled } = symbolOf(thread);
  doc.save();
  doc.translate(x, y).scale(side);
  if (filled) doc.path(path).fill(ink);
  else doc.lineWidth(0.09).path(path).stroke(ink);
  doc.restore();
}

/** Part of the grid, with its numbers; cells that the sheets before have too are tinted. */
function sheet(
  doc: Doc,
  file: PrintedGrid,
  { cells, backs }: ReturnType<typeof readPrintedGrid>,
  cell: number,
  [x0, x1]: readonly [number, number],
  [y0, y1]: readonly [number, number],
): void {
  const [left, top] = [MARGIN + EDGE, MARGIN + HEAD + EDGE];
  const [w, h] = [(x1 - x0) * cell, (y1 - y0) * cell];
  for (let y = y0; y < y1; y++) {
    for (let x = x0; x < x1; x++) {
      const code = cells[y * file.cols + x] ?? 0;
      if (code === 0) continue;
      const [px, py] = [left + (x - x0) * cell, top + (y - y0) * cell];
      for (const { thread, part, corner } of unpackCell(code)) {
        const whole = octantsOfPart(part, corner) === 0xff;
        const side = whole ? cell : cell * 0.55;
        const [dx, dy] = whole ? [0, 0] : cornerOf(part, corner);
        const { hex } = threadOf(file, thread);
        doc.rect(px + dx * (cell - side), py + dy * (cell - side), side, side).fill(tint(hex));
        symbol(doc, thread, px + dx * (cell - side), py + dy * (cell - side), side, INK);
        if (part === 'half') {
          const [ax, bx] = corner % 2 === 0 ? [0, cell] : [cell, 0];
          doc
            .moveTo(px + ax, py)
            .lineTo(px + bx, py + cell)
            .lineWidth(0.5)
            .stroke(INK);
        }
      }
    }
  }
  lines(doc, left, top, cell, x0, y0, x1, y1);
  const stride = latticeStride(file);
  const half = cell / 2;
  for (const [step, thread] of backs) {
    const [ax, ay, bx, by] = endsOfStep(stride, step);
    if (
      Math.min(ax, bx) < x0 * 2 ||
      Math.max(ax, bx) > x1 * 2 ||
      Math.min(ay, by) < y0 * 2 ||
      Math.max(ay, by) > y1 * 2
    )
      continue;
    doc
      .moveTo(left + (ax - x0 * 2) * half, top + (ay - y0 * 2) * half)
      .lineTo(left + (bx - x0 * 2) * half, top + (by - y0 * 2) * half)
      .lineWidth(1.8)
      .lineCap('round')
      .stroke(threadOf(file, thread).hex);
  }
  if (x0 > 0)
    doc
      .rect(left, top, OVERLAP * cell, h)
      .fillOpacity(0.16)
      .fill(MUTE)
      .fillOpacity(1);
  if (y0 > 0)
    doc
      .rect(left, top, w, OVERLAP * cell)
      .fillOpacity(0.16)
      .fill(MUTE)
      .fillOpacity(1);
  centreMarks(doc, file, left, top, cell, [x0, x1], [y0, y1]);
}

function cornerOf(part: string, corner: number): readonly [number, number] {
  const at = (k: number): readonly [number, number] => [k === 1 || k === 2 ? 1 : 0, k >= 2 ? 1 : 0];
  const [[ax, ay], [bx, by]] = [at(corner), at((corner + 1) % 4)];
  return part === 'side' ? [(ax + bx) / 2, (ay + by) / 2] : [ax, ay];
}

/** A colour so light that a symbol can be read on it. */
function tint(hex: string): string {
  const { r, g, b } = fromHex(hex);
  const mix = (v: number): string =>
    Math.round(v * 0.4 + 255 * 0.6)
      .toString(16)
      .padStart(2, '0');
  return `#${mix(r)}${mix(g)}${mix(b)}`;
}

function lines(
  doc: Doc,
  left: number,
  top: number,
  cell: number,
  x0: number,
  y0: number,
  x1: number,
  y1: number,
): void {
  const [w, h] = [(x1 - x0) * cell, (y1 - y0) * cell];
  doc.font('Helvetica').fontSize(7).fillColor(MUTE);
  for (const strong of [false, true]) {
    doc.lineWidth(strong ? 0.9 : 0.25);
    for (let x = x0; x <= x1; x++) {
      if ((x % 10 === 0) !== strong) continue;
      doc.moveTo(left + (x - x0) * cell, top).lineTo(left + (x - x0) * cell, top + h);
    }
    for (let y = y0; y <= y1; y++) {
      if ((y % 10 === 0) !== strong) continue;
      doc.moveTo(left, top + (y - y0) * cell).lineTo(left + w, top + (y - y0) * cell);
    }
    doc.stroke(strong ? INK : MUTE);
  }
  doc.rect(left, top, w, h).lineWidth(0.9).stroke(INK);
  for (let x = Math.ceil(x0 / 10) * 10; x <= x1; x += 10) {
    doc.text(String(x), left + (x - x0) * cell - 10, top - 10, { width: 20, align: 'center', lineBreak: false });
  }
  for (let y = Math.ceil(y0 / 10) * 10; y <= y1; y += 10) {
    doc.text(String(y), left - 22, top + (y - y0) * cell - 3, { width: 18, align: 'right', lineBreak: false });
  }
}

/** Small triangles on the edge where the middle of the whole grid lies. */
function centreMarks(
  doc: Doc,
  { cols, rows }: PrintedGrid,
  left: number,
  top: number,
  cell: number,
  [x0, x1]: readonly [number, number],
  [y0, y1]: readonly [number, number],
): void {
  const [cx, cy] = [cols / 2, rows / 2];
  if (cx >= x0 && cx <= x1) {
    const x = left + (cx - x0) * cell;
    doc.polygon([x - 3, top - 1], [x + 3, top - 1], [x, top + 5]).fill(EMBER);
  }
  if (cy >= y0 && cy <= y1) {
    const y = top + (cy - y0) * cell;
    doc.polygon([left - 1, y - 3], [left - 1, y + 3], [left + 5, y]).fill(EMBER);
  }
}
