const COLOURS: Readonly<Record<string, readonly [number, number, number]>> = {
  '.': [244, 239, 226],
  a: [47, 117, 110],
  b: [200, 72, 31],
  c: [230, 178, 60],
  d: [42, 52, 55],
};

/** A quilt block of 60 x 60 pixels, one for each cross: an eight-pointed kite star in a checked border. */
export function quiltBlockPixels(): { width: number; height: number; data: Uint8Array } {
  const size = 60;
  const data = new Uint8Array(size * size * 3);
  for (let y = 0; y < size; y++) {
    for (let x = 0; x < size; x++) {
      data.set(COLOURS[patchAt(x, y, size)], (y * size + x) * 3);
    }
  }
  return { width: size, height: size, data };
}

function patchAt(x: number, y: number, size: number): string {
  const edge = Math.min(x, y, size - 1 - x, size - 1 - y);
  if (edge < 2) return 'd';
  if (edge < 6) return (Math.floor(x / 4) + Math.floor(y / 4)) % 2 === 0 ? 'a' : '.';
  if (edge < 7) return 'd';
  const u = Math.abs(x + 0.5 - size / 2);
  const v = Math.abs(y + 0.5 - size / 2);
  const far = Math.max(u, v);
  const near = Math.min(u, v);
  if (far + near < 8) return 'c';
  if (near < (22 - far) * 0.62 && far < 22) return u > v === x > size / 2 ? 'b' : 'a';
  if (Math.abs(far - near) < 2 && far < 20) return 'd';
  return '.';
}
