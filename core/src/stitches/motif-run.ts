import { evenly, lengthOf } from '../geometry/polyline.js';
import { distance, type Points } from '../geometry/vector.js';
import type { Motif } from './motifs.js';

const FINE_MM = 0.1;
const LONGEST_MM = 4;
const SHORTEST_MM = 0.35;

/**
 * A motif along a run, repeated as often as fits best; the run's ends are its ends.
 * @param sizeMm wanted length of one motif
 * @param fits whether a needle point may lie at a place; points that may not are moved towards the run
 */
export function motifRun(
  points: Points,
  motif: Motif,
  sizeMm: number,
  fits: (x: number, y: number) => boolean = () => true,
): Points {
  const length = lengthOf(points);
  const fine = evenly(points, FINE_MM);
  const repeats = Math.max(1, Math.round(length / sizeMm));
  const unit = length / repeats;
  const out: Points = [];
  const last = fine.length / 2 - 1;
  const push = (x: number, y: number): void => {
    const n = out.length;
    if (n > 0) {
      const gap = distance(out[n - 2], out[n - 1], x, y);
      if (gap < SHORTEST_MM) return;
      const parts = Math.ceil(gap / LONGEST_MM);
      const [px, py] = [out[n - 2], out[n - 1]];
      for (let k = 1; k < parts; k++) out.push(px + ((x - px) * k) / parts, py + ((y - py) * k) / parts);
    }
    out.push(x, y);
  };
  for (let r = 0; r < repeats; r++) {
    for (let i = r === 0 ? 0 : 2; i < motif.points.length; i += 2) {
      const s = Math.min(last, Math.max(0, Math.round(((r + motif.points[i]) * unit) / FINE_MM)));
      const [x, y] = [fine[s * 2], fine[s * 2 + 1]];
      const a = Math.max(0, s - 3) * 2;
      const b = Math.min(last, s + 3) * 2;
      const run = distance(fine[a], fine[a + 1], fine[b], fine[b + 1]) || 1;
      const nx = -(fine[b + 1] - fine[a + 1]) / run;
      const ny = (fine[b] - fine[a]) / run;
      let reach = motif.points[i + 1] * unit;
      for (let tries = 0; tries < 3 && reach !== 0 && !fits(x + nx * reach, y + ny * reach); tries++) {
        reach = tries === 2 ? 0 : reach / 2;
      }
      push(x + nx * reach, y + ny * reach);
    }
  }
  return out;
}
