import { csvFormatRow, csvParseRows } from 'd3-dsv';

/** Cells of one line of CSV (RFC 4180), without blanks around them. */
export function cellsOf(line: string): string[] {
  return (csvParseRows(line)[0] ?? []).map((cell) => cell.trim());
}

/** Cells as one line of CSV, quoted where they have to be; what would end the line becomes a blank. */
export function csvLine(cells: readonly (string | number)[]): string {
  return csvFormatRow(cells.map((cell) => String(cell).replace(/[\r\n]+/g, ' ')));
}
