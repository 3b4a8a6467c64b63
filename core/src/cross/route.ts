import type { Points } from '../geometry/vector.js';
import type { CellGrid, Cross } from './grid.js';
import type { Cover } from './links.js';
import { joinParts } from './join-parts.js';
import { walkCrosses } from './walk-crosses.js';
import type { RouteSettings } from './route-settings.js';

/**
 * Sews the crosses of one thread; nothing is travelled in the open but floats between parts that do not touch.
 * @param cover what is sewn over or under the thread's cells, where other threads are known
 */
export function routeCrosses(
  grid: CellGrid,
  crosses: readonly Cross[],
  settings: RouteSettings,
  cover?: Cover,
): Points[] {
  return joinParts(grid, walkCrosses(grid, crosses, settings.passes), settings, cover);
}
