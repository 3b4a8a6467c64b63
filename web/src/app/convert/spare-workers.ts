import { Injectable } from '@angular/core';
import type { Picture } from '@open-kite/contract';
import { wrap, type Remote } from 'comlink';
import { DRAWERS, type ConvertWorker } from './convert-protocol';

/** What each kind of worker is started with. */
const MAKERS = {
  convert: () => new Worker(new URL('./convert.worker', import.meta.url), { type: 'module' }),
  picture: () => new Worker(new URL('./picture.worker', import.meta.url), { type: 'module' }),
  draw: () => new Worker(new URL('../studio/stage/draw.worker', import.meta.url), { type: 'module' }),
} as const;

export type WorkerKind = keyof typeof MAKERS;

/** Workers of each kind that one project needs. */
const NEEDED: Readonly<Record<WorkerKind, number>> = { convert: 1, picture: 1, draw: DRAWERS };

/** Workers that have loaded their code before a project is opened: that takes longer than most of what they do then. */
@Injectable({ providedIn: 'root' })
export class SpareWorkers {
  private readonly spares = new Map<WorkerKind, Worker[]>();
  /** What speaks to a worker is kept as long as that: a worker whose last listener is gone hears nobody any more. */
  private readonly remotes = new WeakMap<Worker, Remote<ConvertWorker>>();
  private planned = false;

  /** A worker nobody else has; whoever takes it ends it. */
  take(kind: WorkerKind): Worker {
    return this.spares.get(kind)?.pop() ?? MAKERS[kind]();
  }

  /** Has the worker that is taken next fetch a picture, while the project it belongs to is still being made. */
  fetchAhead(picture: Picture): void {
    const next = this.spares.get('convert')?.at(-1);
    if (next) void this.speak(next).fetchAhead(picture);
  }

  private speak(worker: Worker): Remote<ConvertWorker> {
    const remote = this.remotes.get(worker) ?? wrap<ConvertWorker>(worker);
    this.remotes.set(worker, remote);
    return remote;
  }

  /** Starts what one project needs, once nothing else is to be done. */
  prepare(): void {
    if (this.planned) return;
    this.planned = true;
    requestIdleCallback(
      () => {
        this.planned = false;
        for (const kind of Object.keys(NEEDED) as WorkerKind[]) {
          const waiting = this.spares.get(kind) ?? [];
          while (waiting.length < NEEDED[kind]) {
            const worker = MAKERS[kind]();
            if (kind === 'convert') void this.speak(worker).getReady();
            waiting.push(worker);
          }
          this.spares.set(kind, waiting);
        }
      },
      { timeout: 2000 },
    );
  }
}
