import { valuesOfOptions } from '../../stitches/stitch-kind.js';
import type { OptionValues } from '../../stitches/stitch-kind.js';
import { CROSS } from './cross.js';
import { INKS } from './inks.js';
import { PAINTING } from './painting.js';
import type { RenderMethod } from './render-method.js';
import { ROWS } from './rows.js';

/** All renderings. A new one is a file beside this one and a line here; the recipe, the Sheet and the command line read it. */
export const RENDER_METHODS: readonly RenderMethod[] = [ROWS, PAINTING, INKS, CROSS];

/** Name of the method that sews traced pieces. */
export const PIECES_METHOD = 'pieces';

/** Every method a recipe may name. */
export const METHOD_IDS: readonly string[] = [PIECES_METHOD, ...RENDER_METHODS.map(({ id }) => id)];

/**
 * Looks a rendering up.
 * @returns undefined for the method that sews pieces
 * @throws RangeError for a name that there is not
 */
export function renderMethodOf(id: string): RenderMethod | undefined {
  if (id === PIECES_METHOD) return undefined;
  const method = RENDER_METHODS.find((m) => m.id === id);
  if (!method) throw new RangeError(`method: there is no "${id}"; known are ${METHOD_IDS.join(', ')}`);
  return method;
}

/** What the options of a rendering are set to. */
export const renderValues = (method: RenderMethod, chosen: OptionValues): OptionValues =>
  valuesOfOptions(method.options, chosen);
