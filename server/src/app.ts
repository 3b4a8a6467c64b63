import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import express, { type ErrorRequestHandler, type Express, type RequestHandler } from 'express';
import helmet from 'helmet';
import { pinoHttp } from 'pino-http';
import type { Logger } from 'pino';
import type { Chart } from '@open-kite/core';
import { ownPagesOnly } from './access/own-pages-only.js';
import { passcodeGate, type KeptPasscode } from './access/passcode.js';
import { bulkRoutes } from './api/bulk.js';
import { chartRoutes, worksheetRoutes } from './api/charts-on-paper.js';
import { cupboardRoutes } from './api/cupboard.js';
import { fabricRoutes } from './api/fabrics.js';
import { fontRoutes } from './api/fonts.js';
import { machineRoutes } from './api/machine.js';
import { pictureRoutes } from './api/pictures.js';
import { projectRoutes } from './api/projects.js';
import type { BulkRuns } from './bulk/bulk-runs.js';
import type { DesignPool } from './jobs/design-pool.js';
import type { PracticeMachine } from './machine/machine.js';
import type { ReadingPool } from './jobs/reading-pool.js';
import { MOST_BYTES } from './pictures/decode.js';
import type { FabricStore } from './store/fabrics.js';
import type { CupboardStore } from './store/cupboard.js';
import type { PictureStore } from './store/pictures.js';
import type { ProjectStore } from './store/projects.js';
import { isDamage, writeFault } from './store/store-fault.js';
import { UserError } from './user-error.js';

export interface AppDeps {
  readonly pictures: PictureStore;
  readonly projects: ProjectStore;
  readonly cupboard: CupboardStore;
  readonly fabrics?: FabricStore;
  /** Reads what is uploaded. */
  readonly reading: ReadingPool;
  /** Charts that ship with the application. */
  readonly charts: readonly Chart[];
  /** Tells which projects are still being made. */
  readonly designs?: Pick<DesignPool, 'making' | 'sample' | 'archive' | 'photo'>;
  readonly bulk?: BulkRuns;
  /** The practice machine. */
  readonly machine?: PracticeMachine;
  readonly log: Logger;
  /** Asked of everybody, where the server is reached from other machines. */
  readonly passcode?: KeptPasscode;
  /** What is wrong with the store: it is only read then. */
  readonly damage?: string;
  /** Folder of the built interface; absent in tests of the API alone. */
  readonly webFolder?: string;
}

/** Builds the application; it does not listen yet. */
export function createApp(deps: AppDeps): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((_request, response, next) => {
    response.locals['nonce'] = randomBytes(16).toString('base64');
    next();
  });
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'none'"],
          scriptSrc: ["'self'"],
          styleSrc: [
            "'self'",
            (_request, response) => `'nonce-${(response as express.Response).locals['nonce'] as string}'`,
          ],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          workerSrc: ["'self'"],
          manifestSrc: ["'self'"],
          baseUri: ["'self'"],
          formAction: ["'self'"],
          frameAncestors: ["'none'"],
        },
      },
      // Served over plain HTTP on the local machine.
      strictTransportSecurity: false,
      crossOriginEmbedderPolicy: { policy: 'require-corp' },
    }),
  );
  app.use(
    pinoHttp({
      logger: deps.log,
      customLogLevel: (_q, r, error) => (error || r.statusCode >= 500 ? 'error' : 'debug'),
    }),
  );

  app.use(ownPagesOnly(deps.passcode !== undefined));
  if (deps.passcode) app.use(passcodeGate(deps.passcode));

  app.get('/api/health', (_request, response) => {
    response.json({ ok: deps.damage === undefined, ...(deps.damage === undefined ? {} : { damage: deps.damage }) });
  });
  if (deps.damage !== undefined) app.use('/api', onlyRead(deps.damage));
  app.use('/api/pictures', pictureRoutes(deps.pictures, deps.reading));
  app.use('/api/projects', projectRoutes(deps.projects, deps.pictures, deps.reading, deps.designs));
  app.use('/api/chart', chartRoutes());
  app.use('/api/worksheet', worksheetRoutes(deps.reading));
  if (deps.bulk) app.use('/api/bulk', bulkRoutes(deps.bulk));
  if (deps.machine) app.use('/api/machine', machineRoutes(deps.machine, deps.reading, deps.designs));
  if (deps.fabrics) app.use('/api/fabrics', fabricRoutes(deps.fabrics));
  app.use('/api/fonts', fontRoutes(deps.designs));
  app.use('/api', cupboardRoutes(deps.cupboard, deps.charts));
  app.use('/api', (request) => {
    throw new UserError(404, `there is no ${request.method} ${request.originalUrl.slice(0, 200)}`);
  });
  if (deps.webFolder) {
    const soon = (): void => void setTimeout(() => deps.reading.getReady(), AFTER_PAGE_MS).unref();
    serveInterface(app, deps.webFolder, soon);
  }
  app.use(answerErrors(deps.log, deps.damage));
  return app;
}

/** The page itself comes first; what uploads need is loaded after that. */
const AFTER_PAGE_MS = 700;

/** Serves the built interface; every page address gets the one page, with a fresh nonce for its styles. */
function serveInterface(app: Express, folder: string, served: () => void): void {
  const page = join(folder, 'index.html');
  if (!existsSync(page)) {
    app.get('/', (_request, response) => {
      response.status(503).type('text').send('The interface is not built yet: npm run build\n');
    });
    return;
  }
  const html = readFileSync(page, 'utf8');
  app.use(express.static(folder, { index: false, maxAge: '1y', immutable: true }));
  app.use((request, response, next) => {
    if (request.method !== 'GET' || request.path.includes('.')) return next();
    const nonce = response.locals['nonce'] as string;
    response.set('Cache-Control', 'no-store').type('html').send(html.replaceAll('CSP_NONCE', nonce));
    served();
  });
  app.use((request) => {
    throw new UserError(404, `there is no ${request.path.slice(0, 200)}`);
  });
}

/** What nothing is written by, although it is posted: things that are made and handed out. */
const HANDED_OUT = /^\/(projects\/share|chart|worksheet|fonts\/[^/]+\/glyphs)$/;
/** What only lives by being written to. */
const WRITING = /^\/(machine|bulk)(\/|$)/;

/** Refuses what a damaged store cannot take. */
const onlyRead =
  (damage: string): RequestHandler =>
  (request, _response, next) => {
    const reads = request.method === 'GET' || request.method === 'HEAD' || HANDED_OUT.test(request.path);
    if (reads && !WRITING.test(request.path)) return next();
    throw new UserError(503, `nothing can be kept: ${damage}`);
  };

function answerErrors(log: Logger, damage: string | undefined): ErrorRequestHandler {
  return (error: unknown, _request, response, next) => {
    if (response.headersSent) return next(error);
    if (isDamage(error) && !(error instanceof UserError)) {
      log.error(error);
      response.status(503).json({ error: `this cannot be read any more: ${damage ?? 'the store is damaged'}` });
      return;
    }
    const { status, message, details } = describe(writeFault(error) ?? error);
    if (status >= 500) log.error(error);
    response.status(status).json({ error: message, ...details });
  };
}

function describe(error: unknown): { status: number; message: string; details?: object } {
  if (error instanceof UserError) return { status: error.status, message: error.message, details: error.details };
  const known = error as { type?: string; status?: number };
  if (known.type === 'entity.too.large') {
    return { status: 413, message: `the file is too large (at most ${MOST_BYTES / 1048576} MB)` };
  }
  if (error instanceof SyntaxError || known.type === 'entity.parse.failed') {
    return { status: 400, message: 'the request is not valid JSON' };
  }
  if (typeof known.status === 'number' && known.status >= 400 && known.status < 500) {
    return { status: known.status, message: 'the request could not be read' };
  }
  return { status: 500, message: 'something went wrong on the server; nothing was changed' };
}
