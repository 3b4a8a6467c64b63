import type { View } from '@open-kite/core';

/** How long a picture is held at most, in milliseconds, while one result follows another. */
const LONGEST_MS = 2500;

/**
 * What the stage showed of a result, held while the tiles of the next one are drawn: that takes its place in one frame,
 * and never are pieces of both seen beside each other.
 */
export class HeldPicture {
  private held: { readonly canvas: OffscreenCanvas; readonly view: View; readonly since: number } | undefined;

  /** Holds what is painted, unless something is held already. */
  hold(view: View, paint: (context: OffscreenCanvasRenderingContext2D) => void): void {
    if (this.held) return;
    const canvas = new OffscreenCanvas(view.width, view.height);
    const context = canvas.getContext('2d', { alpha: false });
    if (!context) return;
    paint(context);
    this.held = { canvas, view, since: performance.now() };
  }

  /** Paints what is held. @returns whether there is anything that shows this part of the cloth */
  paint(context: CanvasRenderingContext2D, view: View): boolean {
    if (!this.held) return false;
    const { canvas, view: own, since } = this.held;
    const same = own.scale === view.scale && own.left === view.left && own.top === view.top;
    if (!same || own.width !== view.width || own.height !== view.height || performance.now() > since + LONGEST_MS) {
      this.drop();
      return false;
    }
    context.drawImage(canvas, 0, 0);
    return true;
  }

  drop(): void {
    this.held = undefined;
  }
}
