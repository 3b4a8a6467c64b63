import { computed, inject, Injectable, type OnDestroy, signal } from '@angular/core';
import type { Picture } from '@open-kite/contract';
import {
  PIECES_METHOD,
  regroups,
  shapesPieces,
  stashKeys,
  type Anchor,
  type CurvePoint,
  type Design,
  type DesignObject,
  type Finding,
  type Likeness,
  type OutlineAt,
  type PictureView,
  type PictureObject,
  type Recipe,
  type StepName,
  type StitchList,
  type StitchesObject,
} from '@open-kite/core';
import { proxy, transfer, wrap, type Remote } from 'comlink';
import { Cupboard } from '../cupboard/cupboard';
import type { DesignMeasures } from './design-measures';
import {
  DRAWERS,
  type Converted,
  type ConvertWorker,
  type ExportKind,
  type PictureWorker,
  type Preview,
  type Tried,
} from './convert-protocol';
import { SpareWorkers } from './spare-workers';

export type ConversionState = 'opening' | 'working' | 'done' | 'failed' | 'cancelled';

/** A project as it was opened. */
interface Stored {
  readonly id: string;
  readonly designKey: string | null;
}

/** The first picture of the stitches comes before everything else, for so long. */
const STAGE_FIRST_MS = 1500;

/** How long settings must rest before the likeness is measured. */
const REST_MS = 500;

/**
 * Parts of a recipe whose change makes a picture be reduced and traced anew: only there a rough result is there sooner. None
 * where there is no picture. What is drawn by hand and what was decided on pieces takes as long at any quality.
 */
function tracedFrom({ objects, decisions, cloth, budget }: Recipe): string {
  const pictures = objects.filter((object): object is PictureObject => object.kind === 'picture');
  if (pictures.length === 0) return '';
  const renders = pictures.some(({ method }) => method !== PIECES_METHOD);
  return JSON.stringify([
    pictures.map(shapeOf),
    // Renderings are made anew as a whole, around what is cut out of them.
    renders
      ? [
          cloth.hex,
          budget,
          objects.filter(({ kind }) => kind !== 'picture').map(unnamed),
          decisions.filter(shapesPieces),
        ]
      : '',
  ]);
}

/** What an object is called, and whether it is locked, changes no stitch. */
const unnamed = (object: DesignObject): DesignObject => ({ ...object, name: '', locked: false });

/** What of a picture decides on its trace: names and threads of colours do not. */
function shapeOf(object: PictureObject): unknown {
  const { id, hidden, method, picture, light, colours, pieces, rendering } = object;
  const { count, smallestSpotMm2, decisions } = colours;
  // Changes of a grid by hand need no rough result: they are shown while they are made.
  const how = method === PIECES_METHOD ? '' : { ...rendering, grid: null };
  return [id, hidden, method, how, picture, light, count, smallestSpotMm2, decisions.filter(regroups), pieces];
}

/** Turns recipes into designs in a worker: a rough one at once where tracing is needed, then the full one. */
@Injectable()
export class Conversion implements OnDestroy {
  private readonly cupboard = inject(Cupboard);
  private readonly workers = inject(SpareWorkers);
  private readonly thread = this.workers.take('convert');
  private readonly worker: Remote<ConvertWorker> = wrap<ConvertWorker>(this.thread);
  private readonly viewThread = this.workers.take('picture');
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
  /** Whether what is shown, and every figure of it, is about to be another: a conversion is under way, or did not end. */
  readonly stale = computed(() => this.rough() || this.state() !== 'done');
  readonly likeness = signal<Likeness | undefined>(undefined);
  private readonly compared = signal<Design | undefined>(undefined);
  /** Whether the likeness shown belongs to the design shown. */
  readonly likenessFits = computed(() => this.compared() === this.design());

  private readonly measures = signal<DesignMeasures | undefined>(undefined);
  readonly figures = computed(() => this.measures()?.figures);
  readonly lengths = computed(() => this.measures()?.lengths);
  readonly runs = computed(() => this.measures()?.runs ?? []);
  /** Rows of the stitch list at which the thread is cut. */
  readonly cuts = computed(() => this.measures()?.cuts ?? []);
  /** What to look at in the design that is shown. */
  readonly findings = signal<readonly Finding[]>([]);
  private readonly examined = signal<Design | undefined>(undefined);
  /** Whether the findings shown are those of the design shown: every check has run. */
  readonly findingsFit = computed(() => this.design() !== undefined && this.examined() === this.design());
  /** Cells and back stitches of each thread of the grid that is shown. */
  readonly threadCounts = computed(() => this.measures()?.threadCounts ?? []);
  /** Stitches of each piece, by its index. */
  readonly pieceStitches = computed(() => this.measures()?.pieceStitches ?? new Uint32Array(0));

  /** Stitches of each colour, by its index; of a rendered picture those of the thread the colour goes to. */
  readonly colourStitches = computed(() => {
    const design = this.design();
    const stitches = this.pieceStitches();
    const counts = new Uint32Array(design?.colours.length ?? 0);
    design?.pieces.forEach((piece, i) => {
      if (piece.colour >= 0) counts[piece.colour] += stitches[i] ?? 0;
    });
    const rendered = this.measures()?.renderedStitches;
    for (const { method, colours } of design?.pictures ?? []) {
      if (method === PIECES_METHOD) continue;
      for (let i = colours[0]; i < colours[0] + colours[1]; i++) {
        const thread = design?.colours[i].thread ?? -1;
        if (thread >= 0) counts[i] = rendered?.[thread] ?? 0;
      }
    }
    return counts;
  });

  /**
   * Fetches the pictures into the worker; conversions wait for them.
   * @param stored the project they are of, and the key of the design that is stored with it
   */
  open(pictures: Readonly<Record<string, Picture>>, stored: Stored): void {
    this.pictures = pictures;
    if (stored !== this.stored) {
      this.stored = stored;
      this.state.set('opening');
      this.threadsKnown = this.loadCupboard();
      this.threadsKnown.catch((error: unknown) => this.fail(error));
      this.packed = stored.designKey === null ? undefined : fetchDesign(stored.id, stored.designKey);
      this.storedPreview = this.packed && fetchPreview(stored.id);
    }
    // Pixels are large: what is stored is shown first.
    const shown = this.packed ? this.shownFirst : Promise.resolve();
    this.opened = Promise.all([this.threadsKnown, shown.then(() => this.worker.open(pictures))]).then(() => undefined);
    this.opened.catch((error: unknown) => this.fail(error));
  }

  private stored: Stored | undefined;
  private pictures: Readonly<Record<string, Picture>> = {};
  private threadsKnown: Promise<void> | undefined;
  private shownPicture = '';
  /** The stored design on its way, and settled once it is shown or known to be of no use. */
  private packed: Promise<ArrayBuffer | undefined> | undefined;
  private isShown: () => void = () => undefined;
  private stageTimer: ReturnType<typeof setTimeout> | undefined;
  private readonly shownFirst = new Promise<void>((resolve) => (this.isShown = resolve));

  private storedPreview: Promise<ImageBitmap | undefined> | undefined;

  /** The picture on the shelf, while what is shown is just what is stored: it stands in until the stitches are drawn. */
  async takeStoredPreview(): Promise<ImageBitmap | undefined> {
    const preview = this.asStored() ? this.storedPreview : undefined;
    this.storedPreview = undefined;
    return preview;
  }

  /** All stitches that are in view have been painted: what waited for that goes on. */
  stageComplete(): void {
    this.isShown();
  }

  /** Shows the light and the tones of a picture from now on. */
  showPicture(picture: Picture): void {
    if (picture.hash === this.shownPicture) return;
    this.shownPicture = picture.hash;
    this.viewed = (this.packed ? this.shownFirst : Promise.resolve()).then(() => this.viewer.open(picture));
    // Without the picture there is nothing to compare with: whoever asks for it hears why.
    this.viewed.catch(() => undefined);
  }

  /** Stores the finished design with its project, so that it is there at once when it is opened again. */
  async keepDesign(projectId: string): Promise<void> {
    await this.worker.keep(projectId).catch(() => undefined);
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

  /** A design that is shown instead for a while, to be compared with; everything else is of the one there is. */
  readonly shownInstead = signal<Design | undefined>(undefined);

  /**
   * How the design would be by another recipe; undefined where something else was asked for meanwhile, or what is there is
   * about to change.
   */
  async tryOut(recipe: Recipe): Promise<Tried | undefined> {
    if (this.state() !== 'done') return undefined;
    // A design that is shown as it was stored has no pixels behind it yet.
    await this.opened;
    return this.worker.tryOut(recipe);
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
      if (await this.restore(job, recipe)) return;
      this.isShown();
      await this.opened;
      if (job !== this.job) return;
      this.state.set('working');
      const traced = tracedFrom(recipe);
      if (traced !== '' && traced !== this.lastTraced) await this.run(job, recipe, 'rough');
      await this.run(job + 1, recipe, 'full');
    } catch (error) {
      if (job === this.job) this.fail(error);
    }
  }

  /** Shows the design that is stored with the project, where it is of just this recipe; once, on opening. */
  private async restore(job: number, recipe: Recipe): Promise<boolean> {
    const { stored } = this;
    if (!stored?.designKey || this.design()) return false;
    try {
      const [packed] = await Promise.all([this.packed, this.threadsKnown]);
      if (!packed) return false;
      const made = await this.worker.restore(
        transfer(packed, [packed]),
        stored.designKey,
        recipe,
        this.pictures,
        this.unseen ? 0 : DRAWERS,
      );
      this.packed = undefined;
      if (!made || job !== this.job) return false;
      this.restored(made, recipe);
    } catch (error) {
      this.isShown();
      throw error;
    }
    this.stageTimer = setTimeout(() => this.isShown(), this.unseen ? 0 : STAGE_FIRST_MS);
    void this.shownFirst.then(() => this.compare(job)).then(() => this.warmUp(job, recipe));
    return true;
  }

  /** Whether what is shown is just what is stored with the project. */
  readonly asStored = signal(false);

  private restored(made: Converted, recipe: Recipe): void {
    performance.mark('kite-restored');
    this.asStored.set(true);
    this.show(made, 'full');
    this.finish(recipe);
  }

  private show(made: Converted, quality: 'rough' | 'full'): void {
    this.spares = { design: made.design, lists: [...made.spares] };
    this.shownInstead.set(undefined);
    this.design.set(made.design);
    this.measures.set(made.measures);
    this.rough.set(quality === 'rough');
  }

  private finish(recipe: Recipe): void {
    this.underWay = undefined;
    this.lastTraced = tracedFrom(recipe);
    this.state.set('done');
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
    this.asStored.set(false);
    this.show(made, quality);
    if (quality !== 'full') return;
    this.finish(recipe);
    await this.compare(request);
  }

  /** Looks for what may go wrong and measures the likeness once the settings rest: it keeps the worker busy, and a slider on its way comes first. */
  private async compare(request: number): Promise<void> {
    await new Promise((resolve) => setTimeout(resolve, REST_MS));
    if (request !== this.job) return;
    const found = await this.worker.findings();
    if (request !== this.job) return;
    if (found) {
      this.findings.set(found);
      this.examined.set(this.design());
    }
    const likeness = await this.worker.likeness();
    if (request !== this.job) return;
    this.likeness.set(likeness);
    this.compared.set(this.design());
  }

  /** A project that was opened as it was stored has made nothing yet: the first slider would wait for cold code. */
  private async warmUp(job: number, recipe: Recipe): Promise<void> {
    if (job !== this.job || tracedFrom(recipe) === '') return;
    try {
      await this.opened;
      await this.worker.warmUp(recipe);
    } catch {
      // What goes wrong here goes wrong as well when somebody asks for it, and is told then.
    }
  }

  /** The whole picture in the light of a recipe; undefined where a newer one was asked for meanwhile. */
  async picture(view: PictureView, pixels: number): Promise<ImageBitmap | undefined> {
    await this.viewed;
    return this.viewer.picture(view, pixels);
  }

  async tones(view: PictureView): Promise<Uint32Array> {
    await this.viewed;
    return this.viewer.tones(view);
  }

  where(recipe: Recipe, object: string, colour: number, shade?: number): Promise<ImageBitmap | undefined> {
    return this.worker.where(recipe, object, colour, shade);
  }

  outlineAt(recipe: Recipe, object: string, u: number, v: number, tolerance: number): Promise<OutlineAt | undefined> {
    return this.worker.outlineAt(recipe, object, u, v, tolerance);
  }

  async sample(u: number, v: number): Promise<Anchor | undefined> {
    await this.viewed;
    return this.viewer.sample(u, v);
  }

  async curve(recipe: Recipe, object: string, most: number): Promise<CurvePoint[] | undefined> {
    await this.opened;
    return this.worker.curve(recipe, object, most);
  }

  /** Stops what is under way; the last design stays. */
  cancel(): void {
    void this.worker.cancel(this.job + 1);
    this.job += 2;
    this.held = this.underWay = undefined;
    this.state.set('cancelled');
  }

  /** A stored stitch list as an object of a design. */
  listAt(hash: string, id: string, source: string): Promise<StitchesObject> {
    return this.worker.listAt(hash, id, source);
  }

  exportAs(kind: ExportKind, name: string, recipe: Recipe): Promise<Uint8Array<ArrayBuffer>> {
    return this.worker.exportAs(kind, name, recipe);
  }

  preview(): Promise<Preview | undefined> {
    return this.worker.preview();
  }

  ngOnDestroy(): void {
    clearTimeout(this.stageTimer);
    // Whoever still waits for an answer, or asks now, hears nothing any more: a released proxy would throw at them.
    this.job += 2;
    this.thread.terminate();
    this.viewThread.terminate();
  }

  private fail(error: unknown): void {
    this.underWay = undefined;
    this.error.set(error instanceof Error ? error.message : String(error));
    this.state.set('failed');
  }
}

/** The finished design that is stored with a project; undefined where it cannot be had. */
async function fetchDesign(id: string, key: string): Promise<ArrayBuffer | undefined> {
  try {
    const answer = await fetch(`/api/projects/${id}/designs/${key}`);
    return answer.ok ? await answer.arrayBuffer() : undefined;
  } catch {
    return undefined;
  }
}

/** The picture of a project on the shelf; undefined where it cannot be had. */
async function fetchPreview(id: string): Promise<ImageBitmap | undefined> {
  try {
    const answer = await fetch(`/api/projects/${id}/preview`);
    return answer.ok ? await createImageBitmap(await answer.blob()) : undefined;
  } catch {
    return undefined;
  }
}
