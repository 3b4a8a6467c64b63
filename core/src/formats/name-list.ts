import { csvParseRows } from 'd3-dsv';

/** Columns of a table that names stand in, the first there is. */
const COLUMNS = ['text', 'name', 'names'];

/**
 * Names of a list: one a line, or those in the column "text" or "name" of a table with a head. Lines of one name stay as
 * they are, commas and all; `\n` in a name begins a new line.
 */
export function namesOf(list: string): string[] {
  const text = list.replace(/^\uFEFF/, '');
  const rows = csvParseRows(text);
  const head = rows.at(0)?.map((cell) => cell.trim().toLowerCase()) ?? [];
  const column = COLUMNS.map((name) => head.indexOf(name)).find((at) => at >= 0);
  const names = column === undefined ? text.split(/\r?\n|\r/) : rows.slice(1).map((row) => row[column] ?? '');
  return names.map((name) => name.trim().replaceAll('\\n', '\n')).filter((name) => name !== '');
}
