import type { Points } from '../geometry/vector.js';
import { tatami, type TatamiSettings } from './tatami.js';

/** Angles tried when rows at the wanted one leave a piece in parts or cannot cover it. */
const OTHER_ANGLES = [90, 45, 135];

/** A tatami fill; one that would fall apart at a thin neck is tried in other directions. */
export function tatamiWhole(rings: readonly Points[], settings: TatamiSettings): Points[] {
  const sewn = (turn: number): Points[] =>
    tatami(rings, { ...settings, angle: settings.angle + turn }).filter((run) => run.length >= 4);
  let best = sewn(0);
  for (const turn of OTHER_ANGLES) {
    if (best.length === 1) break;
    const other = sewn(turn);
    if (other.length > 0 && (best.length === 0 || other.length < best.length)) best = other;
  }
  return best;
}
