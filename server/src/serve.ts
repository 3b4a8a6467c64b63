import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Duplex } from 'node:stream';
import { join } from 'node:path';
import type { Database } from 'better-sqlite3';
import { pino } from 'pino';
import { stashKeys, type Chart } from '@open-kite/core';
import { keepPasscode } from './access/passcode.js';
import { createApp } from './app.js';
import { CHART_FOLDER, readCharts, ROOT } from './charts.js';
import { createDesignPool, type DesignPool } from './jobs/design-pool.js';
import { PracticeMachine } from './machine/machine.js';
import { createReadingPool, type ReadingPool } from './jobs/reading-pool.js';
import { BulkRuns } from './bulk/bulk-runs.js';
import { createBulkStore } from './store/bulk.js';
import { createFabricStore } from './store/fabrics.js';
import { createCupboardStore, type CupboardStore } from './store/cupboard.js';
import { backUpDaily } from './store/backups.js';
import { createMachineStore } from './store/machine.js';
import { openStore } from './store/database.js';
import { holdFolder } from './store/only-one.js';
import { createPictureStore, type PictureStore } from './store/pictures.js';
import { createProjectStore, type ProjectStore } from './store/projects.js';
import { UserError } from './user-error.js';

const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
/** Uploads that no project uses are forgotten after so many days. */
const UNUSED_DAYS = 7;
/** What was taken off the shelf can come back for so long. */
const BIN_DAYS = 30;
/** Tidying waits until the first pages are served. */
const TIDY_AFTER_MS = 60_000;

/** Folder of the built interface. */
export const WEB_FOLDER = join(ROOT, 'web', 'dist', 'browser');

export interface ServeOptions {
  /** 0 takes any free port. */
  readonly port: number;
  /** Address other machines reach it under; needs a passcode. */
  readonly host?: string;
  readonly passcode?: string;
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
  readonly reading: ReadingPool;
}

export interface RunningServer {
  readonly address: string;
  readonly stores: Stores;
  /** What is wrong with the store, where it is damaged and only read. */
  readonly damage: string | undefined;
  /** Settles when the store is filled, if it had to be. */
  readonly seeded: Promise<void>;
  close(): Promise<void>;
}

/** What is no HTTP is answered once, and the line is closed. */
function answerNonsense(_error: Error, socket: Duplex): void {
  if (!socket.writable) return;
  const body = '{"error":"the request could not be read"}';
  const head = `HTTP/1.1 400 Bad Request\r\nContent-Type: application/json\r\nContent-Length: ${body.length}`;
  socket.end(`${head}\r\nConnection: close\r\n\r\n${body}`);
}

/**
 * Opens the store, fills it if it is empty, and listens. On 127.0.0.1 unless told otherwise.
 * @throws UserError where other machines would reach it without a passcode
 */
export async function serve(options: ServeOptions): Promise<RunningServer> {
  const host = options.host ?? '127.0.0.1';
  const passcode = options.passcode === undefined ? undefined : keepPasscode(options.passcode);
  if (!passcode && !['127.0.0.1', '::1', 'localhost'].includes(host)) {
    throw new UserError(400, `--host ${host}: other machines would reach it; give it a passcode (--passcode-file)`);
  }
  const kept = options.data !== ':memory:';
  const path = kept ? join(options.data, 'open-kite.sqlite') : options.data;
  // A store is brought up to date when it is opened: nobody else may be in it by then.
  const letGo = kept ? holdFolder(options.data) : () => undefined;
  let db: Database | undefined;
  let daily: ReturnType<typeof setInterval> | undefined;
  const close = (): void => {
    clearInterval(daily);
    db?.close();
    letGo();
  };
  try {
    const opened = openStore(path);
    const { damage } = opened;
    db = opened.db;
    const now = (): string => new Date().toISOString();
    const pictures = createPictureStore(db, now);
    const projects = createProjectStore(db, now);
    if (damage === undefined) projects.forgetOldest();
    const cupboard = createCupboardStore(db, now);
    const fabrics = createFabricStore(db, now);
    const charts = readCharts(CHART_FOLDER);
    const designs = createDesignPool(projects, pictures, () => ({
      charts: [...charts, ...cupboard.charts()],
      stash: [...stashKeys(cupboard.stash())],
    }));
    const reading = createReadingPool();
    const stores: Stores = { pictures, projects, cupboard, charts, designs, reading };
    const log = pino({ level: options.logLevel ?? 'warn' });
    // What only goes on by writing stands still beside a damaged store.
    const machine = damage === undefined ? new PracticeMachine(createMachineStore(db, now)) : undefined;
    const bulk =
      damage === undefined
        ? new BulkRuns({ ...stores, store: createBulkStore(db, now), fault: (error) => log.error(error) })
        : undefined;
    const app = createApp({ ...stores, fabrics, machine, bulk, log, passcode, damage, webFolder: WEB_FOLDER });
    const server = await new Promise<Server>((resolve, reject) => {
      const listening: Server = app.listen(options.port, host, (error?: Error) =>
        error ? reject(error) : resolve(listening),
      );
    });
    server.on('clientError', answerNonsense);
    // What a bulk run had not done yet goes on.
    bulk?.goOn();
    const tidy = async (): Promise<void> => {
      const swept = new Date(Date.now() - UNUSED_DAYS * DAY_MS).toISOString();
      projects.emptyBin(new Date(Date.now() - BIN_DAYS * DAY_MS).toISOString());
      pictures.sweep(swept);
      if (kept) await backUpDaily(path);
    };
    const tidied = (): void => void tidy().catch((error: unknown) => log.error(error));
    if (damage === undefined) {
      daily = setInterval(tidied, HOUR_MS).unref();
      setTimeout(tidied, TIDY_AFTER_MS).unref();
    }
    const { port } = server.address() as AddressInfo;
    let closing = false;
    const empty = damage === undefined && projects.list().length === 0;
    const seeded = (empty ? options.seed?.(stores) : undefined) ?? Promise.resolve();
    // Whoever waits for it hears why; a server that is closed meanwhile is no fault.
    seeded.catch((error: unknown) => closing || log.error(error));
    return {
      address: `http://${host.includes(':') ? `[${host}]` : host}:${port}`,
      stores,
      damage,
      seeded,
      close: async () => {
        closing = true;
        machine?.close();
        bulk?.close();
        await designs.close();
        await reading.close();
        await seeded.catch(() => undefined);
        await new Promise<void>((resolve) => {
          server.close(() => {
            close();
            resolve();
          });
          server.closeAllConnections();
        });
      },
    };
  } catch (error) {
    close();
    throw error;
  }
}
