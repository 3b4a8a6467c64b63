import express, { Router } from 'express';
import { bodyTypes } from '../access/body-types.js';
import type { ReadingPool } from '../jobs/reading-pool.js';
import { parsePrintedGrid } from '@open-kite/core';
import { jsonBody } from '../access/body-types.js';
import { understood } from '../user-error.js';

/** Draws charts of counted crosses that the interface hands over; nothing is kept. */
export function chartRoutes(): Router {
  const router = Router();
  router.post('/', jsonBody('8mb'), async (request, response) => {
    const chart = understood(() => parsePrintedGrid(request.body));
    response.type('application/pdf').send(await (await import('../chart-pdf.js')).writeChart(chart));
  });
  return router;
}

const MOST_LIST = '120mb';
const MOST_NAME = 120;
const MOST_NOTES = 4000;

/** Draws worksheets of stitch lists that the interface hands over; nothing is kept. */
export function worksheetRoutes(reading: ReadingPool): Router {
  const router = Router();
  const types = bodyTypes('text/csv');
  router.post('/', types, express.raw({ type: () => true, limit: MOST_LIST }), async (request, response) => {
    const body: unknown = request.body;
    const said = (key: string): string => String(request.query[key] ?? '');
    const pdf = await reading.worksheet({
      list: Buffer.isBuffer(body) ? body : Buffer.alloc(0),
      name: said('name').slice(0, MOST_NAME) || 'Worksheet',
      paper: said('paper') === 'LETTER' ? 'LETTER' : 'A4',
      notes: said('notes').slice(0, MOST_NOTES),
    });
    response.type('application/pdf').send(Buffer.from(pdf));
  });
  return router;
}
