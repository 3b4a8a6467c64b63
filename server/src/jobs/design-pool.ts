import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { PictureStore } from '../store/pictures.js';
import type { ProjectStore, StoredProject } from '../store/projects.js';
import type { Chart } from '@open-kite/core';
import type { ArchiveJob, DesignJob, MadeDesign, PhotoJob, SampleJob } from './make-design.js';

const WORKER = fileURLToPath(new URL('./make-design.js', import.meta.url));
/** Threads at most; one is left to the server itself. */
const THREADS = 2;
/** Threads end when there has been nothing to do for so long. */
const IDLE_MS = 5_000;

/** Makes designs of projects in worker threads, and stores them; tells which are still being made. */
export interface DesignPool {
  readonly making: (id: string) => boolean;
  /** Makes a project's design, its picture and figures for the shelf. */
  make(id: string): Promise<void>;
  /** The archive of a project: everything in it, and its stitches. @throws UserError 404 */
  archive(id: string): Promise<{ readonly name: string; readonly bytes: Uint8Array }>;
  /** Sews a small sample away from the server's own thread, and gives its picture. */
  sample(job: SampleJob): Promise<Uint8Array>;
  /** Photographs a stitch list that was sewn on a practice cloth. */
  photo(job: PhotoJob): Promise<Uint8Array>;
  close(): Promise<void>;
}

/** Threads there are to choose from: charts, and what of them lies in the drawer. */
export interface ThreadsAtHand {
  readonly charts: readonly Chart[];
  readonly stash: readonly string[];
}

export function createDesignPool(
  projects: ProjectStore,
  pictures: PictureStore,
  threads: () => ThreadsAtHand,
): DesignPool {
  let pool: Piscina<DesignJob, MadeDesign> | undefined;
  const under = new Set<string>();
  const started = (): Piscina<DesignJob, MadeDesign> =>
    (pool ??= new Piscina<DesignJob, MadeDesign>({
      filename: WORKER,
      name: 'makeDesign',
      minThreads: 0,
      maxThreads: THREADS,
      idleTimeout: IDLE_MS,
    }));
  const jobOf = ({ recipe, pictures: hashes }: StoredProject): DesignJob => ({
    recipe,
    ...threads(),
    pictures: Object.entries(hashes).map(([source, hash]) => {
      const { png, kind, source: file } = pictures.get(hash);
      return { source, hash, png, kind, file };
    }),
  });
  return {
    making: (id) => under.has(id),
    make: async (id) => {
      under.add(id);
      try {
        const made = await started().run(jobOf(projects.get(id)));
        projects.setDesign(id, made.key, Buffer.from(made.packed));
        projects.setPreview(id, Buffer.from(made.preview), { ...made.figures });
      } finally {
        under.delete(id);
      }
    },
    archive: async (id) => {
      const project = projects.get(id);
      const { name, designKey: key } = project;
      const stored = key === null ? undefined : { key, packed: projects.design(id, key) };
      const job: ArchiveJob = { ...jobOf(project), name, stored };
      const bytes = await (started().run(job, { name: 'makeArchive' }) as Promise<unknown> as Promise<Uint8Array>);
      return { name, bytes };
    },
    sample: (job) => started().run(job as never, { name: 'sewSample' }) as Promise<unknown> as Promise<Uint8Array>,
    photo: (job) => started().run(job as never, { name: 'photograph' }) as Promise<unknown> as Promise<Uint8Array>,
    close: async () => {
      await pool?.destroy();
      pool = undefined;
    },
  };
}
