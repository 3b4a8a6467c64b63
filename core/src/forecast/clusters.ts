/** Cells of a grid that belong together. */
export interface Cluster {
  readonly cells: readonly number[];
  /** The cell with the largest value. */
  readonly worst: number;
}

/** Groups the cells of a grid that are over a limit and touch. */
export function clustersOver(values: ArrayLike<number>, width: number, limit: number): Cluster[] {
  const seen = new Uint8Array(values.length);
  const out: Cluster[] = [];
  for (let i = 0; i < values.length; i++) {
    if (seen[i] || !(values[i] > limit)) continue;
    seen[i] = 1;
    const cells = [i];
    let worst = i;
    for (const at of cells) {
      if (values[at] > values[worst]) worst = at;
      for (const next of [at - 1, at + 1, at - width, at + width]) {
        if (next < 0 || next >= values.length || seen[next] || !(values[next] > limit)) continue;
        seen[next] = 1;
        cells.push(next);
      }
    }
    out.push({ cells, worst });
  }
  return out;
}
