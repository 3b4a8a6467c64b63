import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { pino } from 'pino';
import type { Chart } from '@open-kite/core';
import { createApp } from './app.js';
import { CHART_FOLDER, readCharts, ROOT } from './charts.js';
import { createDesignPool, type DesignPool } from './jobs/design-pool.js';
import { createCupboardStore, type CupboardStore } from './store/cupboard.js';
import { openDatabase } from './store/database.js';
import { createPictureStore, type PictureStore } from './store/pictures.js';
import { createProjectStore, type ProjectStore } from './store/projects.js';

/** Folder of the built interface. */
export const WEB_FOLDER = join(ROOT, 'web', 'dist', 'browser');

export interface ServeOptions {
  /** 0 takes any free port. */
  readonly port: number;
  readonly host?: string;
  /** Folder of the store; `:memory:` keeps nothing. */
  readonly data: string;
  readonly logLevel?: string;
  /** Fills an empty store, while the server already answers. */
  readonly seed?: (stores: Stores) => Promise<void>;
}

export interface Stores {
  readonly pictures: PictureStore;
  readonly projects: ProjectStore;
  readonly cupboard: CupboardStore;
  readonly charts: readonly Chart[];
  readonly designs: DesignPool;
}

export interface RunningServer {
  readonly address: string;
  readonly stores: Stores;
  /** Settles when the store is filled, if it had to be. */
  readonly seeded: Promise<void>;
  close(): Promise<void>;
}

/** Opens the store, fills it if it is empty, and listens. On 127.0.0.1 unless told otherwise. */
export async function serve(options: ServeOptions): Promise<RunningServer> {
  const db = openDatabase(options.data === ':memory:' ? options.data : join(options.data, 'open-kite.sqlite'));
  try {
    const now = (): string => new Date().toISOString();
    const pictures = createPictureStore(db, now);
    const projects = createProjectStore(db, now);
    const cupboard = createCupboardStore(db, now);
    const charts = readCharts(CHART_FOLDER);
    const designs = createDesignPool(projects, pictures, charts);
    const stores: Stores = { pictures, projects, cupboard, charts, designs };
    const log = pino({ level: options.logLevel ?? 'warn' });
    const app = createApp({ ...stores, log, webFolder: WEB_FOLDER });
    const host = options.host ?? '127.0.0.1';
    const server = await new Promise<Server>((resolve, reject) => {
      const listening: Server = app.listen(options.port, host, (error?: Error) =>
        error ? reject(error) : resolve(listening),
      );
    });
    const { port } = server.address() as AddressInfo;
    let closing = false;
    const seeded = (projects.list().length === 0 ? options.seed?.(stores) : undefined) ?? Promise.resolve();
    // Whoever waits for it hears why; a server that is closed meanwhile is no fault.
    seeded.catch((error: unknown) => closing || log.error(error));
    return {
      address: `http://${host}:${port}`,
      stores,
      seeded,
      close: async () => {
        closing = true;
        await designs.close();
        await seeded.catch(() => undefined);
        await new Promise<void>((resolve) => {
          server.close(() => {
            db.close();
            resolve();
          });
          server.closeAllConnections();
        });
      },
    };
  } catch (error) {
    db.close();
    throw error;
  }
}
