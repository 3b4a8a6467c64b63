import { Worker } from 'node:worker_threads';
import { busyThreads } from './busy-threads.js';

/** What a thread with these limits says: its room for young objects, and how long a hot loop's result is. */
const told = (threads: number): Promise<readonly [youngMb: number, sum: number]> =>
  new Promise((resolve, reject) => {
    const code = `
      const { parentPort, resourceLimits } = require('node:worker_threads');
      const add = (n) => { let sum = 0; for (let i = 0; i < n; i++) sum += i % 7; return sum; };
      parentPort.postMessage([resourceLimits.maxYoungGenerationSizeMb, add(3e6)]);`;
    const worker = new Worker(code, { eval: true, resourceLimits: busyThreads(threads) });
    worker.once('message', resolve);
    worker.once('error', reject);
  });

describe('busyThreads', () => {
  it('gives threads room for young objects, on one processor and on all of them', async () => {
    const idle = new Worker('0', { eval: true });
    const usual = idle.resourceLimits?.maxYoungGenerationSizeMb ?? 0;
    await idle.terminate();
    for (const threads of [1, 1024]) {
      const [youngMb, sum] = await told(threads);
      expect(youngMb).toBeGreaterThan(usual);
      expect(sum).toBe(8_999_994);
    }
  });
});
