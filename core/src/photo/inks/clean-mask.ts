/**
 * Takes islands out of a mask and fills holes in it, by their area: neither is worth a way of the thread.
 * @param mask changed: 1 where an ink is sewn
 * @param leastCells cells of an island that stays; `leastHole` those of a hole that does
 * @param free cells that must not be filled
 */
export function cleanMask(
  mask: Uint8Array,
  cols: number,
  leastCells: number,
  leastHole: number,
  free: (cell: number) => boolean,
): void {
  const seen = new Uint8Array(mask.length);
  const stack: number[] = [];
  for (const value of [0, 1]) {
    seen.fill(0);
    const most = value === 0 ? leastHole : leastCells;
    for (let start = 0; start < mask.length; start++) {
      if (mask[start] !== value || seen[start]) continue;
      const cells: number[] = [];
      let open = false;
      stack.push(start);
      seen[start] = 1;
      while (stack.length > 0) {
        const cell = stack.pop() ?? 0;
        if (cells.length <= most) cells.push(cell);
        if (value === 0 && free(cell)) open = true;
        const c = cell % cols;
        for (const next of [c > 0 ? cell - 1 : -1, c < cols - 1 ? cell + 1 : -1, cell - cols, cell + cols]) {
          if (next < 0 || next >= mask.length || seen[next] || mask[next] !== value) continue;
          seen[next] = 1;
          stack.push(next);
        }
      }
      if (cells.length < most && !open) for (const cell of cells) mask[cell] = 1 - value;
    }
  }
}
