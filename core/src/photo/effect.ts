import type { Plate } from './plate.js';

/** Tints of a picture: all of it, its greys, warm greys, or the shades of one hue. */
export const EFFECTS = [
  { id: 'colour', name: 'Colour' },
  { id: 'grey', name: 'Greys' },
  { id: 'sepia', name: 'Sepia' },
  { id: 'hue', name: 'One hue' },
] as const;

/** A plate whose colours were changed; its light stays. */
export function tinted(plate: Plate, effect: string, hue: number): Plate {
  if (effect === 'colour') return plate;
  const tint = effect === 'grey' ? [1, 1, 1] : effect === 'sepia' ? [1.22, 0.96, 0.66] : tintOf(hue);
  const data = plate.data.slice();
  for (let i = 0; i < data.length; i += 4) {
    const y = 0.2126 * data[i] + 0.7152 * data[i + 1] + 0.0722 * data[i + 2];
    // The lightest and darkest places keep less of a tint.
    for (let j = 0; j < 3; j++) data[i + j] = Math.min(1, y * (tint[j] + (1 - tint[j]) * y));
  }
  return { ...plate, data };
}

/** Linear r, g, b of a hue in degrees, of unit light. */
function tintOf(hue: number): number[] {
  const raw = [0, 120, 240].map((at) => {
    const apart = Math.abs(((hue - at + 540) % 360) - 180);
    return 0.25 + Math.max(0, Math.min(1, 2 - apart / 60));
  });
  const y = 0.2126 * raw[0] + 0.7152 * raw[1] + 0.0722 * raw[2];
  return raw.map((v) => v / y);
}
