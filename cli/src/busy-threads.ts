import { cpus } from 'node:os';
import { setFlagsFromString } from 'node:v8';
import type { ResourceLimits } from 'node:worker_threads';

/** A conversion makes many objects that live shortly: with so much room for them they are cleared away far less often. */
const YOUNG_MB = 96;

/**
 * Limits for threads that convert for a long time. Where they take every processor there is, threads that begin after this
 * compile for themselves: helpers of V8 would only take turns with them, and compile more than is ever run.
 */
export function busyThreads(threads: number): ResourceLimits {
  if (threads >= cpus().length) setFlagsFromString('--no-concurrent-recompilation');
  return { maxYoungGenerationSizeMb: YOUNG_MB };
}
