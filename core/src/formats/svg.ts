import type { Design } from '../design/design.js';
import type { Sewing } from '../sequence/sewing.js';
import { svgPath } from '../geometry/curve.js';
import { STITCH } from '../sequence/stitch-list.js';
import { frameOf } from '../sewn-look/render.js';

const escape = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] as string);

/** Writes the stitches as an SVG in true size: one group a thread run, one line a stretch without a jump. */
export function writeStitchSvg(design: Sewing): string {
  const frame = frameOf(design, 3);
  const n = (v: number): string => String(Number(v.toFixed(2)));
  const out: string[] = [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${n(frame.width)}mm" height="${n(frame.height)}mm" ` +
      `viewBox="${n(frame.left)} ${n(frame.top)} ${n(frame.width)} ${n(frame.height)}">`,
    `<rect x="${n(frame.left)}" y="${n(frame.top)}" width="${n(frame.width)}" height="${n(frame.height)}" fill="${design.fabric.hex}"/>`,
    '<g fill="none" stroke-width="0.38" stroke-linecap="round" stroke-linejoin="round">',
  ];
  const { stitches: list } = design;
  let open = -1;
  let path = '';
  const flush = (): void => {
    if (path.includes('L')) out.push(`<path d="${path}"/>`);
    path = '';
  };
  for (let i = 0; i < list.count; i++) {
    if (list.command[i] !== STITCH) {
      flush();
      continue;
    }
    if (list.thread[i] !== open) {
      if (open >= 0) out.push('</g>');
      open = list.thread[i];
      const thread = design.threads[open];
      out.push(`<g stroke="${thread.hex}"><title>${escape(`${thread.code} ${thread.name}`)}</title>`);
    }
    path += `${path === '' ? 'M' : 'L'}${n(list.x[i])} ${n(list.y[i])}`;
  }
  flush();
  if (open >= 0) out.push('</g>');
  out.push('</g>', '</svg>');
  return out.join('\n') + '\n';
}

/** Writes the traced shapes without stitches: one path a piece, in its thread's colour. */
export function writeShapeSvg(design: Design): string {
  const box = design.picture ?? frameOf(design, 0);
  const n = (v: number): string => String(Number(v.toFixed(3)));
  const out = [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${n(box.width)}mm" height="${n(box.height)}mm" ` +
      `viewBox="${n(box.left)} ${n(box.top)} ${n(box.width)} ${n(box.height)}" fill-rule="evenodd">`,
  ];
  for (const piece of design.pieces) {
    const d = piece.outline.map((curve) => svgPath(curve, 3, true)).join('');
    out.push(`<path id="${piece.id}" fill="${design.threads[piece.thread].hex}" d="${d}"/>`);
  }
  out.push('</svg>');
  return out.join('\n') + '\n';
}
