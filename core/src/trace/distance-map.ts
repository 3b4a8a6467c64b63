/**
 * Distance of every pixel's centre to the nearest boundary between labels, in pixels, by the exact two-pass
 * transform of Felzenszwalb and Huttenlocher (2012). A pixel beside a boundary has 0.5.
 */
export function distanceMap(labels: Uint8Array, width: number, height: number): Float32Array {
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
  for (let i = 0; i < squares.length; i++) squares[i] = set[i] ? 0 : FAR;
  transform(squares, width, height);
  for (let i = 0; i < squares.length; i++) squares[i] = Math.sqrt(squares[i]);
  return squares;
}

/** Squared distance where no pixel of the set is in the same row or column. */
const FAR = 1e9;

/** Squared distances from a map that is 0 in the set and FAR elsewhere; in place. */
function transform(squares: Float32Array, width: number, height: number): void {
  downAndUp(squares, width, height);
  const line = new Float32Array(width);
  const at = new Int32Array(width);
  const from = new Float32Array(width + 1);
  for (let y = 0; y < height; y++) envelope(squares, y * width, width, line, at, from);
}

/** Squared distances along the columns. A set needs no envelope for it, and rows are walked as they lie in memory. */
function downAndUp(squares: Float32Array, width: number, height: number): void {
  const steps = new Int32Array(width).fill(NONE);
  for (let y = 0; y < height; y++) {
    for (let x = 0, i = y * width; x < width; x++, i++) {
      if (squares[i] === 0) steps[x] = 0;
      else if (steps[x] < NONE) squares[i] = (++steps[x]) ** 2;
    }
  }
  steps.fill(NONE);
  for (let y = height - 1; y >= 0; y--) {
    for (let x = 0, i = y * width; x < width; x++, i++) {
      if (squares[i] === 0) steps[x] = 0;
      else if (steps[x] < NONE) {
        const square = (++steps[x]) ** 2;
        if (square < squares[i]) squares[i] = square;
      }
    }
  }
}

/** Steps to a pixel of the set where there is none. */
const NONE = 1 << 30;

/** Lower envelope of parabolas along one row of the map. */
function envelope(
  map: Float32Array,
  start: number,
  n: number,
  line: Float32Array,
  at: Int32Array,
  from: Float32Array,
): void {
  for (let i = 0; i < n; i++) line[i] = map[start + i];
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
    map[start + q] = d * d + line[at[k]];
  }
}
