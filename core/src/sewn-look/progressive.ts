import { drawCloth, overCloth } from './cloth.js';
import { drawLines } from './draw-lines.js';
import { drawStitches } from './draw-stitches.js';
import { densityOf, drawDensity } from './density.js';
import { doubled, FINE_SCALE, halve, type Scene } from './render.js';
import { BOX_STITCHES } from './segments.js';
import { REACH_MM } from './thread-profile.js';
import { wholeOf, type Look, type View, type ViewPart } from './view.js';

/** Memory key frames may take, and stitches between them at least. */
const FRAME_BYTES = 128 * 1024 * 1024;
const LEAST_STEP = 2000;

/** A view that is sewn stitch by stitch: going on draws only what is new. */
export class ProgressiveView {
  private readonly inner: View;
  private readonly fine: boolean;
  /** Of the sewn look the threads alone, of others threads and cloth. */
  private readonly pixels: Int32Array<ArrayBuffer>;
  private readonly cloth: Int32Array<ArrayBuffer>;
  /** Threads over cloth. */
  private readonly shown: Int32Array<ArrayBuffer>;
  private drawn = 0;
  private isNew = true;
  /** Key frames that are known without a gap. */
  private furthest = 0;
  /** What the last `drawTo` may have changed. */
  changed: ViewPart = { left: 0, top: 0, width: 0, height: 0 };
  /** What the view looked like after every `step` stitches: scrubbing back goes on from there. */
  private readonly frames = new Map<number, Int32Array<ArrayBuffer>>();
  private readonly step: number;

  constructor(
    private readonly scene: Scene,
    readonly view: View,
    readonly look: Look,
    /** Draws small scales once only: quick enough for every frame of a film, and refined when it rests. */
    readonly quick = false,
  ) {
    this.fine = !quick && look === 'sewn' && view.scale < FINE_SCALE;
    this.inner = this.fine ? doubled(view) : view;
    this.cloth = new Int32Array(this.inner.width * this.inner.height);
    drawCloth(this.cloth, this.inner, scene.clothHex);
    this.pixels = this.bare();
    this.shown = look === 'sewn' ? new Int32Array(this.pixels.length) : this.pixels;
    const most = Math.max(1, Math.floor(FRAME_BYTES / this.pixels.byteLength));
    this.step = Math.max(LEAST_STEP, Math.ceil(scene.segments.count / most));
  }

  /** The view with the first `segments` stitches sewn, as 0xAABBGGRR; valid until the next call. */
  drawTo(segments: number): Int32Array<ArrayBuffer> {
    const { width, height } = this.view;
    const frame = this.look === 'density' ? 0 : this.frameBefore(segments);
    // From the nearest that is known: what is drawn, or a key frame, behind or well ahead. Short ways are sewn on: a key
    // frame is as large as the view, and so is what changes with it.
    const isFar = frame - this.drawn >= this.step;
    const jump = this.isNew || segments < this.drawn || isFar || this.look === 'density';
    this.changed = jump ? { left: 0, top: 0, width, height } : this.partOf(this.drawn, segments);
    this.isNew = false;
    if (jump) this.start(frame, segments);
    if (this.drawn < segments) this.addTo(this.pixels, this.inner, this.drawn, segments);
    this.drawn = segments;
    if (this.look === 'density') drawDensity(this.pixels, this.inner, densityOf(this.scene.segments, segments));
    if (this.look === 'sewn') {
      const part = this.fine ? wholeOf(this.inner) : this.changed;
      overCloth(this.pixels, this.cloth, this.shown, this.inner.width, part);
    }
    return this.fine ? halve(this.shown, width, height) : this.shown;
  }

  /**
   * Draws one more key frame, so that any place can soon be reached in few stitches.
   * @returns whether there are more to draw
   */
  prepare(): boolean {
    const { scene, inner, step } = this;
    const at = (this.furthest + 1) * step;
    if (this.look === 'density' || at > scene.segments.count) return false;
    if (!this.frames.has(at)) {
      const pixels = this.frames.get(at - step)?.slice() ?? this.bare();
      this.addTo(pixels, inner, at - step, at);
      this.frames.set(at, pixels);
    }
    this.furthest++;
    return at + step <= scene.segments.count;
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

  private addTo(pixels: Int32Array, view: View, from: number, to: number): void {
    const { segments, shades, hexes } = this.scene;
    if (this.look === 'sewn') drawStitches(pixels, view, segments, shades, from, to);
    else if (this.look === 'line') drawLines(pixels, view, segments, hexes, from, to);
  }

  private bare(): Int32Array<ArrayBuffer> {
    return this.look === 'sewn' ? new Int32Array(this.cloth.length) : this.cloth.slice();
  }

  /** The last key frame up to a stitch; 0 is the bare cloth. */
  private frameBefore(segments: number): number {
    for (let at = Math.floor(segments / this.step) * this.step; at > 0; at -= this.step) {
      if (this.frames.has(at)) return at;
    }
    return 0;
  }

  private start(frame: number, segments: number): void {
    const known = this.frames.get(frame);
    if (known) this.pixels.set(known);
    else if (this.look === 'sewn') this.pixels.fill(0);
    else this.pixels.set(this.cloth);
    this.drawn = this.look === 'density' ? segments : frame;
  }
}
