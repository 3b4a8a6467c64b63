export interface WeaveOptions {
  /** Linear r, g, b of the threads as they look sewn, from number 1 on; number 0 leaves what is there. */
  readonly colours: Float32Array;
  /** What a change of thread along a row costs, in squared differences summed over cells. */
  readonly changeCost: number;
  /** Cells a thread covers in a row at least: where there is detail, and where the picture is even. */
  readonly leastCells: number;
  readonly evenCells: number;
  /** Weight of the difference of each cell by itself, before colours mix. */
  readonly sharpness: number;
  /** Cloth that differs more from the picture does not stay bare. */
  readonly farthestBare: number;
}
