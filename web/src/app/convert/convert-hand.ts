import { stashKeys } from '@open-kite/core';
import type { Picture } from '@open-kite/contract';
import { wrap, type Remote } from 'comlink';
import type { Cupboard } from '../cupboard/cupboard';
import type { ConvertWorker } from './convert-protocol';
import type { SpareWorkers } from './spare-workers';

/** A conversion worker beside the one of the open design; whoever takes it ends its thread. */
export interface ConvertHand {
  readonly thread: Worker;
  readonly worker: Remote<ConvertWorker>;
}

export function takeHand(workers: SpareWorkers): ConvertHand {
  const thread = workers.take('convert');
  return { thread, worker: wrap<ConvertWorker>(thread) };
}

/** Gives a hand the threads there are, and the pictures it is to sew. */
export async function readyHand(
  { worker }: ConvertHand,
  cupboard: Cupboard,
  pictures: Readonly<Record<string, Picture>>,
): Promise<void> {
  await cupboard.load();
  await worker.setCupboard(cupboard.all(), [...stashKeys(cupboard.stash())]);
  await worker.open(pictures);
}
