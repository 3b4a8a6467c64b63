import { drawCloth } from './cloth.js';
import { drawLines } from './draw-lines.js';
import { drawStitches } from './draw-stitches.js';
import { densityOf, drawDensity } from './density.js';
import { doubled, FINE_SCALE, halve, type Scene } from './render.js';
import type { Look, View } from './view.js';

/** Memory key frames may take, and stitches between them at least. */
const FRAME_BYTES = 128 * 1024 * 1024;
const LEAST_STEP = 4000;

/** A view that is sewn stitch by stitch: going on draws only what is new. */
export class ProgressiveView {
  private readonly inner: View;
  private readonly fine: boolean;
  private readonly pixels: Int32Array<ArrayBuffer>;
  private drawn = 0;
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
    this.pixels = new Int32Array(this.inner.width * this.inner.height);
    const most = Math.max(1, Math.floor(FRAME_BYTES / this.pixels.byteLength));
    this.step = Math.max(LEAST_STEP, Math.ceil(scene.segments.count / most));
    drawCloth(this.pixels, this.inner, scene.clothHex);
  }

  /** The view with the first `segments` stitches sewn, as 0xAABBGGRR; valid until the next call. */
  drawTo(segments: number): Int32Array<ArrayBuffer> {
    if (segments < this.drawn || this.look === 'density') this.goBack(segments);
    while (this.drawn < segments) {
      // Stops at every key frame on the way.
      const stop = Math.min(segments, (Math.floor(this.drawn / this.step) + 1) * this.step);
      this.add(stop);
      if (stop % this.step === 0) this.keep(stop);
    }
    if (this.look === 'density') drawDensity(this.pixels, this.inner, densityOf(this.scene.segments, segments));
    return this.fine ? halve(this.pixels, this.view.width, this.view.height) : this.pixels;
  }

  private add(to: number): void {
    const { scene, inner, pixels } = this;
    if (this.look === 'sewn') drawStitches(pixels, inner, scene.segments, scene.shades, this.drawn, to);
    else if (this.look === 'line') drawLines(pixels, inner, scene.segments, scene.hexes, this.drawn, to);
    this.drawn = to;
  }

  /** Starts again from the last key frame before, or from bare cloth. */
  private goBack(segments: number): void {
    let best = 0;
    for (const at of this.frames.keys()) if (at <= segments && at > best) best = at;
    const frame = this.frames.get(best);
    if (frame && this.look !== 'density') {
      this.pixels.set(frame);
      this.drawn = best;
    } else {
      drawCloth(this.pixels, this.inner, this.scene.clothHex);
      this.drawn = this.look === 'density' ? segments : 0;
    }
  }

  private keep(at: number): void {
    if (this.look !== 'density' && !this.frames.has(at)) this.frames.set(at, this.pixels.slice());
  }
}
