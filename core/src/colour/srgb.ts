/** Colour as 0..255 numbers in sRGB. */
export interface Rgb {
  readonly r: number;
  readonly g: number;
  readonly b: number;
}

/** sRGB byte to linear light, 0..1 (IEC 61966-2-1), rounded to single precision so that engines agree. */
export const LINEAR: Float32Array = Float32Array.from({ length: 256 }, (_, i) => {
  const v = i / 255;
  return v <= 0.04045 ? v / 12.92 : Math.pow((v + 0.055) / 1.055, 2.4);
});

const STEPS = 4096;
const BYTES = Uint8Array.from({ length: STEPS + 1 }, (_, i) => {
  const v = i / STEPS;
  return Math.round(255 * (v <= 0.0031308 ? v * 12.92 : 1.055 * Math.pow(v, 1 / 2.4) - 0.055));
});

/** Linear light 0..1 to the sRGB byte, off by one level at most in the darkest shades. */
export function toByte(linear: number): number {
  return BYTES[linear <= 0 ? 0 : linear >= 1 ? STEPS : Math.round(linear * STEPS)];
}

/** Whether two colours are the same; none is never the same. */
export const isSame = (a: Rgb, b: Rgb | undefined): boolean =>
  b !== undefined && a.r === b.r && a.g === b.g && a.b === b.b;

/** `#rrggbb` of a colour. */
export function toHex(c: Rgb): string {
  const n = (Math.round(c.r) << 16) | (Math.round(c.g) << 8) | Math.round(c.b);
  return '#' + n.toString(16).padStart(6, '0');
}

/**
 * Reads `#rrggbb`.
 * @throws RangeError for anything else.
 */
export function fromHex(hex: string): Rgb {
  if (!/^#[0-9a-f]{6}$/i.test(hex)) throw new RangeError(`colour: expected #rrggbb, got "${hex}"`);
  const n = parseInt(hex.slice(1), 16);
  return { r: n >> 16, g: (n >> 8) & 255, b: n & 255 };
}

/** Linear light of a colour: r, g, b from 0 to 1. */
export function linearOf(hex: string): readonly [number, number, number] {
  const { r, g, b } = fromHex(hex);
  return [LINEAR[r], LINEAR[g], LINEAR[b]];
}
