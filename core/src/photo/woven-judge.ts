import { CellSettler } from '../cross/settle-cells.js';
import { linearOf } from '../colour/srgb.js';
import type { SmallPicture } from './dither.js';

/** Lines of thread mix less than their width lets one think: this much of what is weighed is seen from afar. */
const BLEND = 0.6;
const COSTS = { unlike: 1, lonely: 0 };
/** Sweeps from the nearest threads, and from cells that were settled with almost the same threads. */
const SWEEPS = 8;
const SWEEPS_ON = 2;

/** Cells as they were settled, each with the number of its thread and 0 for the cloth. */
export interface Woven {
  /** Mean difference from the picture, about CIEDE2000. */
  readonly error: number;
  readonly cells: Int16Array;
}

/**
 * Foretells how near lines of some threads come to a picture: cells of a small grid are settled as the weave settles its
 * runs, and measured blurred. It follows the difference of finished paintings better than error diffusion does on two of
 * three pictures, about as well on the third (docs/algorithms.md).
 */
export class WovenJudge {
  private readonly settler: CellSettler;
  private readonly mean: Float32Array;
  private readonly cloth: readonly number[];

  constructor({ width, height, data }: SmallPicture, clothHex: string) {
    this.mean = new Float32Array(width * height * 4);
    for (let i = 0; i < width * height; i++) {
      this.mean.set(data.subarray(i * 3, i * 3 + 3), i * 4);
      this.mean[i * 4 + 3] = 1;
    }
    this.settler = new CellSettler({ cols: width, rows: height }, this.mean, BLEND);
    this.cloth = linearOf(clothHex);
  }

  /**
   * @param colours threads as they look once they are sewn, in linear light
   * @param like what was woven with threads that differ in few, to go on from
   */
  try(colours: readonly (readonly number[])[], like?: Woven): Woven {
    const all = [this.cloth, ...colours];
    const cells = like?.cells.slice() ?? this.nearest(all);
    return { error: this.settler.settle(all, cells, COSTS, like ? SWEEPS_ON : SWEEPS), cells };
  }

  /** How far a thread is from every cell, about CIEDE2000. */
  distances(colour: readonly number[]): Float32Array {
    return this.settler.distances(colour);
  }

  /** Cells with the thread nearest to each. */
  private nearest(colours: readonly (readonly number[])[]): Int16Array {
    const { mean } = this;
    const roots = colours.map((colour) => colour.map(Math.cbrt));
    return Int16Array.from({ length: mean.length / 4 }, (_, i) => {
      const [r, g, b] = [Math.cbrt(mean[i * 4]), Math.cbrt(mean[i * 4 + 1]), Math.cbrt(mean[i * 4 + 2])];
      let best = 0;
      let least = Infinity;
      for (let t = 0; t < roots.length; t++) {
        const far = (r - roots[t][0]) ** 2 + (g - roots[t][1]) ** 2 + (b - roots[t][2]) ** 2;
        if (far < least) [least, best] = [far, t];
      }
      return best;
    });
  }
}
