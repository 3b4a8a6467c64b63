import PDFDocument from 'pdfkit';
import {
  fabricUnder,
  figuresOf,
  frameOf,
  JUMP,
  renderDesign,
  STOP,
  threadRunsOf,
  writePng,
  type Raster,
  type Sewing,
} from '@open-kite/core';

const MARGIN = 42;
const INK = '#1f2d2c';
const MUTE = '#6d7672';
/** Points of a millimetre on paper. */
const POINTS = 72 / 25.4;
/** Sheets of true size lap over each other by this, so that they can be glued. */
const LAP_MM = 8;
/** Line that tells whether a printer keeps true size. */
const GAUGE_MM = 100;
const PX_PER_MM = 8;
/** Largest picture of a sheet in pixels a side: of a larger design it gets coarser. */
const MOST_PX = 3200;

export type Paper = 'A4' | 'LETTER';
export interface WorksheetOptions {
  readonly paper?: Paper;
  /** What whoever sews it is to know. */
  readonly notes?: string;
}

/**
 * Draws the worksheet a shop sews by: figures, fabric and what belongs to it, the threads in sewing order with their stops, and the
 * design at true size with its placement cross, over as many sheets as it takes.
 */
export async function writeWorksheet(
  design: Sewing,
  name: string,
  { paper = 'A4', notes = '' }: WorksheetOptions = {},
): Promise<Buffer> {
  const doc = new PDFDocument({ size: paper, margin: MARGIN, info: { Title: name, CreationDate: new Date(0) } });
  const done = collect(doc);
  const frame = frameOf(design, 3);
  const scale = Math.min(PX_PER_MM, MOST_PX / Math.max(frame.width, frame.height, 1));
  const picture = renderDesign(design, scale, 'sewn', 3);
  drawSummary(doc, design, name, picture, notes);
  drawTrueSize(doc, design, name, picture);
  doc.end();
  return done;
}

type Doc = PDFKit.PDFDocument;

function drawSummary(doc: Doc, design: Sewing, name: string, picture: Raster, notes: string): void {
  const figures = figuresOf(design.stitches, design.threads.length);
  const fabric = fabricUnder(design);
  const { minutes } = figures;
  doc.fillColor(INK).font('Helvetica-Bold').fontSize(20).text(name);
  doc
    .font('Helvetica')
    .fontSize(10)
    .fillColor(MUTE)
    .text(
      `${figures.widthMm.toFixed(1)} x ${figures.heightMm.toFixed(1)} mm   ${figures.stitches} stitches   ${figures.trims} trims   ` +
        `${minutes.oneNeedle} min on one needle, ${minutes.multiNeedle} min on several`,
    );
  if (fabric) {
    doc.text(`${fabric.name}: stabiliser ${fabric.stabiliser}, topping ${fabric.topping}, needle ${fabric.needle}`);
  }
  const first = firstPoint(design);
  if (first)
    doc.text(`First needle point ${first.x.toFixed(1)} mm across, ${first.y.toFixed(1)} mm down from the middle`);
  doc.moveDown();
  const top = doc.y;
  const side = 250;
  doc.image(Buffer.from(writePng(picture)), MARGIN, top, { fit: [side, side] });
  doc.y = top + Math.min(side, (side * picture.height) / Math.max(picture.width, picture.height)) + 18;
  doc.fillColor(INK).font('Helvetica-Bold').fontSize(12).text('Threads in sewing order', MARGIN);
  doc.moveDown(0.4).font('Helvetica').fontSize(10);
  const stops = stopRows(design);
  threadRunsOf(design.stitches).forEach((run, i) => {
    const thread = design.threads[run.thread];
    if (!thread) return;
    if (doc.y > doc.page.height - MARGIN - 30) doc.addPage();
    const y = doc.y;
    doc.rect(MARGIN, y - 1, 22, 11).fillAndStroke(thread.hex, MUTE);
    const length = (figures.threads[run.thread]?.lengthM ?? 0).toFixed(1);
    doc.fillColor(INK).text(`${i + 1}.  ${thread.code}  ${thread.name}`, MARGIN + 32, y);
    const waits = stops.filter((row) => row >= run.from && row < run.to).length;
    const stop = waits > 0 ? `, ${waits === 1 ? 'a stop' : `${waits} stops`}` : '';
    doc.fillColor(MUTE).text(`${run.stitches} stitches, thread in all ${length} m${stop}`, MARGIN + 240, y);
    doc.y = y + 16;
  });
  if (notes.trim() === '') return;
  doc.moveDown().fillColor(INK).font('Helvetica-Bold').fontSize(12).text('Notes', MARGIN);
  doc.font('Helvetica').fontSize(10).text(notes.slice(0, 4000), MARGIN);
}

function firstPoint({ stitches: { x, y, command, count } }: Sewing): { x: number; y: number } | undefined {
  for (let i = 0; i < count; i++) if (command[i] === JUMP) return { x: x[i] ?? 0, y: y[i] ?? 0 };
  return undefined;
}

const stopRows = ({ stitches: { command, count } }: Sewing): number[] =>
  Array.from({ length: count }, (_, i) => i).filter((i) => command[i] === STOP);

/** The design at true size: on one sheet where it fits, else on several that lap over each other. */
function drawTrueSize(doc: Doc, design: Sewing, name: string, picture: Raster): void {
  const frame = frameOf(design, 3);
  const image = Buffer.from(writePng(picture));
  doc.addPage();
  const usable = {
    width: (doc.page.width - 2 * MARGIN) / POINTS,
    // The head of a sheet and its gauge take their room.
    height: (doc.page.height - 2 * MARGIN) / POINTS - 26,
  };
  const sheets = (size: number, room: number): number =>
    size <= room ? 1 : 1 + Math.ceil((size - room) / (room - LAP_MM));
  const [across, down] = [sheets(frame.width, usable.width), sheets(frame.height, usable.height)];
  for (let row = 0; row < down; row++) {
    for (let column = 0; column < across; column++) {
      if (row + column > 0) doc.addPage();
      const left = frame.left + column * (usable.width - LAP_MM);
      const top = frame.top + row * (usable.height - LAP_MM);
      const width = Math.min(usable.width, frame.left + frame.width - left);
      const height = Math.min(usable.height, frame.top + frame.height - top);
      const part = across * down > 1 ? `, sheet ${row * across + column + 1} of ${across * down}` : '';
      doc.fillColor(INK).font('Helvetica-Bold').fontSize(11).text(`${name} at true size${part}`, MARGIN, MARGIN);
      drawGauge(doc, MARGIN, MARGIN + 24);
      const at = { x: MARGIN, y: MARGIN + 26 * POINTS };
      doc
        .save()
        .rect(at.x, at.y, width * POINTS, height * POINTS)
        .clip();
      doc.image(image, at.x - (left - frame.left) * POINTS, at.y - (top - frame.top) * POINTS, {
        width: frame.width * POINTS,
        height: frame.height * POINTS,
      });
      drawCross(doc, at.x - left * POINTS, at.y - top * POINTS);
      doc.restore();
      doc
        .lineWidth(0.4)
        .strokeColor(MUTE)
        .rect(at.x, at.y, width * POINTS, height * POINTS)
        .stroke();
    }
  }
}

/** A line of 100 mm: whoever prints it measures whether the printer kept the size. */
function drawGauge(doc: Doc, x: number, y: number): void {
  const end = x + GAUGE_MM * POINTS;
  doc.lineWidth(0.6).strokeColor(INK).moveTo(x, y).lineTo(end, y).stroke();
  for (const at of [x, end])
    doc
      .moveTo(at, y - 4)
      .lineTo(at, y + 4)
      .stroke();
  doc
    .fillColor(MUTE)
    .font('Helvetica')
    .fontSize(8)
    .text(`${GAUGE_MM} mm: measure it; print at 100 %`, x, y + 6);
}

/** Where the middle of the hoop comes to lie. */
function drawCross(doc: Doc, x: number, y: number): void {
  const arm = 9 * POINTS;
  for (const [width, colour] of [
    [2.2, '#ffffff'],
    [0.8, INK],
  ] as const) {
    doc.lineWidth(width).strokeColor(colour);
    doc
      .moveTo(x - arm, y)
      .lineTo(x + arm, y)
      .stroke();
    doc
      .moveTo(x, y - arm)
      .lineTo(x, y + arm)
      .stroke();
  }
}

/** What a document writes, once it is ended. */
export function collect(doc: PDFKit.PDFDocument): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const parts: Buffer[] = [];
    doc.on('data', (part: Buffer) => parts.push(part));
    doc.on('end', () => resolve(Buffer.concat(parts)));
    doc.on('error', reject);
  });
}
