import { drawScene, ProgressiveView, sceneOf, segmentsBefore, type Scene } from '@open-kite/core';
import type { DrawAnswer, DrawRequest } from './draw-protocol';

/** Measure of how long a moment of the sewing took to draw, and how many are kept. */
const DRAWN = 'kite-moment';
const MOST_MARKS = 500;

let scene: Scene | undefined;
let number = -1;
let sewing: ProgressiveView | undefined;
let preparing: ReturnType<typeof setTimeout> | undefined;
let easel: OffscreenCanvasRenderingContext2D | undefined;

/** Turns pixels into a bitmap; one canvas serves all of a size. */
function bitmapOf(pixels: Int32Array<ArrayBuffer>, width: number, height: number): ImageBitmap {
  if (easel?.canvas.width !== width || easel.canvas.height !== height) {
    const context = new OffscreenCanvas(width, height).getContext('2d', { alpha: false });
    easel = context as OffscreenCanvasRenderingContext2D;
  }
  easel.putImageData(new ImageData(new Uint8ClampedArray(pixels.buffer), width, height), 0, 0);
  return easel.canvas.transferToImageBitmap();
}

function answer(message: DrawAnswer): void {
  postMessage(message, { transfer: [message.kind === 'tile' ? message.bitmap : message.pixels.buffer] });
}

/** Draws a moment of the sewing: quickly while it moves, as well as the whole is when it rests. */
function drawMoment(of: Scene, { view, look, row, fine }: Extract<DrawRequest, { kind: 'moment' }>): void {
  const { width, height } = view;
  const to = segmentsBefore(of.segments, row);
  if (fine) {
    const pixels = drawScene(of, view, look, { to });
    answer({ kind: 'moment', scene: number, view, row, part: { left: 0, top: 0, width, height }, pixels });
    return;
  }
  const from = performance.now();
  if (!sewing || sewing.look !== look || JSON.stringify(sewing.view) !== JSON.stringify(view)) {
    sewing = new ProgressiveView(of, view, look);
    prepareSoon();
  }
  const { part, pixels } = sewing.drawTo(to);
  // Read by the bench; only the latest are of interest.
  if (performance.getEntriesByName(DRAWN).length > MOST_MARKS) performance.clearMeasures(DRAWN);
  performance.measure(DRAWN, { start: from });
  answer({ kind: 'moment', scene: number, view, row, part, pixels });
}

/** Draws key frames whenever nothing else is asked for. */
function prepareSoon(): void {
  clearTimeout(preparing);
  preparing = setTimeout(() => {
    if (sewing?.prepare()) prepareSoon();
  });
}

addEventListener('message', ({ data }: MessageEvent<DrawRequest>) => {
  if (data.kind === 'scene') {
    const { stitches, hexes, clothHex, patches } = data;
    const threads = hexes.map((hex) => ({ hex, code: '', name: '', chart: '', deltaE: 0 }));
    scene = sceneOf({ stitches, threads, fabric: { id: '', hex: clothHex }, patches });
    number = data.scene;
    sewing = undefined;
    return;
  }
  // Requests for an older scene are dropped: their answers would not be shown.
  if (!scene || data.scene !== number) return;
  if (data.kind === 'moment') {
    drawMoment(scene, data);
    return;
  }
  const { view, look, key } = data;
  const bitmap = bitmapOf(drawScene(scene, view, look), view.width, view.height);
  answer({ kind: 'tile', scene: number, key, view, bitmap });
});
