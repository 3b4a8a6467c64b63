import { Router } from 'express';
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
