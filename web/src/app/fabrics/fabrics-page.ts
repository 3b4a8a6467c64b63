import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  linkedSignal,
  type OnInit,
  signal,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { MatSnackBar, MatSnackBarModule } from '@angular/material/snack-bar';
import { Router, RouterLink } from '@angular/router';
import type { OwnFabric } from '@open-kite/contract';
import {
  CARD_FIGURES,
  fabricOf,
  FABRICS,
  gauged,
  learnCloth,
  meanPull,
  parseRecipe,
  testCard,
  type Measurement,
  type Point,
} from '@open-kite/core';
import { Ellipsis, ImageUp, LucideAngularModule } from 'lucide-angular';
import { firstValueFrom } from 'rxjs';
import { Api } from '../api/api';
import { MachineApi } from '../machine/machine-api';
import { ChoiceField } from '../shared/choice-field';
import { PageHead } from '../shared/page-head';
import { fileOf } from '../shared/picture-drop';
import { GaugeTable } from './gauge-table';
import { OwnFabrics } from './own-fabrics';
import { PhotoOverlay } from './photo-overlay';
import { PlacesMap } from './places-map';
import { PullChart } from './pull-chart';
import { SewOut } from './sew-out';
import type { SewnShape, SewnSource } from './sew-out-protocol';

const UNDO_MS = 9000;
/** Measuring waits until a place has come to rest. */
const REST_MS = 160;
/** Rows this long stand for a fabric in the list. */
const USUAL_MM = 4.2;
const MOST_BYTES = 60_000_000;

/** How a sew-out is measured. */
type Way = 'photo' | 'gauge';

interface Photo {
  readonly address: string;
  readonly width: number;
  readonly height: number;
  readonly found: boolean;
}

/** Fabrics of the user's own: a test card is sewn, measured on a photograph or with a gauge, and what it says is kept. */
@Component({
  selector: 'kite-fabrics-page',
  imports: [
    ChoiceField,
    FormsModule,
    GaugeTable,
    LucideAngularModule,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatInputModule,
    MatMenuModule,
    MatSnackBarModule,
    PageHead,
    PhotoOverlay,
    PlacesMap,
    PullChart,
    RouterLink,
  ],
  templateUrl: './fabrics-page.html',
  styleUrl: './fabrics-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
  providers: [SewOut],
  host: {
    '(document:paste)': 'dropped($event.clipboardData, $event)',
    '(document:dragover)': '$event.preventDefault()',
    '(document:drop)': 'dropped($event.dataTransfer, $event)',
  },
})
export class FabricsPage implements OnInit {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly machine = inject(MachineApi);
  private readonly snack = inject(MatSnackBar);
  private readonly sewOut = inject(SewOut);
  protected readonly own = inject(OwnFabrics);

  /** A project whose sew-out is measured instead of a card. */
  readonly project = input<string>();
  /** A job of the practice machine to be photographed on one of its cloths, and the fabric that is. */
  readonly job = input<string>();
  readonly cloth = input<string>();
  readonly fabric = input<string>();

  protected readonly icons = { Ellipsis, ImageUp };
  protected readonly known = FABRICS;
  protected readonly figures = CARD_FIGURES;
  protected readonly problem = signal('');
  protected readonly listProblem = signal('');
  protected readonly busy = signal('');

  /** Fabric the card is made for. */
  protected readonly base = linkedSignal(() => fabricOf(this.fabric() ?? FABRICS[2].id));
  protected readonly way = signal<Way>('photo');
  /** What was sewn, and the project it is of, if it is no card. */
  protected readonly shape = signal<SewnShape | undefined>(undefined);
  protected readonly projectName = signal('');
  protected readonly photo = signal<Photo | undefined>(undefined);
  protected readonly corners = signal<readonly Point[]>([]);
  private readonly onPhoto = signal<readonly Measurement[]>([]);
  /** Widths by gauge, by the ids of the card's figures. */
  protected readonly typed = signal<ReadonlyMap<string, number>>(new Map());

  protected readonly measured = computed((): readonly Measurement[] => {
    if (this.way() === 'photo') return this.onPhoto();
    const typed = this.typed();
    return CARD_FIGURES.flatMap((figure) => {
      const sewn = typed.get(figure.id);
      return sewn === undefined ? [] : [gauged(figure, sewn)];
    });
  });
  protected readonly learnt = computed(() => learnCloth('…', this.measured()));
  protected readonly name = signal('');
  /** How much was measured, in words. */
  protected readonly counted = computed(() => {
    const said = (kind: Measurement['kind'], one: string): string => {
      const count = this.measured().filter((m) => m.kind === kind).length;
      return `${count} ${one}${count === 1 ? '' : 's'}`;
    };
    return `${said('width', 'width')}, ${said('length', 'length')}, ${said('gap', 'gap')} measured.`;
  });
  protected readonly hasLengths = computed(() => this.measured().some(({ kind }) => kind === 'length'));
  private rest: ReturnType<typeof setTimeout> | undefined;
  private opening = 0;

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      clearTimeout(this.rest);
      this.forgetPhoto();
    });
    void this.load();
  }

  ngOnInit(): void {
    void this.begin();
  }

  protected usual = ({ measured }: OwnFabric): string => meanPull(measured.pull, USUAL_MM).toFixed(2);
  protected nameOf = (id: string): string => fabricOf(id).name;

  protected async load(): Promise<void> {
    this.listProblem.set('');
    try {
      await this.own.load();
    } catch (error) {
      this.listProblem.set((error as Error).message);
    }
  }

  /** Gets what the address asks for: a project, or a photograph of the practice machine. */
  private async begin(): Promise<void> {
    const project = this.project();
    const job = this.job();
    if (project) await this.openProject(project);
    else await this.openCard(this.base().id);
    if (job) await this.photograph(job);
  }

  private async openProject(id: string): Promise<void> {
    try {
      const { name, designKey, recipe } = await firstValueFrom(this.api.project(id));
      this.projectName.set(name);
      this.base.set(fabricOf(recipe.cloth.fabric));
      if (designKey === null) {
        this.problem.set(`${name} has no finished design yet. Open it once in the studio, and come back.`);
        return;
      }
      await this.open({ kind: 'project', id, designKey });
    } catch (error) {
      this.problem.set(`The project cannot be opened: ${(error as Error).message}.`);
    }
  }

  protected async setBase(id: string): Promise<void> {
    this.base.set(fabricOf(id));
    if (!this.projectName()) await this.openCard(id);
  }

  private openCard(fabric: string): Promise<void> {
    return this.open({ kind: 'card', fabric, hex: fabricOf(fabric).hex });
  }

  private async open(source: SewnSource): Promise<void> {
    const turn = ++this.opening;
    try {
      const shape = await this.sewOut.worker.open(source);
      if (turn !== this.opening) return;
      this.shape.set(shape);
      if (this.corners().length > 0) this.measureSoon();
    } catch (error) {
      this.problem.set(`What was sewn cannot be read: ${(error as Error).message}.`);
    }
  }

  /** A project of the test card, to be sewn. */
  protected async makeCard(): Promise<void> {
    const { id, name, hex } = this.base();
    this.busy.set('card');
    try {
      const recipe = parseRecipe(testCard({ fabric: id, hex }));
      const project = await firstValueFrom(this.api.createVariant(`Test card, ${name.toLowerCase()}`, recipe, {}));
      await this.router.navigate(['/project', project.id]);
    } catch (error) {
      this.problem.set(`The card was not made: ${(error as Error).message}.`);
    } finally {
      this.busy.set('');
    }
  }

  // The photograph.

  protected chosen(event: Event): void {
    const field = event.target as HTMLInputElement;
    const file = field.files?.[0];
    field.value = '';
    if (file) void this.read(file);
  }

  protected dropped(data: DataTransfer | null, event: Event): void {
    const file = fileOf(data);
    if (!file) return;
    event.preventDefault();
    this.way.set('photo');
    void this.read(file);
  }

  private async photograph(job: string): Promise<void> {
    this.busy.set('photo');
    try {
      await this.read(await this.machine.photo(job, this.cloth() ?? ''));
    } catch (error) {
      this.problem.set(`No photograph was taken: ${(error as Error).message}.`);
    } finally {
      this.busy.set('');
    }
  }

  private async read(file: Blob): Promise<void> {
    this.problem.set('');
    if (file.size > MOST_BYTES) {
      this.problem.set('The photograph is too large (at most 60 MB).');
      return;
    }
    this.busy.set('photo');
    try {
      const { width, height, corners } = await this.sewOut.worker.read(file);
      this.forgetPhoto();
      this.photo.set({ address: URL.createObjectURL(file), width, height, found: corners !== undefined });
      this.corners.set(corners ?? inset(width, height));
      this.onPhoto.set([]);
      if (corners) await this.measure();
    } catch (error) {
      this.problem.set(`The photograph cannot be used: ${(error as Error).message}. Nothing was changed.`);
    } finally {
      this.busy.set('');
    }
  }

  private forgetPhoto(): void {
    const before = this.photo();
    if (before) URL.revokeObjectURL(before.address);
  }

  protected moved(corners: readonly Point[]): void {
    this.corners.set(corners);
    this.measureSoon();
  }

  private measureSoon(): void {
    clearTimeout(this.rest);
    this.rest = setTimeout(() => void this.measure(), REST_MS);
  }

  private async measure(): Promise<void> {
    const corners = this.corners();
    if (!this.photo()) return;
    try {
      const measured = await this.sewOut.worker.measure(corners);
      if (this.corners() === corners) this.onPhoto.set(measured);
    } catch {
      // Places on one line lay nothing over anything: there is nothing to read until they are moved.
      this.onPhoto.set([]);
    }
  }

  // With a gauge.

  protected gauge(id: string, mm: number | undefined): void {
    const next = new Map(this.typed());
    if (mm === undefined) next.delete(id);
    else next.set(id, mm);
    this.typed.set(next);
  }

  // What is kept.

  protected async keep(): Promise<void> {
    const learnt = learnCloth(this.name().trim().slice(0, 80), this.measured());
    const { id, hex } = this.base();
    if (!learnt || learnt.name === '') return;
    this.busy.set('keep');
    try {
      await this.own.add({ fabric: id, hex, measured: learnt });
      this.name.set('');
      this.snack.open(`“${learnt.name}” is kept: it is among the fabrics of every project.`, undefined, {
        duration: UNDO_MS,
      });
    } catch (error) {
      this.problem.set(`The fabric was not kept: ${(error as Error).message}.`);
    } finally {
      this.busy.set('');
    }
  }

  protected async rename(fabric: OwnFabric, event: Event): Promise<void> {
    const field = event.target as HTMLInputElement;
    const name = field.value.trim().slice(0, 80);
    if (name === '' || name === fabric.measured.name) field.value = fabric.measured.name;
    else await this.attempt(() => this.own.rename(fabric, name));
  }

  protected async remove({ id, measured }: OwnFabric): Promise<void> {
    if (!(await this.attempt(() => this.own.remove(id)))) return;
    this.snack
      .open(`“${measured.name}” was taken out. Projects that use it keep it.`, 'Undo', { duration: UNDO_MS })
      .onAction()
      .subscribe(() => void this.attempt(() => this.own.restore(id)));
  }

  private async attempt(act: () => Promise<void>): Promise<boolean> {
    try {
      await act();
      return true;
    } catch (error) {
      this.snack.open(`Nothing was changed: ${(error as Error).message}.`, undefined, { duration: 7000 });
      return false;
    }
  }
}

/** Where places stand on a photograph until somebody puts them right. */
function inset(width: number, height: number): Point[] {
  const [x, y] = [width * 0.15, height * 0.15];
  return [
    { x, y },
    { x: width - x, y },
    { x: width - x, y: height - y },
    { x, y: height - y },
  ];
}
