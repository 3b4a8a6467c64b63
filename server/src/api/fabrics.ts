import { Router } from 'express';
import { newFabricSchema, type NewFabric } from '@open-kite/contract';
import { fabricOf, parseMeasured } from '@open-kite/core';
import { jsonBody } from '../access/body-types.js';
import type { FabricStore } from '../store/fabrics.js';
import { understood } from '../user-error.js';
import { asked } from './projects.js';

/** Fabrics of the user's own over HTTP. */
export function fabricRoutes(fabrics: FabricStore): Router {
  const router = Router();
  const json = jsonBody('64kb');

  router.get('/', (_request, response) => {
    response.json(fabrics.all());
  });

  router.post('/', json, (request, response) => {
    response.status(201).json(fabrics.add(fabricIn(request.body)));
  });

  router.put('/:id', json, (request, response) => {
    response.json(fabrics.save(String(request.params['id']), fabricIn(request.body)));
  });

  router.delete('/:id', (request, response) => {
    fabrics.remove(request.params.id);
    response.status(204).end();
  });

  router.post('/:id/restore', (request, response) => {
    fabrics.restore(request.params.id);
    response.status(204).end();
  });

  return router;
}

/** @throws UserError 400 with what is wrong */
function fabricIn(body: unknown): NewFabric {
  const { fabric, hex, measured } = asked(newFabricSchema, body);
  return understood(() => ({ fabric: fabricOf(fabric).id, hex, measured: parseMeasured(measured) }));
}
