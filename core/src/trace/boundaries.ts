import { findComponents, saddleAt, type Components } from './components.js';

/**
 * A stretch of boundary between two areas, along the cracks between pixels.
 * Neighbours use the same arc, so no gap and no overlap can open between them.
 */
export interface Arc {
  /** Pixel corners the arc runs over, as y * stride + x; a closed arc does not repeat its first. */
  readonly corners: Int32Array;
  readonly closed: boolean;
  /** Components on both sides, seen in walking direction. */
  readonly left: number;
  readonly right: number;
  /** Direction of the first and the last step: 0 right, 1 down, 2 left, 3 up. */
  readonly firstStep: number;
  readonly lastStep: number;
}

/** Label map with a bare frame of one pixel, its components and the arcs between them. */
export interface Boundaries {
  readonly width: number;
  readonly height: number;
  readonly labels: Uint8Array;
  readonly components: Components;
  /** Corner number of (x, y) is y * stride + x, in the framed picture. */
  readonly stride: number;
  readonly arcs: readonly Arc[];
}

/** Pixel to the left of a step from a corner, as an offset to the pixel at the corner's lower right. */
const leftOf = (width: number): number[] => [-width, 0, -1, -width - 1];
const rightOf = (width: number): number[] => [0, -1, -width - 1, -width];

/** Walks the crack edges of a label map (0 = bare) and cuts them into arcs at the corners where three areas meet. */
export function findBoundaries(source: Uint8Array, sourceWidth: number, sourceHeight: number): Boundaries {
  const width = sourceWidth + 2;
  const height = sourceHeight + 2;
  const labels = new Uint8Array(width * height);
  for (let y = 0; y < sourceHeight; y++) {
    labels.set(source.subarray(y * sourceWidth, (y + 1) * sourceWidth), (y + 1) * width + 1);
  }
  const components = findComponents(labels, width, height);
  const stride = width;
  const walk = new Walk(labels, width, height);
  const arcs: Arc[] = [];
  const add = (start: number, step: number, closed: boolean): void => {
    const { corners, lastStep } = walk.follow(start, step);
    arcs.push({
      corners: Int32Array.from(corners),
      closed,
      left: components.of[start + walk.left[step]],
      right: components.of[start + walk.right[step]],
      firstStep: step,
      lastStep,
    });
  };
  for (const corner of walk.junctions) {
    for (let step = 0; step < 4; step++) if (walk.isFree(corner, step)) add(corner, step, false);
  }
  for (let corner = 0; corner < labels.length; corner++) {
    for (let step = 0; step < 2; step++) if (walk.isFree(corner, step)) add(corner, step, true);
  }
  return { width, height, labels, components, stride, arcs };
}

class Walk {
  /** Bit s is set where the crack from this corner in direction s is a boundary not yet walked. */
  private readonly free: Uint8Array;
  private readonly isJunction: Uint8Array;
  readonly junctions: number[] = [];
  readonly left: number[];
  readonly right: number[];
  private readonly advance: number[];

  constructor(
    private readonly labels: Uint8Array,
    private readonly width: number,
    private readonly height: number,
  ) {
    this.left = leftOf(width);
    this.right = rightOf(width);
    this.advance = [1, width, -1, -width];
    this.free = new Uint8Array(labels.length);
    this.isJunction = new Uint8Array(labels.length);
    for (let y = 1; y < height; y++) {
      for (let x = 1; x < width; x++) {
        const i = y * width + x;
        const tl = labels[i - width - 1];
        const tr = labels[i - width];
        const bl = labels[i - 1];
        const br = labels[i];
        if (tl === tr && tr === bl && bl === br) continue;
        const ways = [tr !== br, bl !== br, tl !== bl, tl !== tr];
        const degree = ways.filter(Boolean).length;
        ways.forEach((open, step) => (this.free[i] |= open ? 1 << step : 0));
        if (degree >= 3 && saddleAt(labels, width, height, x, y) === 0) {
          this.isJunction[i] = 1;
          this.junctions.push(i);
        }
      }
    }
  }

  isFree(corner: number, step: number): boolean {
    return (this.free[corner] & (1 << step)) !== 0;
  }

  /** Follows the boundary from a corner until a junction or the start is reached again. */
  follow(start: number, firstStep: number): { corners: number[]; lastStep: number } {
    const corners: number[] = [start];
    let at = start;
    let step = firstStep;
    for (;;) {
      this.free[at] &= ~(1 << step);
      at += this.advance[step];
      this.free[at] &= ~(1 << ((step + 2) & 3));
      if (this.isJunction[at]) {
        corners.push(at);
        return { corners, lastStep: step };
      }
      const next = this.turn(at, step);
      if (at === start && next === firstStep) return { corners, lastStep: step };
      corners.push(at);
      step = next;
    }
  }

  /** The step that goes on from a corner with one way on, or with two that a saddle keeps apart. */
  private turn(at: number, step: number): number {
    const back = (step + 2) & 3;
    const x = at % this.width;
    const y = (at - x) / this.width;
    const saddle = saddleAt(this.labels, this.width, this.height, x, y);
    // Directions: 0 right, 1 down, 2 left, 3 up. Saddle 1 keeps right with up and down with left.
    if (saddle === 1) return back === 0 ? 3 : back === 3 ? 0 : back === 1 ? 2 : 1;
    if (saddle === 2) return back === 0 ? 1 : back === 1 ? 0 : back === 2 ? 3 : 2;
    for (let turn = 0; turn < 3; turn++) {
      const next = (step + [3, 0, 1][turn]) & 3;
      if (this.labels[at + this.left[next]] !== this.labels[at + this.right[next]]) return next;
    }
    throw new Error(`boundary: the walk stops at corner ${x}, ${y}`);
  }
}
