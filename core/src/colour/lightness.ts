const EDGE = 216 / 24389;
const SLOPE = 24389 / 27;

/** Relative luminance of linear light. */
export const luminance = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** CIE L* of a luminance, 0 to 100. */
export const lightnessOf = (y: number): number => (y > EDGE ? 116 * Math.cbrt(y) - 16 : y * SLOPE);

/** The luminance that has an L*. */
export const luminanceOf = (l: number): number => (l > 8 ? ((l + 16) / 116) ** 3 : l / SLOPE);
