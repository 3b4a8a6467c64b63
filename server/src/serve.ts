import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import type { Chart } from '@open-kite/core';
import { createApp } from './app.js';
import { readCharts } from './charts.js';
import { createCupboardStore, type CupboardStore } from './store/cupboard.js';
import { openDatabase } from './store/database.js';
import { createPictureStore, type PictureStore } from './store/pictures.js';
import { createProjectStore, type ProjectStore } from './store/projects.js';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));
/** Folders of the shipped charts and the built interface. */
export const CHART_FOLDER = join(ROOT, 'demo', 'charts');
export const WEB_FOLDER = join(ROOT, 'web', 'dist', 'browser');

export interface ServeOptions {
  /** 0 takes any free port. */
  readonly port: number;
  readonly host?: string;
  /** Folder of the store; `:memory:` keeps nothing. */
  readonly data: string;
  readonly logLevel?: string;
  /** Fills an empty store. */
  readonly seed?: (stores: Stores) => Promise<void>;
}

export interface Stores {
  readonly pictures: PictureStore;
  readonly projects: ProjectStore;
  readonly cupboard: CupboardStore;
  readonly charts: readonly Chart[];
}

export interface RunningServer {
  readonly address: string;
  readonly stores: Stores;
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
    const stores: Stores = { pictures, projects, cupboard, charts: readCharts(CHART_FOLDER) };
    if (options.seed && projects.list().length === 0) await options.seed(stores);
    const log = pino({ level: options.logLevel ?? 'warn' });
    const app = createApp({ ...stores, log, webFolder: WEB_FOLDER });
    const host = options.host ?? '127.0.0.1';
    const server = await new Promise<Server>((resolve, reject) => {
      const listening: Server = app.listen(options.port, host, (error?: Error) =>
        error ? reject(error) : resolve(listening),
      );
    });
    const { port } = server.address() as AddressInfo;
    return {
      address: `http://${host}:${port}`,
      stores,
      close: () =>
        new Promise<void>((resolve) => {
          server.close(() => {
            db.close();
            resolve();
          });
          server.closeAllConnections();
        }),
    };
  } catch (error) {
    db.close();
    throw error;
  }
}
