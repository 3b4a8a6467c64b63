import PDFDocument from 'pdfkit';
import { fabricOf, figuresOf, renderDesign, threadRunsOf, writePng, type Sewing } from '@open-kite/core';

const MARGIN = 42;
const INK = '#1f2d2c';
const MUTE = '#6d7672';

/** Draws the worksheet a shop sews by: picture, figures, fabric, and the threads in sewing order. */
export async function writeWorksheet(design: Sewing, name: string): Promise<Buffer> {
  const figures = figuresOf(design.stitches, design.threads.length);
  const picture = renderDesign(design, Math.min(8, 1400 / Math.max(50, figures.widthMm, figures.heightMm)), 'sewn');
  const doc = new PDFDocument({ size: 'A4', margin: MARGIN, info: { Title: name, CreationDate: new Date(0) } });
  const done = collect(doc);
  doc.fillColor(INK).font('Helvetica-Bold').fontSize(20).text(name);
  const fabric = fabricOf(design.fabric.id);
  doc
    .font('Helvetica')
    .fontSize(10)
    .fillColor(MUTE)
    .text(
      `${figures.widthMm.toFixed(1)} x ${figures.heightMm.toFixed(1)} mm   ${figures.stitches} stitches   ${figures.trims} trims   ` +
        `${figures.minutes.oneNeedle} min on one needle, ${figures.minutes.multiNeedle} min on several`,
    )
    .text(`${fabric.name}: stabiliser ${fabric.stabiliser}, topping ${fabric.topping}, needle ${fabric.needle}`);
  doc.moveDown();
  const top = doc.y;
  const side = 300;
  doc.image(Buffer.from(writePng(picture)), MARGIN, top, { fit: [side, side] });
  doc.y = top + Math.min(side, (side * picture.height) / Math.max(picture.width, picture.height)) + 18;
  doc.fillColor(INK).font('Helvetica-Bold').fontSize(12).text('Threads in sewing order', MARGIN);
  doc.moveDown(0.4).font('Helvetica').fontSize(10);
  threadRunsOf(design.stitches).forEach((run, i) => {
    const thread = design.threads[run.thread];
    if (!thread) return;
    if (doc.y > doc.page.height - MARGIN - 30) doc.addPage();
    const y = doc.y;
    doc.rect(MARGIN, y - 1, 22, 11).fillAndStroke(thread.hex, MUTE);
    const length = (figures.threads[run.thread]?.lengthM ?? 0).toFixed(1);
    doc.fillColor(INK).text(`${i + 1}.  ${thread.code}  ${thread.name}`, MARGIN + 32, y);
    doc.fillColor(MUTE).text(`${run.stitches} stitches, thread in all ${length} m`, MARGIN + 260, y);
    doc.y = y + 16;
  });
  doc.end();
  return done;
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
