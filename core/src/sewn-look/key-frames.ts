import { BOX_STITCHES, type Segments } from './segments.js';
import { REACH_MM } from './thread-profile.js';
import { aroundBoth, type View, type ViewPart } from './view.js';

/** Size of a block in pixels: wide, since pixels of a row are copied in one go. */
const WIDTH = 128;
const HEIGHT = 32;
/** Memory key frames may take, and stitches between them at least, in whole boxes of stitches. */
const MOST_BYTES = 128 * 1024 * 1024;
const LEAST_STEP = 16 * BOX_STITCHES;

/** Pixels of a block, as key frames hold them; undefined where nothing is sewn yet. */
type Block = Int32Array | undefined;

/**
 * What a view looks like after every so many stitches. A view is cut into blocks; a key frame shares those that have not
 * changed with the one before, so that many cost little, and going to one copies only blocks that differ.
 */
export class KeyFrames {
  /** Stitches between two key frames. */
  readonly step: number;
  private readonly columns: number;
  private readonly rows: number;
  /** Key frames in order; the first is bare. */
  private readonly frames: Block[][];
  /** The picture as it is after the last key frame. */
  private readonly ahead: Int32Array;
  /** Of the picture that is shown: the block each of its blocks was copied from, and whether it was drawn on since. */
  private readonly held: Block[];
  private readonly isDrawnOn: Uint8Array;

  /** @param bare pixels of the view with nothing sewn */
  constructor(
    private readonly segments: Segments,
    private readonly view: View,
    private readonly bare: Int32Array,
  ) {
    this.columns = Math.ceil(view.width / WIDTH);
    this.rows = Math.ceil(view.height / HEIGHT);
    this.frames = [new Array<Block>(this.columns * this.rows).fill(undefined)];
    this.held = [...this.frames[0]];
    this.isDrawnOn = new Uint8Array(this.held.length);
    this.ahead = bare.slice();
    this.step = this.stepThatFits();
  }

  /** Stitches of the last key frame up to some; 0 is the bare view. */
  before(segments: number): number {
    return Math.min(this.frames.length - 1, Math.floor(segments / this.step)) * this.step;
  }

  /**
   * Makes one more key frame.
   * @param sew draws some stitches over a picture
   * @returns whether there are more to make
   */
  prepare(sew: (pixels: Int32Array, from: number, to: number) => void): boolean {
    const last = this.frames[this.frames.length - 1];
    const from = (this.frames.length - 1) * this.step;
    const to = from + this.step;
    if (to > this.segments.count) return false;
    sew(this.ahead, from, to);
    const next = [...last];
    for (const block of this.blocksOf(from, to)) {
      const { left, top, width, height } = this.partOf(block);
      const pixels = new Int32Array(width * height);
      for (let y = 0; y < height; y++) {
        const at = (top + y) * this.view.width + left;
        pixels.set(this.ahead.subarray(at, at + width), y * width);
      }
      next[block] = pixels;
    }
    this.frames.push(next);
    return to + this.step <= this.segments.count;
  }

  /**
   * Brings a picture back to a key frame. It is always the same picture.
   * @returns the part in which anything was copied
   */
  restore(stitches: number, pixels: Int32Array): ViewPart {
    const frame = this.frames[stitches / this.step];
    let out: ViewPart = { left: 0, top: 0, width: 0, height: 0 };
    frame.forEach((block, k) => {
      if (this.held[k] === block && this.isDrawnOn[k] === 0) return;
      const part = this.partOf(k);
      const { left, top, width, height } = part;
      for (let y = 0; y < height; y++) {
        const at = (top + y) * this.view.width + left;
        pixels.set(block ? block.subarray(y * width, (y + 1) * width) : this.bare.subarray(at, at + width), at);
      }
      this.held[k] = block;
      this.isDrawnOn[k] = 0;
      out = aroundBoth(out, part);
    });
    return out;
  }

  /** Tells that stitches are drawn over the picture. */
  drawOn(from: number, to: number): void {
    for (const block of this.blocksOf(from, to)) this.isDrawnOn[block] = 1;
  }

  /** Where in the view a block lies. */
  private partOf(block: number): ViewPart {
    const left = (block % this.columns) * WIDTH;
    const top = Math.floor(block / this.columns) * HEIGHT;
    const { width, height } = this.view;
    return { left, top, width: Math.min(WIDTH, width - left), height: Math.min(HEIGHT, height - top) };
  }

  /** The smallest step whose key frames fit into memory. */
  private stepThatFits(): number {
    for (let step = LEAST_STEP; ; step *= 2) {
      let blocks = 0;
      for (let to = step; to <= this.segments.count; to += step) blocks += this.blocksOf(to - step, to).length;
      if (blocks * WIDTH * HEIGHT * Int32Array.BYTES_PER_ELEMENT <= MOST_BYTES) return step;
    }
  }

  /** Blocks that stitches can reach, by boxes of stitches. */
  private blocksOf(from: number, to: number): number[] {
    const { view, columns, rows } = this;
    const { boxes } = this.segments;
    const isReached = new Uint8Array(columns * rows);
    // A pixel more on each side: edges are drawn with their coverage.
    const reach = REACH_MM * view.scale + 1;
    const within = (v: number, most: number): number => Math.min(most - 1, Math.max(0, Math.floor(v)));
    for (let group = Math.floor(from / BOX_STITCHES); group * BOX_STITCHES < to; group++) {
      const left = boxes[group * 4] * view.scale - view.left - reach;
      const top = boxes[group * 4 + 1] * view.scale - view.top - reach;
      const right = boxes[group * 4 + 2] * view.scale - view.left + reach;
      const bottom = boxes[group * 4 + 3] * view.scale - view.top + reach;
      if (right < 0 || bottom < 0 || left > view.width || top > view.height) continue;
      for (let row = within(top / HEIGHT, rows); row <= within(bottom / HEIGHT, rows); row++) {
        const at = row * columns;
        isReached.fill(1, at + within(left / WIDTH, columns), at + within(right / WIDTH, columns) + 1);
      }
    }
    const out: number[] = [];
    for (let k = 0; k < isReached.length; k++) if (isReached[k] === 1) out.push(k);
    return out;
  }
}
