/**
 * Gives a value to the cells of a grid whose middles lie under a stitch: in every row those between two ends, since a thread has
 * no hollows.
 * @param r half the thread; all lengths in cells
 */
export function paintStitch(
  out: Uint8Array,
  value: number,
  { width, height }: { readonly width: number; readonly height: number },
  r: number,
  ax: number,
  ay: number,
  bx: number,
  by: number,
): void {
  const [dx, dy] = [bx - ax, by - ay];
  const length = Math.sqrt(dx * dx + dy * dy);
  const first = Math.max(0, Math.ceil(Math.min(ay, by) - r - 0.5));
  const last = Math.min(height - 1, Math.floor(Math.max(ay, by) + r - 0.5));
  for (let row = first; row <= last; row++) {
    // From the start of the stitch.
    const v = row + 0.5 - ay;
    let low = Infinity;
    let high = -Infinity;
    // The round ends of the thread.
    const start = r * r - v * v;
    if (start >= 0) {
      const half = Math.sqrt(start);
      low = -half;
      high = half;
    }
    const end = r * r - (v - dy) * (v - dy);
    if (end >= 0) {
      const half = Math.sqrt(end);
      low = Math.min(low, dx - half);
      high = Math.max(high, dx + half);
    }
    // Its sides: so far beside the stitch, and beside it at all.
    if (length > 0) {
      let from = -Infinity;
      let to = Infinity;
      if (Math.abs(dy) > 1e-9) {
        const [p, q] = [(v * dx - r * length) / dy, (v * dx + r * length) / dy];
        from = Math.min(p, q);
        to = Math.max(p, q);
      } else if (Math.abs(v) > r) to = -Infinity;
      if (Math.abs(dx) > 1e-9) {
        const [p, q] = [(-v * dy) / dx, (length * length - v * dy) / dx];
        from = Math.max(from, Math.min(p, q));
        to = Math.min(to, Math.max(p, q));
      } else if (v * dy < 0 || v * dy > length * length) to = -Infinity;
      if (from <= to) {
        low = Math.min(low, from);
        high = Math.max(high, to);
      }
    }
    if (low > high) continue;
    const from = row * width + Math.max(0, Math.ceil(low + ax - 0.5));
    const to = row * width + Math.min(width - 1, Math.floor(high + ax - 0.5));
    for (let cell = from; cell <= to; cell++) out[cell] = value;
  }
}
