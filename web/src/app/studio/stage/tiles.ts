import {
  changedBox,
  type ChangedBox,
  type Design,
  type Look,
  type StitchList,
  type View,
  type ViewPart,
} from '@open-kite/core';
import { DRAWERS } from '../../convert/convert-protocol';
import { buffersOf } from '../../convert/stitch-copies';
import { BegunTiles } from './begun-tiles';
import type { Camera, Size } from './camera';
import type { DrawAnswer, DrawRequest } from './draw-protocol';
import { HeldPicture } from './held-picture';
import { JoinedTiles, STAND_INS } from './joined-tiles';
import { paintStandIn, partOf, SIDE, type Seen, type Tile } from './tile';
import { REST_MS, STILL_MS, ZOOMING_MS, MOST_KEPT, MOVING_MS, TOGETHER_MS, REST_OVERVIEW_MS } from './tile-pace';

const keyOf = (scale: number, tx: number, ty: number): string => `${scale} ${tx} ${ty}`;
const IN_FLIGHT = 2;
/** Longer side of the picture of the whole that stands in wherever there is no tile, in pixels. */
const OVERVIEW = 900;
const OVERVIEW_KEY = 'overview';
/** Stitches may reach beyond the picture by this. */
const EDGE_MM = 2;

/** A drawing worker and what it has been asked for. */
interface Artist {
  readonly worker: Worker;
  readonly flying: Set<string>;
}

/**
 * Draws the sewn cloth from tiles made in workers. Tiles of the exact scale arrive from the middle outwards; until
 * they do, a picture of the whole, tiles of the nearest scales and those of the design before stand in for them, so
 * that nothing flashes. Stand-ins are painted only where a tile is missing.
 */
export class Tiles {
  private readonly artists: readonly Artist[];
  private scene = 0;
  private look: Look = 'sewn';
  private design: Design | undefined;
  /** Tiles of the present scene, oldest use first. */
  private tiles = new Map<string, Tile>();
  /** Tiles of the present scene and scale that are there in part. */
  private readonly begun = new BegunTiles(SIDE);
  private readonly joined = new JoinedTiles();
  private readonly held = new HeldPicture();
  /** The whole, small. */
  private overview: Tile | undefined;
  /** The whole is only the picture of the shelf, until there is a larger one. */
  private onlyShelf = false;
  /** Tiles of the scene before, shown until the new ones are there. */
  private before: Tile[] = [];
  private wanted: { key: string; view: View }[] = [];
  /** What the stage shows of the whole. */
  private shown: View | undefined;
  /** The latest moment of the sewing: the worker sends what has changed of it. */
  private moment: { canvas: OffscreenCanvas; view: View } | undefined;
  private momentFlying = false;
  private momentWanted: { view: View; row: number; fine: boolean } | undefined;
  private momentKey = '';
  private restTimer: ReturnType<typeof setTimeout> | undefined;
  private scale = 0;
  private place = '';
  private stillAt = 0;
  /** When the scale was changed last. */
  private scaledAt = -Infinity;
  private restAt = 0;
  private stillTimer: ReturnType<typeof setTimeout> | undefined;
  private overviewAt = 0;
  /** When the stage was last told of a tile. */
  private toldAt = -Infinity;
  private tellTimer: ReturnType<typeof setTimeout> | undefined;
  private overviewTimer: ReturnType<typeof setTimeout> | undefined;
  /** Whether tiles have been missing since the stage was last complete. */
  private incomplete = false;

  /**
   * @param changed something new is there to be painted
   * @param complete every tile in view has been painted
   */
  constructor(
    private readonly changed: () => void,
    takeWorker: () => Worker,
    private readonly complete: () => void = () => undefined,
  ) {
    this.artists = Array.from({ length: DRAWERS }, () => {
      const worker = takeWorker();
      const artist = { worker, flying: new Set<string>() };
      worker.addEventListener('message', ({ data }: MessageEvent<DrawAnswer>) => this.arrived(artist, data));
      return artist;
    });
  }

  /**
   * Shows another design or look.
   * @param spares copies of its stitches that the workers may have
   */
  show(design: Design, look: Look, spares: readonly StitchList[] = []): void {
    this.holdShown();
    this.scene++;
    const kept =
      this.design && look === this.look ? this.keep(changedBox(this.design, design)) : new Map<string, Tile>();
    if (look !== this.look) this.begun.clear();
    for (const key of kept.keys()) this.tiles.delete(key);
    this.look = look;
    this.design = design;
    this.putBehind();
    this.tiles = kept;
    this.overview?.bitmap.close();
    this.overview = undefined;
    this.onlyShelf = false;
    this.momentFlying = false;
    this.moment = undefined;
    this.momentKey = '';
    clearTimeout(this.restTimer);
    const { stitches, threads, fabric, patches } = design;
    const hexes = threads.map(({ hex }) => hex);
    this.artists.forEach((artist, i) => {
      artist.flying.clear();
      const own = spares.at(i);
      const scene = { scene: this.scene, stitches: own ?? stitches, hexes, clothHex: fabric.hex, patches };
      this.send(artist, { kind: 'scene', ...scene }, own && buffersOf(own));
    });
    this.overviewAt = performance.now() + REST_OVERVIEW_MS;
    // Drawing begins before the stage is painted next.
    if (!this.shown || this.shown.scale !== this.scale) return;
    this.wanted = this.survey(this.shown).missing;
    this.incomplete = this.wanted.length > 0;
    this.askForTiles();
  }

  /** Shows a small picture of the whole wherever there is nothing better yet. */
  standIn(tile: Tile): void {
    if (this.overview) tile.bitmap.close();
    else [this.overview, this.onlyShelf] = [tile, true];
  }

  /**
   * Paints what there is and asks for what is missing.
   * @param row the design as it is when this row has been sewn; undefined for the whole
   */
  paint(context: CanvasRenderingContext2D, camera: Camera, size: Size, ratio: number, row: number | undefined): void {
    if (!this.design) return;
    const scale = camera.scale * ratio;
    const width = Math.round(size.width * ratio);
    const height = Math.round(size.height * ratio);
    const left = Math.round(camera.x * scale - width / 2);
    const top = Math.round(camera.y * scale - height / 2);
    const view = { width, height, scale, left, top };
    if (row !== undefined) {
      this.shown = undefined;
      this.held.drop();
      this.paintMoment(context, view, row);
      return;
    }
    this.shown = view;
    if (scale !== this.scale) this.begun.clear();
    const { sharp, absent, missing } = this.survey(view);
    if (missing.length > 0 && this.held.paint(context, view)) {
      this.incomplete = true;
      this.wanted = missing;
      this.whenStill(scale, `${left} ${top}`);
      return;
    }
    if (missing.length > 0) {
      const parts = missing.map(({ view }) => ({ ...view, x: view.left - left, y: view.top - top }));
      const seen = {
        left: left / scale,
        top: top / scale,
        right: (left + width) / scale,
        bottom: (top + height) / scale,
      };
      for (const tile of this.standIns(scale, seen)) paintStandIn(context, tile, scale, left, top, parts);
      for (const { key, tx, ty } of absent) {
        const begun = this.begun.get(key);
        if (begun) context.drawImage(begun.canvas, tx * SIDE - left, ty * SIDE - top);
      }
    } else {
      this.held.drop();
      for (const tile of this.before.splice(0)) tile.bitmap.close();
      if (this.incomplete) {
        this.joined.part();
        performance.mark('kite-all-tiles');
        this.complete();
      }
    }
    for (const { tile, x, y } of sharp) context.drawImage(tile.bitmap, x, y);
    this.incomplete = missing.length > 0;
    this.wanted = missing;
    this.whenStill(scale, `${left} ${top}`);
  }

  /** Tiles of a view that are there, those that are not, and what is to be asked for. */
  private survey(view: View): {
    readonly sharp: readonly { readonly tile: Tile; readonly x: number; readonly y: number }[];
    readonly absent: readonly { readonly key: string; readonly tx: number; readonly ty: number }[];
    readonly missing: { key: string; view: View }[];
  } {
    const { scale, left, top, width, height } = view;
    const absent: { key: string; tx: number; ty: number; far: number }[] = [];
    const sharp: { tile: Tile; x: number; y: number }[] = [];
    for (let ty = Math.floor(top / SIDE); ty * SIDE < top + height; ty++) {
      for (let tx = Math.floor(left / SIDE); tx * SIDE < left + width; tx++) {
        const key = keyOf(scale, tx, ty);
        const [x, y] = [tx * SIDE - left, ty * SIDE - top];
        const tile = this.tiles.get(key);
        if (tile) {
          this.tiles.delete(key);
          this.tiles.set(key, tile);
          sharp.push({ tile, x, y });
          continue;
        }
        absent.push({ key, tx, ty, far: Math.abs(x + SIDE / 2 - width / 2) + Math.abs(y + SIDE / 2 - height / 2) });
      }
    }
    absent.sort((a, b) => a.far - b.far);
    // The first of them comes in quarters, so that something sharp is there soon.
    const [first] = absent;
    if (first && (!this.incomplete || scale !== this.scale) && !this.begun.get(first.key)) this.begun.begin(first.key);
    return { sharp, absent, missing: absent.flatMap(({ key, tx, ty }) => this.missingOf(key, tx, ty, scale)) };
  }

  /** What is to be asked for of a tile that is not there: all of it, or what of it is missing. */
  private missingOf(key: string, tx: number, ty: number, scale: number): { key: string; view: View }[] {
    const begun = this.begun.get(key);
    if (!begun) return [{ key, view: { width: SIDE, height: SIDE, scale, left: tx * SIDE, top: ty * SIDE } }];
    return begun.missing.map(({ x, y, width, height }) => ({
      key: `${key} ${x} ${y} ${width} ${height}`,
      view: { width, height, scale, left: tx * SIDE + x, top: ty * SIDE + y },
    }));
  }

  close(): void {
    // What is still on its way belongs to no scene any more.
    this.scene++;
    this.joined.part();
    clearTimeout(this.restTimer);
    clearTimeout(this.stillTimer);
    clearTimeout(this.overviewTimer);
    clearTimeout(this.tellTimer);
    for (const { worker } of this.artists) worker.terminate();
    // Pictures are large, and nobody knows when they would be thrown away otherwise.
    for (const { bitmap } of [...this.tiles.values(), ...this.before]) bitmap.close();
    this.overview?.bitmap.close();
    this.begun.clear();
    this.held.drop();
    this.tiles.clear();
    this.design = undefined;
  }

  /** Tiles on which a design looks the same that differs in a box; of those it meets only that part will be drawn anew. */
  private keep(box: ChangedBox): Map<string, Tile> {
    const kept = new Map<string, Tile>();
    for (const [key, tile] of this.tiles) {
      const part = partOf(box, tile);
      if (!part) kept.set(key, tile);
      else if (tile.scale === this.scale && part.width * part.height < SIDE * SIDE)
        this.begun.change(key, part, tile.bitmap);
    }
    for (const key of this.begun.keys) {
      const [scale, tx, ty] = key.split(' ').map(Number);
      const part = this.tiles.has(key)
        ? undefined
        : partOf(box, { scale, left: (tx * SIDE) / scale, top: (ty * SIDE) / scale });
      if (part) this.begun.change(key, part);
    }
    return kept;
  }

  /** Holds what is seen of a result that is there as a whole. */
  private holdShown(): void {
    const { shown } = this;
    if (!this.design || !shown || this.incomplete || shown.scale !== this.scale) return;
    const { sharp, absent } = this.survey(shown);
    if (absent.length > 0) return;
    this.held.hold(shown, (context) => sharp.forEach(({ tile, x, y }) => context.drawImage(tile.bitmap, x, y)));
  }

  /** What was shown stays until what takes its place is there. */
  private putBehind(): void {
    const behind = new Map<string, Tile>();
    for (const tile of [...this.before, ...this.tiles.values()]) {
      const key = `${tile.left} ${tile.top}`;
      if (tile.scale === this.scale) {
        behind.get(key)?.bitmap.close();
        behind.set(key, tile);
      } else tile.bitmap.close();
    }
    this.before = [...behind.values()];
  }

  /** What is painted where sharp tiles are missing, lowest first. */
  private standIns(scale: number, seen: Seen): readonly Tile[] {
    const tiles = [...this.tiles.values()];
    const near = (a: number): number => Math.abs(Math.log(a / scale));
    const scales = [...new Set(tiles.map((tile) => tile.scale))].filter((s) => s !== scale);
    const chosen = scales.sort((a, b) => near(a) - near(b)).slice(0, STAND_INS);
    // Painting scaled pictures over each other takes most of a frame: one that shows all there is is enough.
    const all = chosen.find((s) => this.covers(s, seen));
    if (all !== undefined)
      return this.joined.of(
        this.scene,
        tiles.filter((tile) => tile.scale === all),
      );
    return [
      ...(this.overview ? [this.overview] : []),
      ...this.before,
      ...chosen.reverse().flatMap((s) =>
        this.joined.of(
          this.scene,
          tiles.filter((tile) => tile.scale === s),
        ),
      ),
    ];
  }

  /** Whether tiles of a scale show all of the design that is seen; around the design the cloth is plain. */
  private covers(scale: number, seen: Seen): boolean {
    const box = this.design?.picture;
    if (!box) return false;
    const side = SIDE / scale;
    const from = (a: number, b: number): number => Math.floor(Math.max(a, b) / side);
    const to = (a: number, b: number): number => Math.floor((Math.min(a, b) - 1e-6) / side);
    const bottom = to(seen.bottom, box.top + box.height + EDGE_MM);
    const right = to(seen.right, box.left + box.width + EDGE_MM);
    for (let ty = from(seen.top, box.top - EDGE_MM); ty <= bottom; ty++) {
      for (let tx = from(seen.left, box.left - EDGE_MM); tx <= right; tx++) {
        if (!this.tiles.has(keyOf(scale, tx, ty))) return false;
      }
    }
    return true;
  }

  /** Asks for tiles as soon as the scale rests; for few while the cloth is moved. */
  private whenStill(scale: number, place: string): void {
    const now = performance.now();
    if (scale !== this.scale) {
      // The first scale of all waits for nothing.
      if (this.scale !== 0) this.stillAt = now + (now - this.scaledAt < 2 * ZOOMING_MS ? ZOOMING_MS : STILL_MS);
      this.scaledAt = now;
      this.scale = scale;
    } else if (place !== this.place) this.restAt = now + MOVING_MS;
    this.place = place;
    clearTimeout(this.stillTimer);
    this.askForTiles();
    const next = Math.max(this.stillAt, this.restAt);
    if (next <= now) return;
    this.stillTimer = setTimeout(() => {
      // A timer may be a little early.
      this.stillAt = Math.min(this.stillAt, performance.now());
      this.askForTiles();
    }, next - now);
  }

  private paintMoment(context: CanvasRenderingContext2D, view: View, row: number): void {
    if (this.moment) {
      const { canvas, view: old } = this.moment;
      const factor = view.scale / old.scale;
      const x = old.left * factor - view.left;
      const y = old.top * factor - view.top;
      context.drawImage(canvas, x, y, old.width * factor, old.height * factor);
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

  private addToMoment(view: View, part: ViewPart, pixels: Int32Array<ArrayBuffer>): void {
    const { width, height } = view;
    const canvas = this.moment?.canvas ?? new OffscreenCanvas(width, height);
    if (canvas.width !== width || canvas.height !== height) [canvas.width, canvas.height] = [width, height];
    this.moment = { canvas, view };
    if (pixels.length === 0) return;
    const image = new ImageData(new Uint8ClampedArray(pixels.buffer), part.width, part.height);
    canvas.getContext('2d', { alpha: false })?.putImageData(image, part.left, part.top);
  }

  private askForMoment(): void {
    if (this.momentFlying || !this.momentWanted) return;
    this.momentFlying = true;
    // Always the same worker: it keeps what it has drawn so far.
    this.send(this.artists[0], { kind: 'moment', scene: this.scene, look: this.look, ...this.momentWanted });
    this.momentWanted = undefined;
  }

  private askForTiles(): void {
    // Tiles that arrive while a zoom goes on ask for none.
    if (performance.now() < this.stillAt) return;
    for (;;) {
      const artist = this.artists.reduce((a, b) => (b.flying.size < a.flying.size ? b : a));
      const most = performance.now() < this.restAt ? 1 : DRAWERS * IN_FLIGHT;
      const flying = this.artists.reduce((sum, each) => sum + each.flying.size, 0);
      if (artist.flying.size >= IN_FLIGHT || flying >= most) return;
      const next = this.wanted.shift() ?? this.overviewRequest();
      if (!next) return;
      if (this.artists.some((each) => each.flying.has(next.key))) continue;
      artist.flying.add(next.key);
      this.send(artist, { kind: 'tile', scene: this.scene, look: this.look, key: next.key, view: next.view });
    }
  }

  /** Asks for the whole once everything in view is there. */
  private overviewRequest(): { key: string; view: View } | undefined {
    const box = this.design?.picture;
    const idle = this.artists.every(({ flying }) => flying.size === 0);
    if ((this.overview && !this.onlyShelf) || !box || !idle) return undefined;
    const early = this.overviewAt - performance.now();
    if (early > 0) {
      clearTimeout(this.overviewTimer);
      this.overviewTimer = setTimeout(() => this.askForTiles(), early);
      return undefined;
    }
    const scale = OVERVIEW / Math.max(box.width, box.height);
    const [left, top] = [Math.floor(box.left * scale), Math.floor(box.top * scale)];
    const view = { width: Math.ceil(box.width * scale), height: Math.ceil(box.height * scale), scale, left, top };
    return { key: OVERVIEW_KEY, view };
  }

  private send({ worker }: Artist, request: DrawRequest, handedOn: ArrayBuffer[] = []): void {
    worker.postMessage(request, handedOn);
  }

  /** A tile was drawn, or a part of one. */
  private take(key: string, tile: Tile, { scale, left, top, width, height }: View): void {
    if (width === SIDE && height === SIDE) {
      this.begun.drop(key);
      this.tiles.set(key, tile);
      return;
    }
    const [tx, ty] = [Math.floor(left / SIDE), Math.floor(top / SIDE)];
    const whole = keyOf(scale, tx, ty);
    const bitmap = this.begun.add(whole, { x: left - tx * SIDE, y: top - ty * SIDE, width, height }, tile.bitmap);
    tile.bitmap.close();
    if (bitmap) this.tiles.set(whole, { bitmap, scale, left: (tx * SIDE) / scale, top: (ty * SIDE) / scale });
  }

  private arrived(artist: Artist, answer: DrawAnswer): void {
    if (answer.scene !== this.scene) {
      if (answer.kind === 'tile') answer.bitmap.close();
      return;
    }
    if (answer.kind === 'moment') {
      this.addToMoment(answer.view, answer.part, answer.pixels);
      this.momentFlying = false;
      this.askForMoment();
    } else {
      const { key, view, bitmap } = answer;
      const tile = { bitmap, scale: view.scale, left: view.left / view.scale, top: view.top / view.scale };
      artist.flying.delete(key);
      if (key === OVERVIEW_KEY) {
        this.overview?.bitmap.close();
        [this.overview, this.onlyShelf] = [tile, false];
        return;
      }
      if (view.scale === this.scale) performance.mark('kite-tile');
      this.take(key, tile, view);
      let kept = 0;
      for (const each of this.tiles.values()) kept += each.bitmap.width * each.bitmap.height;
      for (const [oldest, { bitmap: old }] of this.tiles) {
        if (kept <= MOST_KEPT) break;
        kept -= old.width * old.height;
        old.close();
        this.tiles.delete(oldest);
      }
      // Told before the overview is asked for: nothing on the stage waits for that.
      const isLast = this.wanted.length === 0 && this.artists.every(({ flying }) => flying.size === 0);
      this.askForTiles();
      // Painting takes a processor from those who draw: tiles that come close together are shown together.
      clearTimeout(this.tellTimer);
      const early = this.toldAt + TOGETHER_MS - performance.now();
      if (!isLast && early > 0) {
        this.tellTimer = setTimeout(() => this.tell(), early);
        return;
      }
      this.tell();
      return;
    }
    this.changed();
  }

  private tell(): void {
    this.toldAt = performance.now();
    this.changed();
  }
}
