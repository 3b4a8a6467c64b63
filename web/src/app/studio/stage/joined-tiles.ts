import { SIDE, type Tile } from './tile';

/** Pixels of tiles that are put together, at most. */
const MOST_JOINED = 4e6;
/** Scales of which tiles are kept together: the nearest two. */
export const STAND_INS = 2;

/** Tiles of a scale put together, by the scale. */
export class JoinedTiles {
  private readonly joined = new Map<number, { readonly scene: number; readonly count: number; readonly tile: Tile }>();

  /**
   * Tiles of one scale as one picture, kept while a zoom goes on: scaling one picture takes a part of the time that
   * scaling each of its tiles does.
   */
  of(scene: number, tiles: readonly Tile[]): readonly Tile[] {
    if (tiles.length < 2) return tiles;
    const [{ scale }] = tiles;
    const known = this.joined.get(scale);
    if (known?.scene === scene && known.count === tiles.length) return [known.tile];
    const left = Math.min(...tiles.map((tile) => tile.left));
    const top = Math.min(...tiles.map((tile) => tile.top));
    const width = Math.max(...tiles.map((tile) => tile.left)) - left + SIDE / scale;
    const height = Math.max(...tiles.map((tile) => tile.top)) - top + SIDE / scale;
    const [columns, rows] = [Math.round(width * scale), Math.round(height * scale)];
    // Tiles of many places of the cloth are not put together.
    if (columns * rows > MOST_JOINED || columns * rows > tiles.length * SIDE * SIDE) return tiles;
    const canvas = new OffscreenCanvas(columns, rows);
    const context = canvas.getContext('2d', { alpha: false });
    for (const tile of tiles) {
      context?.drawImage(tile.bitmap, Math.round((tile.left - left) * scale), Math.round((tile.top - top) * scale));
    }
    const tile = { bitmap: canvas.transferToImageBitmap(), scale, left, top };
    if (this.joined.size >= STAND_INS) this.part();
    this.joined.set(scale, { scene, count: tiles.length, tile });
    return [tile];
  }

  /** Lets go of all of them. */
  part(): void {
    for (const { tile } of this.joined.values()) tile.bitmap.close();
    this.joined.clear();
  }
}
