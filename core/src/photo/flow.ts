/** Bends rows so that they follow something; built for a lattice of a certain reach. */
export interface Flow {
  /** Heights of rows, for a lattice that reaches so far from its middle and whose rows are this far apart. */
  levels(reachX: number, reachY: number, pitch: number): Levels;
}

export interface Levels {
  readonly rows: number;
  /** Height of a row at a place along it, in mm from the middle. */
  height(row: number, x: number): number;
}
