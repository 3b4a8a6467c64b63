import type { CellGrid } from './grid.js';

/** Half cells a square of the list is wide. */
const SQUARE = 16;

/** Starts of parts in squares of the grid, so that the nearest is found without looking at all of them. */
export class StartsByPlace {
  private readonly squares = new Map<number, [part: number, place: number][]>();
  private readonly stride: number;
  private readonly across: number;
  private readonly down: number;
  private readonly dropped: Uint8Array;
  private count = 0;

  constructor(grid: CellGrid, parts: number) {
    this.dropped = new Uint8Array(parts);
    this.stride = grid.cols * 2 + 1;
    this.across = Math.ceil(this.stride / SQUARE);
    this.down = Math.ceil((grid.rows * 2 + 1) / SQUARE);
  }

  add(part: number, place: number): void {
    const key =
      Math.floor(Math.floor(place / this.stride) / SQUARE) * this.across + Math.floor((place % this.stride) / SQUARE);
    const list = this.squares.get(key);
    if (list) list.push([part, place]);
    else this.squares.set(key, [[part, place]]);
    this.count++;
  }

  drop(part: number): void {
    this.dropped[part] = 1;
  }

  /** The part that starts nearest to a place, the first of equals, and the square of how far away that is in half cells. */
  nearest(from: number): { readonly part: number; readonly place: number; readonly gap2: number } | undefined {
    if (this.count === 0) return undefined;
    const [x, y] = [from % this.stride, Math.floor(from / this.stride)];
    const [sx, sy] = [Math.floor(x / SQUARE), Math.floor(y / SQUARE)];
    let best: { part: number; place: number; gap2: number } | undefined;
    for (let ring = 0; ring <= Math.max(this.across, this.down); ring++) {
      // Whatever lies in this ring of squares or beyond is at least this far away.
      if (best && ((ring - 1) * SQUARE) ** 2 > best.gap2) break;
      for (let qy = sy - ring; qy <= sy + ring; qy++) {
        const edge = qy === sy - ring || qy === sy + ring;
        for (let qx = sx - ring; qx <= sx + ring; qx += edge ? 1 : Math.max(1, 2 * ring)) {
          if (qx < 0 || qy < 0 || qx >= this.across || qy >= this.down) continue;
          const list = this.squares.get(qy * this.across + qx);
          if (!list) continue;
          for (let i = list.length - 1; i >= 0; i--) {
            const [part, place] = list[i];
            if (this.dropped[part]) {
              list.splice(i, 1);
              this.count--;
              continue;
            }
            const gap2 = ((place % this.stride) - x) ** 2 + (Math.floor(place / this.stride) - y) ** 2;
            if (!best || gap2 < best.gap2 || (gap2 === best.gap2 && part < best.part)) best = { part, place, gap2 };
          }
        }
      }
    }
    return best;
  }
}
