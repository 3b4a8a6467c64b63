/** Numbers a place: the symmetric matrix xx, xy, xz, yy, yz, zz. */
export const METRIC = 6;

/** Light added before the cube root is differentiated: differences in the deepest shades are not seen that sharply. */
const VEIL = 0.004;

const XYZ = [
  0.4123907993 / 0.9504559271,
  0.3575843394 / 0.9504559271,
  0.1804807884 / 0.9504559271,
  0.2126390059,
  0.7151686788,
  0.0721923154,
  0.0193308187 / 1.0890577508,
  0.1191947798 / 1.0890577508,
  0.9505321522 / 1.0890577508,
];

/**
 * CIEDE2000 near a colour as a quadratic form of the difference in linear light: squared difference = d' M d. The weights
 * are those of Sharma, Wu and Dalal (2005) at the colour itself, the turn of blue left out.
 * @param out six numbers from `at` on
 * @param lightness weight of differences in lightness against those in colour
 */
export function writeMetric(r: number, g: number, b: number, out: Float32Array, at: number, lightness = 1): void {
  const lab = [0, 0, 0];
  const slope = [0, 0, 0];
  for (let i = 0; i < 3; i++) {
    const t = XYZ[i * 3] * r + XYZ[i * 3 + 1] * g + XYZ[i * 3 + 2] * b + VEIL;
    const linear = t <= 216 / 24389;
    lab[i] = linear ? (t * (24389 / 27) + 16) / 116 : Math.cbrt(t);
    slope[i] = linear ? 24389 / 27 / 116 : 1 / (3 * lab[i] * lab[i]);
  }
  const l = 116 * lab[1] - 16;
  const a = 500 * (lab[0] - lab[1]);
  const bb = 200 * (lab[1] - lab[2]);
  const c7 = Math.sqrt(a * a + bb * bb) ** 7;
  const stretch = 1.5 - 0.5 * Math.sqrt(c7 / (c7 + 25 ** 7));
  const a1 = a * stretch;
  const c = Math.sqrt(a1 * a1 + bb * bb);
  const l50 = (l - 50) * (l - 50);
  const sL = 1 + (0.015 * l50) / Math.sqrt(20 + l50);
  const sC = 1 + 0.045 * c;
  const sH = 1 + 0.015 * c;
  const [ux, uy] = c > 1e-6 ? [a1 / c, bb / c] : [1, 0];
  // Rows of the whitening: lightness, chroma, hue, each a linear form of linear r, g, b.
  const form = [new Array<number>(3), new Array<number>(3), new Array<number>(3)];
  for (let j = 0; j < 3; j++) {
    const fx = slope[0] * XYZ[j];
    const fy = slope[1] * XYZ[3 + j];
    const fz = slope[2] * XYZ[6 + j];
    const da = 500 * (fx - fy) * stretch;
    const db = 200 * (fy - fz);
    form[0][j] = (lightness * 116 * fy) / sL;
    form[1][j] = (ux * da + uy * db) / sC;
    form[2][j] = (ux * db - uy * da) / sH;
  }
  let k = at;
  for (let i = 0; i < 3; i++) {
    for (let j = i; j < 3; j++) {
      out[k++] = form[0][i] * form[0][j] + form[1][i] * form[1][j] + form[2][i] * form[2][j];
    }
  }
}

/** Squared difference by the metric that begins at a place, of a difference in linear light. */
export function squaredBy(m: Float32Array, k: number, r: number, g: number, b: number): number {
  return (
    m[k] * r * r + m[k + 3] * g * g + m[k + 5] * b * b + 2 * (m[k + 1] * r * g + m[k + 2] * r * b + m[k + 4] * g * b)
  );
}
