import { drawScene, ProgressiveView, sceneOf, segmentsBefore, type Scene } from '@open-kite/core';
import type { DrawAnswer, DrawRequest } from './draw-protocol';

let scene: Scene | undefined;
let number = -1;
let sewing: ProgressiveView | undefined;

function bitmapOf(pixels: Int32Array<ArrayBuffer>, width: number, height: number): ImageBitmap {
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d') as OffscreenCanvasRenderingContext2D;
  context.putImageData(new ImageData(new Uint8ClampedArray(pixels.buffer), width, height), 0, 0);
  return canvas.transferToImageBitmap();
}

const answer = (message: DrawAnswer): void => postMessage(message, { transfer: [message.bitmap] });

addEventListener('message', ({ data }: MessageEvent<DrawRequest>) => {
  if (data.kind === 'scene') {
    const { stitches, hexes, clothHex } = data;
    scene = sceneOf({
      stitches,
      threads: hexes.map((hex) => ({ hex, code: '', name: '', chart: '', deltaE: 0 })),
      fabric: { id: '', hex: clothHex },
    });
    number = data.scene;
    sewing = undefined;
    return;
  }
  // Requests for an older scene are dropped: their answers would not be shown.
  if (!scene || data.scene !== number) return;
  const { view, look } = data;
  if (data.kind === 'tile') {
    const bitmap = bitmapOf(drawScene(scene, view, look), view.width, view.height);
    answer({ kind: 'tile', scene: number, key: data.key, bitmap });
    return;
  }
  if (data.fine) {
    // At rest the moment is drawn as well as the whole is.
    const bitmap = bitmapOf(
      drawScene(scene, view, look, segmentsBefore(scene.segments, data.row)),
      view.width,
      view.height,
    );
    answer({ kind: 'moment', scene: number, view, row: data.row, bitmap });
    return;
  }
  if (!sewing || sewing.look !== look || JSON.stringify(sewing.view) !== JSON.stringify(view)) {
    sewing = new ProgressiveView(scene, view, look, true);
  }
  const pixels = sewing.drawTo(segmentsBefore(scene.segments, data.row));
  answer({ kind: 'moment', scene: number, view, row: data.row, bitmap: bitmapOf(pixels, view.width, view.height) });
});
