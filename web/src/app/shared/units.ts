/** Units lengths are shown in; inside, everything is millimetres. */
export type Unit = 'mm' | 'in';

const MM_PER: Readonly<Record<string, number>> = { mm: 1, cm: 10, in: 25.4, inch: 25.4, '"': 25.4 };

/**
 * Reads a typed length: "4 in", "4in", "102mm", "10 cm", "3,5"; a bare number is in `unit`.
 * @returns millimetres, or undefined if it is no length
 */
export function parseLength(text: string, unit: Unit): number | undefined {
  const match = /^\s*(-?\d+(?:[.,]\d+)?)\s*(mm|cm|inch|in|")?\s*$/i.exec(text);
  if (!match) return undefined;
  return Number(match[1].replace(',', '.')) * MM_PER[(match[2] ?? unit).toLowerCase()];
}

/** A length with its unit, as many decimals as the unit needs. */
export function formatLength(mm: number, unit: Unit, digits: number): string {
  return unit === 'mm' ? `${mm.toFixed(digits)} mm` : `${(mm / 25.4).toFixed(digits + 1)} in`;
}

/** A whole number with thin spaces between thousands. */
export function formatCount(n: number): string {
  return Math.round(n)
    .toString()
    .replace(/\B(?=(\d{3})+$)/g, '\u202f');
}
