import type { ChangedBox } from '@open-kite/core';
import type { Part } from './begun-tiles';

/** Side of a tile in pixels. */
export const SIDE = 256;

/** A part of the sewn cloth, drawn; its place in mm. */
export interface Tile {
  readonly bitmap: ImageBitmap;
  readonly scale: number;
  readonly left: number;
  readonly top: number;
}

/** What of the cloth is seen, in mm. */
export interface Seen {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

const meets = (a: Part, b: Part): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

/** What of a tile a box of the cloth meets. */
export function partOf(box: ChangedBox, { scale, left, top }: Omit<Tile, 'bitmap'>): Part | undefined {
  const within = (v: number, round: (v: number) => number): number => Math.min(SIDE, Math.max(0, round(v)));
  const x = within((box.left - left) * scale, Math.floor);
  const y = within((box.top - top) * scale, Math.floor);
  const width = within((box.right - left) * scale, Math.ceil) - x;
  const height = within((box.bottom - top) * scale, Math.ceil) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : undefined;
}

/** Paints a tile of another scale or design where a sharp one is missing. */
export function paintStandIn(
  context: CanvasRenderingContext2D,
  { bitmap, left, top, scale: own }: Tile,
  scale: number,
  stageLeft: number,
  stageTop: number,
  missing: readonly Part[],
): void {
  const factor = scale / own;
  const part = {
    x: Math.round(left * scale - stageLeft),
    y: Math.round(top * scale - stageTop),
    width: factor === 1 ? bitmap.width : Math.ceil(bitmap.width * factor) + 1,
    height: factor === 1 ? bitmap.height : Math.ceil(bitmap.height * factor) + 1,
  };
  if (missing.some((hole) => meets(hole, part))) context.drawImage(bitmap, part.x, part.y, part.width, part.height);
}
