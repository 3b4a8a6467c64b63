/** Powers of ten that a double holds exactly, and that a short number has behind its point. */
const TENS = [1, 10, 100, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9] as const;

/**
 * The number between two places of a text, where it is written plainly (`-12.345`), without making a text of it: a quick way for
 * long lists. It is the number that `Number` gives: both its parts are exact, so that one division rounds as it should.
 * @returns NaN where it is written in any other way
 */
export function plainNumber(text: string, from: number, to: number): number {
  let at = from;
  const isNegative = text.charCodeAt(at) === 45;
  if (isNegative) at++;
  if (at >= to || to - at > 12) return NaN;
  let digits = 0;
  let point = -1;
  for (let i = at; i < to; i++) {
    const code = text.charCodeAt(i);
    if (code >= 48 && code <= 57) digits = digits * 10 + (code - 48);
    else if (code === 46 && point < 0 && i > at && i < to - 1) point = i;
    else return NaN;
  }
  const behind = point < 0 ? 0 : to - point - 1;
  if (behind >= TENS.length) return NaN;
  const value = digits / TENS[behind];
  return isNegative ? -value : value;
}
