import { Router } from 'express';
import { revisionSchema, sewnOffSchema, stashSaveSchema, type CupboardChart } from '@open-kite/contract';
import { parseChartContent, type Chart } from '@open-kite/core';
import { jsonBody } from '../access/body-types.js';
import type { CupboardStore } from '../store/cupboard.js';
import { understood } from '../user-error.js';
import { asked } from './projects.js';

/** Charts, shipped ones first, and the drawer. */
export function cupboardRoutes(cupboard: CupboardStore, shipped: readonly Chart[]): Router {
  const router = Router();
  const json = jsonBody('2mb');

  router.get('/charts', (_request, response) => {
    const fixed = shipped.map((chart): CupboardChart => ({ ...chart, own: false, revision: 1, deleted: false }));
    response.json([...fixed, ...cupboard.charts()]);
  });

  router.post('/charts', json, (request, response) => {
    response.status(201).json(cupboard.create(understood(() => parseChartContent(request.body))));
  });

  router.put('/charts/:id', json, (request, response) => {
    const { revision, ...content } = (request.body ?? {}) as Record<string, unknown>;
    const known = asked(revisionSchema, revision);
    const id = String(request.params['id']);
    response.json(
      cupboard.save(
        id,
        known,
        understood(() => parseChartContent(content)),
      ),
    );
  });

  router.delete('/charts/:id', (request, response) => {
    cupboard.remove(request.params.id);
    response.status(204).end();
  });

  router.post('/charts/:id/restore', (request, response) => {
    cupboard.restore(request.params.id);
    response.status(204).end();
  });

  router.get('/stash', (_request, response) => {
    response.json(cupboard.stash());
  });

  router.put('/stash', json, (request, response) => {
    cupboard.setStash(asked(stashSaveSchema, request.body ?? {}).entries);
    response.json(cupboard.stash());
  });

  router.post('/stash/sewn', json, (request, response) => {
    cupboard.takeOff(asked(sewnOffSchema, request.body ?? {}));
    response.json(cupboard.stash());
  });

  return router;
}
