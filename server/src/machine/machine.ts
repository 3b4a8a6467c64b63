import { randomUUID } from 'node:crypto';
import {
  HOOPS,
  readStitchList,
  refusals,
  writeStitchList,
  type Hoop,
  type MachinePace,
  type Sewing,
} from '@open-kite/core';
import type { Machine, MachineAction, MachineJob, MachineSettings } from '@open-kite/contract';
import type { MachineStore, StoredJob } from '../store/machine.js';
import { UserError } from '../user-error.js';
import { NEW_PROGRESS, SewingJob } from './sewing-job.js';

const FIRST: MachineSettings = { needles: 1, hoop: '130x180', speed: 800, timeScale: 1 };
/** How often it is looked how far the needle is: no more than this is lost by a cut. */
const TICK_MS = 100;
/** Jobs that are kept after they are done, and that may wait. */
const KEPT_DONE = 40;
const MOST_WAITING = 200;
const MOST_NAME = 120;

/** Somebody who hears of every change of a job. */
export type JobListener = (job: MachineJob) => void;

/** Where time comes from; another in tests. */
export interface Clock {
  readonly now: () => number;
  readonly every: (ms: number, work: () => void) => () => void;
}

const realClock: Clock = {
  now: () => performance.now(),
  every: (ms, work) => {
    const timer = setInterval(work, ms);
    timer.unref();
    return () => clearInterval(timer);
  },
};

/** The practice machine: sews one job at a time, in the order they came, and remembers where it was. */
export class PracticeMachine {
  private settings: MachineSettings;
  private readonly listeners = new Set<JobListener>();
  private current: SewingJob | undefined;
  private readonly said = new Map<string, { readonly key: string; readonly job: MachineJob }>();
  private stopTicking: (() => void) | undefined;
  private last = 0;

  constructor(
    private readonly store: MachineStore,
    private readonly clock: Clock = realClock,
  ) {
    this.settings = store.settings() ?? FIRST;
    // What was under way when the server was cut off stands still at its stitch.
    for (const { id, progress } of store.jobs()) {
      if (progress.state === 'sewing') store.setProgress(id, { ...progress, state: 'paused' });
    }
    this.take();
  }

  describe(): Machine {
    const { needles, ...settings } = this.settings;
    const threads = this.current?.sewing.threads ?? [];
    const used = [...new Set(this.current ? Array.from(this.current.sewing.stitches.thread) : [])];
    return {
      ...settings,
      needles: Array.from({ length: needles }, (_, i) => ({
        needle: i + 1,
        hex:
          needles === 1
            ? (threads[this.current?.describe(this.pace()).thread ?? -1]?.hex ?? null)
            : (threads[used[i] ?? -1]?.hex ?? null),
      })),
      hoops: HOOPS.map(({ id, name, widthMm, heightMm }) => ({ id, name, widthMm, heightMm })),
      state: this.current?.progress.state ?? 'idle',
      job: this.current?.id ?? null,
      queue: this.waiting()
        .map(({ id }) => id)
        .filter((id) => id !== this.current?.id),
    };
  }

  /** @throws UserError while a job is being sewn, or for a hoop there is none of */
  configure(settings: MachineSettings): void {
    if (!HOOPS.some(({ id }) => id === settings.hoop)) {
      throw new UserError(
        400,
        `there is no hoop "${settings.hoop}"; known are ${HOOPS.map(({ id }) => id).join(', ')}`,
      );
    }
    const { needles, hoop } = this.settings;
    const begun = this.current !== undefined && !['ready', 'done'].includes(this.current.progress.state);
    if (begun && (needles !== settings.needles || hoop !== settings.hoop)) {
      throw new UserError(409, 'needles and hoop stay while a job is under the needle');
    }
    this.advance();
    this.settings = settings;
    this.store.setSettings(settings);
    if (this.current) this.tell(this.current);
  }

  /** Takes a job. @throws UserError 422 with every reason why it cannot be sewn */
  add(name: string, sewing: Sewing): string {
    const reasons = refusals(sewing, this.hoop(), this.settings.needles);
    if (reasons.length > 0) {
      throw new UserError(422, `the machine does not take it: ${reasons.join('; ')}`, { reasons });
    }
    if (this.waiting().length >= MOST_WAITING) throw new UserError(503, `${MOST_WAITING} jobs are waiting already`);
    const id = randomUUID();
    this.store.add(id, name.trim().slice(0, MOST_NAME) || 'Job', writeStitchList(sewing), NEW_PROGRESS);
    this.store.forgetDone(KEPT_DONE);
    this.take();
    this.tell(this.find(id));
    return id;
  }

  /** @throws UserError 404 */
  job(id: string): MachineJob {
    if (this.current?.id === id) this.advance();
    return this.find(id).describe(this.pace());
  }

  /** The stitch list of a job. @throws UserError 404 */
  list(id: string): string {
    const list = this.store.list(id);
    if (list === undefined) throw new UserError(404, `there is no job ${id.slice(0, 60)}`);
    return list;
  }

  /** Jobs in the order they came, those that are done included. */
  jobs(): MachineJob[] {
    this.advance();
    return this.store.jobs().map((stored) => {
      // The lists of jobs that lie about are not read again for every look.
      const key = JSON.stringify([stored.progress, this.pace()]);
      const known = this.said.get(stored.id);
      if (known?.key === key && this.current?.id !== stored.id) return known.job;
      const job = this.open(stored).describe(this.pace());
      this.said.set(stored.id, { key, job });
      return job;
    });
  }

  /** @throws UserError 404, or 409 where that cannot be done now */
  act(id: string, action: MachineAction): MachineJob {
    this.advance();
    const job = this.find(id);
    if (action === 'start' && this.current && this.current.id !== id && this.current.progress.state !== 'done') {
      throw new UserError(409, `"start" cannot be done now: ${this.current.name} is under the needle`);
    }
    job.act(action);
    if (action === 'start') this.current = job;
    this.store.setProgress(id, job.progress);
    this.last = this.clock.now();
    this.tick();
    this.tell(job);
    if (job.progress.state === 'done') this.take();
    return job.describe(this.pace());
  }

  listen(listener: JobListener): () => void {
    this.listeners.add(listener);
    if (this.current) listener(this.current.describe(this.pace()));
    return () => this.listeners.delete(listener);
  }

  close(): void {
    this.advance();
    this.current?.interrupted();
    if (this.current) this.store.setProgress(this.current.id, this.current.progress);
    this.stopTicking?.();
    this.listeners.clear();
  }

  private pace(): MachinePace {
    return { speed: this.settings.speed, needles: this.settings.needles };
  }

  private hoop(): Hoop {
    const known = HOOPS.find(({ id }) => id === this.settings.hoop);
    if (!known) throw new UserError(503, `the hoop ${this.settings.hoop} is gone`);
    return known;
  }

  private waiting(): StoredJob[] {
    return this.store.jobs().filter(({ progress }) => progress.state !== 'done');
  }

  private find(id: string): SewingJob {
    const stored = this.store.jobs().find((job) => job.id === id);
    if (!stored) throw new UserError(404, `there is no job ${id.slice(0, 60)}`);
    return this.open(stored);
  }

  private open({ id, name, progress }: StoredJob): SewingJob {
    if (this.current?.id === id) return this.current;
    return new SewingJob(id, name, readStitchList(this.list(id)), progress);
  }

  /** Puts the next job under the needle where there is none, or one that is done. */
  private take(): void {
    if (this.current && this.current.progress.state !== 'done') return;
    const [next] = this.waiting();
    if (next) this.current = this.open(next);
  }

  /** Sews on for the time that has passed, and remembers how far it came. */
  private advance(): void {
    const job = this.current;
    if (!job || stateOf(job) !== 'sewing') return;
    const now = this.clock.now();
    const before = job.progress.row;
    job.advance(((now - this.last) / 1000) * this.settings.timeScale, this.pace());
    this.last = now;
    if (job.progress.row === before && stateOf(job) === 'sewing') return;
    this.store.setProgress(job.id, job.progress);
    this.tell(job);
    if (stateOf(job) === 'done') this.take();
  }

  private tick(): void {
    if (this.stopTicking || this.current?.progress.state !== 'sewing') return;
    this.stopTicking = this.clock.every(TICK_MS, () => {
      this.advance();
      if (this.current?.progress.state === 'sewing') return;
      this.stopTicking?.();
      this.stopTicking = undefined;
    });
  }

  private tell(job: SewingJob): void {
    const said = job.describe(this.pace());
    for (const listener of this.listeners) listener(said);
  }
}

/** What a job is doing; it changes while it is looked at. */
const stateOf = (job: SewingJob): MachineJob['state'] => job.progress.state;
