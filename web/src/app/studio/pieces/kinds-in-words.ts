import type { Piece } from '@open-kite/core';

/** How pieces are sewn, in words: "7 fills, 17 satin"; empty where there is none. */
export function kindsInWords(pieces: readonly Piece[]): string {
  const count = { area: 0, column: 0, line: 0 };
  for (const { family } of pieces) count[family]++;
  return [
    count.area > 0 ? `${count.area} ${count.area === 1 ? 'fill' : 'fills'}` : '',
    count.column > 0 ? `${count.column} satin` : '',
    count.line > 0 ? `${count.line} ${count.line === 1 ? 'line' : 'lines'}` : '',
  ]
    .filter((part) => part !== '')
    .join(', ');
}
