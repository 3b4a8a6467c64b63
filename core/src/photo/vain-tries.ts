import type { Lattice } from './lattice.js';

/** Columns that share a stamp. */
const BLOCK = 8;

/** Remembers where nothing was worth changing, for as long as nothing around it changes. */
export class VainTries {
  private tick = 1;
  /** When the cells of a block were last touched by a change. */
  private readonly stamps: Int32Array;
  /** When the run that begins at a cell was tried in vain. */
  private readonly tried: Int32Array;
  private readonly blocks: number;

  /**
   * @param reach cells both ways that a change is felt
   * @param beside cells beside a run that a try looks at
   */
  constructor(
    private readonly lattice: Lattice,
    private readonly reach: number,
    private readonly beside: number,
  ) {
    const { cols, rows } = lattice;
    this.blocks = Math.ceil(cols / BLOCK);
    this.stamps = new Int32Array(this.blocks * rows);
    this.tried = new Int32Array(cols * rows);
  }

  /** Anything may have changed anywhere. */
  forget(): void {
    this.tried.fill(0);
  }

  changed(row: number, from: number, to: number): void {
    const { cols, rows } = this.lattice;
    const { blocks, reach } = this;
    const tick = ++this.tick;
    const first = Math.max(0, from - reach) >> 3;
    const last = Math.min(cols - 1, to + reach) >> 3;
    const low = Math.min(rows - 1, row + reach);
    for (let r = Math.max(0, row - reach); r <= low; r++) {
      for (let b = first; b <= last; b++) this.stamps[r * blocks + b] = tick;
    }
  }

  /** Whether the run from a column to before another was tried in vain and nothing has changed since. */
  isVain(row: number, from: number, end: number): boolean {
    const { cols } = this.lattice;
    const since = this.tried[row * cols + from];
    if (since === 0) return false;
    const last = Math.min(cols - 1, end - 1 + this.beside) >> 3;
    for (let b = Math.max(0, from - this.beside) >> 3; b <= last; b++) {
      if (this.stamps[row * this.blocks + b] > since) return false;
    }
    return true;
  }

  note(row: number, from: number): void {
    this.tried[row * this.lattice.cols + from] = this.tick;
  }
}
