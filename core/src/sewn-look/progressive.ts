import { drawCloth } from './cloth.js';
import { drawLines } from './draw-lines.js';
import { drawStitches } from './draw-stitches.js';
import { densityOf, drawDensity } from './density.js';
import { doubled, FINE_SCALE, halve, type Scene } from './render.js';
import type { Look, View } from './view.js';

/** A view that is sewn stitch by stitch: going on draws only what is new. */
export class ProgressiveView {
  private readonly inner: View;
  private readonly fine: boolean;
  private readonly pixels: Int32Array<ArrayBuffer>;
  private drawn = 0;

  constructor(
    private readonly scene: Scene,
    readonly view: View,
    readonly look: Look,
  ) {
    this.fine = look === 'sewn' && view.scale < FINE_SCALE;
    this.inner = this.fine ? doubled(view) : view;
    this.pixels = new Int32Array(this.inner.width * this.inner.height);
    drawCloth(this.pixels, this.inner, scene.clothHex);
  }

  /** The view with the first `segments` stitches sewn, as 0xAABBGGRR; valid until the next call. */
  drawTo(segments: number): Int32Array<ArrayBuffer> {
    const { scene, inner } = this;
    if (segments < this.drawn || this.look === 'density') {
      drawCloth(this.pixels, inner, scene.clothHex);
      this.drawn = 0;
    }
    if (this.look === 'sewn') drawStitches(this.pixels, inner, scene.segments, scene.shades, this.drawn, segments);
    else if (this.look === 'line') drawLines(this.pixels, inner, scene.segments, scene.hexes, this.drawn, segments);
    else drawDensity(this.pixels, inner, densityOf(scene.segments, segments));
    this.drawn = segments;
    return this.fine ? halve(this.pixels, this.view.width, this.view.height) : this.pixels;
  }
}
