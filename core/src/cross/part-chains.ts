import { beginsFreely } from './free-ends.js';
import type { Walk } from './walk-crosses.js';

/**
 * Parts that touch where a cell has the end of its lower leg: from the end of a part the needle goes back over half its
 * last leg and on over half the leg below. Nothing is crossed, and nothing lies beside the legs.
 */
export class Chains {
  private readonly starts = new Map<number, number[]>();
  private readonly ends = new Map<number, number[]>();
  private readonly open = new Set<number>();

  constructor(
    private readonly parts: readonly Walk[],
    private readonly stride: number,
  ) {
    parts.forEach((part, k) => {
      for (const place of this.startsOf(part)) push(this.starts, place, k);
      for (const place of this.exitsOf(k)) push(this.ends, place, k);
    });
  }

  /** From now on a part may be sewn. */
  release(part: number): void {
    this.open.add(part);
  }

  drop(part: number): void {
    this.open.delete(part);
  }

  /** Middle of the cell whose leg a part ends with. */
  middleOf(part: number): number {
    const walk = this.parts[part];
    return (walk[walk.length - 2] + walk[walk.length - 1]) / 2;
  }

  /** A part that begins where the last cell of another has the end of its lower leg. */
  after(part: number): { readonly part: number; readonly place: number } | undefined {
    for (const place of this.exitsOf(part)) {
      const next = this.starts.get(place)?.find((k) => this.open.has(k));
      if (next !== undefined) return { part: next, place };
    }
    return undefined;
  }

  /** The part that a chain leading to this one begins with. */
  head(part: number): number {
    const seen = new Set([part]);
    for (let at = part; ;) {
      const before = this.startsOf(this.parts[at])
        .flatMap((place) => this.ends.get(place) ?? [])
        .find((k) => this.open.has(k) && !seen.has(k));
      if (before === undefined) return at;
      seen.add((at = before));
    }
  }

  private startsOf(part: Walk): readonly number[] {
    return beginsFreely(part, this.stride) ? [part[0], part[1]] : [part[0]];
  }

  private exitsOf(part: number): readonly number[] {
    const walk = this.parts[part];
    const middle = this.middleOf(part);
    // An upper leg leads from lower left to upper right, or back.
    const isUpper = Math.abs(walk[walk.length - 1] - walk[walk.length - 2]) === 2 * this.stride - 2;
    return isUpper ? [middle - this.stride - 1, middle + this.stride + 1] : [];
  }
}

function push(lists: Map<number, number[]>, key: number, value: number): void {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}
