/** Units lengths are shown in; inside, everything is millimetres. */
export type Unit = 'mm' | 'in';

const MM_PER: Readonly<Record<string, number>> = { mm: 1, cm: 10, in: 25.4, inch: 25.4, '"': 25.4 };

/** One length of a sum: its sign, number and unit. */
const TERM = /^\s*([+-]?)\s*(\d+(?:[.,]\d+)?)\s*(mm|cm|inch|in|")?/i;
const MOST_TERMS = 20;

/**
 * Reads a typed length: "4 in", "4in", "102mm", "10 cm", "3,5", or a sum of them: "4in - 6mm"; a bare number is in
 * `unit`.
 * @returns millimetres, or undefined if it is no length
 */
export function parseLength(text: string, unit: Unit): number | undefined {
  return sumOf(text, (name) => MM_PER[(name ?? unit).toLowerCase()]);
}

/** Reads a typed number or a sum of numbers; undefined where it is none. */
export const parseSum = (text: string): number | undefined => sumOf(text, (name) => (name === undefined ? 1 : NaN));

function sumOf(text: string, factorOf: (unit: string | undefined) => number): number | undefined {
  let rest = text;
  let sum = 0;
  for (let i = 0; i < MOST_TERMS; i++) {
    const match = TERM.exec(rest);
    // Only the first number may stand without a sign.
    if (!match || (i > 0 && match[1] === '')) return undefined;
    sum += (match[1] === '-' ? -1 : 1) * Number(match[2].replace(',', '.')) * factorOf(match[3]);
    rest = rest.slice(match[0].length);
    if (rest.trim() === '') return Number.isFinite(sum) ? sum : undefined;
  }
  return undefined;
}

/** A length with its unit, as many decimals as the unit needs. */
export function formatLength(mm: number, unit: Unit, digits: number): string {
  // Nothing is shown as -0.
  const whole = (value: number, places: number): string => (Number(value.toFixed(places)) + 0).toFixed(places);
  return unit === 'mm' ? `${whole(mm, digits)} mm` : `${whole(mm / 25.4, digits + 1)} in`;
}

/** A whole number with thin spaces between thousands. */
export function formatCount(n: number): string {
  return Math.round(n)
    .toString()
    .replace(/\B(?=(\d{3})+$)/g, '\u202f');
}
