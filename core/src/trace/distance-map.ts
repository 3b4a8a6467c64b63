/**
 * Distance of every pixel's centre to the nearest boundary between labels, in pixels, by the exact two-pass
 * transform of Felzenszwalb and Huttenlocher (2012). A pixel beside a boundary has 0.5.
 */
export function distanceMap(labels: Uint8Array, width: number, height: number): Float32Array {
  const FAR = 1e9;
  const squares = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const label = labels[i];
      const edge =
        (x > 0 && labels[i - 1] !== label) ||
        (x < width - 1 && labels[i + 1] !== label) ||
        (y > 0 && labels[i - width] !== label) ||
        (y < height - 1 && labels[i + width] !== label);
      squares[i] = edge ? 0 : FAR;
    }
  }
  transform(squares, width, height);
  for (let i = 0; i < squares.length; i++) squares[i] = Math.sqrt(squares[i]) + 0.5;
  return squares;
}

/** Distance of every pixel's centre to the nearest pixel of a set (1), in pixels, by the same transform. */
export function distanceTo(set: Uint8Array, width: number, height: number): Float32Array {
  const squares = new Float32Array(width * height);
  for (let i = 0; i < squares.length; i++) squares[i] = set[i] ? 0 : 1e9;
  transform(squares, width, height);
  for (let i = 0; i < squares.length; i++) squares[i] = Math.sqrt(squares[i]);
  return squares;
}

function transform(squares: Float32Array, width: number, height: number): void {
  const longest = Math.max(width, height);
  const line = new Float32Array(longest);
  const at = new Int32Array(longest);
  const from = new Float32Array(longest + 1);
  for (let x = 0; x < width; x++) envelope(squares, x, width, height, line, at, from);
  for (let y = 0; y < height; y++) envelope(squares, y * width, 1, width, line, at, from);
}

/** Lower envelope of parabolas along one line of the map. */
function envelope(
  map: Float32Array,
  start: number,
  step: number,
  n: number,
  line: Float32Array,
  at: Int32Array,
  from: Float32Array,
): void {
  for (let i = 0; i < n; i++) line[i] = map[start + i * step];
  let k = 0;
  at[0] = 0;
  from[0] = -Infinity;
  from[1] = Infinity;
  for (let q = 1; q < n; q++) {
    let s = 0;
    for (;;) {
      const v = at[k];
      s = (line[q] + q * q - (line[v] + v * v)) / (2 * q - 2 * v);
      if (s > from[k]) break;
      k--;
    }
    k++;
    at[k] = q;
    from[k] = s;
    from[k + 1] = Infinity;
  }
  k = 0;
  for (let q = 0; q < n; q++) {
    while (from[k + 1] < q) k++;
    const d = q - at[k];
    map[start + q * step] = d * d + line[at[k]];
  }
}
