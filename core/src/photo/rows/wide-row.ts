import type { RowLine } from './row-lines.js';

/** A row and how far its thread reaches to either side, for each place of its line. */
export interface WideRow {
  readonly line: RowLine;
  /** 1 where it is sewn. */
  readonly sewn: Uint8Array;
  /** Millimetres above and below the line. */
  readonly up: Float32Array;
  readonly down: Float32Array;
}

/** A row that is not sewn anywhere yet. */
export function bareRow(line: RowLine): WideRow {
  const n = line.x.length;
  return { line, sewn: new Uint8Array(n), up: new Float32Array(n), down: new Float32Array(n) };
}
