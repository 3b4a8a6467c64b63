/** Part of a tile or of the stage, in device pixels. */
export interface Part {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

interface Begun {
  readonly canvas: OffscreenCanvas;
  readonly context: OffscreenCanvasRenderingContext2D;
  missing: readonly Part[];
}

/** Tiles of which parts are still to be drawn: some come in quarters, of others only what has changed is drawn anew. */
export class BegunTiles {
  private readonly begun = new Map<string, Begun>();

  constructor(private readonly side: number) {}

  get(key: string): { readonly canvas: OffscreenCanvas; readonly missing: readonly Part[] } | undefined {
    return this.begun.get(key);
  }

  get keys(): readonly string[] {
    return [...this.begun.keys()];
  }

  /** A tile of which nothing is there yet comes in quarters. */
  begin(key: string): void {
    const half = this.side / 2;
    const quarters = [0, half].flatMap((y) => [0, half].map((x) => ({ x, y, width: half, height: half })));
    this.begun.set(key, { ...this.canvas(), missing: quarters });
  }

  /** Part of a tile has changed: the rest of what there is of it stays. */
  change(key: string, part: Part, before?: ImageBitmap): void {
    const known = this.begun.get(key);
    if (known) {
      known.context.clearRect(part.x, part.y, part.width, part.height);
      known.missing = [...known.missing.filter((other) => !isWithin(other, part)), part];
    } else if (before) {
      const made = this.canvas();
      made.context.drawImage(before, 0, 0);
      made.context.clearRect(part.x, part.y, part.width, part.height);
      this.begun.set(key, { ...made, missing: [part] });
    }
  }

  /**
   * Takes a part that was drawn.
   * @returns the tile, once none of it is missing
   */
  add(key: string, part: Part, bitmap: ImageBitmap): ImageBitmap | undefined {
    const begun = this.begun.get(key);
    if (!begun) return undefined;
    begun.context.drawImage(bitmap, part.x, part.y);
    begun.missing = begun.missing.filter((other) => !isWithin(other, part));
    if (begun.missing.length > 0) return undefined;
    this.begun.delete(key);
    return begun.canvas.transferToImageBitmap();
  }

  drop(key: string): void {
    this.begun.delete(key);
  }

  clear(): void {
    this.begun.clear();
  }

  private canvas(): Omit<Begun, 'missing'> {
    const canvas = new OffscreenCanvas(this.side, this.side);
    return { canvas, context: canvas.getContext('2d') as OffscreenCanvasRenderingContext2D };
  }
}

const isWithin = (a: Part, b: Part): boolean =>
  a.x >= b.x && a.y >= b.y && a.x + a.width <= b.x + b.width && a.y + a.height <= b.y + b.height;
