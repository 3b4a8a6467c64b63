/**
 * Linear sRGB to OKLab (Ottosson 2020), written into `out` at `at` as L, a, b.
 * Rounded to single precision so that engines with different cube roots agree.
 */
export function linearToOklab(r: number, g: number, b: number, out: Float32Array | number[], at: number): void {
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  out[at] = Math.fround(0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s);
  out[at + 1] = Math.fround(1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s);
  out[at + 2] = Math.fround(0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s);
}
