import { Injectable, type OnDestroy } from '@angular/core';
import { wrap, type Remote } from 'comlink';
import type { SewOutWorker } from './sew-out-protocol';

/** The worker that reads photographs of sewn designs. */
@Injectable()
export class SewOut implements OnDestroy {
  private readonly thread = new Worker(new URL('./sew-out.worker', import.meta.url), { type: 'module' });
  readonly worker: Pick<Remote<SewOutWorker>, 'open' | 'read' | 'measure'> = wrap<SewOutWorker>(this.thread);

  ngOnDestroy(): void {
    this.thread.terminate();
  }
}
