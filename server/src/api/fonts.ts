import express, { Router } from 'express';
import { glyphRequestSchema } from '@open-kite/contract';
import { emptyRecipe, newLetters } from '@open-kite/core';
import { bodyTypes } from '../access/body-types.js';
import { allFonts, fontOutlines, outlinesFor } from '../fonts/fonts.js';
import type { DesignPool } from '../jobs/design-pool.js';
import { UserError } from '../user-error.js';
import { asked } from './projects.js';

/** Samples are the names of fonts, sewn this high, and pictures of them so many pixels high. */
const SAMPLE_MM = 9;
const SAMPLE_PX = 44;
const SAMPLE_HEX = '#22404a';
const A_DAY = 'private, max-age=86400';

/** Fonts that ship with the application: outlines of their letters, and samples that are sewn. */
export function fontRoutes(designs?: Pick<DesignPool, 'sample'>): Router {
  const router = Router();
  const samples = new Map<string, Promise<Uint8Array>>();
  router.get('/', (_request, response) => {
    response.json(allFonts());
  });
  router.get('/:id/sample', async (request, response) => {
    const { id } = request.params;
    const font = allFonts().find((known) => known.id === id);
    if (!font || !designs) throw new UserError(404, `there is no font "${id.slice(0, 40)}"`);
    let sample = samples.get(id);
    if (!sample) {
      const outlines = outlinesFor(id, font.name);
      const heightMm = Math.max(SAMPLE_MM, font.leastMm);
      const letters = newLetters('letters-1', { text: font.name, font: id, outlines, heightMm }, { hex: SAMPLE_HEX });
      sample = designs.sample({ recipe: { ...emptyRecipe(), objects: [letters] }, heightPx: SAMPLE_PX });
      samples.set(id, sample);
      // What failed is tried again.
      sample.catch(() => samples.delete(id));
    }
    response
      .set('Cache-Control', A_DAY)
      .type('png')
      .send(Buffer.from(await sample));
  });
  router.post('/:id/glyphs', bodyTypes('application/json'), express.json({ limit: '64kb' }), (request, response) => {
    const { text } = asked(glyphRequestSchema, request.body);
    response.json(fontOutlines(String(request.params['id']), text));
  });
  return router;
}
