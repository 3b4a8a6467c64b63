import express, { Router } from 'express';
import { parseChartContent, parseSpools, type Chart, type StashEntry } from '@open-kite/core';
import type { CupboardChart, CupboardStore } from '../store/cupboard.js';
import { understood, UserError } from '../user-error.js';

/** Entries of the drawer one request may set. */
const MOST_ENTRIES = 5000;

function revisionOf(value: unknown): number {
  if (typeof value === 'number' && Number.isInteger(value) && value > 0) return value;
  throw new UserError(400, 'a chart is saved with the revision it was read with');
}

function entryOf(value: unknown): StashEntry {
  const { chart, code, ...rest } = (value ?? {}) as Record<string, unknown>;
  const named = (text: unknown): text is string => typeof text === 'string' && text.length > 0 && text.length <= 80;
  if (!named(chart) || !named(code)) throw new UserError(400, 'an entry of the drawer names a chart and a code');
  return { chart, code, ...understood(() => parseSpools(rest)) };
}

/** Charts, shipped ones first, and the drawer. */
export function cupboardRoutes(cupboard: CupboardStore, shipped: readonly Chart[]): Router {
  const router = Router();
  const json = express.json({ limit: '2mb' });

  router.get('/charts', (_request, response) => {
    const fixed = shipped.map((chart): CupboardChart => ({ ...chart, own: false, revision: 1, deleted: false }));
    response.json([...fixed, ...cupboard.charts()]);
  });

  router.post('/charts', json, (request, response) => {
    response.status(201).json(cupboard.create(understood(() => parseChartContent(request.body))));
  });

  router.put('/charts/:id', json, (request, response) => {
    const { revision, ...content } = (request.body ?? {}) as Record<string, unknown>;
    const known = revisionOf(revision);
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
    const { entries } = (request.body ?? {}) as Record<string, unknown>;
    if (!Array.isArray(entries) || entries.length > MOST_ENTRIES) {
      throw new UserError(400, `the drawer takes a list of at most ${MOST_ENTRIES} entries`);
    }
    cupboard.setStash(entries.map(entryOf));
    response.json(cupboard.stash());
  });

  return router;
}
