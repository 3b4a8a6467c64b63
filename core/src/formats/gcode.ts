import type { Sewing } from '../sequence/sewing.js';
import { CHANGE, END, JUMP, STITCH, STOP, TRIM } from '../sequence/stitch-list.js';

/** Writes G-code for open-hardware machines: a move to each needle point, then one turn of the needle (Z). */
export function writeGcode(design: Sewing): string {
  const { stitches: list } = design;
  const n = (v: number): string => v.toFixed(3);
  const out = ['; open-kite gcode 1', 'G21 ; millimetres', 'G90 ; absolute places', 'G28 X Y'];
  design.threads.forEach((t, i) => out.push(`; thread ${i}: ${t.code} ${t.name} ${t.hex}`));
  if (list.count > 0) out.push(`T${list.thread[0]}`);
  for (let i = 0; i < list.count; i++) {
    // y points up on a machine's table.
    const place = `X${n(list.x[i])} Y${n(-list.y[i] + 0)}`;
    switch (list.command[i]) {
      case STITCH:
        out.push(`G1 ${place}`, 'G0 Z1', 'G0 Z0');
        break;
      case JUMP:
        out.push(`G0 ${place}`);
        break;
      case TRIM:
        out.push('M7 ; trim');
        break;
      case CHANGE:
        out.push(`M0 ; thread ${list.thread[i]}`, `T${list.thread[i]}`);
        break;
      case STOP:
        out.push('M0');
        break;
      case END:
        out.push('M30');
        break;
    }
  }
  return out.join('\n') + '\n';
}
