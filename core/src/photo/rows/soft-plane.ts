/**
 * A plane of numbers blurred by a Gaussian both ways; edges repeat.
 * @param sigma in cells of the plane
 */
export function softPlane(plane: Float32Array, width: number, height: number, sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(sigma * 3));
  const kernel = Float64Array.from({ length: reach * 2 + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * sigma ** 2)),
  );
  const sum = kernel.reduce((a, b) => a + b, 0);
  for (let k = 0; k < kernel.length; k++) kernel[k] /= sum;
  const across = new Float32Array(plane.length);
  const line = new Float32Array(width + 2 * reach);
  for (let y = 0; y < height; y++) {
    const row = plane.subarray(y * width, (y + 1) * width);
    line.fill(row[0], 0, reach).set(row, reach);
    line.fill(row[width - 1], reach + width);
    for (let x = 0; x < width; x++) {
      let v = 0;
      for (let k = 0; k <= 2 * reach; k++) v += kernel[k] * line[x + k];
      across[y * width + x] = v;
    }
  }
  const out = new Float32Array(plane.length);
  for (let y = 0; y < height; y++) {
    for (let k = -reach; k <= reach; k++) {
      const from = Math.min(height - 1, Math.max(0, y + k)) * width;
      const w = kernel[k + reach];
      for (let x = 0; x < width; x++) out[y * width + x] += w * across[from + x];
    }
  }
  return out;
}

/** Means of two by two points of a plane; an odd last row or column is left out. */
export function halved(plane: Float32Array, width: number, height: number): Float32Array {
  const w = width >> 1;
  const h = height >> 1;
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++) {
    for (let x = 0; x < w; x++) {
      const at = y * 2 * width + x * 2;
      out[y * w + x] = (plane[at] + plane[at + 1] + plane[at + width] + plane[at + width + 1]) / 4;
    }
  }
  return out;
}
