import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { MatSnackBar, MatSnackBarModule } from '@angular/material/snack-bar';
import { RouterLink } from '@angular/router';
import type { PracticeClothName, Machine, MachineAction, MachineJob, MachineSettings } from '@open-kite/contract';
import { threadRunsOf, type Sewing } from '@open-kite/core';
import { ChoiceField } from '../shared/choice-field';
import { PageHead } from '../shared/page-head';
import { saveFile } from '../shared/save-file';
import { formatCount } from '../shared/units';
import { MachineApi } from './machine-api';
import { SewnCanvas } from './sewn-canvas';

/** How often everything is read again; the job under the needle tells of itself. */
const LOOK_MS = 4000;
const SPEEDS = [400, 600, 800, 1000] as const;
const SCALES = [1, 10, 50, 200, 1000, 100_000] as const;

/** What the operator is told in each state. */
const SAID: Readonly<Record<MachineJob['state'], string>> = {
  idle: 'Nothing to sew',
  ready: 'Ready',
  sewing: 'Sewing',
  waiting: 'Waits for you',
  paused: 'Paused',
  broken: 'Thread broken',
  done: 'Done',
};

interface Act {
  readonly action: MachineAction;
  readonly label: string;
  readonly first: boolean;
}

/** The practice machine: a simulated one that sews what the Sew step hands over. */
@Component({
  selector: 'kite-machine-page',
  imports: [
    ChoiceField,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatSelectModule,
    MatSnackBarModule,
    PageHead,
    RouterLink,
    SewnCanvas,
  ],
  templateUrl: './machine-page.html',
  styleUrl: './machine-page.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MachinePage {
  private readonly api = inject(MachineApi);
  private readonly snack = inject(MatSnackBar);

  protected readonly machine = signal<Machine | undefined>(undefined);
  protected readonly jobs = signal<readonly MachineJob[]>([]);
  protected readonly problem = signal('');
  /** The job that is looked at: the one under the needle unless another was chosen. */
  private readonly chosenId = signal<string | undefined>(undefined);
  protected readonly sewing = signal<Sewing | undefined>(undefined);
  protected readonly count = formatCount;
  protected readonly speeds = SPEEDS;
  protected readonly scales = SCALES;
  protected readonly said = SAID;

  protected readonly job = computed(() => {
    const jobs = this.jobs();
    const id = this.chosenId() ?? this.machine()?.job ?? undefined;
    return jobs.find((job) => job.id === id) ?? jobs.at(-1);
  });
  /** Cloths what was sewn is photographed on. */
  protected readonly cloths = signal<readonly PracticeClothName[]>([]);
  protected readonly clothId = signal('');
  /** The one that was chosen; else one of the fabric the job was made for. */
  protected readonly cloth = computed(() => {
    const cloths = this.cloths();
    const chosen = cloths.find(({ id }) => id === this.clothId());
    return chosen ?? cloths.find(({ fabric }) => fabric === this.sewing()?.fabric.id) ?? cloths.at(0);
  });
  protected readonly photographing = signal(false);
  private readonly shownId = computed(() => this.job()?.id);
  protected readonly hoop = computed(() => {
    const machine = this.machine();
    return machine?.hoops.find(({ id }) => id === machine.hoop) ?? { widthMm: 130, heightMm: 180, id: '', name: '' };
  });

  /** Lengths of thread as they are sewn, each as a share of all. */
  protected readonly runs = computed(() => {
    const sewing = this.sewing();
    const job = this.job();
    if (!sewing || !job) return [];
    return threadRunsOf(sewing.stitches).map(({ thread, from, to, stitches }) => ({
      hex: sewing.threads[thread]?.hex ?? '#888888',
      name: sewing.threads[thread]?.name || sewing.threads[thread]?.code || `Thread ${thread + 1}`,
      thread,
      stitches,
      state: job.row >= to ? 'done' : job.row >= from ? 'now' : 'next',
    }));
  });
  protected readonly share = computed(() => {
    const job = this.job();
    return job && job.stitches > 0 ? job.stitch / job.stitches : 0;
  });

  /** What the operator can do now, most likely first. */
  protected readonly acts = computed((): Act[] => {
    const job = this.job();
    if (!job) return [];
    const stop: Act = { action: 'stop', label: 'End the job', first: false };
    switch (job.state) {
      case 'ready':
        return this.machine()?.job === job.id ? [{ action: 'start', label: 'Start', first: true }, stop] : [stop];
      case 'sewing':
        return [
          { action: 'pause', label: 'Pause', first: true },
          { action: 'break', label: 'Break the thread', first: false },
          stop,
        ];
      case 'paused':
        return [{ action: 'resume', label: 'Go on', first: true }, stop];
      case 'waiting':
        return job.waitsFor === 'thread'
          ? [{ action: 'threaded', label: 'Threaded, go on', first: true }, stop]
          : [{ action: 'continue', label: 'Done, go on', first: true }, stop];
      case 'broken':
        return [{ action: 'mended', label: 'Threaded again, go on', first: true }, stop];
      default:
        return [];
    }
  });

  /** What the machine waits for, in a sentence. */
  protected readonly asks = computed(() => {
    const job = this.job();
    if (job?.waitsFor === 'thread') {
      const next = this.runs().find(({ state }) => state !== 'done');
      return next
        ? `Put in ${next.name.includes(next.hex) ? next.name : `${next.name} ${next.hex}`}.`
        : 'Put in the next thread.';
    }
    if (job?.waitsFor === 'stop') return 'A stop of the design: lay the cloth, or cut it away.';
    if (job?.waitsFor === 'mend') return 'Thread the needle again. It goes back a few stitches by itself.';
    return '';
  });

  constructor() {
    void this.load();
    void this.api.cloths().then(
      (cloths) => this.cloths.set(cloths),
      () => undefined,
    );
    const timer = setInterval(() => void this.load(), LOOK_MS);
    const stop = this.api.listen(
      (job) => this.heard(job),
      () => undefined,
    );
    inject(DestroyRef).onDestroy(() => {
      clearInterval(timer);
      stop();
    });
    effect(() => {
      const id = this.shownId();
      untracked(() => void this.open(id));
    });
  }

  protected async load(): Promise<void> {
    try {
      const [machine, jobs] = await Promise.all([this.api.machine(), this.api.jobs()]);
      this.machine.set(machine);
      this.jobs.set(jobs);
      this.problem.set('');
    } catch (error) {
      this.problem.set((error as Error).message);
    }
  }

  protected look(job: MachineJob): void {
    this.chosenId.set(job.id);
  }

  protected async perform(action: MachineAction): Promise<void> {
    const job = this.job();
    if (!job) return;
    try {
      this.heard(await this.api.act(job.id, action));
      await this.load();
    } catch (error) {
      this.snack.open((error as Error).message, undefined, { duration: 6000 });
    }
  }

  protected async set(change: Partial<MachineSettings>): Promise<void> {
    const now = this.machine();
    if (!now) return;
    const { hoop, speed, timeScale, needles } = now;
    try {
      this.machine.set(
        await this.api.configure({ hoop, speed, timeScale, needles: needles.length === 6 ? 6 : 1, ...change }),
      );
    } catch (error) {
      this.snack.open((error as Error).message, undefined, { duration: 6000 });
      // What was refused is shown as it is.
      await this.load();
    }
  }

  protected async photograph({ id, name }: MachineJob, cloth: string): Promise<void> {
    this.photographing.set(true);
    try {
      saveFile(await this.api.photo(id, cloth), `${name} sewn`, 'png');
    } catch (error) {
      this.snack.open(`No photograph was taken: ${(error as Error).message}.`, undefined, { duration: 6000 });
    } finally {
      this.photographing.set(false);
    }
  }

  private heard(job: MachineJob): void {
    this.jobs.update((jobs) =>
      jobs.some(({ id }) => id === job.id) ? jobs.map((own) => (own.id === job.id ? job : own)) : [...jobs, job],
    );
    const machine = this.machine();
    if (machine?.job === job.id && machine.state !== job.state) this.machine.set({ ...machine, state: job.state });
  }

  private async open(id: string | undefined): Promise<void> {
    this.sewing.set(undefined);
    if (id === undefined) return;
    try {
      const sewing = await this.api.list(id);
      if (this.shownId() === id) this.sewing.set(sewing);
    } catch (error) {
      this.problem.set((error as Error).message);
    }
  }
}
