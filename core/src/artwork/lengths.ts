/** User units of SVG to the millimetre: 96 to the inch. */
export const UNITS_PER_MM = 96 / 25.4;

const UNITS: Readonly<Record<string, number>> = {
  '': 1,
  px: 1,
  mm: UNITS_PER_MM,
  cm: UNITS_PER_MM * 10,
  q: UNITS_PER_MM / 4,
  in: 96,
  pt: 96 / 72,
  pc: 16,
  em: 16,
  rem: 16,
  ex: 8,
};

const LONGEST_LENGTH = 200;

/**
 * A length of SVG in user units.
 * @param whole what 100 % is
 * @returns undefined for what is no length
 */
export function lengthIn(text: string | undefined, whole: number): number | undefined {
  // No length is longer; and every pattern here reads a text once, whatever stands in it.
  if (!text || text.length > LONGEST_LENGTH) return undefined;
  const match = /^([-+]?(?:\d+(?:\.\d*)?|\.\d+)(?:e[-+]?\d+)?)\s*([a-z]*|%)$/i.exec(text.trim());
  if (!match) return undefined;
  const value = Number(match[1]);
  const unit = match[2].toLowerCase();
  const factor = unit === '%' ? whole / 100 : UNITS[unit];
  return factor === undefined || !Number.isFinite(value * factor) ? undefined : value * factor;
}

/** Numbers separated by spaces or commas; what is no number ends the list. */
export function numbersIn(text: string | undefined): number[] {
  const out: number[] = [];
  for (const part of (text ?? '').match(/[-+]?(?:\d+(?:\.\d*)?|\.\d+)(?:e[-+]?\d+)?/gi) ?? []) {
    const value = Number(part);
    if (!Number.isFinite(value)) break;
    out.push(value);
  }
  return out;
}
