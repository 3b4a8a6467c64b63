import type { Design, Look, View } from '@open-kite/core';
import type { Camera, Size } from './camera';
import type { DrawAnswer, DrawRequest } from './draw-protocol';

const TILE = 256;
const MOST_TILES = 160;
const IN_FLIGHT = 2;
/** How long the needle must rest before the moment is drawn finely. */
const REST_MS = 160;

interface Tile {
  readonly bitmap: ImageBitmap;
  readonly scale: number;
  readonly left: number;
  readonly top: number;
}

/**
 * Draws the sewn cloth from tiles made in a worker. Tiles of the exact scale arrive from the middle outwards; until
 * they do, tiles of other scales and of the design before stand in for them, so that nothing flashes.
 */
export class Tiles {
  private readonly worker = new Worker(new URL('./draw.worker', import.meta.url), { type: 'module' });
  private scene = 0;
  private look: Look = 'sewn';
  private hasScene = false;
  /** Tiles of the present scene, oldest use first. */
  private tiles = new Map<string, Tile>();
  /** Tiles of the scene before, shown until the new ones are there. */
  private before: Tile[] = [];
  private wanted: { key: string; view: View }[] = [];
  private readonly flying = new Set<string>();
  private moment: { bitmap: ImageBitmap; view: View } | undefined;
  private momentFlying = false;
  private momentWanted: { view: View; row: number; fine: boolean } | undefined;
  private momentKey = '';
  private restTimer: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly changed: () => void) {
    this.worker.addEventListener('message', ({ data }: MessageEvent<DrawAnswer>) => this.arrived(data));
  }

  /** Shows another design or look. */
  show(design: Design, look: Look): void {
    this.scene++;
    this.look = look;
    this.hasScene = true;
    if (this.tiles.size > 0) this.before = [...this.tiles.values()];
    this.tiles = new Map();
    this.flying.clear();
    this.momentFlying = false;
    this.moment = undefined;
    this.momentKey = '';
    clearTimeout(this.restTimer);
    this.send({
      kind: 'scene',
      scene: this.scene,
      stitches: design.stitches,
      hexes: design.threads.map((t) => t.hex),
      clothHex: design.fabric.hex,
    });
  }

  /**
   * Paints what there is and asks for what is missing.
   * @param row the design as it is when this row has been sewn; undefined for the whole
   */
  paint(context: CanvasRenderingContext2D, camera: Camera, size: Size, ratio: number, row: number | undefined): void {
    if (!this.hasScene) return;
    const scale = camera.scale * ratio;
    const width = Math.round(size.width * ratio);
    const height = Math.round(size.height * ratio);
    const left = Math.round(camera.x * scale - width / 2);
    const top = Math.round(camera.y * scale - height / 2);
    if (row !== undefined) {
      const view = { width, height, scale, left, top };
      this.paintMoment(context, view, row);
      return;
    }
    for (const tile of this.before) this.paintTile(context, tile, scale, left, top);
    for (const tile of this.tiles.values()) if (tile.scale !== scale) this.paintTile(context, tile, scale, left, top);
    const missing: { key: string; view: View; far: number }[] = [];
    for (let ty = Math.floor(top / TILE); ty * TILE < top + height; ty++) {
      for (let tx = Math.floor(left / TILE); tx * TILE < left + width; tx++) {
        const key = `${scale} ${tx} ${ty}`;
        const tile = this.tiles.get(key);
        if (tile) {
          this.tiles.delete(key);
          this.tiles.set(key, tile);
          this.paintTile(context, tile, scale, left, top);
          continue;
        }
        const far = Math.abs((tx + 0.5) * TILE - left - width / 2) + Math.abs((ty + 0.5) * TILE - top - height / 2);
        const view = { width: TILE, height: TILE, scale, left: tx * TILE, top: ty * TILE };
        missing.push({ key, view, far });
      }
    }
    if (missing.length === 0) this.before = [];
    this.wanted = missing.sort((a, b) => a.far - b.far);
    this.askForTiles();
  }

  close(): void {
    clearTimeout(this.restTimer);
    this.worker.terminate();
  }

  private paintTile(context: CanvasRenderingContext2D, tile: Tile, scale: number, left: number, top: number): void {
    const factor = scale / tile.scale;
    const x = Math.round(tile.left * scale - left);
    const y = Math.round(tile.top * scale - top);
    const side = factor === 1 ? TILE : Math.ceil(TILE * factor) + 1;
    context.drawImage(tile.bitmap, x, y, side, side);
  }

  private paintMoment(context: CanvasRenderingContext2D, view: View, row: number): void {
    if (this.moment) {
      const { bitmap, view: old } = this.moment;
      const factor = view.scale / old.scale;
      const x = old.left * factor - view.left;
      const y = old.top * factor - view.top;
      context.drawImage(bitmap, x, y, old.width * factor, old.height * factor);
    }
    const key = JSON.stringify([view, row]);
    if (key === this.momentKey) return;
    this.momentKey = key;
    this.momentWanted = { view, row, fine: false };
    this.askForMoment();
    clearTimeout(this.restTimer);
    this.restTimer = setTimeout(() => {
      this.momentWanted = { view, row, fine: true };
      this.askForMoment();
    }, REST_MS);
  }

  private askForMoment(): void {
    if (this.momentFlying || !this.momentWanted) return;
    this.momentFlying = true;
    this.send({ kind: 'moment', scene: this.scene, look: this.look, ...this.momentWanted });
    this.momentWanted = undefined;
  }

  private askForTiles(): void {
    while (this.flying.size < IN_FLIGHT) {
      const next = this.wanted.shift();
      if (!next) return;
      if (this.flying.has(next.key)) continue;
      this.flying.add(next.key);
      this.send({ kind: 'tile', scene: this.scene, look: this.look, ...next });
    }
  }

  private send(request: DrawRequest): void {
    this.worker.postMessage(request);
  }

  private arrived(answer: DrawAnswer): void {
    if (answer.scene !== this.scene) {
      answer.bitmap.close();
      return;
    }
    if (answer.kind === 'moment') {
      this.moment?.bitmap.close();
      this.moment = answer;
      this.momentFlying = false;
      this.askForMoment();
    } else {
      const [scale, tx, ty] = answer.key.split(' ').map(Number);
      this.flying.delete(answer.key);
      this.tiles.set(answer.key, { bitmap: answer.bitmap, scale, left: (tx * TILE) / scale, top: (ty * TILE) / scale });
      for (const [key, tile] of this.tiles) {
        if (this.tiles.size <= MOST_TILES) break;
        tile.bitmap.close();
        this.tiles.delete(key);
      }
      this.askForTiles();
    }
    this.changed();
  }
}
