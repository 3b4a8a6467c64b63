import express, { Router } from 'express';
import { bulkNamesSchema, newBulkRunSchema } from '@open-kite/contract';
import { bodyTypes, jsonBody } from '../access/body-types.js';
import type { BulkRuns } from '../bulk/bulk-runs.js';
import { MOST_BYTES } from '../pictures/decode.js';
import { UserError } from '../user-error.js';
import { asked } from './projects.js';

const MOST_NAME = 200;

/** Bulk runs over HTTP. */
export function bulkRoutes(bulk: BulkRuns): Router {
  const router = Router();
  const json = jsonBody('16kb');

  router.get('/', (_request, response) => {
    response.json(bulk.list());
  });

  router.post('/', json, (request, response) => {
    const { name, project } = asked(newBulkRunSchema, request.body);
    response.status(201).json(bulk.describe(bulk.create(name, project)));
  });

  router.get('/:id', (request, response) => {
    response.json(bulk.describe(request.params.id));
  });

  const types = bodyTypes('image/*', 'application/octet-stream', 'application/gzip', 'application/xml', 'text/xml');
  router.post('/:id/files', types, express.raw({ type: () => true, limit: MOST_BYTES }), async (request, response) => {
    const body: unknown = request.body;
    const name = String(request.query['name'] ?? '').slice(0, MOST_NAME);
    if (name.trim() === '') throw new UserError(400, 'a file needs a name');
    const id = String(request.params['id']);
    await bulk.add(id, name, Buffer.isBuffer(body) ? body : Buffer.alloc(0));
    response.status(201).json(bulk.describe(id));
  });

  router.post('/:id/names', jsonBody('256kb'), (request, response) => {
    const { names } = asked(bulkNamesSchema, request.body);
    const id = String(request.params['id']);
    bulk.addNames(id, names);
    response.status(201).json(bulk.describe(id));
  });

  router.post('/:id/cancel', json, (request, response) => {
    const id = String(request.params['id']);
    bulk.cancel(id, true);
    response.json(bulk.describe(id));
  });

  router.post('/:id/resume', json, (request, response) => {
    const id = String(request.params['id']);
    bulk.cancel(id, false);
    response.json(bulk.describe(id));
  });

  router.delete('/:id', (request, response) => {
    bulk.remove(request.params.id);
    response.status(204).end();
  });

  router.get('/:id/contact-sheet', async (request, response) => {
    response
      .type('png')
      .set('Cache-Control', 'private, no-store')
      .send(await bulk.contactSheet(request.params.id));
  });

  return router;
}
