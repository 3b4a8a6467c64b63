import { direction } from '../geometry/vector.js';
import { samplePlate, SEWN_SHARE, type Plate } from './plate.js';
import type { Flow } from './flow.js';
import { CELL_MM } from './cell.js';

/** Rows of cells over a picture; each cell shows one thread. */
export interface Lattice {
  readonly cols: number;
  readonly rows: number;
  /** Middle of every cell in mm on the cloth. */
  readonly x: Float32Array;
  readonly y: Float32Array;
  /** Distance of rows in mm, where they are not bent. */
  readonly pitch: number;
  /** 1 where something is to be sewn. */
  readonly inside: Uint8Array;
  /** Linear r, g, b the picture has there. */
  readonly wanted: Float32Array;
}

/**
 * Lays rows over a picture at an angle, bent where a flow bends them.
 * @param pitch distance of rows in mm
 */
export function layLattice(plate: Plate, angle: number, pitch: number, flow?: Flow): Lattice {
  const u = direction(angle);
  const halfW = plate.width / plate.scale / 2;
  const halfH = plate.height / plate.scale / 2;
  const midX = plate.left + halfW;
  const midY = plate.top + halfH;
  const reachX = Math.abs(u.x) * halfW + Math.abs(u.y) * halfH;
  const reachY = Math.abs(u.y) * halfW + Math.abs(u.x) * halfH;
  const cols = Math.ceil((2 * reachX) / CELL_MM);
  const levels = flow?.levels(reachX, reachY, pitch);
  const rows = levels ? levels.rows : Math.ceil((2 * reachY) / pitch);
  const count = cols * rows;
  const x = new Float32Array(count);
  const y = new Float32Array(count);
  const inside = new Uint8Array(count);
  const wanted = new Float32Array(count * 3);
  const sample = new Float32Array(4);
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < cols; c++) {
      const i = r * cols + c;
      const lx = (c + 0.5) * CELL_MM - reachX;
      const ly = levels ? levels.height(r, c) : (r + 0.5) * pitch - reachY;
      x[i] = midX + lx * u.x - ly * u.y;
      y[i] = midY + lx * u.y + ly * u.x;
      samplePlate(plate, x[i], y[i], sample);
      inside[i] = sample[3] >= SEWN_SHARE ? 1 : 0;
      wanted[i * 3] = sample[0];
      wanted[i * 3 + 1] = sample[1];
      wanted[i * 3 + 2] = sample[2];
    }
  }
  return { cols, rows, x, y, pitch, inside, wanted };
}
