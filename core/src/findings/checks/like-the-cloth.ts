import { ciede2000, rgbToLab } from '../../colour/ciede2000.js';
import { fromHex } from '../../colour/srgb.js';
import type { Check } from '../check.js';

/** Thread and cloth are told apart from this difference (CIEDE2000) on. */
const LEAST = 3;

/** A thread that cannot be told from the cloth. */
export const LIKE_THE_CLOTH: Check = {
  id: 'like-the-cloth',
  name: 'Thread like the cloth',
  why: 'A thread like the cloth is hardly seen: leave it bare, or take another.',
  find: ({ sewing, figures }) => {
    const cloth = rgbToLab(fromHex(sewing.fabric.hex));
    return sewing.threads.flatMap((thread, i) => {
      const far = ciede2000(rgbToLab(fromHex(thread.hex)), cloth);
      const { stitches } = figures().threads[i];
      if (far >= LEAST || stitches === 0) return [];
      return [
        {
          level: 'advice' as const,
          text: `${thread.name || thread.hex}: difference ${far.toFixed(1)} from the cloth.`,
          pieces: [],
          harm: LEAST / Math.max(0.3, far),
          cost: { stitches },
          repairs: [],
        },
      ];
    });
  },
};
