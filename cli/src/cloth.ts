import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { fabricOf, parseMeasured, type DesignCloth, type MeasuredCloth } from '@open-kite/core';

/** What the file of a measured fabric says it is. */
const FORMAT = 'open-kite fabric';

/** A fabric that was measured, as a file holds it. */
export const writeFabric = (fabric: string, measured: MeasuredCloth): string =>
  JSON.stringify({ format: FORMAT, fabric, measured }, null, 2) + '\n';

/**
 * A fabric by its name, or one that was measured, from its file.
 * @throws RangeError that says what is wrong
 */
export function clothNamed(text: string): DesignCloth {
  if (!text.toLowerCase().endsWith('.json')) return { fabric: text, hex: fabricOf(text).hex };
  try {
    const { format, fabric, measured } = (JSON.parse(readFileSync(text, 'utf8')) ?? {}) as Record<string, unknown>;
    if (format !== FORMAT) throw new RangeError('it is no measured fabric');
    const { id, hex } = fabricOf(String(fabric));
    return { fabric: id, hex, measured: parseMeasured(measured) };
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    const why =
      code !== undefined
        ? 'the file cannot be opened'
        : error instanceof SyntaxError
          ? 'it is not valid JSON'
          : (error as Error).message;
    throw new RangeError(`${basename(text)}: ${why}`);
  }
}
