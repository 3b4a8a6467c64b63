import express, { Router } from 'express';
import { machineActionSchema, machineSettingsSchema, type MachineJob } from '@open-kite/contract';
import { practiceCloth, PRACTICE_CLOTHS, type Sewing } from '@open-kite/core';
import { bodyTypes, jsonBody } from '../access/body-types.js';
import type { DesignPool } from '../jobs/design-pool.js';
import type { ReadingPool } from '../jobs/reading-pool.js';
import type { PracticeMachine } from '../machine/machine.js';
import { understood, UserError } from '../user-error.js';
import { asked } from './projects.js';

const MOST_JOB = '120mb';
/** Listeners hear something at least this often, so that lines that are cut are noticed. */
const ALIVE_MS = 15_000;
const MOST_SEED = 1_000_000;

/** The practice machine over HTTP. */
export function machineRoutes(
  machine: PracticeMachine,
  reading: ReadingPool,
  designs: Pick<DesignPool, 'photo'> | undefined,
): Router {
  const router = Router();
  const json = jsonBody('16kb');

  router.get('/', (_request, response) => {
    response.json(machine.describe());
  });

  router.put('/', json, (request, response) => {
    machine.configure(asked(machineSettingsSchema, request.body));
    response.json(machine.describe());
  });

  router.get('/jobs', (_request, response) => {
    response.json(machine.jobs());
  });

  const types = bodyTypes('text/csv', 'application/zip');
  router.post('/jobs', types, express.raw({ type: () => true, limit: MOST_JOB }), async (request, response) => {
    const body: unknown = request.body;
    if (!Buffer.isBuffer(body) || body.length === 0)
      throw new UserError(415, 'a job must be a stitch list or an archive');
    const { name, sewing } = await readJob(body, reading);
    const said = String(request.query['name'] ?? '').trim();
    response.status(201).json({ id: machine.add(said || name, sewing) });
  });

  router.get('/jobs/:id', (request, response) => {
    response.json(machine.job(request.params.id));
  });

  router.get('/jobs/:id/list', (request, response) => {
    response.type('text/csv').set('Cache-Control', 'private, no-store').send(machine.list(request.params.id));
  });

  router.get('/cloths', (_request, response) => {
    response.json(PRACTICE_CLOTHS.map(({ id, name, fabric }) => ({ id, name, fabric })));
  });

  // What was sewn, photographed on one of the simulated cloths.
  router.get('/jobs/:id/photo', async (request, response) => {
    const cloth = understood(() => practiceCloth(String(request.query['cloth'] ?? ''))).id;
    const seed = Number(request.query['seed'] ?? 1);
    if (!Number.isInteger(seed) || seed < 0 || seed > MOST_SEED) {
      throw new UserError(400, `seed must be a whole number from 0 to ${MOST_SEED}`);
    }
    if (!designs) throw new UserError(503, 'this server takes no photographs');
    const { id, state, report } = machine.job(request.params.id);
    if (state !== 'done' || report?.ended) throw new UserError(409, 'it is not sewn to its end yet');
    const png = await designs.photo({ list: machine.list(id), cloth, seed });
    response.type('png').set('Cache-Control', 'private, no-store').send(Buffer.from(png));
  });

  router.post('/jobs/:id/actions', json, (request, response) => {
    const { action } = asked(machineActionSchema, request.body);
    response.json(machine.act(String(request.params['id']), action));
  });

  router.get('/events', (request, response) => {
    response.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', Connection: 'keep-alive' });
    response.flushHeaders();
    const stop = machine.listen((job: MachineJob) => {
      response.write(`event: job\ndata: ${JSON.stringify(job)}\n\n`);
    });
    const alive = setInterval(() => response.write(': still here\n\n'), ALIVE_MS);
    request.on('close', () => {
      clearInterval(alive);
      stop();
    });
  });

  return router;
}

/** A stitch list, or the one inside an archive; what is wrong with it is a reason not to take it. */
async function readJob(body: Buffer, reading: ReadingPool): Promise<{ name: string; sewing: Sewing }> {
  try {
    return await reading.job(body);
  } catch (error) {
    if (!(error instanceof UserError)) throw error;
    throw new UserError(error.status, error.message, { reasons: [error.message] });
  }
}
