import { fileURLToPath } from 'node:url';
import pLimit from 'p-limit';
import { Piscina } from 'piscina';
import type { Recipe } from '@open-kite/core';
import { claimedPixels } from '../pictures/claimed-pixels.js';
import { UserError } from '../user-error.js';
import type { Outcome, ReadJob, ReadPicture, ReadProject, ReadUpload, WorksheetJob } from './read-picture.js';

const WORKER = fileURLToPath(new URL('./read-picture.js', import.meta.url));
/** What takes longer is stopped: by then it is no picture anybody drew. */
const MOST_MS = 9_000;
const MOST_MS_LARGE = 30_000;
/** Pictures of more pixels are read one at a time: each takes as much memory as all the small ones. */
const LARGE_PIXELS = 8_000_000;
const THREADS = 2;
const HEAP_MB = 512;
/** Recipes of so many uploads are kept at hand. */
const MOST_REMEMBERED = 16;
/** Pictures that wait at most. */
const MOST_WAITING = 200;

/** Reads what people upload in threads that can be stopped, never in the server's own. */
export interface ReadingPool {
  /** Somebody is there who may upload something soon: the first thread starts. */
  getReady(): void;
  /** @throws UserError that says what is wrong with the file, or that it takes too long */
  picture(bytes: Buffer): Promise<ReadPicture>;
  /** The recipe a picture starts with. @throws UserError */
  firstRecipe(picture: ReadPicture): Promise<Recipe>;
  /** Reads a project archive with its pictures. @throws UserError that says what is wrong with it */
  archive(bytes: Buffer): Promise<ReadProject>;
  /** A worksheet as PDF. @throws UserError */
  worksheet(job: WorksheetJob): Promise<Uint8Array>;
  /** What an archive sews. @throws UserError */
  job(bytes: Buffer): Promise<ReadJob>;
  /** @throws UserError where it cannot be unpacked */
  checkDesign(packed: Buffer): Promise<void>;
  /** @throws UserError where it is no small PNG */
  checkPreview(png: Buffer): Promise<void>;
  close(): Promise<void>;
}

/** @param limits how long a small and a large picture may take, in milliseconds */
export function createReadingPool(
  limits: readonly [small: number, large: number] = [MOST_MS, MOST_MS_LARGE],
): ReadingPool {
  let pool: Piscina | undefined;
  let closed = false;
  const started = (): Piscina =>
    (pool ??= new Piscina({
      filename: WORKER,
      minThreads: 0,
      maxThreads: THREADS,
      idleTimeout: Infinity,
      // A thread that waits for its next task must let what sharp has begun go on.
      atomics: 'disabled',
      resourceLimits: { maxOldGenerationSizeMb: HEAP_MB },
    }));
  const small = pLimit(THREADS);
  const large = pLimit(1);

  /** Runs a task in its turn; its time counts from its own beginning. */
  async function run<T>(name: string, task: unknown, pixels: number, what: string): Promise<T> {
    const isLarge = pixels > LARGE_PIXELS;
    if (small.pendingCount + large.pendingCount >= MOST_WAITING) {
      throw new UserError(503, 'too many pictures are being read; try again in a minute');
    }
    const inTurn = isLarge ? (work: () => Promise<Outcome<T>>) => large(() => small(work)) : small;
    const done = await inTurn(async (): Promise<Outcome<T>> => {
      const most = limits[isLarge ? 1 : 0];
      try {
        return (await started().run(task, { name, signal: AbortSignal.timeout(most) })) as Outcome<T>;
      } catch (error) {
        throw stopped(error, what, most);
      }
    });
    if ('refused' in done) throw new UserError(done.refused.status as UserError['status'], done.refused.message);
    return done.value;
  }

  // What was just uploaded becomes a project at once: it is not read a second time for that.
  const first = new Map<string, Recipe>();
  const remember = (hash: string, recipe: Recipe): void => {
    first.delete(hash);
    first.set(hash, recipe);
    for (const [oldest] of first) if (first.size > MOST_REMEMBERED) first.delete(oldest);
  };

  return {
    // What goes wrong here goes wrong with the first upload as well, and is told there.
    getReady: () => {
      if (!pool && !closed) void run<true>('getReady', null, 0, 'nothing').catch(() => undefined);
    },
    picture: async (bytes) => {
      const { recipe, ...picture } = await run<ReadUpload>(
        'readPicture',
        bytes,
        await claimedPixels(bytes),
        'the file',
      );
      remember(picture.hash, recipe);
      return picture;
    },
    firstRecipe: async ({ hash, kind, png, source, width, height }) =>
      first.get(hash) ?? run('startRecipe', { kind, png, source }, width * height, 'the picture'),
    // Its pictures may be large ones.
    worksheet: (job) => run('drawWorksheet', job, LARGE_PIXELS + 1, 'the worksheet'),
    job: (bytes) => run('readJob', bytes, 0, 'the archive'),
    archive: (bytes) => run('readProject', bytes, LARGE_PIXELS + 1, 'the archive'),
    checkDesign: async (packed) => void (await run<true>('checkDesign', packed, 0, 'the design')),
    checkPreview: async (png) => void (await run<true>('checkPreview', png, 0, 'the preview')),
    close: async () => {
      closed = true;
      await pool?.destroy();
      pool = undefined;
    },
  };
}

/** What a task that did not end by itself says. */
function stopped(error: unknown, what: string, most: number): unknown {
  const { name, code } = error as { name?: string; code?: string };
  if (name === 'AbortError' || name === 'TimeoutError') {
    return new UserError(422, `${what} takes too long to read (over ${most / 1000} seconds): it is too complicated`);
  }
  if (code === 'ERR_WORKER_OUT_OF_MEMORY') {
    return new UserError(422, `${what} needs too much memory to read: it is too complicated`);
  }
  return error;
}
