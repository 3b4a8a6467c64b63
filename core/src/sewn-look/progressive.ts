import { drawCloth, overCloth } from './cloth.js';
import { drawLines } from './draw-lines.js';
import { drawWithCloths } from './laid-cloth.js';
import { densityOf, drawDensity } from './density.js';
import type { Scene } from './render.js';
import { KeyFrames } from './key-frames.js';
import { BOX_STITCHES } from './segments.js';
import { REACH_MM } from './thread-profile.js';
import { aroundBoth, wholeOf, type Look, type View, type ViewPart } from './view.js';

/** What has changed in a view. */
export interface Moment {
  readonly part: ViewPart;
  /** The part's pixels as 0xAABBGGRR. */
  readonly pixels: Int32Array<ArrayBuffer>;
}

/**
 * A view that is sewn stitch by stitch: going on draws only what is new. Small scales are drawn once only, not doubled: quick
 * enough for every frame of a film.
 */
export class ProgressiveView {
  /** Of the sewn look the threads alone, of others threads and cloth. */
  private readonly pixels: Int32Array<ArrayBuffer>;
  private readonly cloth: Int32Array<ArrayBuffer>;
  private drawn = 0;
  private isNew = true;
  /** Scrubbing back goes on from one of them. */
  private readonly frames: KeyFrames;

  constructor(
    private readonly scene: Scene,
    readonly view: View,
    readonly look: Look,
  ) {
    this.cloth = new Int32Array(view.width * view.height);
    drawCloth(this.cloth, view, scene.clothHex);
    const bare = look === 'sewn' ? new Int32Array(this.cloth.length) : this.cloth;
    this.pixels = bare.slice();
    this.frames = new KeyFrames(scene.segments, view, bare);
  }

  /** Sews the first `segments` stitches. @returns what may have changed since the last call; at first the whole view */
  drawTo(segments: number): Moment {
    const { view, look } = this;
    const changed = look === 'density' ? wholeOf(view) : this.sewTo(segments);
    const part = this.isNew ? wholeOf(view) : changed;
    this.isNew = false;
    if (look === 'density') {
      this.pixels.set(this.cloth);
      drawDensity(this.pixels, view, densityOf(this.scene.segments, segments));
    }
    const pixels = new Int32Array(part.width * part.height);
    if (look === 'sewn') {
      overCloth(this.pixels, this.cloth, view.width, part, pixels);
    } else {
      for (let y = 0; y < part.height; y++) {
        const from = (part.top + y) * view.width + part.left;
        pixels.set(this.pixels.subarray(from, from + part.width), y * part.width);
      }
    }
    return { part, pixels };
  }

  /**
   * Draws one more key frame, so that any place can soon be reached in few stitches.
   * @returns whether there are more to draw
   */
  prepare(): boolean {
    return this.look !== 'density' && this.frames.prepare((pixels, from, to) => this.addTo(pixels, from, to));
  }

  /**
   * Sews on to a place, or goes back to the key frame before it and sews on from there.
   * @returns the part that may have changed
   */
  private sewTo(segments: number): ViewPart {
    const { frames } = this;
    const frame = frames.before(segments);
    // From the nearest that is known: what is drawn, or a key frame, behind or well ahead. Short ways are sewn on.
    let restored: ViewPart | undefined;
    if (segments < this.drawn || frame - this.drawn >= frames.step) {
      restored = frames.restore(frame, this.pixels);
      this.drawn = frame;
    }
    frames.drawOn(this.drawn, segments);
    this.addTo(this.pixels, this.drawn, segments);
    const sewn = this.partOf(this.drawn, segments);
    this.drawn = segments;
    return restored ? aroundBoth(restored, sewn) : sewn;
  }

  /** The part of the view that stitches `from` up to `to` can reach, in whole boxes of stitches. */
  private partOf(from: number, to: number): ViewPart {
    const { scale, left, top, width, height } = this.view;
    const { boxes } = this.scene.segments;
    const box = [width, height, 0, 0];
    for (let group = Math.floor(from / BOX_STITCHES); group * BOX_STITCHES < to; group++) {
      const [l, t, r, b] = [0, 1, 2, 3].map((side) => boxes[group * 4 + side] * scale - (side % 2 === 0 ? left : top));
      // A pixel more on each side: edges are drawn with their coverage.
      const reach = REACH_MM * scale + 1;
      box[0] = Math.min(box[0], Math.floor(l - reach));
      box[1] = Math.min(box[1], Math.floor(t - reach));
      box[2] = Math.max(box[2], Math.ceil(r + reach));
      box[3] = Math.max(box[3], Math.ceil(b + reach));
    }
    const [x0, y0] = [Math.max(0, box[0]), Math.max(0, box[1])];
    const [x1, y1] = [Math.min(width, box[2]), Math.min(height, box[3])];
    return { left: x0, top: y0, width: Math.max(0, x1 - x0), height: Math.max(0, y1 - y0) };
  }

  private addTo(pixels: Int32Array, from: number, to: number): void {
    const { segments, hexes } = this.scene;
    if (this.look === 'sewn') drawWithCloths(pixels, this.view, this.scene, from, to);
    else if (this.look === 'line') drawLines(pixels, this.view, segments, hexes, from, to);
  }
}
