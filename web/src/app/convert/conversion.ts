import { computed, inject, Injectable, type OnDestroy, signal } from '@angular/core';
import {
  PIECES_METHOD,
  regroups,
  shapesPieces,
  stashKeys,
  type Anchor,
  type CurvePoint,
  type Design,
  type Likeness,
  type OutlineAt,
  type Recipe,
  type StepName,
  type StitchList,
} from '@open-kite/core';
import { proxy, wrap, type Remote } from 'comlink';
import { Cupboard } from '../cupboard/cupboard';
import type { DesignMeasures } from './design-measures';
import { DRAWERS, type ConvertWorker, type ExportKind, type PictureWorker, type Preview } from './convert-protocol';

export type ConversionState = 'opening' | 'working' | 'done' | 'failed' | 'cancelled';

/** How long settings must rest before the likeness is measured. */
const REST_MS = 500;

/** What pieces are made from: how single ones are sewn is no part of it. */
const shapesOf = (pieces: Recipe['pieces']): Recipe['pieces'] => ({
  ...pieces,
  decisions: pieces.decisions.filter(shapesPieces),
});

/** Parts of a recipe whose change makes the picture be traced anew. */
const tracedFrom = ({ method, rendering, clothHex, budget, picture, light, colours, pieces }: Recipe): string =>
  JSON.stringify([
    // Renderings are made anew as a whole.
    method,
    // Changes of a grid by hand need no rough result: they are shown while they are made.
    method === PIECES_METHOD ? '' : [{ ...rendering, grid: null }, clothHex, budget],
    picture,
    light,
    colours.count,
    colours.smallestSpotMm2,
    colours.decisions.filter(regroups),
    shapesOf(pieces),
  ]);

/** Turns recipes into designs in a worker: a rough one at once where tracing is needed, then the full one. */
@Injectable()
export class Conversion implements OnDestroy {
  private readonly cupboard = inject(Cupboard);
  private readonly thread = new Worker(new URL('./convert.worker', import.meta.url), { type: 'module' });
  private readonly worker: Remote<ConvertWorker> = wrap<ConvertWorker>(this.thread);
  private readonly viewThread = new Worker(new URL('./picture.worker', import.meta.url), { type: 'module' });
  private readonly viewer: Remote<PictureWorker> = wrap<PictureWorker>(this.viewThread);
  private viewed: Promise<void> | undefined;
  private job = 0;
  private opened: Promise<void> | undefined;
  private lastTraced = '';

  readonly state = signal<ConversionState>('opening');
  readonly progress = signal<{ step: StepName; share: number }>({ step: 'prepare', share: 0 });
  readonly error = signal('');
  readonly design = signal<Design | undefined>(undefined);
  /** Whether the design shown is a rough one, to be replaced soon. */
  readonly rough = signal(false);
  readonly likeness = signal<Likeness | undefined>(undefined);
  private readonly compared = signal<Design | undefined>(undefined);
  /** Whether the likeness shown belongs to the design shown. */
  readonly likenessFits = computed(() => this.compared() === this.design());

  private readonly measures = signal<DesignMeasures | undefined>(undefined);
  readonly figures = computed(() => this.measures()?.figures);
  readonly runs = computed(() => this.measures()?.runs ?? []);
  /** Rows of the stitch list at which the thread is cut. */
  readonly cuts = computed(() => this.measures()?.cuts ?? []);
  /** What to look at in the design that is shown. */
  readonly findings = computed(() => this.measures()?.findings ?? []);
  /** Cells and back stitches of each thread of the grid that is shown. */
  readonly threadCounts = computed(() => this.measures()?.threadCounts ?? []);
  /** Stitches of each piece, by its index. */
  readonly pieceStitches = computed(() => this.measures()?.pieceStitches ?? new Uint32Array(0));

  /** Stitches of each colour of the picture, by its index. */
  readonly colourStitches = computed(() => {
    const design = this.design();
    const stitches = this.pieceStitches();
    const counts = new Uint32Array(design?.colours.length ?? 0);
    design?.pieces.forEach((piece, i) => {
      if (piece.colour >= 0) counts[piece.colour] += stitches[i] ?? 0;
    });
    return counts;
  });

  /** Fetches the picture into the worker; conversions wait for it. */
  open(pictureHash: string, kind: 'raster' | 'svg'): void {
    this.state.set('opening');
    this.opened = Promise.all([this.loadCupboard(), this.worker.open(pictureHash, kind)]).then(() => undefined);
    this.opened.catch((error: unknown) => this.fail(error));
    this.viewed = this.viewer.open(pictureHash);
    // Without the picture there is nothing to compare with: whoever asks for it hears why.
    this.viewed.catch(() => undefined);
  }

  /** Tells the worker which threads there are, and which are in the drawer. */
  private async loadCupboard(): Promise<void> {
    await this.cupboard.load();
    await this.worker.setCupboard(this.cupboard.all(), [...stashKeys(this.cupboard.stash())]);
  }

  /** Whether nobody draws the stitches for now, so that no copies are needed for it. */
  unseen = false;
  private spares: { readonly design: Design; readonly lists: StitchList[] } | undefined;

  /** Copies of the stitches of a design, to be given away; each can be taken once. */
  takeSpares(design: Design): StitchList[] {
    return this.spares?.design === design ? this.spares.lists.splice(0) : [];
  }

  /** What was under way when a gesture began, to be begun anew after it. */
  private held: Recipe | undefined;
  private underWay: Recipe | undefined;

  /** Keeps large results from arriving while somebody draws: what is under way is stopped until `resume`. */
  hold(): void {
    if (!this.underWay) return;
    this.held = this.underWay;
    this.underWay = undefined;
    void this.worker.cancel(this.job + 1);
    this.job += 2;
  }

  /** Goes on after `hold`, unless something else was asked for meanwhile. */
  resume(): void {
    if (this.held) void this.convert(this.held);
  }

  /** Converts; an earlier conversion still under way is stopped. */
  async convert(recipe: Recipe): Promise<void> {
    const job = (this.job += 2);
    this.held = undefined;
    this.underWay = recipe;
    this.state.set(this.design() ? 'working' : 'opening');
    this.progress.set({ step: 'prepare', share: 0 });
    this.error.set('');
    try {
      await this.opened;
      if (job !== this.job) return;
      this.state.set('working');
      if (tracedFrom(recipe) !== this.lastTraced) await this.run(job, recipe, 'rough');
      await this.run(job + 1, recipe, 'full');
    } catch (error) {
      if (job === this.job) this.fail(error);
    }
  }

  private async run(job: number, recipe: Recipe, quality: 'rough' | 'full'): Promise<void> {
    const request = job - (job % 2);
    if (request !== this.job) return;
    const listen = proxy((step: StepName, share: number) => {
      if (request === this.job) this.progress.set({ step, share });
    });
    const made = await this.worker.convert(job, recipe, quality, this.unseen ? 0 : DRAWERS, listen);
    if (!made) performance.mark('kite-stopped');
    if (!made || request !== this.job) return;
    performance.mark(`kite-${quality}`);
    this.spares = { design: made.design, lists: [...made.spares] };
    this.design.set(made.design);
    this.measures.set(made.measures);
    this.rough.set(quality === 'rough');
    if (quality !== 'full') return;
    this.underWay = undefined;
    this.lastTraced = tracedFrom(recipe);
    this.state.set('done');
    await this.compare(request);
  }

  /** Measures the likeness once the settings rest: it keeps the worker busy, and a slider on its way comes first. */
  private async compare(request: number): Promise<void> {
    await new Promise((resolve) => setTimeout(resolve, REST_MS));
    if (request !== this.job) return;
    const likeness = await this.worker.likeness();
    if (request !== this.job) return;
    this.likeness.set(likeness);
    this.compared.set(this.design());
  }

  /** The whole picture in the light of a recipe; undefined where a newer one was asked for meanwhile. */
  async picture(recipe: Recipe, pixels: number): Promise<ImageBitmap | undefined> {
    await this.viewed;
    return this.viewer.picture(recipe, pixels);
  }

  async tones(recipe: Recipe): Promise<Uint32Array> {
    await this.viewed;
    return this.viewer.tones(recipe);
  }

  where(recipe: Recipe, colour: number, shade?: number): Promise<ImageBitmap | undefined> {
    return this.worker.where(recipe, colour, shade);
  }

  outlineAt(recipe: Recipe, u: number, v: number): Promise<OutlineAt | undefined> {
    return this.worker.outlineAt(recipe, u, v);
  }

  async sample(u: number, v: number): Promise<Anchor | undefined> {
    await this.viewed;
    return this.viewer.sample(u, v);
  }

  async curve(recipe: Recipe, most: number): Promise<CurvePoint[] | undefined> {
    await this.opened;
    return this.worker.curve(recipe, most);
  }

  /** Stops what is under way; the last design stays. */
  cancel(): void {
    void this.worker.cancel(this.job + 1);
    this.job += 2;
    this.held = this.underWay = undefined;
    this.state.set('cancelled');
  }

  exportAs(kind: ExportKind, name: string, recipe: Recipe): Promise<Uint8Array<ArrayBuffer>> {
    return this.worker.exportAs(kind, name, recipe);
  }

  preview(): Promise<Preview | undefined> {
    return this.worker.preview();
  }

  ngOnDestroy(): void {
    this.thread.terminate();
    this.viewThread.terminate();
  }

  private fail(error: unknown): void {
    this.underWay = undefined;
    this.error.set(error instanceof Error ? error.message : String(error));
    this.state.set('failed');
  }
}
