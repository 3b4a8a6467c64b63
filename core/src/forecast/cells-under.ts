/**
 * Visits the cells of a grid whose middles lie under a stitch.
 * @param r half the thread; all lengths in cells
 */
export function cellsUnder(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  r: number,
  { width, height }: { readonly width: number; readonly height: number },
  visit: (cell: number) => void,
): void {
  const [dx, dy] = [bx - ax, by - ay];
  const square = dx * dx + dy * dy;
  const y0 = Math.max(0, Math.floor(Math.min(ay, by) - r));
  const y1 = Math.min(height - 1, Math.ceil(Math.max(ay, by) + r));
  const x0 = Math.max(0, Math.floor(Math.min(ax, bx) - r));
  const x1 = Math.min(width - 1, Math.ceil(Math.max(ax, bx) + r));
  for (let py = y0; py <= y1; py++) {
    const v = py + 0.5 - ay;
    // Of a slanted stitch only the stretch of the row that its thread can reach.
    let [low, high] = [x0, x1];
    if (Math.abs(dy) > 1e-6) {
      const middle = ax + (v * dx) / dy;
      const reach = (r * Math.sqrt(square)) / Math.abs(dy) + 1;
      low = Math.max(low, Math.floor(middle - reach));
      high = Math.min(high, Math.ceil(middle + reach));
    }
    for (let px = low; px <= high; px++) {
      const u = px + 0.5 - ax;
      const t = square === 0 ? 0 : Math.min(1, Math.max(0, (u * dx + v * dy) / square));
      const ex = u - dx * t;
      const ey = v - dy * t;
      if (ex * ex + ey * ey <= r * r) visit(py * width + px);
    }
  }
}
