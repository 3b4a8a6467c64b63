import type { Chart } from './charts.js';
import { fromHex, type Rgb } from './srgb.js';

/** Colour of a thread; a middle grey where the chart has lost it. */
export function threadColour(charts: readonly Chart[], chart: string, code: string): Rgb {
  const hex = charts.find((c) => c.id === chart)?.threads.find((t) => t.code === code)?.hex;
  return fromHex(hex ?? '#808080');
}
